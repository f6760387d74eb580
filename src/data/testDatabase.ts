import { PGlite } from '@electric-sql/pglite';
import { handleOf, type Db } from './client';
import { seed } from './seed';

/** A database in memory with the demo farms, for the tests of data and server. */
export async function demoDatabase(): Promise<{ db: Db; close: () => Promise<void> }> {
  const handle = await handleOf(await PGlite.create());
  await seed(handle.db, 'demo');
  return handle;
}
