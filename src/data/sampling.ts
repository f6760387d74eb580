import { isNotNull, and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { CorrectedSample } from '../core/facts/soilSample';
import type { Outline } from '../core/ground/outline';
import type { EarlierFound } from '../core/laboratory/earlierValues';
import type { SamplingPlan } from '../core/ground/samplingPlan';
import { insertMany } from './bulk';
import type { Db, Executor } from './client';
import { historyWithNow } from './sampleHistory';
import { claims, fields, fieldSeasons, samplingPlans, soilResults, soilSamples } from './schema';

export type StoredSamplingPlan = typeof samplingPlans.$inferSelect;
export type StoredClaim = typeof claims.$inferSelect;
export type NewSoilSample = typeof soilSamples.$inferInsert;
export type NewSoilResult = Omit<typeof soilResults.$inferInsert, 'position' | 'sampleId'>;
export interface SampleWithResults {
  sample: NewSoilSample;
  readings: NewSoilResult[];
}
export interface SurveyedSample {
  sample: typeof soilSamples.$inferSelect;
  readings: (typeof soilResults.$inferSelect)[];
}

/**
 * Stores an outline. The seasons of the field get a new version, so that a plan that is open
 * elsewhere takes the new area over instead of writing the old one back.
 */
export async function setOutline(
  db: Executor,
  fieldId: string,
  outline: Outline,
  areaHa: number,
): Promise<void> {
  await db.update(fields).set({ outline, areaHa }).where(eq(fields.id, fieldId));
  await touchField(db, fieldId);
}
/** Every season of a field gets a new version: what stands in the field changed under them. */
export const touchField = async (db: Executor, fieldId: string): Promise<void> => {
  await db
    .update(fieldSeasons)
    .set({ version: sql`${fieldSeasons.version} + 1` })
    .where(eq(fieldSeasons.fieldId, fieldId));
};

export const samplingPlansOf = (db: Executor, fieldId: string): Promise<StoredSamplingPlan[]> =>
  db
    .select()
    .from(samplingPlans)
    .where(eq(samplingPlans.fieldId, fieldId))
    .orderBy(desc(samplingPlans.createdOn), asc(samplingPlans.name));
export const samplingPlanById = async (
  db: Executor,
  id: string,
): Promise<StoredSamplingPlan | undefined> =>
  (await db.select().from(samplingPlans).where(eq(samplingPlans.id, id)))[0];
/** Points of all sampling plans of some fields, by label. */
export const pointsOfFarm = async (
  db: Executor,
  fieldIds: readonly string[],
): Promise<{ samplingPlanId: string; fieldId: string; document: SamplingPlan }[]> =>
  fieldIds.length === 0
    ? []
    : db
        .select({
          samplingPlanId: samplingPlans.id,
          fieldId: samplingPlans.fieldId,
          document: samplingPlans.document,
        })
        .from(samplingPlans)
        .where(inArray(samplingPlans.fieldId, [...fieldIds]))
        .orderBy(asc(samplingPlans.createdOn));
export const addSamplingPlan = async (
  db: Executor,
  plan: typeof samplingPlans.$inferInsert,
): Promise<void> => {
  await db.insert(samplingPlans).values(plan);
};
/**
 * Writes a sampling plan if nobody else has since `expected`; returns the new version, else null.
 */
export const saveSamplingPlan = async (
  db: Executor,
  id: string,
  expected: number,
  name: string,
  document: SamplingPlan,
): Promise<number | null> =>
  (
    await db
      .update(samplingPlans)
      .set({ name, document, version: expected + 1 })
      .where(and(eq(samplingPlans.id, id), eq(samplingPlans.version, expected)))
      .returning({ version: samplingPlans.version })
  )[0]?.version ?? null;
export const removeSamplingPlan = async (db: Executor, id: string): Promise<void> => {
  await db.delete(samplingPlans).where(eq(samplingPlans.id, id));
};

const CHUNK = 500;
/**
 * Stores many samples with their results, a few hundred at a time; `done` is told how far it is.
 */
export async function addSoilSamples(
  db: Executor,
  list: readonly SampleWithResults[],
  done: (count: number) => Promise<void>,
): Promise<void> {
  for (let k = 0; k < list.length; k += CHUNK) {
    const part = list.slice(k, k + CHUNK);
    await insertMany(
      db,
      soilSamples,
      part.map((x) => x.sample),
    );
    await insertMany(
      db,
      soilResults,
      part.flatMap((x) =>
        x.readings.map((r, position) => ({ ...r, sampleId: x.sample.id, position })),
      ),
    );
    await done(Math.min(list.length, k + CHUNK));
  }
}

/**
 * Soil samples of a field with their results, newest first; of one sampling plan where it is
 * given.
 */
export async function surveyOf(
  db: Executor,
  fieldId: string,
  samplingPlanId?: string,
): Promise<SurveyedSample[]> {
  const wanted = and(
    eq(soilSamples.fieldId, fieldId),
    samplingPlanId === undefined ? undefined : eq(soilSamples.samplingPlanId, samplingPlanId),
  );
  const samples = await db
    .select()
    .from(soilSamples)
    .where(wanted)
    .orderBy(desc(soilSamples.date), asc(soilSamples.label), asc(soilSamples.depthFromCm));
  if (samples.length === 0) return [];
  const results = await db
    .select({ result: soilResults })
    .from(soilResults)
    .innerJoin(soilSamples, eq(soilResults.sampleId, soilSamples.id))
    .where(wanted)
    .orderBy(asc(soilResults.position));
  const bySample = new Map<string, SurveyedSample['readings']>();
  for (const { result } of results) {
    const own = bySample.get(result.sampleId);
    if (own) own.push(result);
    else bySample.set(result.sampleId, [result]);
  }
  return samples.map((sample) => ({ sample, readings: bySample.get(sample.id) ?? [] }));
}

/** Which of some samples are stored. */
export async function idsAmong(db: Executor, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const found = await db
    .select({ id: soilSamples.id })
    .from(soilSamples)
    .where(inArray(soilSamples.id, [...ids]));
  return new Set(found.map((r) => r.id));
}

/** Puts the mean of a field's points in the place of an earlier one of the same plan. */
export async function replaceMean(
  db: Executor,
  id: string,
  mean: SampleWithResults,
): Promise<void> {
  await db
    .insert(soilSamples)
    .values({ ...mean.sample, id })
    .onConflictDoUpdate({ target: soilSamples.id, set: { ...mean.sample, id } });
  await db.delete(soilResults).where(eq(soilResults.sampleId, id));
  if (mean.readings.length > 0)
    await db
      .insert(soilResults)
      .values(mean.readings.map((r, position) => ({ ...r, sampleId: id, position })));
}

export const claimsOf = (db: Db, fieldId: string): Promise<StoredClaim[]> =>
  db
    .select()
    .from(claims)
    .where(eq(claims.fieldId, fieldId))
    .orderBy(desc(claims.checkedOn), asc(claims.product));
export const addClaim = async (db: Executor, claim: typeof claims.$inferInsert): Promise<void> => {
  await db.insert(claims).values(claim);
};
export const removeClaim = async (db: Executor, fieldId: string, id: string): Promise<void> => {
  await db.delete(claims).where(and(eq(claims.id, id), eq(claims.fieldId, fieldId)));
};

/** Puts corrected figures in the place of a sample's own. @returns its new version */
export async function replaceSample(
  tx: Executor,
  id: string,
  { readings, ...set }: CorrectedSample,
  author: string,
  recordedOn: string,
): Promise<number> {
  const [row] = await tx
    .update(soilSamples)
    .set({
      ...set,
      author,
      recordedOn,
      earlier: await historyWithNow(tx, id),
      version: sql`${soilSamples.version} + 1`,
    })
    .where(eq(soilSamples.id, id))
    .returning({ version: soilSamples.version });
  await tx.delete(soilResults).where(eq(soilResults.sampleId, id));
  if (readings.length > 0)
    await tx
      .insert(soilResults)
      .values(readings.map((r, position) => ({ ...r, sampleId: id, position })));
  await touchReaders(tx, id);
  return row?.version ?? 1;
}
/** Seasons that read a sample get a new version: a plan that is open learns that it changed. */
const touchReaders = async (tx: Executor, sampleId: string): Promise<void> => {
  await tx
    .update(fieldSeasons)
    .set({ version: sql`${fieldSeasons.version} + 1` })
    .where(eq(fieldSeasons.soilSampleId, sampleId));
};
export async function setSampleField(
  tx: Executor,
  id: string,
  fieldId: string,
  author: string,
  recordedOn: string,
): Promise<void> {
  await tx
    .update(soilSamples)
    .set({
      fieldId,
      author,
      recordedOn,
      // A point of another field's plan is a composite here.
      kind: 'composite',
      samplingPlanId: null,
      earlier: await historyWithNow(tx, id),
      version: sql`${soilSamples.version} + 1`,
    })
    .where(eq(soilSamples.id, id));
}
/** Seasons that plan with a sample. */
export const seasonsRead = (
  db: Executor,
  sampleId: string,
): Promise<{ fieldId: string; label: string }[]> =>
  db
    .select({ fieldId: fieldSeasons.fieldId, label: fieldSeasons.label })
    .from(fieldSeasons)
    .where(eq(fieldSeasons.soilSampleId, sampleId))
    .orderBy(desc(fieldSeasons.startDate));

/** The newest topsoil sample of each field of a farm, composite or mean, by the field's name. */
export async function newestTopsoil(
  db: Executor,
  farmId: string,
): Promise<Map<string, EarlierFound>> {
  const newest = await db
    .selectDistinctOn([soilSamples.fieldId], { sample: soilSamples, name: fields.name })
    .from(soilSamples)
    .innerJoin(fields, eq(soilSamples.fieldId, fields.id))
    .where(
      and(
        eq(fields.farmId, farmId),
        inArray(soilSamples.kind, ['composite', 'mean']),
        eq(soilSamples.depthFromCm, 0),
        isNotNull(soilSamples.date),
      ),
    )
    .orderBy(soilSamples.fieldId, desc(soilSamples.date), desc(soilSamples.kind));
  const ids = newest.map((n) => n.sample.id);
  const results =
    ids.length === 0
      ? []
      : await db.select().from(soilResults).where(inArray(soilResults.sampleId, ids));
  return new Map(
    newest.map(({ sample, name }) => [
      name,
      {
        date: sample.date ?? '',
        phWater: sample.phWater,
        phCacl2: sample.phCacl2,
        readings: results.filter((r) => r.sampleId === sample.id),
      },
    ]),
  );
}
