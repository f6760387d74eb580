import { and, desc, eq, inArray, isNotNull, notInArray } from 'drizzle-orm';
import type { Executor } from './client';
import {
  farms,
  fieldSeasons,
  imports,
  nitrateProfiles,
  soilSamples,
  waitingRows,
  type ImportDocument,
} from './schema';

export type StoredImport = typeof imports.$inferSelect;

export const addImport = async (tx: Executor, row: typeof imports.$inferInsert): Promise<void> => {
  await tx.insert(imports).values(row);
};
export const importById = async (db: Executor, id: string): Promise<StoredImport | undefined> =>
  (await db.select().from(imports).where(eq(imports.id, id)))[0];
export const removeImport = async (tx: Executor, id: string): Promise<void> => {
  await tx.delete(imports).where(eq(imports.id, id));
};
const MOST_LISTED = 20;
export const importsOfFarms = async (
  db: Executor,
  farmIds: readonly string[],
): Promise<StoredImport[]> =>
  farmIds.length === 0
    ? []
    : db
        .select()
        .from(imports)
        .where(inArray(imports.farmId, [...farmIds]))
        .orderBy(desc(imports.importedOn), desc(imports.id))
        .limit(MOST_LISTED);

/** Holds a farm until the transaction ends: two imports of one farm follow each other. */
export const holdFarm = async (tx: Executor, farmId: string): Promise<void> => {
  await tx.select({ id: farms.id }).from(farms).where(eq(farms.id, farmId)).for('update');
};

/** What some seasons read now. */
export const readsOf = async (
  tx: Executor,
  seasonIds: readonly string[],
): Promise<ImportDocument['before']> =>
  seasonIds.length === 0
    ? []
    : tx
        .select({
          seasonId: fieldSeasons.id,
          soilSampleId: fieldSeasons.soilSampleId,
          soilBecause: fieldSeasons.soilBecause,
          nitrateProfileId: fieldSeasons.nitrateProfileId,
          nitrateBecause: fieldSeasons.nitrateBecause,
        })
        .from(fieldSeasons)
        .where(inArray(fieldSeasons.id, [...seasonIds]));
/** Seasons that read one of these samples. */
export const readersOfSamples = async (
  tx: Executor,
  ids: readonly string[],
): Promise<{ id: string; fieldId: string; version: number }[]> =>
  ids.length === 0
    ? []
    : tx
        .select({
          id: fieldSeasons.id,
          fieldId: fieldSeasons.fieldId,
          version: fieldSeasons.version,
        })
        .from(fieldSeasons)
        .where(inArray(fieldSeasons.soilSampleId, [...ids]));
export const readersOfProfiles = async (
  tx: Executor,
  ids: readonly string[],
): Promise<{ id: string; version: number }[]> =>
  ids.length === 0
    ? []
    : tx
        .select({ id: fieldSeasons.id, version: fieldSeasons.version })
        .from(fieldSeasons)
        .where(inArray(fieldSeasons.nitrateProfileId, [...ids]));
/** Lets a season read other facts, or none. */
export const setReads = async (
  tx: Executor,
  season: { id: string; version: number },
  set: Partial<Omit<ImportDocument['before'][number], 'seasonId'>>,
): Promise<void> => {
  await tx
    .update(fieldSeasons)
    .set({ ...set, version: season.version + 1 })
    .where(eq(fieldSeasons.id, season.id));
};

/** The newest sample of a field that a season can read, beside some. */
export const newestBeside = async (
  tx: Executor,
  fieldId: string,
  ids: readonly string[],
): Promise<{ id: string; kind: 'composite' | 'point' | 'mean' } | undefined> =>
  (
    await tx
      .select({ id: soilSamples.id, kind: soilSamples.kind })
      .from(soilSamples)
      .where(
        and(
          eq(soilSamples.fieldId, fieldId),
          eq(soilSamples.depthFromCm, 0),
          inArray(soilSamples.kind, ['composite', 'mean']),
          isNotNull(soilSamples.date),
          notInArray(soilSamples.id, [...ids]),
        ),
      )
      .orderBy(desc(soilSamples.date))
      .limit(1)
  )[0];
export const samplesByIds = async (tx: Executor, ids: readonly string[]) =>
  ids.length === 0
    ? []
    : tx
        .select()
        .from(soilSamples)
        .where(inArray(soilSamples.id, [...ids]));
export const removeSamples = async (tx: Executor, ids: readonly string[]): Promise<void> => {
  if (ids.length > 0) await tx.delete(soilSamples).where(inArray(soilSamples.id, [...ids]));
};
export const removeProfiles = async (tx: Executor, ids: readonly string[]): Promise<void> => {
  if (ids.length > 0) await tx.delete(nitrateProfiles).where(inArray(nitrateProfiles.id, [...ids]));
};
export const removeWaiting = async (tx: Executor, ids: readonly string[]): Promise<void> => {
  if (ids.length > 0) await tx.delete(waitingRows).where(inArray(waitingRows.id, [...ids]));
};
export const profilesByIds = async (tx: Executor, ids: readonly string[]) =>
  ids.length === 0
    ? []
    : tx
        .select({ id: nitrateProfiles.id, version: nitrateProfiles.version })
        .from(nitrateProfiles)
        .where(inArray(nitrateProfiles.id, [...ids]));
