import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';

// One nutrient of the same organ and stage over the years (chapter 5, section 16).

/** Least |S| of Mann and Kendall for n = 4 to 10, one-sided 5 %. */
const LEAST_S = [6, 8, 11, 13, 16, 18, 21];
const FEWEST_YEARS = 4;
const TABLE_TO = FEWEST_YEARS + LEAST_S.length - 1;
const Z = 1.645;
const FARTHEST_YEARS = 5;
/** Beyond the table: the normal approximation, with its correction for continuity. */
const leastS = (n: number): number =>
  n <= TABLE_TO
    ? (LEAST_S[n - FEWEST_YEARS] as number)
    : Z * Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18) + 1;

export type TrendClass =
  'rising' | 'falling' | 'possible_rise' | 'possible_fall' | 'no_trend' | 'too_few_years';
export interface Trend {
  n: number;
  /** Theil and Sen; null below two years. */
  slopePerYear: number | null;
  S: number;
  changeOverPeriod: number | null;
  /** A change that sampling and laboratory alone do not make. */
  neededChange: number | null;
  cls: TrendClass;
  /** Years until a limit is reached; told of a trend that is sure, and up to five years. */
  yearsToLimit: number | null;
}
const median = (values: readonly number[]): number => {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (sorted.length - 1) / 2;
  return ((sorted[Math.floor(at)] ?? 0) + (sorted[Math.ceil(at)] ?? 0)) / 2;
};

/**
 * Trend of a value over years: slope by Theil and Sen, sure by Mann and Kendall and by the change
 * that chance does not make (F16.1 to F16.4).
 *
 * @param i.years one value each, any order, no year twice
 * @param i.combinedCvPct variation of laboratory and sampling, %
 * @param i.limit a limit of the range, for the years until it is reached
 * @throws Refusal for lists of other lengths, a year that stands twice, a value not above 0
 * @example leafTrend({ years: [2018, 2019, 2020, 2021, 2022, 2023], values: [1.6, 1.5, 1.45, 1.4, 1.3,
 * 1.25], combinedCvPct: 9.5 }).cls // 'falling'
 */
export function leafTrend(i: {
  years: readonly number[];
  values: readonly number[];
  combinedCvPct: number;
  limit?: number | null;
}): Trend {
  if (i.years.length !== i.values.length)
    refuse('inconsistent', 'values', `values: ${i.values.length} for ${i.years.length} years.`);
  if (new Set(i.years).size !== i.years.length)
    refuse('inconsistent', 'years', 'years: a year stands twice; take the mean of its samples.');
  const cv = within('combined_cv_pct', i.combinedCvPct, {
    label: 'Variation',
    unit: '%',
    min: 0,
    max: 200,
  });
  const points = i.years
    .map((year, k) => ({
      year: within('years', year, { label: 'Year', unit: '', min: 1900, max: 2200 }),
      value: within('values', i.values[k] ?? NaN, {
        label: 'Leaf value',
        unit: '',
        min: 0,
        max: 1e6,
        above: true,
      }),
    }))
    .toSorted((a, b) => a.year - b.year);
  const n = points.length;
  const pairs = points.flatMap((a, k) => points.slice(k + 1).map((b) => ({ a, b })));
  const S = pairs.reduce((s, { a, b }) => s + Math.sign(b.value - a.value), 0);
  const [first, last] = [points[0], points.at(-1)];
  if (n < 2 || !first || !last)
    return {
      n,
      slopePerYear: null,
      S,
      changeOverPeriod: null,
      neededChange: null,
      cls: 'too_few_years',
      yearsToLimit: null,
    };
  const slope = median(pairs.map(({ a, b }) => (b.value - a.value) / (b.year - a.year)));
  const change = slope * (last.year - first.year);
  const middle = median(points.map((p) => p.value));
  const needed = (2 * cv * middle) / 100;
  const large = Math.abs(change) >= needed && slope !== 0;
  const sure = n >= FEWEST_YEARS && Math.abs(S) >= leastS(n);
  const up = slope > 0;
  const cls: TrendClass =
    n < FEWEST_YEARS
      ? 'too_few_years'
      : large && sure
        ? up
          ? 'rising'
          : 'falling'
        : large
          ? up
            ? 'possible_rise'
            : 'possible_fall'
          : 'no_trend';
  const fittedLast = median(points.map((p) => p.value - slope * p.year)) + slope * last.year;
  const until = i.limit == null ? null : (i.limit - fittedLast) / slope;
  const told =
    (cls === 'rising' || cls === 'falling') &&
    until !== null &&
    until > 0 &&
    until <= FARTHEST_YEARS;
  return {
    n,
    slopePerYear: slope,
    S,
    changeOverPeriod: change,
    neededChange: needed,
    cls,
    yearsToLimit: told ? until : null,
  };
}
