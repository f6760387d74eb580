import { linearRegression, rSquared } from 'simple-statistics';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { entered, step, type Step } from '../why/step';

const RATE = { label: 'N rate', unit: 'kg/ha', min: 0, max: 600 };
/**
 * Rates that a fit needs: five points at four rates, one of them at or near zero (chapter 1, R5).
 */
const LEAST_POINTS = 5;
const LEAST_RATES = 4;
const NEAR_ZERO_KG_HA = 20;

/**
 * Price of a kilogram of N in tonnes of crop. @throws Refusal where one of the prices is missing
 * or not above 0
 */
function priceRatio(
  priceNPerKg: number | null | undefined,
  priceCropPerT: number | null | undefined,
): number {
  if (!(
    Number.isFinite(priceNPerKg) &&
    Number.isFinite(priceCropPerT) &&
    (priceNPerKg as number) > 0 &&
    (priceCropPerT as number) > 0
  ))
    refuse(
      'out_of_range',
      'price',
      'price_n_per_kg, price_crop_per_t: both prices needed, above 0.',
      { value: [priceNPerKg, priceCropPerT], allowed: 'above 0' },
    );
  return (priceNPerKg as number) / (priceCropPerT as number);
}
const noPattern = (value: unknown): never =>
  refuse('inconsistent', 'response', 'response curve: no response pattern in these data.', {
    value,
    allowed: 'yield that rises with N, ever less steeply',
  });

export interface QuadraticInput {
  /** Yield without N, t/ha, and the curve: Y = a + b N + c N2, b above 0 and c below. */
  a: number;
  b: number;
  c: number;
  priceNPerKg: number;
  priceCropPerT: number;
  nHighestTrialKgHa: number;
}
/**
 * Economic optimum of a quadratic response (chapter 1, R3): the last kilogram of N pays for itself.
 * Never beyond the highest rate tried.
 *
 * @throws Refusal for a curve that does not bend down, or a missing price
 * @example eonrQuadratic({ a: 5, b: 0.03, c: -7e-5, priceNPerKg: 1, priceCropPerT: 200,
 * nHighestTrialKgHa: 240 }).eonrKgHa // 178.57
 */
export function eonrQuadratic(i: QuadraticInput) {
  const pr = priceRatio(i.priceNPerKg, i.priceCropPerT);
  if (!(i.b > 0) || !(i.c < 0)) noPattern({ b: i.b, c: i.c });
  const highest = within('n_highest_trial_kg_ha', i.nHighestTrialKgHa, {
    ...RATE,
    label: 'Highest rate tried',
    above: true,
  });
  const yieldAt = (n: number) => i.a + i.b * n + i.c * n * n;
  const free = Math.max(0, (pr - i.b) / (2 * i.c));
  const eonrKgHa = Math.min(free, highest);
  const gainTHa = yieldAt(eonrKgHa) - yieldAt(0);
  return {
    eonrKgHa,
    nMaxKgHa: -i.b / (2 * i.c),
    priceRatioKgKg: pr * 1000,
    gainTHa,
    netGainPerHa: gainTHa * i.priceCropPerT - eonrKgHa * i.priceNPerKg,
    clamped: free > highest,
    /** N-22: outside the data, or a price ratio that looks like wrong units. */
    cautionN22: free >= highest || pr * 1000 < 1.5 || pr * 1000 > 15,
    why: step('requirement.n.optimum', 'Economic optimum', eonrKgHa, 'kg N/ha', {
      school: 'economic optimum',
      formula: '(price of N / price of crop - b) / 2c, up to the highest rate tried',
      source: 'consensus (chapter 1, R3)',
      confidence: 'medium',
      note: 'A quadratic tends to over-state the optimum by 10-30 kg/ha against a curve with a plateau.',
      inputs: [
        entered('requirement.n.optimum.b', 'Slope at zero', i.b, 't/kg'),
        entered('requirement.n.optimum.c', 'Bend', i.c, 't/kg2'),
        step('requirement.n.optimum.ratio', 'Price of N in crop', pr * 1000, 'kg/kg', {
          formula: 'price of N / price of crop',
        }),
      ],
    }),
  };
}

export interface PlateauFit {
  /**
   * Rate from which more N adds nothing, kg/ha, the yield there, and the bend below it: Y = yMax -
   * g (nJoin - N)2.
   */
  nJoinKgHa: number;
  yMaxTHa: number;
  g: number;
  r2: number;
  eonrKgHa: number;
  /** R2 below 0.7, or few points of few site-years. */
  weak: boolean;
  why: Step;
}
/**
 * Fits yield to N with a plateau (chapter 1, R4 and R5): each join in steps of 1 kg, least squares
 * on the squared distance below it.
 *
 * @param i.points pairs of N rate (kg/ha) and yield (t/ha)
 * @throws Refusal for fewer than 5 points or 4 rates, no rate near zero, or no response
 * @example fitQuadraticPlateau({ points: [[0, 4.25], [60, 6.29], [120, 7.61], [180, 8.21], [240,
 * 8.25]], priceNPerKg: 1, priceCropPerT: 200 }).eonrKgHa // 175
 */
export function fitQuadraticPlateau(i: {
  points: readonly (readonly number[])[];
  priceNPerKg: number;
  priceCropPerT: number;
  siteYears?: number | null;
}): PlateauFit {
  const points = i.points.map((p, k): [number, number] => [
    within(`points[${k}]`, p[0], RATE),
    within(`points[${k}]`, p[1], { label: 'Yield', unit: 't/ha', min: 0, max: 200 }),
  ]);
  const rates = [...new Set(points.map(([x]) => x))].sort((p, q) => p - q);
  if (
    points.length < LEAST_POINTS ||
    rates.length < LEAST_RATES ||
    (rates[0] ?? Infinity) > NEAR_ZERO_KG_HA
  )
    refuse(
      'missing',
      'points',
      'points: needs 5 points at 4 or more rates, one at 20 kg/ha or less',
      { value: i.points.length, allowed: '5 points at 4 rates' },
    );
  const pr = priceRatio(i.priceNPerKg, i.priceCropPerT);
  let best: { join: number; yMax: number; g: number; sse: number } | null = null;
  for (
    let join = Math.ceil(rates[1] as number);
    join <= (rates[rates.length - 1] as number);
    join++
  ) {
    const line = linearRegression(
      points.map(([x, y]): [number, number] => [Math.max(0, join - x) ** 2, y]),
    );
    const [yMax, g] = [line.b, -line.m];
    if (!(g > 0)) continue;
    const sse = points.reduce(
      (sum, [x, y]) => sum + (y - yMax + g * Math.max(0, join - x) ** 2) ** 2,
      0,
    );
    if (!best || sse < best.sse - 1e-12) best = { join, yMax, g, sse };
  }
  if (!best)
    return refuse('inconsistent', 'points', 'points: no response found in these data.', {
      value: i.points,
      allowed: 'yield that rises with N',
    });
  const { join, yMax, g } = best;
  const r2 = rSquared(points, (x) => yMax - g * Math.max(0, join - x) ** 2);
  const eonrKgHa = Math.max(0, join - pr / (2 * g));
  const weak = r2 < 0.7 || (points.length < 8 && (i.siteYears ?? 1) < 3);
  return {
    nJoinKgHa: join,
    yMaxTHa: yMax,
    g,
    r2,
    eonrKgHa,
    weak,
    why: step('requirement.n.optimum', 'Economic optimum', eonrKgHa, 'kg N/ha', {
      school: 'economic optimum',
      formula: 'join of the plateau - price of N in crop / 2g',
      source: 'Cerrato & Blackmer 1990 Agron J 82:138-143',
      confidence: weak ? 'low' : 'medium',
      note: weak ? 'weak curve: few points or much scatter' : undefined,
      inputs: [
        entered('requirement.n.optimum.points', 'Trial points', points.length, ''),
        step('requirement.n.optimum.join', 'Plateau from', join, 'kg N/ha'),
        step('requirement.n.optimum.ymax', 'Yield there', yMax, 't/ha'),
        step('requirement.n.optimum.r2', 'R2', r2, ''),
      ],
    }),
  };
}

/**
 * Doses that lose no more than a few units of money against the optimum (chapter 1, R6): nobody
 * need chase the last 15 kg.
 *
 * @example flatOptimum({ g: 0.0001, priceCropPerT: 200, lossPerHa: 5 }).halfWidthKgHa // 15.8
 */
export function flatOptimum(i: { g: number; priceCropPerT: number; lossPerHa?: number | null }): {
  halfWidthKgHa: number;
} {
  within('g', i.g, { label: 'Bend of the curve', unit: 't/kg2', min: 0, max: 1, above: true });
  within('price_crop_per_t', i.priceCropPerT, {
    label: 'Price of the crop',
    unit: 'per t',
    min: 0,
    max: 100_000,
    above: true,
  });
  return {
    halfWidthKgHa: Math.sqrt(
      within('loss_per_ha', i.lossPerHa ?? 5, {
        label: 'Loss accepted',
        unit: 'per ha',
        min: 0,
        max: 1000,
      }) /
        (i.g * i.priceCropPerT),
    ),
  };
}

/**
 * The N rate with the best mean return over several site-years, and how far the single years lie
 * apart (chapter 1, R5b).
 *
 * @example eonrManySiteYears({ fits: [{ yMax: 8, g: 1e-4, nJoin: 180 }, { yMax: 9, g: 1e-4,
 * nJoin: 220 }], priceNPerKg: 1, priceCropPerT: 200 }).nBestKgHa // 175
 */
export function eonrManySiteYears(i: {
  fits: readonly { yMax: number; g: number; nJoin: number }[];
  priceNPerKg: number;
  priceCropPerT: number;
}): { nBestKgHa: number; eonrMinKgHa: number; eonrMaxKgHa: number } {
  const pr = priceRatio(i.priceNPerKg, i.priceCropPerT);
  if (i.fits.length === 0)
    refuse('missing', 'fits', 'fits: give at least one fitted site-year.', {
      allowed: 'one or more',
    });
  i.fits.forEach((f) => {
    if (!(f.g > 0)) noPattern(f);
    within('n_join', f.nJoin, RATE);
  });
  const highest = Math.ceil(Math.max(...i.fits.map((f) => f.nJoin)));
  const meanReturn = (n: number) =>
    i.fits.reduce(
      (sum, f) =>
        sum + (f.yMax - f.g * Math.max(0, f.nJoin - n) ** 2) * i.priceCropPerT - n * i.priceNPerKg,
      0,
    ) / i.fits.length;
  let nBestKgHa = 0;
  for (let n = 1; n <= highest; n++)
    if (meanReturn(n) > meanReturn(nBestKgHa) + 1e-9) nBestKgHa = n;
  const single = i.fits.map((f) => Math.max(0, f.nJoin - pr / (2 * f.g)));
  return { nBestKgHa, eonrMinKgHa: Math.min(...single), eonrMaxKgHa: Math.max(...single) };
}
