import { farmsById, fieldsOf, rolesOf } from '@/data/farms';
import { farmsAllowed } from './authorise';
import { session } from './session';

/** What the frame around every screen shows: who acts, and the fields that this person may see. */
export async function frameOf() {
  const { db, actor, people } = await session();
  const ids = await farmsAllowed(db, actor, 'read');
  const [farms, fields, roles] = [
    await farmsById(db, ids),
    await fieldsOf(db, ids),
    await rolesOf(db, actor.id),
  ];
  return {
    people: people.map(({ id, name }) => ({ id, name })),
    actorId: actor.id,
    role: roles[0]?.role ?? '',
    fields: fields.map((f) => ({
      id: f.id,
      name: f.name,
      farm: farms.find((x) => x.id === f.farmId)?.name ?? '',
    })),
  };
}
