import type { Metadata, Route } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { openNextSeasonAction } from '@/server/farmActions';
import { nextSeasonDesk } from '@/server/nextSeason';
import { session } from '@/server/session';
import { NextSeason } from '@/ui/farm/NextSeason';

export const metadata: Metadata = { title: 'Next season' };
interface Props {
  params: Promise<{ farmId: string }>;
  searchParams: Promise<{ field?: string; season?: string }>;
}

/** What the fields of a farm, or one of them, hand to the season after this one. */
export default async function NextSeasonPage({ params, searchParams }: Props) {
  const { db, actor } = await session();
  const { farmId } = await params;
  const { field = null, season = null } = await searchParams;
  const desk = await nextSeasonDesk(db, actor, farmId, field, season).catch(() => null);
  if (!desk || (field !== null && desk.fields.length === 0)) notFound();
  return (
    <>
      <p className="flex gap-4">
        <Link href={`/farms/${farmId}` as Route}>{desk.farmName}</Link>
        {field !== null && (
          <Link href={`/farms/${farmId}/next-season` as Route}>all fields of the farm</Link>
        )}
      </p>
      <h1 className="mb-3">Next season</h1>
      {desk.fields.length === 0 ? (
        <p>This farm has no field yet.</p>
      ) : (
        <NextSeason
          fields={desk.fields}
          readOnly={!desk.mayEdit}
          open={openNextSeasonAction.bind(null, farmId)}
        />
      )}
    </>
  );
}
