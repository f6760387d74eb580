import type { Route } from 'next';
import Link from 'next/link';
import { farmsOf } from '@/server/farm';
import { leafBlocksOf } from '@/server/leafBlocks';
import {
  dropNormsAction,
  dropOwnStandardAction,
  importNormsAction,
  keepOwnNormsAction,
  keepOwnStandardAction,
  nameSimilarAction,
} from '@/server/leafBlockActions';
import { session } from '@/server/session';
import { LeafBlocksDesk } from '@/ui/blocks/LeafBlocksDesk';
import { OwnLeafLists } from '@/ui/blocks/OwnLeafLists';

export const metadata = { title: 'Leaves side by side' };
interface Props {
  searchParams: Promise<{ farm?: string; group?: string }>;
}

/** Leaves of a farm's blocks beside each other, and the standards that the farm makes of the good ones. */
export default async function LeavesPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const asked = await searchParams;
  const farms = await farmsOf(db, actor);
  const farm = farms.find((f) => asked.farm === f.id || asked.farm === f.name) ?? farms[0];
  if (!farm) return <p>No farm yet.</p>;
  const found = await leafBlocksOf(db, actor, farm.id);
  const group = found.groups.find((g) => g.key === asked.group) ?? found.groups[0];
  const link = (farmId: string, key?: string) =>
    `/samples/leaves?farm=${farmId}${key ? `&group=${encodeURIComponent(key)}` : ''}` as Route;
  return (
    <>
      <h1 className="mb-1">Leaves side by side</h1>
      <p className="note mb-2 max-w-[60rem]">
        Blocks of one crop, part and stage, the best yield first. Out of the good ones the farm
        makes a standard of its own: it stands beside the printed range and never in its place.
        Leaves of plants that looked ill are not here.
      </p>
      <nav aria-label="Farms" className="no-print mb-1 flex flex-wrap gap-x-5 gap-y-1">
        {farms.map((f) => (
          <Link
            key={f.id}
            href={link(f.id)}
            aria-current={f.id === farm.id ? 'page' : undefined}
            className={f.id === farm.id ? 'font-bold no-underline' : 'no-underline'}
          >
            {f.name}
          </Link>
        ))}
      </nav>
      {found.groups.length > 0 && (
        <nav
          aria-label="Crop, part and stage"
          className="no-print mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-1"
        >
          {found.groups.map((g) => (
            <Link
              key={g.key}
              href={link(farm.id, g.key)}
              aria-current={g.key === group?.key ? 'page' : undefined}
              className={
                g.key === group?.key
                  ? 'border-b-2 border-ink font-bold no-underline'
                  : 'no-underline'
              }
            >
              {g.cropName}, {g.partLabel.toLowerCase()}{' '}
              <span className="note">
                BBCH {g.bbchFrom}-{g.bbchTo}: {g.blocks.length}
              </span>
            </Link>
          ))}
        </nav>
      )}
      {group ? (
        <LeafBlocksDesk
          key={`${farm.id} ${group.key}`}
          group={group}
          readOnly={!found.mayEdit}
          keepStandard={keepOwnStandardAction.bind(null, farm.id)}
          keepNorms={keepOwnNormsAction.bind(null, farm.id)}
          bringNorms={importNormsAction.bind(null, farm.id, group.key)}
        />
      ) : (
        <p className="note mb-4">
          No leaf of this farm can be compared yet: take one on the Season of its field, or bring in
          a laboratory’s file on{' '}
          <Link className="underline" href={'/samples' as Route}>
            Samples
          </Link>
          .
        </p>
      )}
      <OwnLeafLists
        key={farm.id}
        farmId={farm.id}
        own={found.own}
        cropNames={found.cropNames}
        withRanges={found.withRanges}
        without={found.without}
        readOnly={!found.mayEdit}
        dropStandard={dropOwnStandardAction.bind(null, farm.id)}
        dropNorms={dropNormsAction.bind(null, farm.id)}
        nameSimilar={nameSimilarAction.bind(null, farm.id)}
      />
    </>
  );
}
