import { z } from 'zod';
import { leafSampleFact } from '../facts/leafSample';
import { nitrateProfileFact, type NitrateProfileFact } from '../facts/nitrateProfile';
import { soilSampleFact, type SoilSampleFact } from '../facts/soilSample';
import { refusalOf } from '../quantity/input';
import { camelKeys, snakeKeys, toSnake } from '../quantity/names';
import { published, type PublishedSchema } from '../quantity/published';
import { Refusal, refuse } from '../quantity/refusal';
import { PLAN_FORMAT, PLAN_VERSION, planSchema, type Plan } from './document';
import { broughtUp } from './versions/chain';
import { FROZEN } from './versions/frozen';
import { objectsOf, type Raw } from './versions/step';

const {
  ground,
  leaves: _leaves,
  season,
  format,
  version,
  asOf,
  farm,
  field,
  ...rest
} = planSchema.shape;

/** A season with the facts that it reads: the same figures come of it anywhere. */
const seasonFileSchema = z.strictObject({
  format,
  version,
  asOf,
  farm,
  field,
  season: z.strictObject({
    ...season.shape,
    boronLastYearKgHa: ground.shape.boronLastYearKgHa,
  }),
  facts: z.strictObject({
    soil: z.array(soilSampleFact).max(12),
    nitrate: z.array(nitrateProfileFact).max(12),
    leaves: z.array(leafSampleFact).max(60),
  }),
  ...rest,
});
type SeasonFile = z.infer<typeof seasonFileSchema>;

const NO_FINDINGS = {
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
  readings: [],
} satisfies Partial<SoilSampleFact>;

function factOf<F extends { id: string }>(
  facts: readonly F[],
  read: Plan['reads']['soil'],
  field: string,
): F | undefined {
  if (read === null) return undefined;
  return (
    facts.find((f) => f.id === read.id) ??
    refuse('unknown_id', field, `${field} reads ${read.id}, which is not among the facts.`, {
      value: read.id,
      allowed: facts.map((f) => f.id).join(', ') || 'nothing: there are none',
    })
  );
}

/**
 * The plan with the facts that it reads laid open. @throws Refusal where it reads one that is not
 * there
 */
function planOf({
  facts,
  season: { boronLastYearKgHa, ...seasonRest },
  ...file
}: SeasonFile): Plan {
  const sample = factOf(facts.soil, file.reads.soil, 'reads.soil.id');
  const profile = factOf(facts.nitrate, file.reads.nitrate, 'reads.nitrate.id');
  const {
    id: _,
    version: __,
    author: ___,
    recordedOn: ____,
    date,
    ...findings
  } = sample ?? {
    id: '',
    version: 1,
    author: null,
    recordedOn: null,
    date: null,
    ...NO_FINDINGS,
  };
  return {
    ...file,
    season: seasonRest,
    ground: {
      sampleDate: date,
      ...findings,
      boronLastYearKgHa,
      nitrateSampleDate: profile?.date ?? null,
      nitrateLayers: profile?.layers ?? [],
      sulphateLayers: profile?.sulphateLayers ?? [],
    },
    leaves: facts.leaves.toSorted((a, b) => b.date.localeCompare(a.date)),
  };
}

/** Histories of the facts that a plan reads, where they are known. */
export interface FactHistory {
  soil?: Pick<SoilSampleFact, 'version' | 'author' | 'recordedOn'>;
  nitrate?: Pick<NitrateProfileFact, 'version' | 'author' | 'recordedOn' | 'laboratory'>;
}
const UNKNOWN_HISTORY = { version: 1, author: null, recordedOn: null };
const isEmpty = (v: unknown): boolean => v === null || (Array.isArray(v) && v.length === 0);

/** The season as its file holds it: facts apart, and which of them it reads. */
function fileOf({ ground: g, leaves, ...plan }: Plan, known: FactHistory): SeasonFile {
  const {
    sampleDate,
    boronLastYearKgHa,
    nitrateSampleDate,
    nitrateLayers,
    sulphateLayers,
    ...findings
  } = g;
  const sampled = sampleDate !== null || Object.values(findings).some((v) => !isEmpty(v));
  const layered =
    nitrateSampleDate !== null || nitrateLayers.length > 0 || sulphateLayers.length > 0;
  const soil = sampled ? (plan.reads.soil ?? { id: 'soil-1', because: 'entered' as const }) : null;
  const nitrate = layered
    ? (plan.reads.nitrate ?? { id: 'nitrate-1', because: 'entered' as const })
    : null;
  return {
    ...plan,
    season: { ...plan.season, boronLastYearKgHa },
    facts: {
      soil: soil
        ? [{ id: soil.id, ...UNKNOWN_HISTORY, ...known.soil, date: sampleDate, ...findings }]
        : [],
      nitrate: nitrate
        ? [
            {
              id: nitrate.id,
              ...UNKNOWN_HISTORY,
              laboratory: null,
              ...known.nitrate,
              date: nitrateSampleDate,
              layers: nitrateLayers,
              sulphateLayers,
            },
          ]
        : [],
      leaves,
    },
    reads: { soil, nitrate },
  };
}

/** A database refuses this character: it is told by name before anything is kept. */
export const holdsNul = (json: unknown): boolean => JSON.stringify(json).includes('\\u0000');

const inFileNames = (e: z.ZodError, raw: unknown): Refusal => {
  const detail = refusalOf(e, raw);
  const field = detail.field.split('.').map(toSnake).join('.');
  return new Refusal({ ...detail, field, message: detail.message.replace(detail.field, field) });
};

/** An older file is checked as what it says it is, then taken up step by step. */
function current(json: Raw): unknown {
  const frozen = typeof json.version === 'number' ? FROZEN[json.version] : undefined;
  if (frozen === undefined) return camelKeys(json);
  const asWritten = z
    .fromJSONSchema(frozen as Parameters<typeof z.fromJSONSchema>[0])
    .safeParse(json);
  if (!asWritten.success) throw inFileNames(asWritten.error, json);
  return broughtUp(camelKeys(json) as Raw, PLAN_VERSION);
}

/**
 * Reads a season file (JSON, snake_case) of any version. A newer one is refused politely; a bad one
 * names the field, its value and what is
 * allowed.
 *
 * @throws Refusal
 */
export function readPlanFile(json: unknown): Plan {
  if (json === null || typeof json !== 'object' || Array.isArray(json))
    refuse('inconsistent', 'file', 'This is not a plan file: a JSON object was expected.');
  if (holdsNul(json))
    refuse('malformed', 'file', 'The file holds a NUL character: no text of a plan has one.');
  const head = json as Raw;
  if (head.format !== PLAN_FORMAT)
    refuse(
      'inconsistent',
      'format',
      `format = ${String(head.format)}: this is not a ${PLAN_FORMAT} file.`,
      { value: head.format, allowed: PLAN_FORMAT },
    );
  if (typeof head.version === 'number' && head.version > PLAN_VERSION)
    refuse(
      'newer_version',
      'version',
      `This plan was written by a newer version (${head.version}); this program reads up to version ${PLAN_VERSION}. Update it, or export the plan again in the older form.`,
      { value: head.version, allowed: `1 to ${PLAN_VERSION}` },
    );
  const raw = current(head);
  const parsed = seasonFileSchema.safeParse(raw);
  if (!parsed.success) throw inFileNames(parsed.error, raw);
  return planOf(parsed.data);
}

/**
 * A plan as it was kept as a document, in the names of the program, of any version since.
 *
 * @throws Refusal
 */
export function storedPlan(raw: unknown): Plan {
  const today = planSchema.safeParse(raw);
  if (today.success) return today.data;
  const parsed = seasonFileSchema.safeParse(broughtUp({ ...(raw as Raw) }, PLAN_VERSION));
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  return planOf(parsed.data);
}

/**
 * Documents of dressings that were written by an older version of the plan, taken up by its steps.
 * Each is checked as what its version was, under the name of its place.
 *
 * @throws Refusal
 */
export function storedDressings(documents: readonly Raw[], version: number): unknown[] {
  const frozen = FROZEN[version] as
    { properties: { organics: { items: { properties: Raw; required: string[] } } } } | undefined;
  if (!frozen)
    refuse('inconsistent', 'plan_version', `There is no version ${version} of the plan.`, {
      value: version,
      allowed: `1 to ${PLAN_VERSION}`,
    });
  const { items } = frozen.properties.organics;
  const {
    id: _,
    date: __,
    material_key: ___,
    status: ____,
    store_id: _____,
    ...properties
  } = items.properties;
  const asWritten = z.fromJSONSchema({
    ...items,
    properties,
    required: items.required.filter((k) => k in properties),
  } as Parameters<typeof z.fromJSONSchema>[0]);
  documents.forEach((document, i) => {
    const raw = snakeKeys(document);
    const checked = asWritten.safeParse(raw);
    if (checked.success) return;
    const detail = inFileNames(checked.error, raw).detail;
    throw new Refusal({ ...detail, field: `organics[${i}].${detail.field}` });
  });
  return objectsOf(broughtUp({ version, organics: [...documents] }, PLAN_VERSION).organics).map(
    ({ storeId: _, ...document }) => document,
  );
}

/**
 * The season as a file: snake_case, readable, ready to be edited by hand; its keys in one order,
 * whichever way the plan came together.
 */
export function writePlanFile(plan: Plan, known: FactHistory = {}): string {
  const file = fileOf(plan, known);
  // What does not fit the schema is written as it is: the reader names it.
  const { data = file } = seasonFileSchema.safeParse(file);
  return `${JSON.stringify(snakeKeys(data), null, 2)}\n`;
}

/** JSON schema of the season file of today, by which the next version's step checks it. */
export function planFileSchema(): unknown {
  const rename = (v: unknown): unknown => {
    if (Array.isArray(v)) return v.map(rename);
    if (v === null || typeof v !== 'object') return v;
    return Object.fromEntries(
      Object.entries(v).map(([k, x]) => [
        k,
        k === 'properties'
          ? Object.fromEntries(Object.entries(x as object).map(([p, y]) => [toSnake(p), rename(y)]))
          : k === 'required'
            ? (x as string[]).map(toSnake)
            : rename(x),
      ]),
    );
  };
  return rename(z.toJSONSchema(seasonFileSchema));
}

/** Schemas of the season file, of every version that is read. */
export const seasonFileSchemas = (): PublishedSchema[] =>
  [...Object.entries(FROZEN), [PLAN_VERSION, planFileSchema()] as const].map(([version, schema]) =>
    published(
      'season-file',
      Number(version),
      'Season file',
      'One field season with the facts that it reads, as exported from the plan sheet.',
      schema as object,
    ),
  );
