import type { Route } from 'next';
import Link from 'next/link';
import { farmsOf, storesNamed } from '@/server/farm';
import { fieldsAsked, type ListParams } from '@/server/paging';
import { session } from '@/server/session';
import { farmList } from '@/server/summaries';
import { FieldFilter } from '@/ui/today/FieldFilter';
import { FarmTable } from '@/ui/farm/FarmTable';
import { Pager } from '@/ui/figure/Pager';

export const metadata = { title: 'Fields' };
interface Props {
  searchParams: Promise<ListParams>;
}

/** The fields of one farm in a table, with the sums over all of them. */
export default async function FieldsPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const params = await searchParams;
  const { farm: farmAsked, ...asked } = fieldsAsked(params);
  const farms = await farmsOf(db, actor);
  const chosen = farms.find((f) => f.id === farmAsked) ?? farms[0];
  const farm = chosen ? await farmList(db, actor, chosen.id, asked) : null;
  return (
    <>
      <h1 className="mb-1">Fields</h1>
      <nav
        aria-label="Farms"
        className="no-print mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-1"
      >
        {farms.map((f) => (
          <Link
            key={f.id}
            href={`/fields?farm=${f.id}` as Route}
            aria-current={f.id === chosen?.id ? 'page' : undefined}
            className={
              f.id === chosen?.id ? 'border-b-2 border-ink font-bold no-underline' : 'no-underline'
            }
          >
            {f.name}
          </Link>
        ))}
        {chosen && (
          <Link href={`/farms/${chosen.id}/next-season` as Route} className="ml-auto">
            Next season
          </Link>
        )}
        {chosen && (
          <Link href={`/farms/${chosen.id}` as Route}>Money, limits, stores, machines, file</Link>
        )}
      </nav>
      {farm && chosen ? (
        <FarmTable
          key={chosen.id}
          farmId={chosen.id}
          terms={farm.desk.terms}
          stores={storesNamed(farm.desk)}
          fields={farm.list.rows.map(({ fieldId, name, areaHa, summary }) => ({
            fieldId,
            name,
            areaHa,
            row: summary,
          }))}
          sums={farm.sums}
          freshness={farm.freshness}
          finder={<FieldFilter asked={asked} found={farm.list.found} farms={[]} farm={chosen.id} />}
          pager={<Pager path="/fields" asked={asked} found={farm.list.found} farm={chosen.id} />}
        />
      ) : (
        <p>No farm yet.</p>
      )}
    </>
  );
}
