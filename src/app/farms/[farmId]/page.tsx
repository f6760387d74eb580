import type { Metadata, Route } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { setbacks } from '@/core/book/organicTables';
import {
  importFarmAction,
  removeMachineAction,
  removeStoreAction,
  saveMachineAction,
  saveStoreAction,
  saveTermsAction,
} from '@/server/farmActions';
import { may } from '@/server/authorise';
import { today } from '@/server/clock';
import { farmDesk } from '@/server/farm';
import { session } from '@/server/session';
import { FarmFile } from '@/ui/farm/FarmFile';
import { MachinesPart } from '@/ui/farm/MachinesPart';
import { StoresPart } from '@/ui/farm/StoresPart';
import { TermsPart } from '@/ui/farm/TermsPart';
import { Part } from '@/ui/figure/fields';

export const metadata: Metadata = { title: 'Farm' };

/** What belongs to a farm and not to one field. */
export default async function FarmPage({ params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const { farmId } = await params;
  const desk = await farmDesk(db, actor, farmId).catch(() => null);
  if (!desk) notFound();
  const { library, ...terms } = desk.terms;
  const readOnly = !may(desk.role, 'edit');
  return (
    <>
      <p>
        <Link href={`/fields?farm=${farmId}` as Route}>Fields</Link>
      </p>
      <h1 className="mb-3">{terms.name}</h1>
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
    </>
  );
}
