import { dataDirectory, diskTrouble } from '@/data/disk';
import { session } from './session';

/** Whether the program answers, has its database, and can write; what is wrong in words. */
export async function health(): Promise<
  { ok: true; people: number } | { ok: false; problem: string }
> {
  const { people } = await session();
  const directory = dataDirectory();
  const trouble = directory && diskTrouble(directory);
  return trouble ? { ok: false, problem: trouble } : { ok: true, people: people.length };
}
