import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { LeafSampleFact } from '../core/facts/leafSample';
import type { Db, Executor } from './client';
import {
  fields,
  labMappings,
  soilSamples,
  tissueResults,
  tissueSamples,
  waitingRows,
} from './schema';

export type SoilSample = typeof soilSamples.$inferSelect;
export type WaitingRow = typeof waitingRows.$inferSelect;

export const soilSamplesOf = async (db: Db, farmIds: readonly string[]) =>
  farmIds.length === 0
    ? []
    : db
        .select({
          sample: soilSamples,
          field: { id: fields.id, name: fields.name, farmId: fields.farmId },
        })
        .from(soilSamples)
        .innerJoin(fields, eq(soilSamples.fieldId, fields.id))
        .where(inArray(fields.farmId, [...farmIds]))
        .orderBy(desc(soilSamples.date), asc(fields.name));

export async function addLeafSample(
  db: Executor,
  fieldId: string,
  { values, ...head }: LeafSampleFact,
): Promise<void> {
  await db.insert(tissueSamples).values({ ...head, fieldId });
  if (values.length > 0)
    await db.insert(tissueResults).values(values.map((v) => ({ ...v, sampleId: head.id })));
}
/** Leaf samples of some fields, newest first. */
export async function leafFactsOf(
  db: Executor,
  fieldIds: readonly string[],
): Promise<ReadonlyMap<string, LeafSampleFact[]>> {
  const heads =
    fieldIds.length === 0
      ? []
      : await db
          .select()
          .from(tissueSamples)
          .where(inArray(tissueSamples.fieldId, [...fieldIds]))
          .orderBy(desc(tissueSamples.date), asc(tissueSamples.id));
  const values =
    heads.length === 0
      ? []
      : await db
          .select()
          .from(tissueResults)
          .where(
            inArray(
              tissueResults.sampleId,
              heads.map((h) => h.id),
            ),
          );
  const found = new Map<string, LeafSampleFact[]>();
  for (const { fieldId, ...head } of heads) {
    const own = values
      .filter((v) => v.sampleId === head.id)
      .map(({ nutrient, reported, unit }) => ({ nutrient, reported, unit }));
    found.set(fieldId, [...(found.get(fieldId) ?? []), { ...head, values: own }]);
  }
  return found;
}
export const removeLeafSample = async (
  db: Executor,
  fieldId: string,
  id: string,
): Promise<void> => {
  await db
    .delete(tissueSamples)
    .where(and(eq(tissueSamples.id, id), eq(tissueSamples.fieldId, fieldId)));
};

export const mappingOf = async (
  db: Db,
  farmId: string,
  laboratory: string,
): Promise<Record<string, unknown> | null> =>
  (
    await db
      .select()
      .from(labMappings)
      .where(and(eq(labMappings.farmId, farmId), eq(labMappings.laboratory, laboratory)))
  )[0]?.mapping ?? null;
export const mappingsOf = (db: Db, farmId: string) =>
  db
    .select()
    .from(labMappings)
    .where(eq(labMappings.farmId, farmId))
    .orderBy(asc(labMappings.laboratory));
export const rememberMapping = async (
  db: Executor,
  farmId: string,
  laboratory: string,
  mapping: Record<string, unknown>,
): Promise<void> => {
  await db
    .insert(labMappings)
    .values({ farmId, laboratory, mapping })
    .onConflictDoUpdate({ target: [labMappings.farmId, labMappings.laboratory], set: { mapping } });
};

export const waitingRowsOf = async (db: Db, farmIds: readonly string[]): Promise<WaitingRow[]> =>
  farmIds.length === 0
    ? []
    : db
        .select()
        .from(waitingRows)
        .where(inArray(waitingRows.farmId, [...farmIds]))
        .orderBy(asc(waitingRows.fileName), asc(waitingRows.row));
export const keepWaiting = async (
  db: Executor,
  rows: readonly (typeof waitingRows.$inferInsert)[],
): Promise<void> => {
  if (rows.length > 0) await db.insert(waitingRows).values([...rows]);
};
export const waitingRowById = async (db: Executor, id: string): Promise<WaitingRow | undefined> =>
  (await db.select().from(waitingRows).where(eq(waitingRows.id, id)))[0];
export const dropWaiting = async (db: Executor, id: string): Promise<void> => {
  await db.delete(waitingRows).where(eq(waitingRows.id, id));
};
