import { tissueNutrientOf } from '../book/tissueNutrients';
import { within } from '../quantity/range';

// Affected beside unaffected plants: the strongest method in the field (chapter 5, section 9).

const VALUE = { label: 'Leaf value', unit: '', min: 0, max: 1e6, above: true };
const CLEAR_Z = 3;
const LIKELY_Z = 2;
const LEAST_DIFFERENCE_PCT = 15;
const UP = 1.1;
const DOWN = 0.9;
/** With so many pairs their own scatter counts, where it is larger. */
const OWN_SCATTER_FROM = 3;

export type PairStrength = 'clear' | 'likely' | 'no_difference';
/** What concentration and mass together say (F9.4). */
export type PairVector =
  | 'deficient_in_affected'
  | 'not_limiting'
  | 'accumulates'
  | 'dilution_by_growth'
  | 'luxury'
  | 'early_or_hidden'
  | 'no_difference'
  | 'uptake_kept_pace'
  | 'larger_and_richer';
type Step = 'down' | 'same' | 'up';
const VECTOR: Readonly<Record<`${Step} ${Step}`, PairVector>> = {
  'down down': 'deficient_in_affected',
  'same down': 'not_limiting',
  'up down': 'accumulates',
  'down up': 'dilution_by_growth',
  'up same': 'luxury',
  'down same': 'early_or_hidden',
  'same same': 'no_difference',
  'same up': 'uptake_kept_pace',
  'up up': 'larger_and_richer',
};
const stepOf = (ratio: number): Step => (ratio > UP ? 'up' : ratio < DOWN ? 'down' : 'same');

export interface PairReading {
  logRatio: number;
  /** The error that it has to exceed. */
  u: number;
  z: number;
  pctDiff: number;
  strength: PairStrength;
  /** Null where nobody weighed the plants. */
  vector: PairVector | null;
}
/**
 * One nutrient in affected against unaffected plants (F9.1 to F9.4).
 *
 * @param i.affected geometric mean over the pairs, above 0; the same unit in both
 * @param i.nPairs 1 to 50
 * @param i.logRatioSd scatter of the single log ratios; counts from three pairs on, where it is larger
 * @param i.biomassRatio mass of ten affected to ten unaffected plants, 0.02 to 10
 * @example pairReading({ nutrient: 'Mn', affected: 12, unaffected: 25, biomassRatio: 0.6 }).vector
 * // 'deficient_in_affected'
 */
export function pairReading(i: {
  nutrient: string;
  affected: number;
  unaffected: number;
  nPairs?: number | null;
  logRatioSd?: number | null;
  biomassRatio?: number | null;
}): PairReading {
  const { combinedCvPct } = tissueNutrientOf(i.nutrient);
  const affected = within('affected', i.affected, VALUE);
  const unaffected = within('unaffected', i.unaffected, VALUE);
  const n = within('n_pairs', i.nPairs ?? 1, { label: 'Pairs', unit: '', min: 1, max: 50 });
  const byCv = (Math.SQRT2 * combinedCvPct) / 100 / Math.sqrt(n);
  const own =
    n >= OWN_SCATTER_FROM && i.logRatioSd != null
      ? within('log_ratio_sd', i.logRatioSd, { label: 'Scatter', unit: '', min: 0, max: 10 }) /
        Math.sqrt(n)
      : 0;
  const u = Math.max(byCv, own);
  const logRatio = Math.log(affected / unaffected);
  const z = logRatio / u;
  const pctDiff = 100 * (affected / unaffected - 1);
  const differs = Math.abs(pctDiff) >= LEAST_DIFFERENCE_PCT;
  const mass =
    i.biomassRatio == null
      ? null
      : stepOf(
          within('biomass_ratio', i.biomassRatio, {
            label: 'Mass of affected to unaffected plants',
            unit: '',
            min: 0.02,
            max: 10,
          }),
        );
  return {
    logRatio,
    u,
    z,
    pctDiff,
    strength:
      differs && Math.abs(z) >= CLEAR_Z
        ? 'clear'
        : differs && Math.abs(z) >= LIKELY_Z
          ? 'likely'
          : 'no_difference',
    vector: mass === null ? null : VECTOR[`${stepOf(affected / unaffected)} ${mass}`],
  };
}
