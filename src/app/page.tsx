import type { Route } from 'next';
import Link from 'next/link';
import { redirect } from 'next/navigation';
import { farmsAllowed } from '@/server/authorise';
import { farmThatBegins } from '@/server/ownFarm';
import { pageOf, type ListParams } from '@/server/paging';
import { session } from '@/server/session';
import { fieldList } from '@/server/summaries';
import { FieldFinder, Pager } from '@/ui/figure/Pager';
import { TodayTable, type TodayRow } from '@/ui/today/TodayTable';

export const metadata = { title: 'Today' };
interface Props {
  searchParams: Promise<ListParams>;
}

export default async function TodayPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const asked = pageOf(await searchParams);
  if (await farmThatBegins(db, actor)) redirect('/farms/new');
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
  const own = list.farms.filter((f) => editable.includes(f.id));
  return (
    <>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-6">
        <h1>Today</h1>
        <FieldFinder asked={asked} found={list.found} />
      </div>
      <TodayTable groups={groups} />
      <Pager path="/" asked={asked} found={list.found} />
      <p className="no-print mt-3 flex flex-wrap gap-x-5 gap-y-1">
        {own.map((f) => (
          <Link key={f.id} href={`/farms/${f.id}/fields` as Route}>
            Add fields to {f.name}
          </Link>
        ))}
        <Link href="/farms/new">New farm</Link>
      </p>
    </>
  );
}
