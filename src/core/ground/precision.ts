import { normalBelow } from '../quantity/normal';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { groundParameter } from '../book/sampling';
import type { KnownClass } from './classify';

const Z = { min: 0.67, max: 2.58, unit: '', label: 'z' };
const VALUE = { min: 0, max: 60000, unit: '', label: 'Value' };
const SE = { min: 0, max: 60000, unit: '', label: 'Standard error' };
/** A two-sided 90 % interval (parameters of chapter 3). */
const zOf = (z: number | null | undefined): number =>
  within('z', z ?? groundParameter('z_confidence').default, Z);

export interface PrecisionInput {
  mean: number;
  /** Core-to-core variation, a fraction; for pH the standard deviation in pH units with `isSd`. */
  cvField: number;
  cvLab: number;
  nCores: number;
  nLab?: number | null;
  z?: number | null;
  isSd?: boolean | null;
}

/**
 * How well one composite knows the mean of its area (chapter 3, 2.2). The error falls with the root
 * of the number of cores. It says nothing
 * about bias: wrong depth, season or odd spots.
 *
 * @example precision({ mean: 18, cvField: 0.45, cvLab: 0.08, nCores: 15 }) // { se: 2.54, lo:
 * 13.8, hi: 22.2 }
 */
export function precision(i: PrecisionInput): {
  seRel: number;
  se: number;
  lo: number;
  hi: number;
} {
  within('mean', i.mean, VALUE);
  within('cv_field', i.cvField, RANGES.cv);
  within('cv_lab', i.cvLab, RANGES.cv);
  within('n_cores', i.nCores, { ...RANGES.nCores, max: 100_000 });
  const nLab = within('n_lab', i.nLab ?? 1, {
    min: 1,
    max: 100,
    unit: '',
    label: 'Laboratory analyses',
  });
  const z = zOf(i.z);
  const spread = Math.sqrt(i.cvField ** 2 / i.nCores + i.cvLab ** 2 / nLab);
  const se = i.isSd ? spread : spread * i.mean;
  return {
    seRel: i.isSd ? (i.mean > 0 ? se / i.mean : 0) : spread,
    se,
    lo: i.mean - z * se,
    hi: i.mean + z * se,
  };
}

/**
 * Cores in a composite for a wanted relative half-width of the interval.
 *
 * @throws Refusal where the laboratory's own error is larger than the wish: more cores cannot
 * reach it
 * @example coresNeeded({ cvField: 0.45, cvLab: 0.08, E: 0.2 }).n // 25
 */
export function coresNeeded(i: {
  cvField: number;
  cvLab: number;
  E: number;
  nLab?: number | null;
  z?: number | null;
}): { n: number } {
  within('cv_field', i.cvField, RANGES.cv);
  within('cv_lab', i.cvLab, RANGES.cv);
  within('E', i.E, { min: 0, max: 2, unit: '', label: 'Half-width', above: true });
  const nLab = within('n_lab', i.nLab ?? 1, {
    min: 1,
    max: 100,
    unit: '',
    label: 'Laboratory analyses',
  });
  const z = zOf(i.z);
  const left = i.E ** 2 - (z * i.cvLab) ** 2 / nLab;
  if (left <= 0) {
    const least = (z * i.cvLab) / Math.sqrt(nLab);
    refuse(
      'infeasible',
      'E',
      `More cores cannot reach +/- ${(100 * i.E).toFixed(0)} %: the laboratory alone errs by ${(100 * least).toFixed(1)} %. Run duplicate analyses, or accept ${(100 * least).toFixed(1)} % or more.`,
      { value: i.E, allowed: `above ${least.toFixed(3)}` },
    );
  }
  return { n: Math.ceil((z * i.cvField) ** 2 / left - 1e-9) };
}

const CLASSES: readonly KnownClass[] = ['very_low', 'low', 'medium', 'high', 'very_high'];

/**
 * Chance that the true mean lies in each class, given the reading and its standard error. With
 * `logNormal` (P that varies by more than 60 %)
 * the error is taken on the logarithm.
 *
 * @param i.limits lower limits of low, medium, high, very high
 * @example classProbability({ mean: 18, se: 2.54, limits: [11, 16, 21, 31] }).medium // 0.67
 */
export function classProbability(i: {
  mean: number;
  se: number;
  limits: readonly number[];
  logNormal?: boolean | null;
}): Record<KnownClass, number> {
  within('mean', i.mean, VALUE);
  within('se', i.se, SE);
  if (i.limits.length !== 4 || i.limits.some((l, k) => k > 0 && l <= (i.limits[k - 1] ?? 0)))
    refuse(
      'inconsistent',
      'limits',
      'limits: give four rising lower limits, of low, medium, high and very high.',
      { value: i.limits, allowed: 'four rising numbers' },
    );
  const log = i.logNormal && i.mean > 0;
  const sLn = log ? Math.sqrt(Math.log(1 + (i.se / i.mean) ** 2)) : 0;
  const below = (limit: number): number => {
    if (log)
      return sLn === 0
        ? limit > i.mean
          ? 1
          : 0
        : normalBelow(Math.log(limit), Math.log(i.mean) - sLn ** 2 / 2, sLn);
    return i.se === 0 ? (limit > i.mean ? 1 : 0) : normalBelow(limit, i.mean, i.se);
  };
  const edges = [0, ...i.limits.map(below), 1];
  return Object.fromEntries(
    CLASSES.map((c, k) => [c, (edges[k + 1] as number) - (edges[k] as number)]),
  ) as Record<KnownClass, number>;
}

/**
 * Whether two surveys differ by more than their sampling error (chapter 3, 2.2 step 5).
 *
 * @example realChange({ x1: 18, se1: 2.54, x2: 22, se2: 2.9 }) // { lsd: 6.3, changed: false }
 */
export function realChange(i: {
  x1: number;
  se1: number;
  x2: number;
  se2: number;
  z?: number | null;
}): { lsd: number; changed: boolean; verdict: string } {
  for (const k of ['x1', 'x2'] as const) within(k, i[k], VALUE);
  for (const k of ['se1', 'se2'] as const) within(k, i[k], SE);
  const lsd = zOf(i.z) * Math.sqrt(i.se1 ** 2 + i.se2 ** 2);
  const changed = Math.abs(i.x2 - i.x1) > lsd;
  return {
    lsd,
    changed,
    verdict: changed
      ? `changed by ${(i.x2 - i.x1).toFixed(2)}, more than the sampling error of ${lsd.toFixed(2)}`
      : 'no change that this sampling can see',
  };
}

/**
 * Two zones are worth keeping apart when they differ by more than twice their common error
 * (chapter 3, 2.2 step 6).
 */
export const zonesDiffer = (
  a: { mean: number; se: number },
  b: { mean: number; se: number },
): boolean => Math.abs(a.mean - b.mean) > 2 * Math.sqrt(a.se ** 2 + b.se ** 2);
