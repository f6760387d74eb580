import { getTableColumns, is, sql, SQL } from 'drizzle-orm';
import type { PgTable } from 'drizzle-orm/pg-core';
import type { Executor } from './client';

/**
 * Inserts many rows as one parameter: a statement with a parameter for each of a hundred thousand
 * values takes longer to build than to run.
 * Columns that a row leaves out get the default of the schema.
 */
export async function insertMany<T extends PgTable>(
  db: Executor,
  table: T,
  rows: readonly T['$inferInsert'][],
): Promise<void> {
  if (rows.length === 0) return;
  const given = new Set(rows.flatMap((r) => Object.keys(r)));
  const columns = Object.entries(getTableColumns(table)).filter(([key]) => given.has(key));
  const plain = rows.map((r) => {
    const row = r as Record<string, unknown>;
    return Object.fromEntries(
      columns.map(([key, c]) => [
        c.name,
        row[key] ?? (is(c.default, SQL) ? null : c.default) ?? null,
      ]),
    );
  });
  const names = sql.join(
    columns.map(([, c]) => sql.identifier(c.name)),
    sql`, `,
  );
  await db.execute(
    sql`insert into ${table} (${names}) select ${names} from json_populate_recordset(null::${table}, ${JSON.stringify(plain)}::json)`,
  );
}
