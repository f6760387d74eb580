import { soils } from '@/core/book/soils';
import { createFieldAction } from '@/server/actions';
import { farmsAllowed } from '@/server/authorise';
import { pageOf, type ListParams } from '@/server/paging';
import { session } from '@/server/session';
import { fieldList } from '@/server/summaries';
import { FieldFinder, Pager } from '@/ui/figure/Pager';
import { NewField } from '@/ui/today/NewField';
import { TodayTable, type TodayRow } from '@/ui/today/TodayTable';

export const metadata = { title: 'Today' };
interface Props {
  searchParams: Promise<ListParams>;
}

export default async function TodayPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const asked = pageOf(await searchParams);
  const list = await fieldList(db, actor, asked);
  const editable = await farmsAllowed(db, actor, 'edit');
  const rows = list.rows.map(({ farmId, fieldId, name, areaHa, version, summary }) => ({
    farmId,
    row: { fieldId, name, areaHa, version, summary } satisfies TodayRow,
  }));
  const groups = list.farms
    .map(({ id, name, fields }) => ({
      id,
      name,
      none: fields === 0 && asked.search === '',
      rows: rows.filter((r) => r.farmId === id).map((r) => r.row),
    }))
    .filter((g) => g.none || g.rows.length > 0);
  const own = list.farms
    .filter((f) => editable.includes(f.id))
    .map((f) => ({ value: f.id, label: f.name }));
  return (
    <>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-6">
        <h1>Today</h1>
        <FieldFinder asked={asked} found={list.found} />
      </div>
      <TodayTable groups={groups} />
      <Pager path="/" asked={asked} found={list.found} />
      {own.length > 0 && (
        <NewField
          farms={own}
          soils={soils().map((s) => ({ value: s.textureId, label: s.name }))}
          create={createFieldAction}
          open={list.found === 0 && asked.search === ''}
        />
      )}
    </>
  );
}
