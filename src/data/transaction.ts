import type { Db, Executor } from './client';

/**
 * PostgreSQL could not serialise two transactions, or broke a deadlock: the same work once more
 * may well succeed.
 */
const AGAIN = new Set(['40001', '40P01']);
const MOST_TRIES = 4;
const codeOf = (e: unknown): string | undefined => {
  for (let x = e; x instanceof Error; x = x.cause) {
    const { code } = x as Error & { code?: unknown };
    if (typeof code === 'string') return code;
  }
  return undefined;
};

/**
 * Runs work in one transaction, again a few times where the database asks for it, and then gives
 * up with its error.
 */
export async function inTransaction<T>(db: Db, work: (tx: Executor) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++)
    try {
      return await db.transaction(work);
    } catch (e) {
      if (attempt >= MOST_TRIES || !AGAIN.has(codeOf(e) ?? '')) throw e;
    }
}
