import { bookOf } from '@/core/book/book';
import { z } from 'zod';
import type { FarmStore } from '@/core/farm/farmTotals';
import { farmTerms, type FarmTerms } from '@/core/document/farmTerms';
import { manureLab, plannedMachine } from '@/core/document/organicDocument';
import { num } from '@/core/quantity/input';
import { refuse } from '@/core/quantity/refusal';
import { materialOf } from '@/core/book/organicMaterials';
import { calibrationLimitOf, setbacks } from '@/core/book/organicTables';
import type { Db } from '@/data/client';
import {
  machinesOf,
  putMachine,
  putStore,
  saveTerms,
  storesOf,
  type MachineRow,
  type StoreRow,
} from '@/data/farmRecords';
import {
  farmById,
  farmsById,
  libraryOf,
  record,
  storedTermsOf,
  termsOf,
  type Role,
} from '@/data/farms';
import { checkPrices } from './prices';
import { authorise, farmsAllowed, type Action, type Actor } from './authorise';
import { newId } from './clock';
import { parsed } from './input';

const id = z.string().min(1).max(60);
const name = z
  .string({ error: 'text' })
  .trim()
  .min(1, { error: '1 to 80 letters' })
  .max(80, { error: '1 to 80 letters' });
const storeInput = z.strictObject({
  id: id.nullable(),
  name,
  materialKey: z.string().min(1).max(60),
  amountT: num({ label: 'In store', unit: 't', min: 0, max: 1_000_000 }).nullable(),
  pricePerT: num({ label: 'Price', unit: 'per t', min: -1000, max: 1000 }),
  labs: z.array(manureLab).max(40),
});
const machineInput = z.strictObject({
  id: id.nullable(),
  name,
  kind: plannedMachine.shape.kind,
  minRate: plannedMachine.shape.minRate,
  maxRate: plannedMachine.shape.maxRate,
  capacity: plannedMachine.shape.capacity,
  calibrations: z.array(plannedMachine.shape.calibration.unwrap()).max(60),
});
const termsInput = farmTerms.omit({ library: true });

export interface FarmDesk {
  id: string;
  version: number;
  role: Role;
  terms: FarmTerms;
  stores: StoreRow[];
  machines: MachineRow[];
}
/** Farms that a person may see, by name. */
export const farmsOf = async (db: Db, actor: Actor): Promise<{ id: string; name: string }[]> =>
  (await farmsById(db, await farmsAllowed(db, actor, 'read'))).map(
    ({ id: farmId, name: farmName }) => ({ id: farmId, name: farmName }),
  );

/** A farm's money, rules, stores and machines. */
export async function farmDesk(db: Db, actor: Actor, farmId: string): Promise<FarmDesk | null> {
  const farm = await farmById(db, farmId);
  if (!farm) return null;
  const role = await authorise(db, actor, 'read', farmId);
  return {
    id: farmId,
    version: farm.version,
    role,
    terms: termsOf(farm, await libraryOf(db, [farmId])),
    stores: await storesOf(db, [farmId]),
    machines: await machinesOf(db, [farmId]),
  };
}

/** What a farm plans with, for whoever may read it. */
export async function farmTermsOf(db: Db, actor: Actor, farmId: string): Promise<FarmTerms> {
  const desk = await farmDesk(db, actor, farmId);
  return (
    desk?.terms ??
    refuse('unknown_id', 'farm', 'This farm does not exist or is not yours to see.', {
      value: farmId,
    })
  );
}
/** A farm's stores with the names of what lies in them, as its table wants them. */
export const storesNamed = ({ stores, terms }: FarmDesk): FarmStore[] =>
  stores.map(({ id: storeId, name: storeName, materialKey, amountT }) => ({
    id: storeId,
    name: storeName,
    materialKey,
    materialName: materialOf(bookOf(terms.library), materialKey).name,
    amountT,
  }));

/** Saves a farm's money and rules; somebody else's save in between is refused, not overwritten. */
export async function saveFarmTerms(
  db: Db,
  actor: Actor,
  farmId: string,
  expected: number,
  raw: unknown,
): Promise<number> {
  await authorise(db, actor, 'edit', farmId);
  const {
    name: farmName,
    closedPeriods,
    legalNCapKgHa,
    nPricePerKg,
    // Leaf standards have doors of their own: what this page read of them may be old by now.
    ownLeaf: _,
    ...terms
  } = parsed(termsInput, raw);
  checkPrices(terms.prices, await libraryOf(db, [farmId]));
  for (const s of terms.setbacks) {
    const row =
      setbacks().find((r) => r.feature === s.feature && r.situation === s.situation) ??
      refuse(
        'unknown_id',
        'setbacks',
        `Setback ${s.feature}, ${s.situation} is not in the table.`,
        { value: s.feature },
      );
    if (s.metres < row.minM || s.metres > row.maxM)
      refuse(
        'out_of_range',
        'setbacks',
        `Setback to ${row.feature.replaceAll('_', ' ')} = ${s.metres} m is outside ${row.minM} to ${row.maxM} m.`,
        { value: s.metres, allowed: `${row.minM} to ${row.maxM} m` },
      );
  }
  await db.transaction(async (tx) => {
    const now = await farmById(tx, farmId);
    if (!now) refuse('unknown_id', 'farm', 'This farm does not exist.');
    if (
      !(await saveTerms(tx, farmId, expected, {
        name: farmName,
        closedPeriods,
        legalNCapKgHa,
        nPricePerKg,
        terms: { ...terms, ownLeaf: storedTermsOf(now).ownLeaf },
      }))
    )
      refuse(
        'inconsistent',
        'version',
        'Somebody else saved this farm meanwhile. Open it again: what you typed is still here to compare.',
      );
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'edit_farm',
      subject: `farm ${farmId}`,
      detail: terms,
    });
  });
  return expected + 1;
}

/** A change of one record of a farm: allowed first, then checked, then written with its trace. */
async function change<T>(
  db: Db,
  actor: Actor,
  farmId: string,
  action: Action,
  what: string,
  subject: string,
  work: (tx: Parameters<Parameters<Db['transaction']>[0]>[0]) => Promise<T>,
): Promise<T> {
  await authorise(db, actor, action, farmId);
  return db.transaction(async (tx) => {
    const value = await work(tx);
    await record(tx, { personId: actor.id, farmId, action: what, subject });
    return value;
  });
}

export async function saveStore(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<string> {
  const store = parsed(storeInput, raw);
  const library = (await libraryOf(db, [farmId])).map(({ farmId: _, ...c }) => c);
  materialOf(bookOf(library), store.materialKey);
  const existing = await storesOf(db, [farmId]);
  const storeId = store.id ?? newId();
  const place = existing.findIndex((s) => s.id === storeId);
  if (store.id !== null && place < 0)
    refuse('unknown_id', 'id', 'This store does not exist any more.', { value: store.id });
  return change(db, actor, farmId, 'edit', 'save_store', store.name, async (tx) => {
    await putStore(tx, {
      ...store,
      id: storeId,
      farmId,
      labs: store.labs.toSorted((a, b) => (b.date ?? '').localeCompare(a.date ?? '')),
      position: place < 0 ? existing.length : place,
    });
    return storeId;
  });
}
export async function saveMachine(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<string> {
  const machine = parsed(machineInput, raw);
  calibrationLimitOf(machine.kind);
  if (machine.maxRate < machine.minRate)
    refuse(
      'inconsistent',
      'maxRate',
      `Highest rate ${machine.maxRate} lies below the lowest even rate ${machine.minRate}.`,
      { value: machine.maxRate, allowed: `${machine.minRate} or more` },
    );
  const existing = await machinesOf(db, [farmId]);
  const machineId = machine.id ?? newId();
  const place = existing.findIndex((m) => m.id === machineId);
  if (machine.id !== null && place < 0)
    refuse('unknown_id', 'id', 'This machine does not exist any more.', { value: machine.id });
  return change(db, actor, farmId, 'edit', 'save_machine', machine.name, async (tx) => {
    await putMachine(tx, {
      ...machine,
      id: machineId,
      farmId,
      calibrations: machine.calibrations.toSorted((a, b) => b.date.localeCompare(a.date)),
      position: place < 0 ? existing.length : place,
    });
    return machineId;
  });
}
