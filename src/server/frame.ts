import { rolesOf } from '@/data/farms';
import { session } from './session';

/** What the frame around every screen shows: who acts, and as what. */
export async function frameOf() {
  const { db, actor, people } = await session();
  const roles = await rolesOf(db, actor.id);
  return {
    people: people.map(({ id, name }) => ({ id, name })),
    actorId: actor.id,
    role: roles[0]?.role ?? '',
  };
}
