import { cookies } from 'next/headers';
import { connection } from 'next/server';
import { cache } from 'react';
import { database, type Db } from '@/data/client';
import { listPeople, type Person } from '@/data/farms';
import type { Actor } from './authorise';

const COOKIE = 'furrow_actor';

export interface Session {
  db: Db;
  actor: Actor;
  people: Person[];
}

/**
 * Database and acting person of this request. Who acts is chosen at the top of the page for now; an
 * unknown choice falls to the first person.
 */
export const session = cache(async (): Promise<Session> => {
  await connection();
  const chosen = (await cookies()).get(COOKIE)?.value;
  const { db } = await database();
  const people = await listPeople(db);
  const actor =
    people.find((p) => p.id === chosen) ??
    people.find((p) => p.id === 'ines-calloway') ??
    people[0];
  if (!actor) throw new Error('No people in the database: it has not been set up.');
  return { db, actor, people };
});

export async function actAs(personId: string): Promise<void> {
  const { people } = await session();
  if (people.some((p) => p.id === personId))
    (await cookies()).set(COOKIE, personId, { httpOnly: true, sameSite: 'lax', path: '/' });
}
