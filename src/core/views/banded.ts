import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { cropOf, type SoilClass } from '../book/crops';
import { placementOf } from '../book/fertilisers';
import type { Plan } from '../document/document';
import { fieldBalance } from '../lines/fieldBalance';
import { placedRate, type TestClass } from '../nitrogen/placedRate';
import { said, type Words } from '../why/said';

// P and K in a band in place of broadcast: what a dressing is saved, and where that ends (chapter 4,
// F3.1).

const BANDS = ['starter_5x5', 'strip_till_band', 'surface_band'] as const;
/** What the test says, in the three classes for which bands were compared. */
const CLASS: Partial<Record<SoilClass, TestClass>> = {
  very_low: 'low',
  low: 'low',
  medium: 'medium',
  high: 'high',
  very_high: 'high',
};
export interface BandedRate {
  nutrient: 'p' | 'k';
  testClass: TestClass;
  broadcastKgHa: number;
  bands: { placementId: string; name: string; rateKgHa: number; savesKgHa: number }[];
  words: Words;
}

/**
 * What is still to apply of P and K, broadcast and in bands: one for each nutrient that is asked
 * for and whose test is known.
 */
export function bandedRates(book: Book, plan: Plan, a: Assessment): BandedRate[] {
  const { cropKey, yieldGoalTHa } = plan.season;
  if (!cropKey || yieldGoalTHa === null) return [];
  const whole = fieldBalance(book, plan, cropOf(book, cropKey), a);
  return (['p', 'k'] as const).flatMap((nutrient): BandedRate[] => {
    const asked = a.sums[nutrient].stillToApply;
    const testClass = CLASS[a.ground.classes[nutrient === 'p' ? 'P' : 'K'] ?? 'unknown'];
    if (asked < 1 || testClass === undefined) return [];
    const bands = BANDS.map((placementId) => {
      const { rateKgHa } = placedRate({
        broadcastRateKgHa: asked,
        placementId,
        nutrient,
        testClass,
      });
      return {
        placementId,
        name: placementOf(placementId).name,
        rateKgHa,
        savesKgHa: asked - rateKgHa,
      };
    });
    const least = Math.min(...bands.map((b) => b.rateKgHa));
    const symbol = nutrient.toUpperCase();
    // What the field's balance says already, and the band with it.
    const after = (nutrient === 'p' ? whole.pKgHa : whole.kKgHa) + least;
    return [
      {
        nutrient,
        testClass,
        broadcastKgHa: asked,
        bands,
        words:
          least >= asked - 0.5
            ? `A band saves no ${symbol} on ground that tests ${testClass}.`
            : after >= -0.5
              ? `What comes in still covers the ${symbol} that leaves, even by the band that saves most.`
              : said`By the band that saves most the ground loses ${Math.round(-after)} kg/ha ${symbol} in this season. A band saves a dressing; it does not stop the soil running down.`,
      },
    ];
  });
}
