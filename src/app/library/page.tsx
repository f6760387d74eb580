import type { Route } from 'next';
import Link from 'next/link';
import { LIBRARY_TABLES, type LibraryTable as TableName } from '@/core/book/book';
import { LIBRARY_COLUMNS } from '@/core/book/libraryColumns';
import { importLibraryAction, overrideRowAction, resetRowAction } from '@/server/farmActions';
import { farmsAllowed } from '@/server/authorise';
import { farmsOf } from '@/server/farm';
import { libraryOfFarm } from '@/server/library';
import { session } from '@/server/session';
import { LibraryTable } from '@/ui/library/LibraryTable';

export const metadata = { title: 'Library' };
interface Props {
  searchParams: Promise<{ farm?: string; table?: string }>;
}
const TITLES: Record<TableName, string> = {
  crops: 'Crops',
  materials: 'Manure and compost',
  fertilisers: 'Fertilisers',
  limes: 'Limes',
  ranges: 'Leaf ranges',
  protocols: 'Leaf protocols',
};

/** The book of figures behind every sum, and a farm's own in their place. */
export default async function LibraryPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const asked = await searchParams;
  const [farms, editable] = [await farmsOf(db, actor), await farmsAllowed(db, actor, 'edit')];
  const farm = farms.find((f) => f.id === asked.farm) ?? farms[0];
  const table = LIBRARY_TABLES.find((t) => t === asked.table) ?? 'crops';
  if (!farm) return <p>No farm yet.</p>;
  const link = (t: TableName, f: string) => `/library?table=${t}&farm=${f}` as Route;
  return (
    <>
      <h1 className="mb-1">Library</h1>
      <p className="note mb-2 max-w-[60rem]">
        Book values, each with its source. Your laboratory, your own trials and local tables come
        first: a figure changed here counts for one farm, with who, when and why, and can be put
        back.
      </p>
      <nav
        aria-label="Tables"
        className="no-print flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-1"
      >
        {LIBRARY_TABLES.map((t) => (
          <Link
            key={t}
            href={link(t, farm.id)}
            aria-current={t === table ? 'page' : undefined}
            className={
              t === table ? 'border-b-2 border-ink font-bold no-underline' : 'no-underline'
            }
          >
            {TITLES[t]}
          </Link>
        ))}
      </nav>
      <nav aria-label="Farms" className="no-print mt-1 mb-3 flex flex-wrap gap-x-5 gap-y-1">
        <span className="note">as seen by</span>
        {farms.map((f) => (
          <Link
            key={f.id}
            href={link(table, f.id)}
            aria-current={f.id === farm.id ? 'page' : undefined}
            className={f.id === farm.id ? 'font-bold no-underline' : 'no-underline'}
          >
            {f.name}
          </Link>
        ))}
      </nav>
      <LibraryTable
        key={`${farm.id}-${table}`}
        farmId={farm.id}
        table={table}
        columns={LIBRARY_COLUMNS[table]}
        entries={await libraryOfFarm(db, actor, farm.id, table)}
        readOnly={!editable.includes(farm.id)}
        override={overrideRowAction.bind(null, farm.id)}
        reset={resetRowAction.bind(null, farm.id)}
        bringIn={importLibraryAction}
      />
    </>
  );
}
