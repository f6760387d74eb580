import { and, eq, inArray, sql } from 'drizzle-orm';
import { deepEqual } from 'fast-equals';
import type { Plan } from '../core/document/document';
import type { OrganicApplication } from '../core/document/organicDocument';
import { refuse } from '../core/quantity/refusal';
import type { Executor } from './client';
import {
  fertiliserPasses,
  fields,
  fieldSeasons,
  nitrateProfiles,
  organicApplications,
  previousCrops,
  soilResults,
  soilSamples,
} from './schema';
import { historyWithNow } from './sampleHistory';
import { FIELD, pick, SAMPLE, SEASON } from './seasonColumns';

// A plan is saved by what changed in it: each part into the table that it lives in, and nothing
// else is touched.

/** Who saves, on which day of the farm, and where new ids come from. */
export interface Writer {
  author: string | null;
  today: string;
  newId: () => string;
}
/** Columns of `after` that differ from `before`. */
const changedOf = <T extends object, K extends keyof T>(
  before: T,
  after: T,
  keys: readonly K[],
): Partial<Pick<T, K>> =>
  Object.fromEntries(
    keys.filter((k) => !deepEqual(before[k], after[k])).map((k) => [k, after[k]]),
  ) as Partial<Pick<T, K>>;
const any = (o: object): boolean => Object.keys(o).length > 0;

/**
 * Holds the season and its field until the transaction ends: two saves of one field follow each
 * other.
 */
export async function holdSeason(tx: Executor, seasonId: string): Promise<void> {
  const [season] = await tx
    .select({ fieldId: fieldSeasons.fieldId })
    .from(fieldSeasons)
    .where(eq(fieldSeasons.id, seasonId));
  if (!season) return;
  await tx
    .select({ id: fields.id })
    .from(fields)
    .where(eq(fields.id, season.fieldId))
    .for('update');
}

async function saveField(tx: Executor, fieldId: string, before: Plan, after: Plan): Promise<void> {
  const set = changedOf(before.field, after.field, [...FIELD, 'near']);
  if (any(set))
    await tx
      .update(fields)
      .set({ ...set, version: sql`${fields.version} + 1` })
      .where(eq(fields.id, fieldId));
}

const findings = (plan: Plan) => ({ ...pick(plan.ground, SAMPLE), readings: plan.ground.readings });
const saysNothing = (ground: Plan['ground']): boolean =>
  ground.sampleDate === null &&
  ground.readings.length === 0 &&
  SAMPLE.every((k) => ground[k] === null);

/**
 * The soil sample that the plan reads: changed where it lies. Another date is another sample, so
 * that the older one stays in the field's
 * history. Returns the sample to read from now on.
 */
async function saveSoil(
  tx: Executor,
  fieldId: string,
  before: Plan,
  after: Plan,
  w: Writer,
): Promise<Plan['reads']['soil']> {
  const [had, read] = [before.reads.soil, after.reads.soil];
  if (had?.id !== read?.id && read !== null) {
    // Another sample was chosen: what it says stands with it, not in the plan.
    await mustBelong(tx, soilSamples, read.id, fieldId, 'reads.soil.id');
    return read;
  }
  const [dated, date] = [before.ground.sampleDate, after.ground.sampleDate];
  if (deepEqual(findings(before), findings(after)) && dated === date) return had;
  if (saysNothing(after.ground) && had === null) return null;
  const another = had === null || (dated !== null && date !== null && dated !== date);
  const id = another ? w.newId() : had.id;
  const values = { date, ...pick(after.ground, SAMPLE) };
  const signed = { author: w.author, recordedOn: w.today };
  if (another) await tx.insert(soilSamples).values({ id, fieldId, ...values, ...signed });
  else
    await tx
      .update(soilSamples)
      .set({
        ...values,
        ...signed,
        earlier: await historyWithNow(tx, id),
        version: sql`${soilSamples.version} + 1`,
      })
      .where(eq(soilSamples.id, id));
  if (another || !deepEqual(before.ground.readings, after.ground.readings)) {
    if (!another) await tx.delete(soilResults).where(eq(soilResults.sampleId, id));
    if (after.ground.readings.length > 0)
      await tx
        .insert(soilResults)
        .values(after.ground.readings.map((r, position) => ({ ...r, sampleId: id, position })));
  }
  return { id, because: another ? 'entered' : had.because };
}

async function saveNitrate(
  tx: Executor,
  fieldId: string,
  before: Plan,
  after: Plan,
  w: Writer,
): Promise<Plan['reads']['nitrate']> {
  const [had, read] = [before.reads.nitrate, after.reads.nitrate];
  if (had?.id !== read?.id && read !== null) {
    await mustBelong(tx, nitrateProfiles, read.id, fieldId, 'reads.nitrate.id');
    return read;
  }
  const of = (p: Plan) => ({
    date: p.ground.nitrateSampleDate,
    layers: p.ground.nitrateLayers,
    sulphateLayers: p.ground.sulphateLayers,
  });
  const [was, now] = [of(before), of(after)];
  if (deepEqual(was, now)) return had;
  const signed = { author: w.author, recordedOn: w.today };
  const another = had === null || (was.date !== null && now.date !== null && was.date !== now.date);
  if (another) {
    const id = w.newId();
    await tx.insert(nitrateProfiles).values({ id, fieldId, ...now, ...signed });
    return { id, because: 'entered' };
  }
  await tx
    .update(nitrateProfiles)
    .set({ ...now, ...signed, version: sql`${nitrateProfiles.version} + 1` })
    .where(eq(nitrateProfiles.id, had.id));
  return had;
}

async function mustBelong(
  tx: Executor,
  table: typeof soilSamples | typeof nitrateProfiles,
  id: string,
  fieldId: string,
  field: string,
): Promise<void> {
  const [row] = await tx.select({ fieldId: table.fieldId }).from(table).where(eq(table.id, id));
  if (row?.fieldId !== fieldId)
    refuse('unknown_id', field, `${field} = ${id} is no sample of this field.`, { value: id });
}

type Lines = typeof organicApplications | typeof fertiliserPasses;
type LineRow = Omit<Lines['$inferInsert'], 'seasonId' | 'position'>;
/** A dressing as its row: what queries ask for, and the rest as one document. */
function dressingRow({ id, date, materialKey, status, storeId, ...document }: OrganicApplication) {
  return { id, date, materialKey, status, storeId, document };
}
/** Lines of a season by their id: gone, new or changed ones alone are written. */
async function saveLines<T extends { id: string }>(
  tx: Executor,
  table: Lines,
  seasonId: string,
  before: readonly T[],
  after: readonly T[],
  rowOf: (line: T) => LineRow,
): Promise<void> {
  const gone = before.filter((b) => !after.some((a) => a.id === b.id)).map((b) => b.id);
  if (gone.length > 0)
    await tx.delete(table).where(and(eq(table.seasonId, seasonId), inArray(table.id, gone)));
  for (const [position, line] of after.entries()) {
    const place = before.findIndex((b) => b.id === line.id);
    if (place === position && deepEqual(before[place], line)) continue;
    const values = { ...rowOf(line), seasonId, position } as Lines['$inferInsert'];
    await tx
      .insert(table)
      .values(values)
      .onConflictDoUpdate({ target: [table.seasonId, table.id], set: values });
  }
}
async function saveInputs(tx: Executor, seasonId: string, before: Inputs, after: Inputs) {
  await saveLines(tx, organicApplications, seasonId, before.organics, after.organics, dressingRow);
  await saveLines(tx, fertiliserPasses, seasonId, before.passes, after.passes, (pass) => pass);
}
type Inputs = Pick<Plan, 'organics' | 'passes'>;

/** Columns of a season that stand in the plan outside its `season`. */
const loose = (p: Plan) => ({
  boronLastYearKgHa: p.ground.boronLastYearKgHa,
  manureHistory: p.manureHistory,
  irrigation: p.irrigation,
  cropN: p.cropN,
  others: p.others,
  struck: p.struck,
  left: p.left,
  assumed: p.assumed,
  jobs: p.jobs,
  answers: p.answers,
  lime: p.lime,
  schools: p.schools,
  residue: p.residue,
});
const columnsOf = (p: Plan) => ({ ...pick(p.season, SEASON), stand: p.season.stand, ...loose(p) });
const readColumns = (reads: Plan['reads']) => ({
  soilSampleId: reads.soil?.id ?? null,
  soilBecause: reads.soil?.because ?? null,
  nitrateProfileId: reads.nitrate?.id ?? null,
  nitrateBecause: reads.nitrate?.because ?? null,
});

/**
 * Writes what changed between the stored plan and the new one, inside the caller's transaction and
 * while it holds the season. Returns the
 * new version of the season, or the old one where nothing changed.
 */
export async function savePlanChanges(
  tx: Executor,
  stored: { seasonId: string; fieldId: string; version: number; plan: Plan },
  after: Plan,
  w: Writer,
): Promise<number> {
  const { seasonId, fieldId, plan: before } = stored;
  if (deepEqual(before, after)) return stored.version;
  await saveField(tx, fieldId, before, after);
  const reads = {
    soil: await saveSoil(tx, fieldId, before, after, w),
    nitrate: await saveNitrate(tx, fieldId, before, after, w),
  };
  const [was, now] = [
    { ...columnsOf(before), ...readColumns(before.reads) },
    { ...columnsOf(after), ...readColumns(reads) },
  ];
  if (!deepEqual(before.previous, after.previous)) {
    await tx.delete(previousCrops).where(eq(previousCrops.seasonId, seasonId));
    if (after.previous)
      await tx
        .insert(previousCrops)
        .values({ seasonId, kind: after.previous.kind, detail: after.previous });
  }
  await saveInputs(tx, seasonId, before, after);
  const keys = Object.keys(now) as (keyof typeof now)[];
  const [row] = await tx
    .update(fieldSeasons)
    .set({ ...changedOf(was, now, keys), version: sql`${fieldSeasons.version} + 1` })
    .where(eq(fieldSeasons.id, seasonId))
    .returning({ version: fieldSeasons.version });
  return row?.version ?? stored.version;
}

/** Begins a season of a field, with the facts that its plan holds. */
export async function createSeason(
  tx: Executor,
  seasonId: string,
  fieldId: string,
  plan: Plan,
  w: Writer,
): Promise<void> {
  const unread = { ...plan, reads: { soil: null, nitrate: null } };
  const nothing: Plan = {
    ...unread,
    ground: {
      ...plan.ground,
      ...Object.fromEntries(SAMPLE.map((k) => [k, null])),
      sampleDate: null,
      readings: [],
      nitrateSampleDate: null,
      nitrateLayers: [],
      sulphateLayers: [],
    },
  };
  const reads = {
    soil: await saveSoil(tx, fieldId, nothing, unread, w),
    nitrate: await saveNitrate(tx, fieldId, nothing, unread, w),
  };
  await tx
    .insert(fieldSeasons)
    .values({ id: seasonId, fieldId, ...columnsOf(plan), ...readColumns(reads) });
  if (plan.previous)
    await tx
      .insert(previousCrops)
      .values({ seasonId, kind: plan.previous.kind, detail: plan.previous });
  await saveInputs(tx, seasonId, { organics: [], passes: [] }, plan);
}
