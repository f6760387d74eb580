import { bookOf } from '@/core/book/book';
import { createSelectSchema } from 'drizzle-zod';
import { z } from 'zod';
import { checkOutline } from '@/core/ground/outline';
import { samplingPlanSchema } from '@/core/ground/samplingPlan';
import { PLAN_VERSION, planSchema } from '@/core/document/document';
import { earlierSample, soilReading } from '@/core/facts/soilSample';
import { farmTerms } from '@/core/document/farmTerms';
import { dressingDocument, manureLab, plannedMachine } from '@/core/document/organicDocument';
import type { SheetDocument } from '@/core/views/sheet';
import { storedSheet } from '@/core/views/sheetVersions/chain';
import { refusalOf } from '@/core/quantity/input';
import { published, type PublishedSchema } from '@/core/quantity/published';
import { Refusal, refuse } from '@/core/quantity/refusal';
import { nitrateLayers, sulphateLayers } from '@/core/facts/nitrateProfile';
import { checkKeys } from '@/core/document/keys';
import { holdsNul, storedDressings } from '@/core/document/seasonFile';
import { broughtUp } from '@/core/document/versions/chain';
import { objectOf, objectsOf, type Raw } from '@/core/document/versions/step';
import { libraryChange } from '@/core/book/libraryChange';
import { checkChange } from '@/core/book/libraryColumns';
import { materialOf } from '@/core/book/organicMaterials';
import { calibrationLimitOf } from '@/core/book/organicTables';
import type { Db } from '@/data/client';
import { farmRows, insertFarmRows, type FarmRows } from '@/data/farmRows';
import { farmsById, record, rolesOf, storedTermsOf } from '@/data/farms';
import { loadPlansOf } from '@/data/seasons';
import * as t from '@/data/schema';
import { authorise, type Actor } from './authorise';
import { farmStep0001 } from './farmFileVersions/0001-0002';
import { farmStep0002 } from './farmFileVersions/0002-0003';
import { farmStep0003 } from './farmFileVersions/0003-0004';
import { farmStep0004 } from './farmFileVersions/0004-0005';
import { farmStep0005 } from './farmFileVersions/0005-0006';
import { farmStep0006 } from './farmFileVersions/0006-0007';
import { farmStep0007 } from './farmFileVersions/0007-0008';
import { farmStep0008 } from './farmFileVersions/0008-0009';
import { farmStep0009 } from './farmFileVersions/0009-0010';
import schema1 from './farmFileVersions/1.schema.json';
import schema2 from './farmFileVersions/2.schema.json';
import schema3 from './farmFileVersions/3.schema.json';
import schema4 from './farmFileVersions/4.schema.json';
import schema5 from './farmFileVersions/5.schema.json';
import schema6 from './farmFileVersions/6.schema.json';
import schema7 from './farmFileVersions/7.schema.json';
import schema8 from './farmFileVersions/8.schema.json';
import schema9 from './farmFileVersions/9.schema.json';
import { newId, today } from './clock';
import { outlineSchema } from './outlineSchema';

const FARM_FORMAT = 'patient-furrow-farm';
export const FARM_VERSION = 10;
const MAX_BYTES = 20 * 1024 * 1024;

/**
 * Ids of the database mean nothing outside it: in the file each row has a short reference by its
 * place, the same whenever the farm is the same.
 */
const REFERENCES: Record<string, { id: string; refers: Record<string, string> }> = {
  fields: { id: 'id', refers: {} },
  samplingPlans: { id: 'id', refers: { fieldId: 'fields' } },
  soilSamples: { id: 'id', refers: { fieldId: 'fields', samplingPlanId: 'samplingPlans' } },
  soilResults: { id: '', refers: { sampleId: 'soilSamples' } },
  nitrateProfiles: { id: 'id', refers: { fieldId: 'fields' } },
  seasons: {
    id: 'id',
    refers: {
      fieldId: 'fields',
      soilSampleId: 'soilSamples',
      nitrateProfileId: 'nitrateProfiles',
    },
  },
  previousCrops: { id: '', refers: { seasonId: 'seasons' } },
  stores: { id: 'id', refers: {} },
  machines: { id: 'id', refers: {} },
  organicApplications: { id: 'id', refers: { seasonId: 'seasons', storeId: 'stores' } },
  fertiliserPasses: { id: 'id', refers: { seasonId: 'seasons' } },
  tissueSamples: { id: 'id', refers: { fieldId: 'fields' } },
  tissueResults: { id: '', refers: { sampleId: 'tissueSamples' } },
  planVersions: { id: 'id', refers: { seasonId: 'seasons' } },
  claims: { id: 'id', refers: { fieldId: 'fields' } },
  libraryChanges: { id: '', refers: {} },
  labMappings: { id: '', refers: {} },
  waitingRows: { id: 'id', refers: {} },
};
const TABLES = Object.keys(REFERENCES);
/** Tables whose rows name their farm. */
const OF_FARM = ['fields', 'stores', 'machines', 'libraryChanges', 'labMappings', 'waitingRows'];
type Row = Record<string, unknown>;

// Each table's own columns are the schema; what a column holds as JSON is checked by the schema
// of the plan.
/** A sheet of an older version goes up its own chain; what does not fit is named by its place. */
const frozenSheet = z.unknown().transform((raw, context): SheetDocument => {
  try {
    return storedSheet(raw);
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    context.addIssue({ code: 'custom', message: e.detail.message, path: [e.detail.field] });
    return z.NEVER;
  }
});
const rows = z.strictObject({
  fields: z
    .array(
      createSelectSchema(t.fields, {
        outline: outlineSchema.nullable(),
        near: planSchema.shape.field.shape.near.nullable(),
        forage: planSchema.shape.field.shape.forage,
      })
        .omit({ farmId: true })
        .strict(),
    )
    .max(5000),
  samplingPlans: z.array(
    createSelectSchema(t.samplingPlans, { document: samplingPlanSchema }).strict(),
  ),
  soilSamples: z.array(
    createSelectSchema(t.soilSamples, {
      at: z.tuple([z.number(), z.number()]).nullable(),
      earlier: z.array(earlierSample),
    }).strict(),
  ),
  soilResults: z.array(
    createSelectSchema(t.soilResults, {
      value: soilReading.shape.value,
      nutrient: soilReading.shape.nutrient,
    })
      .omit({ id: true })
      .strict(),
  ),
  seasons: z.array(
    createSelectSchema(t.fieldSeasons, {
      yieldHistoryTHa: planSchema.shape.season.shape.yieldHistoryTHa,
      irrigation: planSchema.shape.irrigation,
      cropN: planSchema.shape.cropN,
      others: planSchema.shape.others,
      observedStages: planSchema.shape.season.shape.observedStages,
      sidedressTest: planSchema.shape.season.shape.sidedressTest,
      richStrip: planSchema.shape.season.shape.richStrip,
      symptoms: planSchema.shape.season.shape.symptoms,
      sap: planSchema.shape.season.shape.sap,
      fruitBlock: planSchema.shape.season.shape.fruitBlock,
      fruitDrop: planSchema.shape.season.shape.fruitDrop,
      soilLeafAnswers: planSchema.shape.season.shape.soilLeafAnswers,
      nextSeason: planSchema.shape.season.shape.nextSeason,
      struck: planSchema.shape.struck,
      left: planSchema.shape.left,
      assumed: planSchema.shape.assumed,
      jobs: planSchema.shape.jobs,
      answers: planSchema.shape.answers,
      cuts: planSchema.shape.season.shape.cuts,
      lime: planSchema.shape.lime,
      schools: planSchema.shape.schools.nullable(),
      residue: planSchema.shape.residue,
      stand: planSchema.shape.season.shape.stand.nullable(),
    }).strict(),
  ),
  nitrateProfiles: z.array(
    createSelectSchema(t.nitrateProfiles, { layers: nitrateLayers, sulphateLayers }).strict(),
  ),
  previousCrops: z.array(
    createSelectSchema(t.previousCrops, { detail: planSchema.shape.previous.unwrap() }).strict(),
  ),
  stores: z.array(
    createSelectSchema(t.stores, { labs: z.array(manureLab) })
      .omit({ farmId: true })
      .strict(),
  ),
  machines: z.array(
    createSelectSchema(t.machines, {
      calibrations: z.array(plannedMachine.shape.calibration.unwrap()),
    })
      .omit({ farmId: true })
      .strict(),
  ),
  organicApplications: z.array(
    createSelectSchema(t.organicApplications, { document: dressingDocument }).strict(),
  ),
  fertiliserPasses: z.array(createSelectSchema(t.fertiliserPasses).strict()),
  tissueSamples: z.array(
    createSelectSchema(t.tissueSamples, { sprayElements: z.array(z.string().max(20)) }).strict(),
  ),
  tissueResults: z.array(createSelectSchema(t.tissueResults).strict()),
  planVersions: z.array(
    createSelectSchema(t.planVersions, { plan: z.looseObject({}), sheet: frozenSheet }).strict(),
  ),
  claims: z.array(
    createSelectSchema(t.claims, { input: z.record(z.string(), z.unknown()) }).strict(),
  ),
  libraryChanges: z.array(libraryChange),
  labMappings: z.array(
    createSelectSchema(t.labMappings, { mapping: z.record(z.string(), z.unknown()) })
      .omit({ farmId: true })
      .strict(),
  ),
  waitingRows: z.array(
    createSelectSchema(t.waitingRows, {
      cells: z.record(z.string(), z.string()),
      problems: z.array(
        z.strictObject({ column: z.string(), value: z.string(), reason: z.string() }),
      ),
    })
      .omit({ farmId: true })
      .strict(),
  ),
});
const fileSchema = z.strictObject({
  format: z.literal(FARM_FORMAT),
  version: z.literal(FARM_VERSION),
  /** By which version of the plan its dressings are written. */
  planVersion: z.literal(PLAN_VERSION),
  exportedOn: z.iso.date(),
  farm: createSelectSchema(t.farms, {
    closedPeriods: farmTerms.shape.closedPeriods,
    terms: farmTerms
      .omit({
        name: true,
        closedPeriods: true,
        legalNCapKgHa: true,
        nPricePerKg: true,
        library: true,
      })
      .nullable(),
  })
    .omit({ id: true, demo: true, version: true })
    .strict(),
  rows,
});

/** JSON schema of the farm file of today. */
export const farmFileSchema = (): unknown => z.toJSONSchema(fileSchema, { io: 'input' });

/** Schemas of the farm file, of every version that is read. */
export const farmFileSchemas = (): PublishedSchema[] =>
  [...Object.entries(FROZEN), [FARM_VERSION, farmFileSchema()] as const].map(([version, schema]) =>
    published(
      'farm-file',
      Number(version),
      'Farm file',
      'A whole farm with its fields, seasons, samples and decisions, as exported for keeping.',
      schema as object,
    ),
  );

const FROZEN: Record<number, unknown> = {
  1: schema1,
  2: schema2,
  3: schema3,
  4: schema4,
  5: schema5,
  6: schema6,
  7: schema7,
  8: schema8,
  9: schema9,
};
/** An older file is checked as what it says it is, then taken up step by step. */
function current(json: Raw): unknown {
  const frozen = typeof json.version === 'number' ? FROZEN[json.version] : undefined;
  if (frozen === undefined) return withDressings(json);
  const asWritten = z
    .fromJSONSchema(frozen as Parameters<typeof z.fromJSONSchema>[0])
    .safeParse(json);
  if (!asWritten.success) throw new Refusal(refusalOf(asWritten.error, json));
  return withDressings(
    broughtUp(json, FARM_VERSION, [
      farmStep0001,
      farmStep0002,
      farmStep0003,
      farmStep0004,
      farmStep0005,
      farmStep0006,
      farmStep0007,
      farmStep0008,
      farmStep0009,
    ]),
  );
}
/**
 * Dressings of an older version of the plan go up its own chain: a new figure of theirs is no new
 * farm file.
 */
function withDressings(json: Raw): Raw {
  const { planVersion } = json;
  if (typeof planVersion !== 'number' || planVersion >= PLAN_VERSION) return json;
  const rows = objectOf(json.rows);
  const dressings = objectsOf(rows.organicApplications);
  const up = storedDressings(
    dressings.map((d) => objectOf(d.document)),
    planVersion,
  );
  return {
    ...json,
    planVersion: PLAN_VERSION,
    rows: {
      ...rows,
      organicApplications: dressings.map((d, i) => ({ ...d, document: up[i] })),
    },
  };
}

const refOf = (table: string, k: number): string => `${table}-${String(k + 1).padStart(5, '0')}`;
/**
 * The whole farm as JSON: everything its people own, to read, to keep or to bring into another copy
 * of this program.
 */
export async function exportFarm(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<{ name: string; text: string }> {
  await authorise(db, actor, 'read', farmId);
  const found = await farmRows(db, farmId);
  if (!found) refuse('unknown_id', 'farm', 'This farm does not exist.');
  const all = found as unknown as Record<string, Row[]>;
  const refs = new Map<string, string>();
  const nameOf = (personId: unknown) => found.people.find((p) => p.id === personId)?.name ?? null;
  const out: Record<string, Row[]> = {};
  for (const table of TABLES) {
    const { id, refers } = REFERENCES[table] as (typeof REFERENCES)[string];
    const parents = (r: Row) =>
      Object.entries(refers)
        .map(([column, parent]) => (refs.get(`${parent}:${String(r[column])}`) ?? '').padStart(24))
        .join();
    // Children follow their parents, and among them the order of the query: the same farm gives the
    // same file, whatever its ids.
    const sorted = (all[table] ?? [])
      .map((r, k) => ({ r, k }))
      .toSorted((x, y) => parents(x.r).localeCompare(parents(y.r)) || x.k - y.k)
      .map((x) => x.r);
    if (id) sorted.forEach((r, k) => refs.set(`${table}:${String(r[id])}`, refOf(table, k)));
    out[table] = sorted.map((r, k) => {
      const { farmId: _, ...row } = r;
      if (table === 'soilResults') delete row.id;
      if (id) row[id] = refOf(table, k);
      for (const [column, parent] of Object.entries(refers))
        row[column] =
          r[column] === null ? null : (refs.get(`${parent}:${String(r[column])}`) ?? null);
      if (table === 'planVersions') {
        row.proposedBy = nameOf(r.proposedBy) ?? 'unknown';
        row.decidedBy = r.decidedBy === null ? null : nameOf(r.decidedBy);
      }
      return row;
    });
  }
  const { id: _, demo: __, version: ___, ...stored } = found.farm;
  const farm = { ...stored, terms: stored.terms && storedTermsOf(stored) };
  return {
    name: farm.name,
    text: `${JSON.stringify({ format: FARM_FORMAT, version: FARM_VERSION, planVersion: PLAN_VERSION, exportedOn: today(), farm, rows: out }, null, 1)}\n`,
  };
}

/** File references become new ids; the rows point at each other as before. */
function withNewIds(
  file: z.infer<typeof fileSchema>,
  farmId: string,
  personOf: (name: unknown) => string,
): Omit<FarmRows, 'people' | 'farm'> {
  const ids = new Map<string, string>();
  const source = file.rows as unknown as Record<string, Row[]>;
  for (const table of TABLES) {
    const { id } = REFERENCES[table] as (typeof REFERENCES)[string];
    if (id)
      for (const r of source[table] ?? []) {
        const key = `${table}:${String(r[id])}`;
        if (ids.has(key))
          refuse(
            'inconsistent',
            `rows.${table}`,
            `rows.${table}: the reference ${String(r[id])} stands twice.`,
            { value: r[id] },
          );
        ids.set(key, newId());
      }
  }
  const out: Record<string, Row[]> = {};
  for (const table of TABLES) {
    const { id, refers } = REFERENCES[table] as (typeof REFERENCES)[string];
    out[table] = (source[table] ?? []).map((r, k) => {
      const row: Row = { ...r };
      if (id) row[id] = ids.get(`${table}:${String(r[id])}`);
      for (const [column, parent] of Object.entries(refers))
        if (r[column] !== null)
          row[column] =
            ids.get(`${parent}:${String(r[column])}`) ??
            refuse(
              'inconsistent',
              `rows.${table}[${k}].${column}`,
              `rows.${table}[${k}].${column} = ${String(r[column])} is not in this file.`,
              { value: r[column] },
            );
      if (OF_FARM.includes(table)) row.farmId = farmId;
      if (table === 'planVersions') {
        row.proposedBy = personOf(r.proposedBy);
        row.decidedBy = r.decidedBy === null ? null : personOf(r.decidedBy);
      }
      return row;
    });
  }
  return out as unknown as Omit<FarmRows, 'people' | 'farm'>;
}

/**
 * Own values, stores and machines must fit the book that they are laid over: one that does not
 * would stop every page of the farm.
 */
async function checkBook(file: z.infer<typeof fileSchema>): Promise<void> {
  const { libraryChanges, stores, machines } = file.rows;
  for (const [i, change] of libraryChanges.entries())
    await checkChange(change, libraryChanges.slice(0, i));
  const book = bookOf(libraryChanges);
  stores.forEach((s) => materialOf(book, s.materialKey));
  machines.forEach((m) => calibrationLimitOf(m.kind));
}

/**
 * A name that is asked for must be free; the file's own gets a number where a farm of that name
 * stands already.
 */
function nameFor(taken: readonly string[], asked: string, inFile: string): string {
  if (asked !== '') {
    if (taken.includes(asked))
      refuse(
        'inconsistent',
        'name',
        `You have a farm named ${asked} already: give it another name.`,
        {
          value: asked,
        },
      );
    return asked;
  }
  for (let k = 2, name = inFile; ; k++, name = `${inFile.slice(0, 112)} (${k - 1})`)
    if (!taken.includes(name)) return name;
}
/**
 * Brings a farm file in as a new farm of the acting person. Everything is checked, and every plan
 * is read as a plan, before anything is kept.
 *
 * @returns the new farm's id
 */
export async function importFarm(
  db: Db,
  actor: Actor,
  text: string,
  name: string | null,
): Promise<string> {
  if (text.length > MAX_BYTES)
    refuse(
      'out_of_range',
      'file',
      `The file has ${(text.length / 1048576).toFixed(1)} MB; at most 20 MB are read.`,
      { value: text.length, allowed: 'up to 20 MB' },
    );
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (e) {
    return refuse(
      'inconsistent',
      'file',
      `The file is not JSON: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  const head = json as { format?: unknown; version?: unknown } | null;
  if (head === null || typeof head !== 'object' || head.format !== FARM_FORMAT)
    refuse('inconsistent', 'format', `This is not a ${FARM_FORMAT} file.`, {
      value: head?.format,
      allowed: FARM_FORMAT,
    });
  if (typeof head.version === 'number' && head.version > FARM_VERSION)
    refuse(
      'newer_version',
      'version',
      `This farm was written by a newer version (${head.version}); this program reads up to version ${FARM_VERSION}.`,
      { value: head.version, allowed: `1 to ${FARM_VERSION}` },
    );
  if (holdsNul(head))
    refuse('malformed', 'file', 'The file holds a NUL character: no text of a farm has one.');
  const raw = current(head as Raw);
  const parsed = fileSchema.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  const file = parsed.data;
  const mine = await farmsById(
    db,
    (await rolesOf(db, actor.id)).map((r) => r.farmId),
  );
  const farmName = nameFor(
    mine.map((f) => f.name),
    name?.trim() ?? '',
    file.farm.name,
  );
  for (const f of file.rows.fields) if (f.outline) checkOutline(f.outline);
  await checkBook(file);
  const farmId = newId();
  const everybody = await db.select().from(t.people);
  const personOf = (who: unknown): string => everybody.find((p) => p.name === who)?.id ?? actor.id;
  const ready = withNewIds(file, farmId, personOf);
  await db.transaction(async (tx) => {
    await insertFarmRows(
      tx,
      {
        ...ready,
        farm: {
          ...file.farm,
          name: farmName,
          id: farmId,
          demo: false,
          version: 1,
        } as FarmRows['farm'],
      },
      actor.id,
    );
    for (const stored of await loadPlansOf(tx, [farmId], today())) {
      const plan = planSchema.safeParse(stored.plan);
      if (!plan.success) {
        const detail = refusalOf(plan.error, stored.plan);
        throw new Refusal({
          ...detail,
          message: `${stored.plan.field.name}, ${stored.plan.season.label}: ${detail.message}`,
        });
      }
      checkKeys(plan.data);
    }
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'import_farm',
      subject: farmName,
      detail: { fields: file.rows.fields.length },
    });
  });
  return farmId;
}
