import { z } from 'zod';
import { GREEN_MANURE_STAGES, N_SCHOOLS, PK_SCHOOLS } from '../budget/schools';
import { LIME_SCHOOLS } from '../ground/limeRequirement';
import { DEFAULT_TERMS, farmTerms } from './farmTerms';
import { organicApplication, type OrganicApplication } from './organicDocument';
import { BLANK_RECORDS, currentLab, PLAIN_DRESSING } from './organicDefaults';
import { num, refusalOf } from '../quantity/input';
import { camelKeys, snakeKeys, toSnake } from '../quantity/names';
import { RANGES } from '../quantity/range';
import { Refusal, refuse } from '../quantity/refusal';

export const PLAN_FORMAT = 'patient-furrow-plan';
export const PLAN_VERSION = 5;

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const maybeDate = date.nullable();
const name = z
  .string({ error: 'text' })
  .trim()
  .min(1, { error: '1 to 120 letters' })
  .max(120, { error: '1 to 120 letters' });
const text = z.string({ error: 'text' }).max(500, { error: 'at most 500 letters' });
const key = z.string({ error: 'a key of the library' }).min(1).max(60);
const maybeKey = key.nullable();
const id = z.string({ error: 'an id' }).min(1).max(60);
const share = (label: string) => num({ ...RANGES.share, label });

/** A reading of a soil test, by its own extractant. */
export const soilReading = z.strictObject({
  nutrient: z.enum(['p', 'k', 'mg', 's', 'ca', 'b', 'zn', 'mn', 'cu', 'fe']),
  extractant: key,
  value: num(RANGES.testMgKg),
  unit: z.enum(['mg_kg', 'mg_l', 'lb_ac']),
  /** The laboratory reported "less than"; the value is half its limit. */
  belowDetection: z.boolean(),
});
const nitrateLayer = z.strictObject({
  topCm: num(RANGES.layerCm),
  bottomCm: num(RANGES.layerCm),
  no3nMgKg: num(RANGES.no3nMgKg),
  bulkDensityGCm3: num(RANGES.bulkDensityGCm3).nullable(),
  stonesVolFrac: num(RANGES.stonesVolFrac).nullable(),
});
const fertiliserPass = z.strictObject({
  id,
  date,
  productId: key,
  productKgHa: num(RANGES.productKgHa),
  placementId: key,
  status: z.enum(['planned', 'done']),
  pricePerT: num(RANGES.pricePerT).nullable(),
});

const money = (label: string) => num({ label, unit: 'per t', min: 0, max: 1000 });
const sieveShare = (mm: string) => num({ ...RANGES.pctOf, label: `Share through ${mm} mm` });
const limeCandidate = z.strictObject({
  id,
  materialKey: key,
  pricePerT: money('Price'),
  haulPerT: money('Haulage'),
  spreadPerT: money('Spreading'),
  /** From the certificate of the load; the book value stands in until there is one. */
  analysis: z
    .strictObject({
      ccePct: num({ ...RANGES.ccePct, above: true }),
      dryMatterPct: num(RANGES.limeDryMatterPct),
      p8: sieveShare('2.36'),
      p20: sieveShare('0.85'),
      p60: sieveShare('0.25'),
    })
    .nullable(),
});
/** What the advisor plans for the pH of a field. Null until somebody opens it. */
const limePlan = z.strictObject({
  school: z.enum(LIME_SCHOOLS),
  depthCm: num({ ...RANGES.incorporationCm, min: 2 }),
  split: z.boolean(),
  onePassMaxTHa: num({ label: 'Largest pass', unit: 't ECC/ha', min: 0.5, max: 12 }).nullable(),
  climate: z.enum(['moist', 'dry']),
  weathered: z.boolean(),
  labRateTHa: num({ label: 'Lime on the report', unit: 't/ha', min: 0, max: 40 }).nullable(),
  labReferenceEccPct: num({
    label: 'Effective carbonate of the laboratory’s lime',
    unit: '%',
    min: 10,
    max: 180,
  }).nullable(),
  labDepthCm: num(RANGES.sampleDepthCm).nullable(),
  /** Crops of the next years: the most sensitive sets the target. `targetFor` decides where one of them wants acid ground. */
  rotation: z.array(key).max(4),
  targetFor: maybeKey,
  spreadDate: maybeDate,
  candidates: z.array(limeCandidate).max(12),
  chosenId: id.nullable(),
  spread: z
    .strictObject({
      date,
      materialKey: key,
      rateTHa: num({ label: 'Lime spread', unit: 't/ha', min: 0, max: 40 }),
      soilMoist: z.boolean(),
      records: z
        .array(
          z.strictObject({
            days: num({ label: 'Days', unit: 'd', min: 1, max: 366 }),
            rainMm: num({ label: 'Rain', unit: 'mm', min: 0, max: 2000 }),
            irrigationMm: num(RANGES.irrigationMm),
            soilTempC: num({ label: 'Soil temperature', unit: '°C', min: -30, max: 60 }).nullable(),
          }),
        )
        .max(120),
    })
    .nullable(),
  calciumSchool: z.enum(['sufficiency', 'base_saturation']),
  acidBooks: z.enum(['convention', 'cycle']),
});

const previousLegume = z.strictObject({
  kind: z.literal('legume'),
  legumeKey: key,
  standClass: z.enum(['good', 'fair', 'poor']).nullable(),
  plantsM2: num(RANGES.plantsM2).nullable(),
  legumeCoverPct: num(RANGES.legumeCoverPct).nullable(),
  regrowth: z.enum(['full', 'half', 'none']).nullable(),
  removedFracTops: share('Share of tops carried off').nullable(),
  killDate: maybeDate,
  killTiming: maybeKey,
  tillage: maybeKey,
  climate: maybeKey,
  standAge: maybeKey,
  yearsSinceKill: num(RANGES.yearsSinceKill),
  overlap: z.enum(['none', 'autumn_kill_spring_sample', 'kill_4_8_weeks_before_sample']),
});
const greenManure = z.strictObject({
  kind: z.literal('green_manure'),
  dmTHa: num({ label: 'Dry matter', unit: 't DM/ha', min: 0, max: 25 }),
  species: z
    .array(
      z.strictObject({
        speciesKey: key,
        share: share('Share of the dry matter'),
        stage: z.enum(GREEN_MANURE_STAGES),
        nPct: num({ label: 'N of the species', unit: '%', min: 0.3, max: 6 }).nullable(),
      }),
    )
    .min(1)
    .max(12),
  removedFracTops: share('Share of tops carried off'),
  placement: key,
  killDate: maybeDate,
  killTiming: maybeKey,
  weeksTo80pctUptake: num({
    label: 'Weeks to 80 % of uptake',
    unit: 'weeks',
    min: 0,
    max: 40,
  }).nullable(),
});
/** How the need is worked out; the sums of each school stand beside each other, one is planned with. */
const schools = z.strictObject({
  /** Null: the farm's default. */
  n: z.enum(N_SCHOOLS).nullable(),
  pk: z.enum(PK_SCHOOLS).nullable(),
  /** Own strip trials, for the economic optimum. */
  trials: z
    .array(
      z.strictObject({
        nKgHa: num({ label: 'N rate', unit: 'kg/ha', min: 0, max: 600 }),
        yieldTHa: num({ label: 'Yield', unit: 't/ha', min: 0, max: 200 }),
      }),
    )
    .max(60),
  calNo3KgHa: num({ label: 'Mean nitrate of the trials', unit: 'kg/ha', min: 0, max: 300 }),
  trialsAfterLegume: z.boolean().nullable(),
  smnKgHa: num({ label: 'Soil mineral N, 0-90 cm', unit: 'kg/ha', min: 0, max: 1000 }).nullable(),
  previousCropGroup: maybeKey,
  soilGroup: maybeKey,
  winterDrainageMmClass: maybeKey,
  regularManure: z.boolean(),
  buildYears: num({ label: 'Years to build up', unit: 'years', min: 1, max: 30 }),
});
const residue = z.strictObject({
  leftTDmHa: num({ label: 'Residue left', unit: 't DM/ha', min: 0, max: 25 }),
  nKgTDm: num({ label: 'N of the residue', unit: 'kg/t DM', min: 0, max: 60, above: true }),
  placement: key,
  leadWeeks: num({ label: 'Weeks before planting', unit: 'weeks', min: 0, max: 52 }),
});
const previousOther = z.strictObject({ kind: z.literal('other'), cropName: name });

/** The field plan: everything that the assessment needs, and nothing of the database. */
export const planSchema = z.strictObject({
  format: z.literal(PLAN_FORMAT),
  version: z.literal(PLAN_VERSION),
  asOf: date,
  farm: farmTerms,
  field: z.strictObject({
    name,
    areaHa: num(RANGES.areaHa),
    soilTextureId: key,
    omPct: num(RANGES.omPct).nullable(),
    omDepthCm: num({ label: 'Depth of the organic-matter test', unit: 'cm', min: 5, max: 60 }),
    cecCmolKg: num(RANGES.cecCmolKg).nullable(),
    clayPct: num(RANGES.clayPct).nullable(),
    tillage: z.enum(['ploughed', 'mixed', 'no_till', 'grass']).nullable(),
    latitudeDeg: num(RANGES.latitudeDeg),
    climateId: key,
    tenure: z.enum(['owned', 'lease_8_years_or_more', 'lease_3_to_7_years', 'yearly_lease']),
    certification: z.enum(['none', 'in_conversion', 'organic']),
    /** A soil that binds P (volcanic ash, oxides) or K (some clays) for good. */
    fixes: z.enum(['none', 'p', 'k']),
    slopePct: num({ label: 'Slope', unit: '%', min: 0, max: 60 }).nullable(),
    /** What lies beside the field and how far the spreading keeps from it, m. */
    near: z
      .array(
        z.strictObject({
          feature: key,
          situation: key,
          metres: num({ label: 'Kept clear', unit: 'm', min: 0, max: 2000 }),
        }),
      )
      .max(12),
    /** Years of hay, silage or greenfeed behind this season, and what was brought back. */
    forage: z
      .strictObject({
        cropKey: key,
        yieldsTHa: z.array(num({ label: 'Yield', unit: 't/ha', min: 0, max: 500 })).max(15),
        returnedPKgHa: num({ label: 'P brought back', unit: 'kg/ha', min: 0, max: 3000 }),
        returnedKKgHa: num({ label: 'K brought back', unit: 'kg/ha', min: 0, max: 3000 }),
      })
      .nullable(),
  }),
  season: z.strictObject({
    label: name,
    startDate: date,
    cropKey: maybeKey,
    use: maybeKey,
    yieldGoalTHa: num({ label: 'Yield goal', unit: 't/ha', min: 0, max: 500 }).nullable(),
    yieldHistoryTHa: z.array(num({ label: 'Yield', unit: 't/ha', min: 0, max: 500 })).max(15),
    proteinTargetPct: num(RANGES.proteinPct).nullable(),
    legumeShare: share('Legume share').nullable(),
    plantingYear: num({ label: 'Planting year', unit: '', min: 1, max: 100 }).nullable(),
    plantingDate: maybeDate,
    harvestDate: maybeDate,
    strawRemovedFrac: share('Straw removed'),
    cropPricePerT: num(RANGES.pricePerT).nullable(),
    eatenRaw: z.boolean(),
    touchesSoil: z.boolean(),
    winterDrainageMm: num(RANGES.drainageMm),
    springDrainageMm: num({
      label: 'Drainage from the first pass to half uptake',
      unit: 'mm',
      min: 0,
      max: 1500,
    }),
    moistureClass: key,
    soilTempSeasonC: num(RANGES.soilTempC).nullable(),
    releaseDays: num(RANGES.seasonDays).nullable(),
    depositionNKgHa: num(RANGES.depositionN).nullable(),
    depositionSKgHa: num(RANGES.depositionS).nullable(),
    /** What is known of the stand beside its yield. */
    stand: z.strictObject({
      companionLegume: z.boolean(),
      firstTimeHere: z.boolean(),
      nodulesFailed: z.boolean(),
      afterBareFallow: z.boolean(),
      stressed: z.boolean(),
      /** A well-grown cover crop stood over winter and held nitrate back. */
      winterCover: z.boolean(),
      /** More than 25 mm fell on the straw before it was carried off; prunings that leave, of crops without straw. */
      strawWashed: z.boolean(),
      pruningsTDmHa: num({ label: 'Prunings carried off', unit: 't DM/ha', min: 0, max: 25 }),
      otherLimitRy: share('Yield that water or stand allow').nullable(),
    }),
  }),
  ground: z.strictObject({
    sampleDate: maybeDate,
    laboratory: text.nullable(),
    depthCm: num(RANGES.sampleDepthCm).nullable(),
    nCores: num(RANGES.nCores).nullable(),
    nPoints: num({ label: 'Points sampled', unit: '', min: 1, max: 6000 }).nullable(),
    moisture: z.enum(['dry', 'moist', 'wet']).nullable(),
    phWater: num(RANGES.phWater).nullable(),
    phCacl2: num(RANGES.phSalt).nullable(),
    bufferKind: z.enum(['adams_evans', 'smp', 'sikora', 'mehlich']).nullable(),
    bufferPh: num({ label: 'Buffer pH', unit: '', min: 4, max: 8.1 }).nullable(),
    alCmolKg: num(RANGES.alCmolKg).nullable(),
    /** Boron put on in the last 12 months, from all routes, kg B/ha. */
    boronLastYearKgHa: num({
      label: 'Boron of the last year',
      unit: 'kg/ha',
      min: 0,
      max: 20,
    }).nullable(),
    readings: z.array(soilReading).max(20),
    nitrateSampleDate: maybeDate,
    nitrateLayers: z.array(nitrateLayer).max(6),
  }),
  lime: limePlan.nullable(),
  schools,
  residue: residue.nullable(),
  previous: z.discriminatedUnion('kind', [previousLegume, greenManure, previousOther]).nullable(),
  manureHistory: z.enum(['unknown', 'none', 'yes']),
  organics: z.array(organicApplication).max(40),
  irrigation: z
    .strictObject({
      mm: num(RANGES.irrigationMm),
      no3nMgL: num(RANGES.waterNo3n),
      shareBeforeRunDown: share('Share before run-down'),
      so4sMgL: num({ label: 'Sulphate-S in the water', unit: 'mg/L', min: 0, max: 500 }).nullable(),
      kMgL: num({ label: 'K in the water', unit: 'mg/L', min: 0, max: 500 }).nullable(),
    })
    .nullable(),
  cropN: z
    .strictObject({
      cropNKgHa: num({ label: 'N in the crop', unit: 'kg/ha', min: 0, max: 200 }).nullable(),
      shootsM2: num({ label: 'Shoots', unit: 'per m2', min: 0, max: 3000 }).nullable(),
      gai: num({ label: 'Green area index', unit: 'm2/m2', min: 0, max: 6 }).nullable(),
    })
    .nullable(),
  passes: z.array(fertiliserPass).max(20),
  /** Credits struck out, each with its reason; they stay visible. */
  struck: z
    .array(z.strictObject({ line: key, reason: text.min(3, { error: '3 letters or more' }) }))
    .max(20),
});

export type Plan = z.infer<typeof planSchema>;
export type SoilReading = z.infer<typeof soilReading>;
export type { OrganicApplication };
export type FertiliserPass = z.infer<typeof fertiliserPass>;
export type LimePlan = z.infer<typeof limePlan>;
export type PreviousLegume = z.infer<typeof previousLegume>;
export type GreenManurePlan = z.infer<typeof greenManure>;
export type Schools = z.infer<typeof schools>;

/** What a season plans with before anybody has chosen. */
export const DEFAULT_SCHOOLS: Schools = {
  n: null,
  pk: null,
  trials: [],
  calNo3KgHa: 40,
  trialsAfterLegume: null,
  smnKgHa: null,
  previousCropGroup: null,
  soilGroup: null,
  winterDrainageMmClass: null,
  regularManure: false,
  buildYears: 6,
};

/** The stand of which nothing special is known. */
export const PLAIN_STAND: Plan['season']['stand'] = {
  companionLegume: false,
  firstTimeHere: false,
  nodulesFailed: false,
  afterBareFallow: false,
  stressed: false,
  winterCover: false,
  strawWashed: false,
  pruningsTDmHa: 0,
  otherLimitRy: null,
};
/** A field of which only soil and size are known. */
export const PLAIN_FIELD: Pick<Plan['field'], 'fixes' | 'slopePct' | 'near' | 'forage'> = {
  fixes: 'none',
  slopePct: null,
  near: [],
  forage: null,
};

interface Older {
  version?: unknown;
  irrigation?: object | null;
  farm?: object;
  field?: object;
  ground?: object;
  season?: { stand?: object };
  schools?: object;
  organics?: { lab?: object | null; records?: object | null }[];
}
/** A plan of an older version: what it could not say is not known. Version 1 knew no lime, 2 one school only, 3 no farm terms beyond a price, 4 no schools of manure and dressings of the whole field only. */
function upgraded(raw: unknown): unknown {
  const plan = raw as Older;
  if (typeof plan.version !== 'number' || ![1, 2, 3, 4].includes(plan.version)) return raw;
  return {
    lime: null,
    residue: null,
    schools: { ...DEFAULT_SCHOOLS, n: 'yield_goal', pk: 'replacement' },
    ...plan,
    version: PLAN_VERSION,
    farm: { ...DEFAULT_TERMS, ...plan.farm },
    field: { clayPct: null, tillage: null, ...PLAIN_FIELD, ...plan.field },
    season: { ...plan.season, stand: { ...PLAIN_STAND, ...plan.season?.stand } },
    ground: {
      nPoints: null,
      bufferKind: null,
      bufferPh: null,
      alCmolKg: null,
      boronLastYearKgHa: null,
      ...plan.ground,
    },
    irrigation: plan.irrigation
      ? { so4sMgL: null, kMgL: null, ...plan.irrigation }
      : (plan.irrigation ?? null),
    organics: (plan.organics ?? []).map((o) => ({
      ...PLAIN_DRESSING,
      ...o,
      lab: o.lab ? currentLab(o.lab) : null,
      records: o.records ? { ...BLANK_RECORDS, ...o.records } : null,
    })),
  };
}

/**
 * Reads a plan file (JSON, snake_case). A file of a newer version is refused politely; a bad one names the field, its value and what is
 * allowed.
 *
 * @throws Refusal
 */
export function readPlanFile(json: unknown): Plan {
  if (json === null || typeof json !== 'object' || Array.isArray(json))
    refuse('inconsistent', 'file', 'This is not a plan file: a JSON object was expected.');
  const head = json as { format?: unknown; version?: unknown };
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
  const raw = upgraded(camelKeys(json));
  const parsed = planSchema.safeParse(raw);
  if (parsed.success) return parsed.data;
  const detail = refusalOf(parsed.error, raw);
  throw new Refusal({
    ...detail,
    field: detail.field.split('.').map(toSnake).join('.'),
    message: detail.message.replace(detail.field, detail.field.split('.').map(toSnake).join('.')),
  });
}

/** The plan as a file: snake_case, readable, ready to be edited by hand. */
export const writePlanFile = (plan: Plan): string =>
  `${JSON.stringify(snakeKeys(plan), null, 2)}\n`;

/** JSON schema of the plan file, published in docs/data-formats.md. */
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
  return rename(z.toJSONSchema(planSchema));
}
