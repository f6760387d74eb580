import { within } from './range';

const YIELD = { min: 0, max: 100000, unit: '', label: 'Yield' };
const MOISTURE = { min: 0, max: 99, unit: '%', label: 'Moisture' };

/**
 * Yield per acre in the crop's customary unit, as t/ha at market moisture (U1).
 *
 * @example usYieldToTHa({ yieldUsPerAc: 200, kgPerUsUnit: 25.401 }).yieldTHa // 12.5534 (maize,
 * bushels)
 */
export function usYieldToTHa({
  yieldUsPerAc,
  kgPerUsUnit,
}: {
  yieldUsPerAc: number;
  kgPerUsUnit: number;
}): { yieldTHa: number } {
  within('yield_us_per_ac', yieldUsPerAc, YIELD);
  return { yieldTHa: (yieldUsPerAc * kgPerUsUnit * 2.471054) / 1000 };
}

/**
 * Weight at market moisture of a wet weight (U2).
 *
 * @throws Refusal when the wet moisture is outside 0 to 99 %
 * @example marketMoistureYield({ yieldWetTHa: 12, moistureWetPct: 22, marketMoisturePct: 15.5
 * }).yieldMarketTHa // 11.0769
 */
export function marketMoistureYield(i: {
  yieldWetTHa: number;
  moistureWetPct: number;
  marketMoisturePct: number;
}): { yieldMarketTHa: number } {
  within('yield_wet_t_ha', i.yieldWetTHa, YIELD);
  within('moisture_wet_pct', i.moistureWetPct, MOISTURE);
  return {
    yieldMarketTHa: (i.yieldWetTHa * (100 - i.moistureWetPct)) / (100 - i.marketMoisturePct),
  };
}
