import type { Metadata, Route } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { setbacks } from '@/core/book/organicTables';
import { removedLines } from '@/server/drawer';
import {
  bringBackAction,
  importFarmAction,
  readPricesAction,
  removeMachineAction,
  removeMemberAction,
  removeStoreAction,
  renameMemberAction,
  saveMachineAction,
  saveMemberAction,
  savePlaceAction,
  saveStoreAction,
  saveTermsAction,
} from '@/server/farmActions';
import { may } from '@/server/authorise';
import { today } from '@/server/clock';
import { farmDesk } from '@/server/farm';
import { farmPlace } from '@/server/ownFarm';
import { farmMembers } from '@/server/people';
import { pricedProducts } from '@/server/prices';
import { session } from '@/server/session';
import { FarmFile } from '@/ui/farm/FarmFile';
import { MachinesPart } from '@/ui/farm/MachinesPart';
import { PeoplePart } from '@/ui/farm/PeoplePart';
import { PlacePart } from '@/ui/farm/PlacePart';
import { RemovedPart } from '@/ui/farm/RemovedPart';
import { StoresPart } from '@/ui/farm/StoresPart';
import { TermsPart } from '@/ui/farm/TermsPart';
import { Part } from '@/ui/figure/fields';
import { placeDoors } from '../placeDoors';

export const metadata: Metadata = { title: 'Farm' };

/** What belongs to a farm and not to one field. */
export default async function FarmPage({ params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const { farmId } = await params;
  const desk = await farmDesk(db, actor, farmId).catch(() => null);
  if (!desk) notFound();
  const { library, ...terms } = desk.terms;
  const readOnly = !may(desk.role, 'edit');
  const place = await farmPlace(db, actor, farmId);
  return (
    <>
      <p className="flex flex-wrap gap-x-5">
        <Link href={`/fields?farm=${farmId}` as Route}>All fields with their sums</Link>
        <Link href={`/farms/${farmId}/fields` as Route}>Add, rename and take away fields</Link>
        <Link href={`/farms/${farmId}/next-season` as Route}>Next season</Link>
        <Link href="/farms/new">New farm</Link>
      </p>
      <h1 className="mb-3">{terms.name}</h1>
      {place && (
        <PlacePart
          key={place.version}
          {...placeDoors()}
          first={{ ...place, climate: terms.climate, currency: terms.currency }}
          version={place.version}
          readOnly={readOnly}
          save={savePlaceAction.bind(null, farmId)}
        />
      )}
      <PeoplePart
        members={await farmMembers(db, actor, farmId)}
        readOnly={readOnly}
        save={saveMemberAction.bind(null, farmId)}
        rename={renameMemberAction.bind(null, farmId)}
        remove={removeMemberAction.bind(null, farmId)}
      />
      <StoresPart
        stores={desk.stores.map(({ farmId: _, position: __, ...s }) => s)}
        library={library}
        readOnly={readOnly}
        today={today()}
        save={saveStoreAction.bind(null, farmId)}
        remove={removeStoreAction.bind(null, farmId)}
      />
      <MachinesPart
        machines={desk.machines.map(({ farmId: _, position: __, ...m }) => m)}
        library={library}
        readOnly={readOnly}
        today={today()}
        save={saveMachineAction.bind(null, farmId)}
        remove={removeMachineAction.bind(null, farmId)}
      />
      <TermsPart
        terms={terms}
        version={desk.version}
        readOnly={readOnly}
        save={saveTermsAction.bind(null, farmId)}
        products={pricedProducts(library)}
        today={today()}
        readPrices={readPricesAction.bind(null, farmId)}
        setbacks={setbacks().map((s) => ({
          feature: s.feature,
          situation: s.situation,
          metres: s.defaultSetbackM,
          min: s.minM,
          max: s.maxM,
          level: s.level,
        }))}
      />
      <Part
        title="The farm as a file"
        aside="everything of this farm, to keep or to bring into another copy of this program"
      >
        <FarmFile farmId={farmId} bringIn={importFarmAction} />
      </Part>
      <RemovedPart
        lines={await removedLines(db, actor, farmId)}
        readOnly={readOnly}
        bringBack={bringBackAction.bind(null, farmId)}
      />
    </>
  );
}
