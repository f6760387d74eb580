import type { Route } from 'next';
import Link from 'next/link';
import { farmsAllowed } from '@/server/authorise';
import { farmDesk, storesNamed } from '@/server/farm';
import { session } from '@/server/session';
import { FarmTable } from '@/ui/farm/FarmTable';

export const metadata = { title: 'Fields' };
interface Props {
  searchParams: Promise<{ farm?: string }>;
}

/** All fields of one farm in a table, reckoned in a worker. */
export default async function FieldsPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const ids = await farmsAllowed(db, actor, 'read');
  const asked = (await searchParams).farm;
  const desks = (await Promise.all(ids.map((id) => farmDesk(db, actor, id))))
    .filter((d) => d !== null)
    .toSorted((a, b) => a.terms.name.localeCompare(b.terms.name));
  const desk = desks.find((d) => d.id === asked) ?? desks[0];
  return (
    <>
      <h1 className="mb-1">Fields</h1>
      <nav
        aria-label="Farms"
        className="no-print mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-1"
      >
        {desks.map((d) => (
          <Link
            key={d.id}
            href={`/fields?farm=${d.id}` as Route}
            aria-current={d.id === desk?.id ? 'page' : undefined}
            className={
              d.id === desk?.id ? 'border-b-2 border-ink font-bold no-underline' : 'no-underline'
            }
          >
            {d.terms.name}
          </Link>
        ))}
        {desk && (
          <Link href={`/farms/${desk.id}` as Route} className="ml-auto">
            Money, limits, stores, machines, file
          </Link>
        )}
      </nav>
      {desk ? (
        <FarmTable key={desk.id} farmId={desk.id} terms={desk.terms} stores={storesNamed(desk)} />
      ) : (
        <p>No farm yet.</p>
      )}
    </>
  );
}
