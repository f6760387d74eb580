import { and, asc, count, desc, eq, ilike, inArray, sql } from 'drizzle-orm';
import { insertMany } from './bulk';
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

/** What tells a stored sample from another one of the same file, and no more of it. */
export const sampleHeadsOf = (db: Db, farmId: string) =>
  db
    .select({
      fieldName: fields.name,
      date: soilSamples.date,
      label: soilSamples.label,
      depthFromCm: soilSamples.depthFromCm,
    })
    .from(soilSamples)
    .innerJoin(fields, eq(soilSamples.fieldId, fields.id))
    .where(eq(fields.farmId, farmId));

/** One line of the list of samples: a sample, or the points of a survey of one day and depth. */
export interface SampleLine {
  id: string;
  kind: SoilSample['kind'];
  fieldId: string;
  fieldName: string;
  farmId: string;
  date: string | null;
  label: string | null;
  laboratory: string | null;
  depthFromCm: number;
  depthCm: number | null;
  lowest: number | null;
  highest: number | null;
  samples: number;
}
/**
 * A page of the samples of some farms, the newest first. Points of a survey, of which there may be
 * thousands, make one line a day and depth.
 */
export async function sampleLines(
  db: Db,
  farmIds: readonly string[],
  { offset, limit, search }: { offset: number; limit: number; search: string },
): Promise<{ lines: SampleLine[]; found: number }> {
  if (farmIds.length === 0) return { lines: [], found: 0 };
  const group = sql`case when ${soilSamples.kind} = 'point' then concat_ws('|', ${soilSamples.fieldId}, ${soilSamples.samplingPlanId}, ${soilSamples.date}, ${soilSamples.depthFromCm}, ${soilSamples.depthCm}) else ${soilSamples.id} end`;
  const ph = sql`coalesce(${soilSamples.phWater}, ${soilSamples.phCacl2})`;
  const wanted = and(
    inArray(fields.farmId, [...farmIds]),
    search === '' ? undefined : ilike(fields.name, `%${search.replaceAll(/[%_\\]/gu, '\\$&')}%`),
  );
  const lines = await db
    .select({
      id: sql<string>`min(${soilSamples.id})`,
      kind: sql<SoilSample['kind']>`min(${soilSamples.kind})`,
      fieldId: sql<string>`min(${fields.id})`,
      fieldName: sql<string>`min(${fields.name})`,
      farmId: sql<string>`min(${fields.farmId})`,
      date: sql<string | null>`min(${soilSamples.date})::text`,
      label: sql<string | null>`min(${soilSamples.label})`,
      laboratory: sql<string | null>`min(${soilSamples.laboratory})`,
      depthFromCm: sql<number>`min(${soilSamples.depthFromCm})`,
      depthCm: sql<number | null>`min(${soilSamples.depthCm})`,
      lowest: sql<number | null>`min(${ph})`,
      highest: sql<number | null>`max(${ph})`,
      samples: count(),
    })
    .from(soilSamples)
    .innerJoin(fields, eq(soilSamples.fieldId, fields.id))
    .where(wanted)
    .groupBy(group)
    .orderBy(sql`min(${soilSamples.date}) desc nulls last`, sql`min(${fields.name})`, group)
    .limit(limit)
    .offset(offset);
  const [all] = await db
    .select({ found: sql<number>`count(distinct ${group})::int` })
    .from(soilSamples)
    .innerJoin(fields, eq(soilSamples.fieldId, fields.id))
    .where(wanted);
  return { lines, found: all?.found ?? 0 };
}

export async function addLeafSample(
  db: Executor,
  fieldId: string,
  { values, ...head }: LeafSampleFact,
): Promise<void> {
  await db.insert(tissueSamples).values({ ...head, fieldId });
  if (values.length > 0)
    await db.insert(tissueResults).values(values.map((v) => ({ ...v, sampleId: head.id })));
}
const CHUNK = 500;
/** Many leaf samples at once; `done` hears how many are in. */
export async function addLeafSamples(
  db: Executor,
  list: readonly { fieldId: string; leaf: LeafSampleFact }[],
  done: (count: number) => Promise<void>,
): Promise<void> {
  for (let k = 0; k < list.length; k += CHUNK) {
    const part = list.slice(k, k + CHUNK);
    await insertMany(
      db,
      tissueSamples,
      part.map(({ fieldId, leaf: { values: _, ...head } }) => ({ ...head, fieldId })),
    );
    await insertMany(
      db,
      tissueResults,
      part.flatMap(({ leaf }) => leaf.values.map((v) => ({ ...v, sampleId: leaf.id }))),
    );
    await done(Math.min(list.length, k + CHUNK));
  }
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
