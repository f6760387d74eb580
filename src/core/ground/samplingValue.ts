import { within } from '../quantity/range';
import { variabilityOf } from '../book/sampling';
import { coresNeeded, precision } from './precision';

export interface SamplingEffort {
  nSamples: number;
  coresPerSample: number;
  labPricePerSample: number;
  labourPerSample: number;
  labourPerCore: number;
}
export interface ExpectedPrecision {
  property: 'p' | 'k' | 'ph_water' | 'nitrate_0_60';
  label: string;
  /** Half-width of the 90 % interval: % of the mean, or pH units. */
  unit: '%' | 'pH';
  perSample: number;
  fieldMean: number;
  source: string;
  confidence: string;
}
const PROPERTIES = [
  ['p', 'P'],
  ['k', 'K'],
  ['ph_water', 'pH'],
  ['nitrate_0_60', 'Nitrate'],
] as const;
const MONEY = { min: 0, max: 1000, unit: '', label: 'Price' };

/**
 * Money for one sampling of a field.
 *
 * @example samplingCost({ nSamples: 13, coresPerSample: 10, labPricePerSample: 14,
 * labourPerSample: 3, labourPerCore: 0.2 }) // 247
 */
export function samplingCost(e: SamplingEffort): number {
  within('n_samples', e.nSamples, { min: 1, max: 6000, unit: '', label: 'Samples' });
  for (const k of ['labPricePerSample', 'labourPerSample', 'labourPerCore'] as const)
    within(k, e[k], MONEY);
  return (
    e.nSamples * (e.labPricePerSample + e.labourPerSample + e.coresPerSample * e.labourPerCore)
  );
}

/**
 * What an effort will know of each property: half the 90 % interval, in one sample and for the mean
 * of the field (chapter 3, 2.2 with book variation).
 */
export function expectedPrecision(e: SamplingEffort): ExpectedPrecision[] {
  return PROPERTIES.map(([property, label]) => {
    const row = variabilityOf(property);
    const isSd = row.statistic === 'sd_ph_units';
    const scale = isSd ? 1 : 100;
    const half = (cores: number, analyses: number): number => {
      const p = precision({
        mean: 1,
        cvField: row.fieldDefault / scale,
        cvLab: row.labDefault / scale,
        nCores: cores,
        nLab: Math.min(100, analyses),
        isSd,
      });
      return ((p.hi - p.lo) / 2) * scale;
    };
    return {
      property,
      label,
      unit: isSd ? 'pH' : '%',
      perSample: half(e.coresPerSample, 1),
      fieldMean: half(e.coresPerSample * e.nSamples, e.nSamples),
      source: row.source,
      confidence: row.confidence,
    };
  });
}

/**
 * The error of P against money as cores rise: where the curve goes flat, more cores buy nothing.
 */
export const precisionCurve = (
  e: SamplingEffort,
  cores: readonly number[] = [4, 6, 8, 10, 12, 15, 20, 25, 30, 40],
): { cores: number; cost: number; rows: ExpectedPrecision[] }[] =>
  cores.map((c) => {
    const effort = { ...e, coresPerSample: c };
    return { cores: c, cost: samplingCost(effort), rows: expectedPrecision(effort) };
  });

/**
 * What the next money buys, in words: half-width of P in one sample now, and with the cores that
 * the sum pays for.
 */
export function whatMoreBuys(
  e: SamplingEffort,
  money: number,
): { cores: number; from: number; to: number } | null {
  const perCore = e.nSamples * e.labourPerCore;
  const extra = perCore > 0 ? Math.floor(money / perCore) : 0;
  if (extra < 1) return null;
  const cores = Math.min(100, e.coresPerSample + extra);
  const p = (c: number) => expectedPrecision({ ...e, coresPerSample: c })[0]?.perSample ?? 0;
  return { cores, from: p(e.coresPerSample), to: p(cores) };
}

/** Cores for P within +/- 20 % in one sample, by the book's variation. */
export const coresForP = (halfWidth = 0.2): number => {
  const row = variabilityOf('p');
  return coresNeeded({ cvField: row.fieldDefault / 100, cvLab: row.labDefault / 100, E: halfWidth })
    .n;
};
