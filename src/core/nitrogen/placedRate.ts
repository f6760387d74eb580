import { placementOf } from '../book/fertilisers';
import { oneOf, within } from '../quantity/range';

// What a band saves of a nutrient that does not move (chapter 4, F3.1).

const CLASSES = ['low', 'medium', 'high'] as const;
const PLACED = ['p', 'k', 's', 'zn'] as const;
export type PlacedNutrient = (typeof PLACED)[number];
export type TestClass = (typeof CLASSES)[number];
/** A band never does with less than this share of what is broadcast. */
const LEAST_SHARE = 0.5;
const KG = { label: 'Rate', unit: 'kg/ha', min: 0, max: 1000 };

/** How a kilogram by a placement serves against one that is broadcast and worked in. */
function relativeEfficiency(
  placementId: string,
  nutrient: PlacedNutrient,
  test: TestClass,
): number {
  const row = placementOf(placementId);
  if (nutrient === 's') return row.relEffS;
  if (nutrient === 'zn') return row.relEffZn;
  return {
    p: { low: row.relEffPLowTest, medium: row.relEffPMediumTest, high: row.relEffPHighTest },
    k: { low: row.relEffKLowTest, medium: row.relEffKMediumTest, high: row.relEffKHighTest },
  }[nutrient][test];
}

/**
 * Rate of P, K, S or Zn by a placement instead of broadcast, and what it leaves of the soil's store:
 * a band saves a dressing, it does not stop the soil running down.
 *
 * @param i.broadcastRateKgHa 0 to 1000 kg/ha
 * @throws Refusal for an unknown placement, nutrient or class
 * @example placedRate({ broadcastRateKgHa: 30, placementId: 'starter_5x5', nutrient: 'p', testClass:
 * 'low', removalKgHa: 25 }).rateKgHa // 16.667
 */
export function placedRate(i: {
  broadcastRateKgHa: number;
  placementId: string;
  nutrient: string;
  testClass: string;
  removalKgHa?: number | null;
}): { relEff: number; rateKgHa: number; soilBalanceKgHa: number | null } {
  const broadcast = within('broadcast_rate_kg_ha', i.broadcastRateKgHa, KG);
  const relEff = relativeEfficiency(
    i.placementId,
    oneOf('nutrient', i.nutrient, PLACED),
    oneOf('test_class', i.testClass, CLASSES),
  );
  const rateKgHa = Math.max(broadcast / relEff, LEAST_SHARE * broadcast);
  return {
    relEff,
    rateKgHa,
    soilBalanceKgHa:
      i.removalKgHa == null ? null : rateKgHa - within('removal_kg_ha', i.removalKgHa, KG),
  };
}
