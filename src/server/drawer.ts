import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import { fieldById, fieldsOf, record } from '@/data/farms';
import { holdFarm } from '@/data/imports';
import {
  putBack,
  removedOf,
  takeFieldAway,
  takeFromDrawer,
  takeGearAway,
  type RemovedRow,
} from '@/data/removed';
import { inTransaction } from '@/data/transaction';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { planWithNewest } from './fieldMean';
import { checkNames } from './ownFields';

// What is taken away goes into a drawer, whole, until somebody brings it back.

export const drawer = (actor: Actor) => ({ id: newId(), author: actor.name, removedOn: today() });

/** Takes a field away with all its seasons and samples; it can be brought back. */
export async function removeField(db: Db, actor: Actor, fieldId: string): Promise<string> {
  const field = await fieldById(db, fieldId);
  if (!field) refuse('unknown_id', 'field', 'This field does not exist any more.');
  await authorise(db, actor, 'edit', field.farmId);
  const entry = drawer(actor);
  await inTransaction(db, async (tx) => {
    await holdFarm(tx, field.farmId);
    await takeFieldAway(tx, field, entry);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'remove_field',
      subject: field.name,
    });
  });
  return entry.id;
}
/** Takes a store or a machine away; it can be brought back. */
async function removeGear(
  db: Db,
  actor: Actor,
  kind: 'store' | 'machine',
  farmId: string,
  id: string,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  await inTransaction(db, async (tx) => {
    if (await takeGearAway(tx, kind, farmId, id, drawer(actor)))
      await record(tx, { personId: actor.id, farmId, action: `remove_${kind}`, subject: id });
  });
}
export const removeStore = (db: Db, actor: Actor, farmId: string, id: string): Promise<void> =>
  removeGear(db, actor, 'store', farmId, id);
export const removeMachine = (db: Db, actor: Actor, farmId: string, id: string): Promise<void> =>
  removeGear(db, actor, 'machine', farmId, id);

/** A sample comes back to its field, if that stands. */
async function checkSampleHome(tx: Executor, row: RemovedRow): Promise<void> {
  const fieldId = row.rows.sample?.[0]?.fieldId;
  if (typeof fieldId !== 'string' || !(await fieldById(tx, fieldId)))
    refuse('inconsistent', 'field', 'The field of this sample is taken away: bring it back first.');
}
/** What of a farm was taken away, the last first. */
export interface RemovedLine {
  id: string;
  kind: 'field' | 'store' | 'machine' | 'sample';
  name: string;
  author: string;
  on: string;
}
export async function removedLines(db: Db, actor: Actor, farmId: string): Promise<RemovedLine[]> {
  await authorise(db, actor, 'read', farmId);
  return (await removedOf(db, farmId)).map(({ id, kind, name, author, removedOn }) => ({
    id,
    kind,
    name,
    author,
    on: removedOn,
  }));
}

/** Brings back what was taken away, as it was. */
export async function bringBack(db: Db, actor: Actor, farmId: string, id: string): Promise<string> {
  await authorise(db, actor, 'edit', farmId);
  return inTransaction(db, async (tx) => {
    await holdFarm(tx, farmId);
    const row = await takeFromDrawer(tx, farmId, id);
    if (!row) refuse('unknown_id', 'removed', 'This was brought back already.');
    if (row.kind === 'field')
      checkNames(
        (await fieldsOf(tx, [farmId])).map((f) => f.name),
        [{ name: row.name }],
      );
    if (row.kind === 'sample') await checkSampleHome(tx, row);
    await putBack(tx, row);
    if (row.kind === 'sample') await planWithNewest(tx, (row.rows.sample ?? []) as never);
    await record(tx, {
      personId: actor.id,
      farmId,
      action: `bring_back_${row.kind}`,
      subject: row.name,
    });
    return row.name;
  });
}
