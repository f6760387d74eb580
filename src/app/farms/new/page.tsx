import type { Metadata } from 'next';
import { createFarmAction } from '@/server/farmActions';
import { farmThatBegins } from '@/server/ownFarm';
import { session } from '@/server/session';
import { NewFarm } from '@/ui/farm/NewFarm';
import { placeDoors } from '../placeDoors';

export const metadata: Metadata = { title: 'New farm' };

/** A farm of one's own; where the program is empty, the one that it begins with. */
export default async function NewFarmPage() {
  const { db, actor } = await session();
  const begins = await farmThatBegins(db, actor);
  return (
    <>
      <h1 className="mb-1">{begins ? 'Your farm' : 'New farm'}</h1>
      <p className="note mb-4 max-w-[46rem]">
        Three things, then the fields. All of it can be changed later on the farm’s page.
      </p>
      <NewFarm
        {...placeDoors()}
        selfName={begins ? '' : actor.name}
        create={createFarmAction.bind(null, begins)}
      />
    </>
  );
}
