import { orchardKOf, type OrchardK } from '../book/orchardK';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';

const KG = { label: 'K', unit: 'kg/ha', min: 0, max: 1000 };
const SMALLEST_RATE = 15;
const MOST_YEARS = 3;

/** The row of a fruit crop. @throws Refusal for a crop without one */
const orchardRow = (crop: string): OrchardK =>
  orchardKOf(crop) ??
  refuse('unknown_id', 'crop', `${crop} has no table of K by the leaf: K goes by the soil.`, {
    value: crop,
  });

/**
 * Share of the removal that a leaf's K asks for (F15.3): 1.5 where it is deficient, 0 above the
 * target; at most 1 on a soil that is high.
 */
function orchardFactor(row: OrchardK, leafK: number, soilHigh: boolean): number {
  const mid = (row.leafKTargetLowPct + row.leafKTargetHighPct) / 2;
  const factor =
    leafK < row.leafKDeficientPct
      ? 1.5
      : leafK < row.leafKTargetLowPct
        ? 1.25
        : leafK <= mid
          ? 1
          : leafK <= row.leafKTargetHighPct
            ? 0.5
            : 0;
  return soilHigh ? Math.min(1, factor) : factor;
}

/**
 * K of a fruit crop by its leaf (chapter 5, F15.1 to F15.4): removal x factor - credits, and the
 * years that may be skipped.
 *
 * @param i.crop crop of the leaf ranges
 * @param i.leafKPct % of dry matter
 * @param i.loadRatio crop load against normal, clamped to 0.3 to 1.8; counts with `c` above 0 only
 * @throws Refusal for a crop without a row, or a figure that cannot be
 * @example orchardPotassium({ crop: 'apple', yieldTHa: 50, leafKPct: 1.2 }).rateKgHa // 70
 */
export function orchardPotassium(i: {
  crop: string;
  yieldTHa: number;
  leafKPct: number;
  creditsKgKHa?: number | null;
  loadRatio?: number | null;
  c?: number | null;
  soilKHigh?: boolean | null;
  efficiency?: number | null;
}) {
  const row = orchardRow(i.crop);
  const removalKgHa =
    within('yield_t_ha', i.yieldTHa, { label: 'Yield', unit: 't/ha', min: 0, max: 200 }) *
    row.kRemovedKgPerT;
  within('leaf_k_pct', i.leafKPct, { label: 'Leaf K', unit: '%', min: 0, max: 10, above: true });
  const credits = within('credits_kg_k_ha', i.creditsKgKHa ?? 0, KG);
  const efficiency = within('efficiency', i.efficiency ?? 1, {
    label: 'Share of the K that counts',
    unit: '',
    min: 0.3,
    max: 1,
  });
  const load = Math.min(1.8, Math.max(0.3, i.loadRatio ?? 1));
  const leafKAdj = i.leafKPct + (i.c ?? 0) * (load - 1);
  const mid = (row.leafKTargetLowPct + row.leafKTargetHighPct) / 2;
  const skips = leafKAdj > row.leafKSkipAbovePct;
  const factor = skips ? 0 : orchardFactor(row, leafKAdj, i.soilKHigh ?? false);
  const wanted = Math.max(0, removalKgHa * factor - credits) / efficiency;
  const most = Math.min(wanted, row.maxRateKgKHa);
  return {
    leafKAdj,
    mid,
    removalKgHa,
    factor,
    // Less than a spreader is worth sending out for is saved for a later year.
    rateKgHa: most < SMALLEST_RATE ? 0 : Math.floor(most / 5 + 0.5) * 5,
    capped: wanted > row.maxRateKgKHa,
    skipYearsPlanned: skips
      ? Math.min(MOST_YEARS, Math.ceil((leafKAdj - mid) / row.annualFallWhenSkippedPct - 1e-9))
      : 0,
  };
}
