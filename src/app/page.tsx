import { dateInWords } from '@/core/quantity/calendar';
import { soils } from '@/core/book/soils';
import { createFieldAction } from '@/server/actions';
import { farmsAllowed } from '@/server/authorise';
import { overview } from '@/server/plans';
import { session } from '@/server/session';
import { NewField } from '@/ui/today/NewField';
import { TodayTable, type TodayGroup } from '@/ui/today/TodayTable';

export const metadata = { title: 'Today' };

export default async function TodayPage() {
  const { db, actor } = await session();
  const [farms, editable] = [await overview(db, actor), await farmsAllowed(db, actor, 'edit')];
  const groups = farms.map(({ farm, fields }): TodayGroup => ({
    id: farm.id,
    name: farm.name,
    rows: fields.map(({ fieldId, plan, assessment, section, version }) => ({
      fieldId,
      name: plan.field.name,
      areaHa: plan.field.areaHa,
      season: plan.season.label,
      crop: assessment.cropName,
      stations: assessment.stations,
      leaf: assessment.leaf.datesOfSeason[0] ? dateInWords(assessment.leaf.datesOfSeason[0]) : null,
      toBring: plan.season.cropKey ? assessment.sums.n.toBring : null,
      after: assessment.sums.n.afterPlan,
      decide:
        assessment.warnings.find((w) => w.level === 'stop')?.message ??
        assessment.warnings.find((w) => w.level === 'caution')?.message ??
        null,
      stops: assessment.warnings.filter((w) => w.level === 'stop').length,
      cautions: assessment.warnings.filter((w) => w.level === 'caution').length,
      version: version ? { number: version.number, status: version.status } : null,
      section,
    })),
  }));
  const own = farms
    .filter((f) => editable.includes(f.farm.id))
    .map((f) => ({ value: f.farm.id, label: f.farm.name }));
  return (
    <>
      <h1 className="mb-1">Today</h1>
      <TodayTable groups={groups} />
      {own.length > 0 && (
        <NewField
          farms={own}
          soils={soils().map((s) => ({ value: s.textureId, label: s.name }))}
          create={createFieldAction}
          open={groups.every((g) => g.rows.length === 0)}
        />
      )}
    </>
  );
}
