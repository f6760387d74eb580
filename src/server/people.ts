import { z } from 'zod';
import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import {
  addPerson,
  dropMember,
  listPeople,
  membersOf,
  putMember,
  record,
  renamePerson,
  type Role,
} from '@/data/farms';
import { inTransaction } from '@/data/transaction';
import { authorise, type Actor } from './authorise';
import { newId } from './clock';
import { named, parsed } from './input';

export const ROLES = ['advisor', 'farmer', 'owner'] as const;
/** A person of that name, or a new one. */
export async function personNamed(tx: Executor, name: string): Promise<string> {
  const known = (await listPeople(tx)).find((p) => p.name === name);
  if (known) return known.id;
  const id = newId();
  await addPerson(tx, { id, name });
  return id;
}
/** Somebody must be able to write, and somebody to agree: else a farm would stand still. */
export async function checkPair(tx: Executor, farmId: string): Promise<void> {
  const roles = (await membersOf(tx, farmId)).map((m) => m.role);
  if (!roles.some((r) => r === 'owner' || r === 'advisor'))
    refuse(
      'inconsistent',
      'role',
      'Nobody could plan for this farm: one person must be its advisor, or its owner, who does both.',
      { allowed: 'an advisor or an owner' },
    );
}

export interface Member {
  id: string;
  name: string;
  role: Role;
}
export async function farmMembers(db: Db, actor: Actor, farmId: string): Promise<Member[]> {
  await authorise(db, actor, 'read', farmId);
  return membersOf(db, farmId);
}
const memberInput = z.strictObject({ name: named(80), role: z.enum(ROLES) });
/** Adds a person to a farm by name, or gives one who is there another part. */
export async function saveMember(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<void> {
  const { name, role } = parsed(memberInput, raw);
  await authorise(db, actor, 'edit', farmId);
  await inTransaction(db, async (tx) => {
    await putMember(tx, farmId, await personNamed(tx, name), role);
    await checkPair(tx, farmId);
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'save_member',
      subject: name,
      detail: { role },
    });
  });
}
/** A person no longer works with a farm. What they wrote stays theirs. */
export async function removeMember(
  db: Db,
  actor: Actor,
  farmId: string,
  personId: string,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  await inTransaction(db, async (tx) => {
    await dropMember(tx, farmId, personId);
    await checkPair(tx, farmId);
    await record(tx, { personId: actor.id, farmId, action: 'remove_member', subject: personId });
  });
}
/** Another name for a person, everywhere. */
export async function renameMember(
  db: Db,
  actor: Actor,
  farmId: string,
  personId: string,
  raw: unknown,
): Promise<void> {
  const name = parsed(named(80), raw);
  await authorise(db, actor, 'edit', farmId);
  await inTransaction(db, async (tx) => {
    if (!(await membersOf(tx, farmId)).some((m) => m.id === personId))
      refuse('unknown_id', 'person', 'This person does not work with this farm.');
    if ((await listPeople(tx)).some((p) => p.name === name && p.id !== personId))
      refuse('inconsistent', 'name', `name = ${name}: another person has that name.`, {
        value: name,
      });
    await renamePerson(tx, personId, name);
    await record(tx, { personId: actor.id, farmId, action: 'rename_person', subject: name });
  });
}
