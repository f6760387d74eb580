import { database, type Handle } from '@/data/client';
import { seed } from '@/data/seed';

export async function prepare(): Promise<Handle> {
  const handle = await database();
  await seed(handle.db, process.env.FURROW_DEMO === '1' ? 'demo' : 'own');
  return handle;
}
