import { and, asc, desc, eq } from 'drizzle-orm';
import type { Executor } from './client';
import { insertFieldRows, rowsOfFields, type FieldRows } from './farmRows';
import type { Field } from './farms';
import { fields, machines, removed, soilResults, soilSamples, stores } from './schema';

export type RemovedRow = typeof removed.$inferSelect;

/** A field with all that belongs to it goes into the drawer of its farm. */
export async function takeFieldAway(
  tx: Executor,
  field: Field,
  entry: Pick<RemovedRow, 'id' | 'author' | 'removedOn'>,
): Promise<void> {
  await tx.insert(removed).values({
    ...entry,
    farmId: field.farmId,
    kind: 'field',
    name: field.name,
    rows: await rowsOfFields(tx, [field]),
  });
  await tx.delete(fields).where(eq(fields.id, field.id));
}
/** A store or a machine the same. @returns whether there was one */
export async function takeGearAway(
  tx: Executor,
  kind: 'store' | 'machine',
  farmId: string,
  id: string,
  entry: Pick<RemovedRow, 'id' | 'author' | 'removedOn'>,
): Promise<boolean> {
  const table = kind === 'store' ? stores : machines;
  const [row] = await tx
    .delete(table)
    .where(and(eq(table.id, id), eq(table.farmId, farmId)))
    .returning();
  if (!row) return false;
  await tx
    .insert(removed)
    .values({ ...entry, farmId, kind, name: row.name, rows: { [kind]: [row] } });
  return true;
}

/** A soil sample with its readings. */
export async function takeSampleAway(
  tx: Executor,
  farmId: string,
  sample: typeof soilSamples.$inferSelect,
  entry: Pick<RemovedRow, 'id' | 'author' | 'removedOn'> & { name: string },
): Promise<void> {
  const readings = await tx
    .select()
    .from(soilResults)
    .where(eq(soilResults.sampleId, sample.id))
    .orderBy(asc(soilResults.position));
  await tx.insert(removed).values({
    ...entry,
    farmId,
    kind: 'sample',
    rows: { sample: [sample], readings: readings.map(({ id: _, ...r }) => r) },
  });
  await tx.delete(soilSamples).where(eq(soilSamples.id, sample.id));
}

export const removedOf = (db: Executor, farmId: string): Promise<RemovedRow[]> =>
  db.select().from(removed).where(eq(removed.farmId, farmId)).orderBy(desc(removed.removedOn));

/** Takes something out of the drawer; undefined where it is not there any more. */
export const takeFromDrawer = async (
  tx: Executor,
  farmId: string,
  id: string,
): Promise<RemovedRow | undefined> =>
  (
    await tx
      .delete(removed)
      .where(and(eq(removed.id, id), eq(removed.farmId, farmId)))
      .returning()
  )[0];

/** Puts back what was taken away, as it was. */
export async function putBack(tx: Executor, { kind, rows }: RemovedRow): Promise<void> {
  if (kind === 'field') return insertFieldRows(tx, rows as unknown as FieldRows);
  const [row] = rows[kind] ?? [];
  if (kind === 'sample') {
    await tx.insert(soilSamples).values(row as never);
    if ((rows.readings?.length ?? 0) > 0)
      await tx.insert(soilResults).values(rows.readings as never);
  } else if (row) await tx.insert(kind === 'store' ? stores : machines).values(row as never);
}
