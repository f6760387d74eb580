import { and, asc, desc, eq, inArray, notInArray } from 'drizzle-orm';
import {
  DEFAULT_SCHOOLS,
  PLAIN_STAND,
  PLAN_FORMAT,
  PLAN_VERSION,
  type Plan,
} from '../core/document/document';
import { currentLab, PLAIN_DRESSING } from '../core/document/organicDefaults';
import type { FarmTerms } from '../core/document/farmTerms';
import type { Db, Executor } from './client';
import { libraryOf, termsOf, type Farm, type Field } from './farms';
import {
  farms,
  fertiliserPasses,
  fields,
  fieldSeasons,
  nitrateLayers,
  organicApplications,
  previousCrops,
  soilResults,
  soilSamples,
} from './schema';

export type SeasonRow = typeof fieldSeasons.$inferSelect;
export interface StoredPlan {
  seasonId: string;
  fieldId: string;
  farmId: string;
  version: number;
  plan: Plan;
}

/** What water was not asked for before plans of version 4. Rows written then lack it. */
const PLAIN_WATER = { so4sMgL: null, kMgL: null };
const pick = <T extends object, K extends keyof T>(from: T, keys: readonly K[]): Pick<T, K> =>
  Object.fromEntries(keys.map((k) => [k, from[k]])) as Pick<T, K>;
const SEASON = [
  'label',
  'startDate',
  'cropKey',
  'use',
  'yieldGoalTHa',
  'yieldHistoryTHa',
  'proteinTargetPct',
  'legumeShare',
  'plantingYear',
  'plantingDate',
  'harvestDate',
  'strawRemovedFrac',
  'cropPricePerT',
  'eatenRaw',
  'touchesSoil',
  'winterDrainageMm',
  'springDrainageMm',
  'moistureClass',
  'soilTempSeasonC',
  'releaseDays',
  'depositionNKgHa',
  'depositionSKgHa',
] as const;
const FIELD = [
  'name',
  'areaHa',
  'soilTextureId',
  'omPct',
  'omDepthCm',
  'cecCmolKg',
  'clayPct',
  'tillage',
  'tenure',
  'certification',
  'fixes',
  'slopePct',
  'forage',
] as const;
const APPLICATION = [
  'id',
  'date',
  'materialKey',
  'status',
  'cropYear',
  'rate',
  'rateUnit',
  'methodKey',
  'lab',
  'coverings',
  'plannedHours',
  'tempC',
  'windMS',
  'soil',
  'cover',
  'acidified',
  'materialPh',
  'areaFrac',
  'storeId',
  'pricePerT',
  'distanceKm',
  'yieldBonusPct',
] as const;
const PASS = [
  'id',
  'date',
  'productId',
  'productKgHa',
  'placementId',
  'status',
  'pricePerT',
] as const;
const LAYER = ['topCm', 'bottomCm', 'no3nMgKg', 'bulkDensityGCm3', 'stonesVolFrac'] as const;
const READING = ['nutrient', 'extractant', 'value', 'unit', 'belowDetection'] as const;
const SAMPLE = [
  'laboratory',
  'depthCm',
  'nCores',
  'nPoints',
  'moisture',
  'phWater',
  'phCacl2',
  'bufferKind',
  'bufferPh',
  'alCmolKg',
] as const;

export const seasonsOfField = (db: Db, fieldId: string): Promise<SeasonRow[]> =>
  db
    .select()
    .from(fieldSeasons)
    .where(eq(fieldSeasons.fieldId, fieldId))
    .orderBy(desc(fieldSeasons.startDate));
export const newestSeasonOf = async (
  db: Executor,
  fieldId: string,
): Promise<SeasonRow | undefined> =>
  (
    await db
      .select()
      .from(fieldSeasons)
      .where(eq(fieldSeasons.fieldId, fieldId))
      .orderBy(desc(fieldSeasons.startDate))
      .limit(1)
  )[0];
/** Date of the sample that a season plans with; null when it has none. */
export const currentSampleDate = async (
  db: Executor,
  sampleId: string | null,
): Promise<string | null> =>
  sampleId === null
    ? null
    : ((
        await db
          .select({ date: soilSamples.date })
          .from(soilSamples)
          .where(eq(soilSamples.id, sampleId))
      )[0]?.date ?? null);
export const seasonById = async (db: Executor, id: string): Promise<SeasonRow | undefined> =>
  (await db.select().from(fieldSeasons).where(eq(fieldSeasons.id, id)))[0];

/** All that belongs to some seasons, in one query a table: a farm's list must not ask field by field. */
async function parts(db: Executor, ids: string[], sampleIds: string[]) {
  const inSeason = {
    layers: await db
      .select()
      .from(nitrateLayers)
      .where(inArray(nitrateLayers.seasonId, ids))
      .orderBy(asc(nitrateLayers.position)),
    previous: await db.select().from(previousCrops).where(inArray(previousCrops.seasonId, ids)),
    organics: await db
      .select()
      .from(organicApplications)
      .where(inArray(organicApplications.seasonId, ids))
      .orderBy(asc(organicApplications.position)),
    passes: await db
      .select()
      .from(fertiliserPasses)
      .where(inArray(fertiliserPasses.seasonId, ids))
      .orderBy(asc(fertiliserPasses.position)),
  };
  const samples =
    sampleIds.length === 0
      ? []
      : await db.select().from(soilSamples).where(inArray(soilSamples.id, sampleIds));
  const results =
    sampleIds.length === 0
      ? []
      : await db
          .select()
          .from(soilResults)
          .where(inArray(soilResults.sampleId, sampleIds))
          .orderBy(asc(soilResults.position));
  return { ...inSeason, samples, results };
}

function assemble(
  asOf: string,
  terms: FarmTerms,
  farm: Farm,
  field: Field,
  season: SeasonRow,
  p: Awaited<ReturnType<typeof parts>>,
): Plan {
  const own = <T extends { seasonId: string }>(rows: T[]) =>
    rows.filter((r) => r.seasonId === season.id);
  const sample = p.samples.find((s) => s.id === season.soilSampleId);
  return {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    asOf,
    farm: terms,
    field: {
      ...pick(field, FIELD),
      near: field.near ?? [],
      latitudeDeg: farm.latitudeDeg,
      climateId: farm.climateId,
    },
    season: { ...pick(season, SEASON), stand: { ...PLAIN_STAND, ...season.stand } },
    ground: {
      sampleDate: sample?.date ?? null,
      ...(sample
        ? pick(sample, SAMPLE)
        : {
            laboratory: null,
            depthCm: null,
            nCores: null,
            nPoints: null,
            moisture: null,
            phWater: null,
            phCacl2: null,
            bufferKind: null,
            bufferPh: null,
            alCmolKg: null,
          }),
      readings: p.results.filter((r) => r.sampleId === sample?.id).map((r) => pick(r, READING)),
      boronLastYearKgHa: season.boronLastYearKgHa,
      nitrateSampleDate: season.nitrateSampleDate,
      nitrateLayers: own(p.layers).map((l) => pick(l, LAYER)),
    },
    lime: season.lime ?? null,
    schools: season.schools ?? DEFAULT_SCHOOLS,
    residue: season.residue ?? null,
    previous: own(p.previous)[0]?.detail ?? null,
    manureHistory: season.manureHistory,
    organics: own(p.organics).map((o) => ({
      ...pick(o, APPLICATION),
      lab: o.lab ? currentLab(o.lab) : null,
      use: o.use ?? PLAIN_DRESSING.use,
      day: o.day ?? null,
      records: o.records ?? null,
      machine: o.machine ?? null,
    })),
    irrigation: season.irrigation ? { ...PLAIN_WATER, ...season.irrigation } : null,
    cropN: season.cropN ?? null,
    passes: own(p.passes).map((x) => pick(x, PASS)),
    struck: season.struck,
  };
}

async function load(
  db: Executor,
  asOf: string,
  rows: { season: SeasonRow; field: Field; farm: Farm }[],
): Promise<StoredPlan[]> {
  if (rows.length === 0) return [];
  const found = await parts(
    db,
    rows.map((r) => r.season.id),
    rows.flatMap((r) => r.season.soilSampleId ?? []),
  );
  const library = await libraryOf(db, [...new Set(rows.map((r) => r.farm.id))]);
  // One object for all fields of a farm: what is built for its library is built once.
  const terms = new Map(rows.map((r) => [r.farm.id, termsOf(r.farm, library)]));
  return rows.map((r) => ({
    seasonId: r.season.id,
    fieldId: r.field.id,
    farmId: r.farm.id,
    version: r.season.version,
    plan: assemble(
      asOf,
      terms.get(r.farm.id) ?? termsOf(r.farm, library),
      r.farm,
      r.field,
      r.season,
      found,
    ),
  }));
}

const joined = (db: Executor) =>
  db
    .select({ season: fieldSeasons, field: fields, farm: farms })
    .from(fieldSeasons)
    .innerJoin(fields, eq(fieldSeasons.fieldId, fields.id))
    .innerJoin(farms, eq(fields.farmId, farms.id));

export const loadPlan = async (
  db: Executor,
  seasonId: string,
  asOf: string,
): Promise<StoredPlan | undefined> =>
  (await load(db, asOf, await joined(db).where(eq(fieldSeasons.id, seasonId))))[0];

/** Every season of some farms, newest first within a field. */
export const loadPlansOf = async (
  db: Executor,
  farmIds: readonly string[],
  asOf: string,
): Promise<StoredPlan[]> =>
  farmIds.length === 0
    ? []
    : load(
        db,
        asOf,
        await joined(db)
          .where(inArray(farms.id, [...farmIds]))
          .orderBy(asc(farms.name), asc(fields.position), desc(fieldSeasons.startDate)),
      );

async function replaceChildren(db: Executor, seasonId: string, plan: Plan): Promise<void> {
  await db.delete(nitrateLayers).where(eq(nitrateLayers.seasonId, seasonId));
  if (plan.ground.nitrateLayers.length > 0)
    await db
      .insert(nitrateLayers)
      .values(plan.ground.nitrateLayers.map((l, position) => ({ seasonId, position, ...l })));
  await db.delete(previousCrops).where(eq(previousCrops.seasonId, seasonId));
  if (plan.previous)
    await db
      .insert(previousCrops)
      .values({ seasonId, kind: plan.previous.kind, detail: plan.previous });
  await db.delete(organicApplications).where(
    and(
      eq(organicApplications.seasonId, seasonId),
      plan.organics.length > 0
        ? notInArray(
            organicApplications.id,
            plan.organics.map((o) => o.id),
          )
        : undefined,
    ),
  );
  for (const [position, o] of plan.organics.entries())
    await db
      .insert(organicApplications)
      .values({ ...o, seasonId, position })
      .onConflictDoUpdate({
        target: organicApplications.id,
        set: { ...o, position },
        setWhere: eq(organicApplications.seasonId, seasonId),
      });
  await db.delete(fertiliserPasses).where(
    and(
      eq(fertiliserPasses.seasonId, seasonId),
      plan.passes.length > 0
        ? notInArray(
            fertiliserPasses.id,
            plan.passes.map((x) => x.id),
          )
        : undefined,
    ),
  );
  for (const [position, x] of plan.passes.entries())
    await db
      .insert(fertiliserPasses)
      .values({ ...x, seasonId, position })
      .onConflictDoUpdate({
        target: fertiliserPasses.id,
        set: { ...x, position },
        setWhere: eq(fertiliserPasses.seasonId, seasonId),
      });
}

/** Writes the soil sample behind a plan; another sample date is another sample, so that the older one stays in the field's history. */
async function saveSample(
  db: Executor,
  fieldId: string,
  soilSampleId: string | null,
  plan: Plan,
  newId: () => string,
): Promise<string | null> {
  const { sampleDate, readings } = plan.ground;
  if (sampleDate === null) return null;
  const current = soilSampleId
    ? (await db.select().from(soilSamples).where(eq(soilSamples.id, soilSampleId)))[0]
    : undefined;
  const id = current?.date === sampleDate ? current.id : newId();
  await db
    .insert(soilSamples)
    .values({ id, fieldId, date: sampleDate, ...pick(plan.ground, SAMPLE) })
    .onConflictDoUpdate({ target: soilSamples.id, set: pick(plan.ground, SAMPLE) });
  await db.delete(soilResults).where(eq(soilResults.sampleId, id));
  if (readings.length > 0)
    await db
      .insert(soilResults)
      .values(readings.map((r, position) => ({ ...r, sampleId: id, position })));
  return id;
}

export async function createSeason(
  db: Executor,
  seasonId: string,
  fieldId: string,
  plan: Plan,
  newId: () => string,
): Promise<void> {
  const soilSampleId = await saveSample(db, fieldId, null, plan, newId);
  await db.insert(fieldSeasons).values({
    id: seasonId,
    fieldId,
    soilSampleId,
    ...plan.season,
    nitrateSampleDate: plan.ground.nitrateSampleDate,
    boronLastYearKgHa: plan.ground.boronLastYearKgHa,
    manureHistory: plan.manureHistory,
    irrigation: plan.irrigation,
    cropN: plan.cropN,
    struck: plan.struck,
    lime: plan.lime,
    schools: plan.schools,
    residue: plan.residue,
  });
  await replaceChildren(db, seasonId, plan);
}

/**
 * Saves a plan if nobody else has saved since `expected`. Returns the new version, or null when somebody has: the caller then brings both
 * edits together.
 */
export async function savePlan(
  tx: Executor,
  seasonId: string,
  expected: number,
  plan: Plan,
  newId: () => string,
): Promise<number | null> {
  const season = await seasonById(tx, seasonId);
  if (!season) return null;
  const soilSampleId = await saveSample(tx, season.fieldId, season.soilSampleId, plan, newId);
  const updated = await tx
    .update(fieldSeasons)
    .set({
      ...plan.season,
      soilSampleId,
      nitrateSampleDate: plan.ground.nitrateSampleDate,
      boronLastYearKgHa: plan.ground.boronLastYearKgHa,
      manureHistory: plan.manureHistory,
      irrigation: plan.irrigation,
      cropN: plan.cropN,
      struck: plan.struck,
      lime: plan.lime,
      schools: plan.schools,
      residue: plan.residue,
      version: expected + 1,
    })
    .where(and(eq(fieldSeasons.id, seasonId), eq(fieldSeasons.version, expected)))
    .returning({ version: fieldSeasons.version });
  if (!updated[0]) return null;
  await tx
    .update(fields)
    .set({ ...pick(plan.field, FIELD), near: plan.field.near })
    .where(eq(fields.id, season.fieldId));
  await replaceChildren(tx, seasonId, plan);
  return updated[0].version;
}

/** Makes a stored soil sample the one that a season plans with. */
export const planWithSample = async (
  db: Executor,
  seasonId: string,
  sampleId: string,
): Promise<void> => {
  const season = await seasonById(db, seasonId);
  if (season)
    await db
      .update(fieldSeasons)
      .set({ soilSampleId: sampleId, version: season.version + 1 })
      .where(eq(fieldSeasons.id, seasonId));
};
