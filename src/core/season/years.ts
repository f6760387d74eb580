import type { RunEvent } from './events';
import type { NitrogenState, SeasonSummary } from './nitrogen';
import { layOut, newLaidOut, runPlan, type Field, type LaidOut } from './run';
import type { Weather } from './weather';

// Many weather years, plans beside each other, and the least N for a risk (chapter 4, section 8).

/**
 * The q-th part of sorted values (type 7).
 *
 * @example percentile([1, 2, 3, 4], 0.5) // 2.5
 */
export function percentile(sorted: readonly number[], q: number): number {
  const h = (sorted.length - 1) * q;
  const i = Math.floor(h);
  const [a, b] = [sorted[i] as number, sorted[Math.min(i + 1, sorted.length - 1)] as number];
  return a + (h - i) * (b - a);
}
export interface Spread {
  p10: number;
  p50: number;
  p90: number;
}
export function spreadOf(values: readonly number[]): Spread | null {
  if (values.length === 0) return null;
  const sorted = values.toSorted((a, b) => a - b);
  return {
    p10: percentile(sorted, 0.1),
    p50: percentile(sorted, 0.5),
    p90: percentile(sorted, 0.9),
  };
}

/** Weather years, laid out once for all plans that are watered alike. */
export function layOutYears(
  field: Field,
  weather: readonly Weather[],
  irrigation: Float64Array,
): LaidOut[] {
  return weather.map((w) => {
    const laid = newLaidOut(field, w.days);
    layOut(field, w, irrigation, laid);
    return laid;
  });
}
/** One plan over all years: the same years for every plan, which alone compares them fairly. */
export const runYears = (
  field: Field,
  events: readonly RunEvent[],
  years: readonly LaidOut[],
  state: NitrogenState,
): SeasonSummary[] => years.map((y) => runPlan(field, events, y, state));

/** The N of a plan, more or less of it on the same days. */
export const scaled = (events: readonly RunEvent[], by: number): RunEvent[] =>
  events.map((e) =>
    e.kind === 'nitrogen' && !e.organic
      ? {
          ...e,
          broughtKgHa: e.broughtKgHa * by,
          no3: e.no3 * by,
          nh4: e.nh4 * by,
          urea: e.urea * by,
          lostAtOnce: e.lostAtOnce * by,
          coat: e.coat && { ...e.coat, kgHa: e.coat.kgHa * by },
          pool: e.pool && { ...e.pool, nKgHa: e.pool.nKgHa * by },
        }
      : e,
  );

/** N that went to the air, the water and the wind, kg/ha. */
export const totalLoss = (s: SeasonSummary): number =>
  s.volatilised + s.denitrified + s.leached + s.runoffN;
/** A year in which the crop ends short (chapter 4, M3). */
export const isShort = (s: SeasonSummary, shortFrac: number): boolean =>
  s.plantNFrac !== null && s.plantNFrac < shortFrac;
export const shortShare = (years: readonly SeasonSummary[], shortFrac: number): number =>
  years.length === 0 ? 0 : years.filter((s) => isShort(s, shortFrac)).length / years.length;

const NUMBERS = [
  'plantNFrac',
  'stressDays',
  'uptake',
  'volatilised',
  'denitrified',
  'leached',
  'runoffN',
  'netMin',
  'drainMm',
  'lateExcessIndex',
  'residualNo3',
] as const;
export type SpreadKey = (typeof NUMBERS)[number];
/** P10, P50 and P90 of each figure of a plan. */
export const spreadsOf = (years: readonly SeasonSummary[]): Record<SpreadKey, Spread | null> =>
  Object.fromEntries(
    NUMBERS.map((k) => [k, spreadOf(years.flatMap((y) => (y[k] === null ? [] : [y[k]])))]),
  ) as Record<SpreadKey, Spread | null>;

/** What one plan loses more than another in the same years. */
export function pairedLoss(
  a: readonly SeasonSummary[],
  b: readonly SeasonSummary[],
): { spread: Spread; shareALosesMore: number } {
  const differences = a.map((y, k) => totalLoss(y) - totalLoss(b[k] as SeasonSummary));
  return {
    spread: spreadOf(differences) as Spread,
    shareALosesMore: differences.filter((x) => x > 0).length / differences.length,
  };
}

const STEP_KG = 5;
/**
 * The least N of a plan that falls short in no more than a share of the years, by halving in steps
 * of 5 kg (chapter 4, M4); null where even the most does not.
 *
 * @param shortAt share of years in which a total falls short
 */
export function leastN(
  shortAt: (totalKgHa: number) => number,
  { risk = 0.1, nMax = 300 }: { risk?: number; nMax?: number } = {},
): number | null {
  const ok = (kg: number) => shortAt(kg) <= risk + 1e-12;
  if (ok(0)) return 0;
  if (!ok(nMax)) return null;
  let [lo, hi] = [0, nMax];
  while (hi - lo > STEP_KG) {
    const middle = Math.floor((lo + hi) / 2 / STEP_KG) * STEP_KG;
    if (ok(middle)) hi = middle;
    else lo = middle;
  }
  // Shortfall is nearly, not strictly, monotone in N: the two steps below are looked at too.
  for (const kg of [lo - 2 * STEP_KG, lo - STEP_KG]) if (kg > 0 && ok(kg)) return kg;
  return hi;
}
