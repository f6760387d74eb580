import type { Route } from 'next';
import Link from 'next/link';
import { redirect } from 'next/navigation';
import { farmsAllowed } from '@/server/authorise';
import { farmsOf } from '@/server/farm';
import { farmThatBegins } from '@/server/ownFarm';
import { fieldsAsked, type ListParams } from '@/server/paging';
import { session } from '@/server/session';
import { fieldList } from '@/server/summaries';
import { Pager } from '@/ui/figure/Pager';
import { FieldFilter } from '@/ui/today/FieldFilter';
import { TodayTable, type TodayRow } from '@/ui/today/TodayTable';

export const metadata = { title: 'Today' };
interface Props {
  searchParams: Promise<ListParams>;
}

export default async function TodayPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const { farm, ...asked } = fieldsAsked(await searchParams);
  if (await farmThatBegins(db, actor)) redirect('/farms/new');
  const list = await fieldList(db, actor, asked, farm);
  const editable = await farmsAllowed(db, actor, 'edit');
  const rows = list.rows.map(({ farmId, fieldId, name, areaHa, version, summary }) => ({
    farmId,
    row: { fieldId, name, areaHa, version, summary } satisfies TodayRow,
  }));
  const groups = list.farms
    .map(({ id, name, fields, answers }) => ({
      id,
      name,
      answers,
      none: fields === 0 && asked.search === '' && asked.state === null,
      rows: rows.filter((r) => r.farmId === id).map((r) => r.row),
    }))
    .filter((g) => g.none || g.rows.length > 0);
  const all = await farmsOf(db, actor);
  const own = all.filter((f) => editable.includes(f.id));
  return (
    <>
      <h1 className="mb-1">Today</h1>
      <FieldFilter asked={asked} found={list.found} farms={all} farm={farm} />
      <TodayTable groups={groups} />
      <Pager path="/" asked={asked} found={list.found} farm={farm ?? undefined} />
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
