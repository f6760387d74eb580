import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { ReadBecause } from '../core/facts/head';
import { PLAN_FORMAT, PLAN_VERSION, type Plan } from '../core/document/document';
import { DEFAULT_SCHOOLS } from '../core/document/schoolsDocument';
import { PLAIN_STAND, PLAIN_WATER } from '../core/document/defaults';
import { currentLab, PLAIN_DRESSING } from '../core/document/organicDefaults';
import type { DressingDocument } from '../core/document/organicDocument';
import type { FactHistory } from '../core/document/seasonFile';
import type { FarmTerms } from '../core/document/farmTerms';
import type { Executor } from './client';
import { libraryOf, termsOf, type Farm, type Field } from './farms';
import {
  farms,
  fertiliserPasses,
  fields,
  fieldSeasons,
  nitrateProfiles,
  organicApplications,
  previousCrops,
  soilResults,
  soilSamples,
} from './schema';
import { leafFactsOf } from './samples';
import { DRESSING, FIELD, PASS, pick, READING, SAMPLE, SEASON } from './seasonColumns';

export type SeasonRow = typeof fieldSeasons.$inferSelect;
export interface StoredPlan {
  seasonId: string;
  fieldId: string;
  farmId: string;
  version: number;
  plan: Plan;
  /** Histories of the facts that it reads. */
  history: FactHistory;
}

export const seasonsOfField = (db: Executor, fieldId: string): Promise<SeasonRow[]> =>
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

/** What water was not asked for before plans of version 4. Rows written then lack it. */
/**
 * All that belongs to some seasons, in one query a table: a farm's list must not ask field by
 * field.
 */
async function parts(
  db: Executor,
  ids: string[],
  sampleIds: string[],
  profileIds: string[],
  fieldIds: string[],
) {
  const inSeason = {
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
  const profiles =
    profileIds.length === 0
      ? []
      : await db.select().from(nitrateProfiles).where(inArray(nitrateProfiles.id, profileIds));
  return {
    previous: new Map(inSeason.previous.map((r) => [r.seasonId, r.detail])),
    organics: gathered(inSeason.organics, (r) => r.seasonId),
    passes: gathered(inSeason.passes, (r) => r.seasonId),
    samples: new Map(samples.map((r) => [r.id, r])),
    results: gathered(results, (r) => r.sampleId),
    profiles: new Map(profiles.map((r) => [r.id, r])),
    leaves: await leafFactsOf(db, fieldIds),
  };
}
/**
 * Rows by what they belong to: ten thousand fields must not be searched for each of ten thousand.
 */
function gathered<T>(rows: readonly T[], of: (row: T) => string): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const row of rows) {
    const same = found.get(of(row));
    if (same) same.push(row);
    else found.set(of(row), [row]);
  }
  return found;
}

/**
 * The document of a dressing as it is written today: what it could not say when it was kept has
 * its default.
 */
export function currentDressing({ lab, ...said }: DressingDocument): DressingDocument {
  const { storeId: _, ...plain } = PLAIN_DRESSING;
  return { ...plain, ...said, lab: lab ? currentLab(lab) : null };
}

function assemble(
  asOf: string,
  terms: FarmTerms,
  farm: Farm,
  field: Field,
  season: SeasonRow,
  p: Awaited<ReturnType<typeof parts>>,
): Plan {
  const sample = p.samples.get(season.soilSampleId ?? '');
  const profile = p.profiles.get(season.nitrateProfileId ?? '');
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
      readings: (p.results.get(sample?.id ?? '') ?? []).map((r) => pick(r, READING)),
      boronLastYearKgHa: season.boronLastYearKgHa,
      nitrateSampleDate: profile?.date ?? null,
      nitrateLayers: profile?.layers ?? [],
      sulphateLayers: profile?.sulphateLayers ?? [],
    },
    reads: {
      soil: sample ? { id: sample.id, because: season.soilBecause ?? 'entered' } : null,
      nitrate: profile ? { id: profile.id, because: season.nitrateBecause ?? 'entered' } : null,
    },
    leaves: p.leaves.get(field.id) ?? [],
    lime: season.lime ?? null,
    schools: season.schools ?? DEFAULT_SCHOOLS,
    residue: season.residue ?? null,
    previous: previousOf(p.previous.get(season.id) ?? null),
    manureHistory: season.manureHistory,
    organics: (p.organics.get(season.id) ?? []).map((o) => ({
      ...currentDressing(o.document),
      ...pick(o, DRESSING),
    })),
    irrigation: season.irrigation ? { ...PLAIN_WATER, ...season.irrigation } : null,
    cropN: season.cropN ?? null,
    passes: (p.passes.get(season.id) ?? []).map((x) => pick(x, PASS)),
    others: season.others,
    struck: season.struck,
    left: season.left,
    assumed: season.assumed,
    jobs: season.jobs,
    answers: season.answers,
  };
}

/** A green manure that was stored before frames could be weighed. */
const previousOf = (previous: Plan['previous']): Plan['previous'] =>
  previous?.kind === 'green_manure' ? { ...previous, weighed: previous.weighed ?? null } : previous;

const headOf = (r: { version: number; author: string | null; recordedOn: string | null }) => ({
  version: r.version,
  author: r.author,
  recordedOn: r.recordedOn,
});
function historyOf(season: SeasonRow, p: Awaited<ReturnType<typeof parts>>): FactHistory {
  const sample = p.samples.get(season.soilSampleId ?? '');
  const profile = p.profiles.get(season.nitrateProfileId ?? '');
  return {
    ...(sample && { soil: headOf(sample) }),
    ...(profile && { nitrate: { ...headOf(profile), laboratory: profile.laboratory } }),
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
    rows.flatMap((r) => r.season.nitrateProfileId ?? []),
    [...new Set(rows.map((r) => r.field.id))],
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
    history: historyOf(r.season, found),
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

/** The season being planned of each of some fields. */
export const loadNewestPlans = async (
  db: Executor,
  fieldIds: readonly string[],
  asOf: string,
): Promise<StoredPlan[]> =>
  fieldIds.length === 0
    ? []
    : load(
        db,
        asOf,
        await joined(db).where(
          inArray(
            fieldSeasons.id,
            db
              .selectDistinctOn([fieldSeasons.fieldId], { id: fieldSeasons.id })
              .from(fieldSeasons)
              .where(inArray(fieldSeasons.fieldId, [...fieldIds]))
              .orderBy(fieldSeasons.fieldId, desc(fieldSeasons.startDate)),
          ),
        ),
      );

/** Makes a stored soil sample the one that a season plans with. */
export const planWithSample = async (
  db: Executor,
  seasonId: string,
  sampleId: string,
  because: ReadBecause,
): Promise<void> => {
  await db
    .update(fieldSeasons)
    .set({
      soilSampleId: sampleId,
      soilBecause: because,
      version: sql`${fieldSeasons.version} + 1`,
    })
    .where(eq(fieldSeasons.id, seasonId));
};
/** Makes a stored nitrate profile the one that a season plans with. */
export const planWithProfile = async (
  db: Executor,
  seasonId: string,
  profileId: string,
  because: ReadBecause,
): Promise<void> => {
  await db
    .update(fieldSeasons)
    .set({
      nitrateProfileId: profileId,
      nitrateBecause: because,
      version: sql`${fieldSeasons.version} + 1`,
    })
    .where(eq(fieldSeasons.id, seasonId));
};
