import { currentDressing } from './seasons';
import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Executor } from './client';
import type { Field } from './farms';
import {
  claims,
  farms,
  fertiliserPasses,
  fields,
  fieldSeasons,
  labMappings,
  libraryChanges,
  machines,
  memberships,
  nitrateProfiles,
  organicApplications,
  people,
  planVersions,
  previousCrops,
  samplingPlans,
  soilResults,
  soilSamples,
  stores,
  tissueResults,
  tissueSamples,
  waitingRows,
} from './schema';

/** Every row that belongs to some fields, each table in an order that does not hang on its ids. */
export async function rowsOfFields(db: Executor, fieldRows: readonly Field[]) {
  const fieldIds = fieldRows.map((f) => f.id);
  const none = fieldIds.length === 0;
  const seasons = none
    ? []
    : await db
        .select()
        .from(fieldSeasons)
        .where(inArray(fieldSeasons.fieldId, fieldIds))
        .orderBy(asc(fieldSeasons.startDate), asc(fieldSeasons.label));
  const seasonIds = seasons.map((s) => s.id);
  const noSeason = seasonIds.length === 0;
  const soil = none
    ? []
    : await db
        .select()
        .from(soilSamples)
        .where(inArray(soilSamples.fieldId, fieldIds))
        .orderBy(asc(soilSamples.date), asc(soilSamples.label), asc(soilSamples.depthFromCm));
  const leaves = none
    ? []
    : await db
        .select()
        .from(tissueSamples)
        .where(inArray(tissueSamples.fieldId, fieldIds))
        .orderBy(asc(tissueSamples.date), asc(tissueSamples.part), asc(tissueSamples.role));
  return {
    fields: [...fieldRows],
    seasons,
    soilSamples: soil,
    tissueSamples: leaves,
    soilResults:
      soil.length === 0
        ? []
        : await db
            .select()
            .from(soilResults)
            .where(
              inArray(
                soilResults.sampleId,
                soil.map((s) => s.id),
              ),
            )
            .orderBy(asc(soilResults.position)),
    tissueResults:
      leaves.length === 0
        ? []
        : await db
            .select()
            .from(tissueResults)
            .where(
              inArray(
                tissueResults.sampleId,
                leaves.map((s) => s.id),
              ),
            )
            .orderBy(asc(tissueResults.nutrient)),
    samplingPlans: none
      ? []
      : await db
          .select()
          .from(samplingPlans)
          .where(inArray(samplingPlans.fieldId, fieldIds))
          .orderBy(desc(samplingPlans.createdOn), asc(samplingPlans.name)),
    claims: none
      ? []
      : await db
          .select()
          .from(claims)
          .where(inArray(claims.fieldId, fieldIds))
          .orderBy(asc(claims.checkedOn), asc(claims.product)),
    nitrateProfiles: none
      ? []
      : await db
          .select()
          .from(nitrateProfiles)
          .where(inArray(nitrateProfiles.fieldId, fieldIds))
          .orderBy(asc(nitrateProfiles.date), sql`${nitrateProfiles.layers}::text`),
    previousCrops: noSeason
      ? []
      : await db.select().from(previousCrops).where(inArray(previousCrops.seasonId, seasonIds)),
    organicApplications: noSeason
      ? []
      : (
          await db
            .select()
            .from(organicApplications)
            .where(inArray(organicApplications.seasonId, seasonIds))
            .orderBy(asc(organicApplications.position))
        ).map((o) => ({ ...o, document: currentDressing(o.document) })),
    fertiliserPasses: noSeason
      ? []
      : await db
          .select()
          .from(fertiliserPasses)
          .where(inArray(fertiliserPasses.seasonId, seasonIds))
          .orderBy(asc(fertiliserPasses.position)),
    planVersions: noSeason
      ? []
      : await db
          .select()
          .from(planVersions)
          .where(inArray(planVersions.seasonId, seasonIds))
          .orderBy(asc(planVersions.number)),
  };
}
export type FieldRows = Awaited<ReturnType<typeof rowsOfFields>>;

/**
 * Every row that belongs to one farm, table by table, each in an order that does not hang on its
 * ids.
 */
export async function farmRows(db: Executor, farmId: string) {
  const [farm] = await db.select().from(farms).where(eq(farms.id, farmId));
  if (!farm) return null;
  const fieldRows = await db
    .select()
    .from(fields)
    .where(eq(fields.farmId, farmId))
    .orderBy(asc(fields.position), asc(fields.name));
  return {
    farm,
    ...(await rowsOfFields(db, fieldRows)),
    stores: await db
      .select()
      .from(stores)
      .where(eq(stores.farmId, farmId))
      .orderBy(asc(stores.position)),
    machines: await db
      .select()
      .from(machines)
      .where(eq(machines.farmId, farmId))
      .orderBy(asc(machines.position)),
    libraryChanges: await db
      .select()
      .from(libraryChanges)
      .where(eq(libraryChanges.farmId, farmId))
      .orderBy(asc(libraryChanges.table), asc(libraryChanges.key)),
    labMappings: await db
      .select()
      .from(labMappings)
      .where(eq(labMappings.farmId, farmId))
      .orderBy(asc(labMappings.laboratory)),
    waitingRows: await db
      .select()
      .from(waitingRows)
      .where(eq(waitingRows.farmId, farmId))
      .orderBy(asc(waitingRows.fileName), asc(waitingRows.row)),
    people: await db.select().from(people).orderBy(asc(people.name)),
  };
}
export type FarmRows = NonNullable<Awaited<ReturnType<typeof farmRows>>>;

/** Rows a few hundred at a time: a statement has no room for more. */
async function insertAll(
  tx: Executor,
  all: readonly (readonly [Parameters<typeof tx.insert>[0], readonly object[]])[],
): Promise<void> {
  for (const [table, list] of all)
    for (let i = 0; i < list.length; i += 200)
      await tx.insert(table).values(list.slice(i, i + 200) as never);
}
/** Tables of fields, parents before children. */
const ofFields = (rows: FieldRows) =>
  [
    [fields, rows.fields],
    [samplingPlans, rows.samplingPlans],
    [soilSamples, rows.soilSamples],
    [soilResults, rows.soilResults.map(({ id: _, ...r }) => r)],
    [nitrateProfiles, rows.nitrateProfiles],
    [fieldSeasons, rows.seasons],
    [previousCrops, rows.previousCrops],
    [organicApplications, rows.organicApplications],
    [fertiliserPasses, rows.fertiliserPasses],
    [tissueSamples, rows.tissueSamples],
    [tissueResults, rows.tissueResults],
    [planVersions, rows.planVersions],
    [claims, rows.claims],
  ] as const;

/** Puts fields back with all that belongs to them, as they were. */
export const insertFieldRows = (tx: Executor, rows: FieldRows): Promise<void> =>
  insertAll(tx, ofFields(rows));

/** Writes all rows of a new farm, parents before children, and makes one person its owner. */
export async function insertFarmRows(
  tx: Executor,
  rows: Omit<FarmRows, 'people'>,
  ownerId: string,
): Promise<void> {
  await tx.insert(farms).values(rows.farm);
  await tx.insert(memberships).values({ personId: ownerId, farmId: rows.farm.id, role: 'owner' });
  await insertAll(tx, [
    ...ofFields(rows),
    [stores, rows.stores],
    [machines, rows.machines],
    [libraryChanges, rows.libraryChanges],
    [labMappings, rows.labMappings],
    [waitingRows, rows.waitingRows],
  ]);
}
