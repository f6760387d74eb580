import { rolesOf, type Role } from '@/data/farms';
import type { Db, Executor } from '@/data/client';

export interface Actor {
  id: string;
  name: string;
}
/**
 * `sample` is bringing in a leaf sample: the farmer stands in the field with it, and the plan
 * stays as it is.
 */
export type Action = 'read' | 'sample' | 'edit' | 'propose' | 'decide';

const MAY: Record<Role, readonly Action[]> = {
  advisor: ['read', 'sample', 'edit', 'propose'],
  farmer: ['read', 'sample', 'decide'],
  owner: ['read', 'sample', 'edit', 'propose', 'decide'],
};

export class NotAllowed extends Error {
  constructor(actor: Actor, action: Action) {
    super(`${actor.name} may not ${action === 'read' ? 'see' : action} this farm.`);
    this.name = 'NotAllowed';
  }
}

/**
 * The one door: every read and write of a farm passes through here. Returns the role; throws when
 * the person may not.
 */
export async function authorise(
  db: Executor,
  actor: Actor,
  action: Action,
  farmId: string,
): Promise<Role> {
  const role = (await rolesOf(db, actor.id)).find((r) => r.farmId === farmId)?.role;
  if (!role || !MAY[role].includes(action)) throw new NotAllowed(actor, action);
  return role;
}

/** Farms that a person may do something on. */
export const farmsAllowed = async (db: Db, actor: Actor, action: Action): Promise<string[]> =>
  (await rolesOf(db, actor.id)).filter((r) => MAY[r.role].includes(action)).map((r) => r.farmId);
export const may = (role: Role, action: Action): boolean => MAY[role].includes(action);
