import leven from 'leven';
import { Refusal, refuse } from './refusal';

/**
 * Accepted span of one input; `min` and `max` are included unless `above` says that `min` itself
 * is not.
 */
export interface Range {
  min: number;
  max: number;
  unit: string;
  label: string;
  above?: boolean;
}

export const rangeText = (r: Range): string =>
  `${r.above ? `above ${r.min} up to` : `${r.min} to`} ${r.max}${r.unit ? ` ${r.unit}` : ''}`;
/** "outside 0 to 13 t/ha", or "outside the allowed range, above 0 up to 13 t/ha". */
export const outsideOf = (allowed: string): string =>
  `outside ${allowed.startsWith('above') ? 'the allowed range, ' : ''}${allowed}`;

/**
 * Returns the value if it is a finite number inside the range, else refuses naming field, value
 * and range.
 *
 * @throws Refusal `not_a_number` for text, NaN, infinity or booleans; `out_of_range` outside the
 * span
 * @example within('om_pct', 2.6, { min: 0, max: 20, unit: '%', label: 'Organic matter' }) // 2.6
 */
export function within(field: string, value: unknown, range: Range): number {
  if (
    typeof value === 'number' &&
    value >= range.min &&
    value <= range.max &&
    !(range.above && value === range.min)
  )
    return value;
  const allowed = rangeText(range);
  const name = range.label.toLowerCase().includes(field.toLowerCase())
    ? range.label
    : `${range.label} (${field})`;
  if (value === undefined || value === null)
    return refuse('missing', field, `${name} is missing: give ${allowed}.`, { allowed });
  if (typeof value !== 'number' || !Number.isFinite(value))
    return refuse(
      'not_a_number',
      field,
      `${name} = ${String(value)} is not a number: give ${allowed}.`,
      { value, allowed },
    );
  return refuse(
    'out_of_range',
    field,
    `${name} = ${value}${range.unit ? ` ${range.unit}` : ''} is ${outsideOf(allowed)}.`,
    { value, allowed },
  );
}

/**
 * The refusal that `within` would throw, or null: for screens that show the message beside the
 * input.
 */
export function rangeProblem(field: string, value: unknown, range: Range): string | null {
  try {
    within(field, value, range);
    return null;
  } catch (e) {
    if (e instanceof Refusal) return e.message;
    throw e;
  }
}

const span = (label: string, unit: string, min: number, max: number, above = false): Range => ({
  label,
  unit,
  min,
  max,
  above,
});

/**
 * The input guards of the chapters, in one place: screens, plan file, methods and tests read the
 * same limits.
 */
export const RANGES = {
  alCmolKg: span('Exchangeable aluminium', 'cmol/kg', 0, 60),
  areaHa: span('Area', 'ha', 0, 5000, true),
  bulkDensityGCm3: span('Bulk density', 'g/cm3', 0.15, 1.9),
  ccePct: span('Neutralising value (CCE)', '% CaCO3', 0, 260),
  cecCmolKg: span('CEC', 'cmol/kg', 0.5, 200),
  clayPct: span('Clay', '%', 0, 95),
  climateFactor: span('Climate factor', '', 0.6, 1.15),
  cv: span('Coefficient of variation', '', 0, 3),
  depositionN: span('N deposition', 'kg/ha', 0, 60),
  depositionS: span('S deposition', 'kg/ha', 0, 40),
  drainageMm: span('Winter drainage', 'mm', 0, 1500),
  dmPct: span('Dry matter', '%', 0.05, 100),
  hours: span('Hours after spreading', 'h', 0, 720),
  irrigationMm: span('Irrigation', 'mm', 0, 1500),
  incorporationCm: span('Depth of incorporation', 'cm', 0, 60),
  kgHa: span('Dose', 'kg/ha', 0, 400),
  latitudeDeg: span('Latitude', 'degrees', -66, 66),
  layerCm: span('Layer limit', 'cm', 0, 180),
  limeDryMatterPct: span('Dry matter', '%', 5, 100),
  legumeCoverPct: span('Legume cover', '%', 0, 100),
  nCores: span('Cores in the sample', '', 1, 100),
  no3nMgKg: span('Nitrate-N', 'mg/kg', 0, 200),
  so4sMgKg: span('Sulphate-S', 'mg/kg', 0, 1000),
  omPct: span('Organic matter', '%', 0, 60),
  omPctBudget: span('Organic matter', '%', 0, 20),
  phSalt: span('pH in salt solution', '', 2, 10),
  phWater: span('pH in water', '', 2.5, 11),
  plantsM2: span('Plants', 'per m2', 0, 3000),
  pctOf: span('Share', '%', 0, 100),
  pricePerT: span('Price', 'per t', 0, 100000, true),
  productKgHa: span('Product rate', 'kg/ha', 0, 5000),
  proteinPct: span('Protein target', '%', 6, 20),
  rateM3Ha: span('Rate', 'm3/ha', 0.5, 400),
  rateTHa: span('Rate', 't/ha', 0.05, 400),
  sampleDepthCm: span('Sample depth', 'cm', 2, 120),
  seasonDays: span('Days of release', 'd', 30, 365),
  share: span('Share', '', 0, 1),
  soilTempC: span('Soil temperature', '°C', 2, 32),
  stonesVolFrac: span('Stones by volume', '', 0, 0.8),
  tempC: span('Air temperature', '°C', -15, 45),
  testMgKg: span('Soil test', 'mg/kg', 0, 60000),
  waterNo3n: span('Nitrate-N in water', 'mg/L', 0, 100),
  windMS: span('Wind', 'm/s', 0, 25),
  yearsSinceKill: span('Years since kill', 'years', 1, 10),
} as const satisfies Record<string, Range>;

/** Refuses unless the value is one of the listed keys. */
export function oneOf<T extends string>(field: string, value: unknown, options: readonly T[]): T {
  if (typeof value === 'string' && (options as readonly string[]).includes(value))
    return value as T;
  return refuse(
    'unknown_id',
    field,
    `${field} = ${String(value)} is not known: use one of ${options.join(', ')}.`,
    { value, allowed: options.join(', ') },
  );
}

/**
 * The three keys nearest to a mistyped one by edit distance, for "did you mean".
 *
 * @example closest('winter_weat', ['winter_wheat', 'oats']) // ['winter_wheat', 'oats']
 */
export const closest = (value: string, keys: readonly string[]): string[] =>
  [...keys].sort((a, b) => leven(value, a) - leven(value, b)).slice(0, 3);
