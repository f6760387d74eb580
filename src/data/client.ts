import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { dataDirectory, diskTrouble } from './disk';
import { lockDataDirectory } from './lock';
import * as schema from './schema';

export type Db = PgDatabase<PgQueryResultHKT, typeof schema>;
/** What a repository writes through: the database, or the transaction that it is part of. */
export type Executor = Pick<
  Db,
  'select' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute'
>;
export interface Handle {
  db: Db;
  close: () => Promise<void>;
}
const KEY = Symbol.for('patient-furrow.database');
const migrationsFolder = () => path.join(process.cwd(), 'drizzle');

async function openServer(url: string): Promise<Handle> {
  const [{ drizzle: server }, { migrate: migrateServer }, { Pool }] = await Promise.all([
    import('drizzle-orm/node-postgres'),
    import('drizzle-orm/node-postgres/migrator'),
    import('pg').then((m) => m.default),
  ]);
  const pool = new Pool({ connectionString: url, max: 5 });
  pool.on('error', (e) => console.error(`Database connection: ${e.message}`));
  const connection = await pool.connect();
  try {
    // Several instances may start at once: one migrates, the others wait.
    await connection.query('select pg_advisory_lock(7201)');
    await migrateServer(server(connection), { migrationsFolder: migrationsFolder() });
  } finally {
    await connection.query('select pg_advisory_unlock(7201)');
    connection.release();
  }
  return { db: server(pool, { schema }) as unknown as Db, close: () => pool.end() };
}

/** A handle on an already created PGlite, migrated. Tests use it on memory. */
export async function handleOf(client: PGlite): Promise<Handle> {
  const db = drizzle(client, { schema });
  await migrate(db, { migrationsFolder: migrationsFolder() });
  return { db: db as unknown as Db, close: () => client.close() };
}

async function open(): Promise<Handle> {
  if (process.env.NEXT_PHASE === 'phase-production-build')
    throw new Error('The database must not be opened during the build: make the page dynamic.');
  if (process.env.DATABASE_URL) return openServer(process.env.DATABASE_URL);
  const home = dataDirectory() ?? '.';
  const trouble = diskTrouble(home);
  if (trouble) throw new Error(trouble);
  const directory = path.join(/*turbopackIgnore: true*/ home, 'pg');
  const unlock = lockDataDirectory(directory);
  try {
    const handle = await handleOf(await PGlite.create(directory));
    return {
      ...handle,
      close: async () => {
        await handle.close();
        unlock();
      },
    };
  } catch (e) {
    unlock();
    throw e;
  }
}

type Global = typeof globalThis & { [KEY]?: Promise<Handle> };
/** One database per process, whatever the number of bundles that ask for it. */
export function database(): Promise<Handle> {
  const g = globalThis as Global;
  return (g[KEY] ??= open().catch((e: unknown) => {
    delete g[KEY];
    throw e;
  }));
}
