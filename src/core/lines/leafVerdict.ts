import type { Book } from '../book/book';
import { tissueCropOf, type Crop } from '../book/crops';
import type { Plan } from '../document/document';
import { daysBetween, type IsoDate } from '../quantity/calendar';
import { tissueNutrientOf } from '../book/tissueNutrients';
import { classConfidence } from '../tissue/classify';
import type { LeafResult, ReadLeaf } from './leaf';

// In trees, bushes and vines the leaf rules what is given: chapter 7, W2.6.

/** Where a value lies to its range; below only where that is likely enough. */
export type LeafSays = 'above' | 'within' | 'below';
export interface LeafVerdict {
  date: IsoDate;
  n: LeafSays | null;
  p: LeafSays | null;
  /** K of the leaf in %, as far as it can be read. */
  kPct: number | null;
  /** Crop of the leaf ranges. */
  leafCrop: string;
}
/** Fourteen months: one harvest window and the winter after it. */
export const VALID_DAYS = 427;
const SURE = 0.75;

/** Whether a crop stands for years and is ruled by its leaf. */
const ruledByLeaf = (crop: Pick<Crop, 'nBaseKgHa'>): boolean => crop.nBaseKgHa > 0;

const readable = (results: readonly LeafResult[], nutrient: string): LeafResult | null =>
  results.find(
    (r) =>
      r.nutrient === nutrient &&
      r.value !== null &&
      r.limits !== null &&
      !r.blocked &&
      r.refused === null,
  ) ?? null;

function saysOf(results: readonly LeafResult[], nutrient: string): LeafSays | null {
  const found = readable(results, nutrient);
  if (found?.value == null || !found.limits) return null;
  const { value, limits } = found;
  if (value > limits.sh) return 'above';
  if (value >= limits.sl || value <= 0) return 'within';
  const { pBelowLimit } = classConfidence({
    value,
    limit: limits.sl,
    combinedCvPct: tissueNutrientOf(nutrient).combinedCvPct,
  });
  return pBelowLimit >= SURE ? 'below' : 'within';
}

/**
 * What the newest valid leaf of a perennial says; null without one. A leaf counts for fourteen
 * months, up to the harvest that it was taken for.
 */
export function leafVerdict(
  book: Book,
  plan: Plan,
  crop: Crop,
  leaves: readonly ReadLeaf[],
): LeafVerdict | null {
  const tissueCrop = tissueCropOf(book, crop.key, plan.season.use);
  if (!ruledByLeaf(crop) || !tissueCrop) return null;
  const { harvestDate } = plan.season;
  const until = harvestDate && harvestDate < plan.asOf ? harvestDate : plan.asOf;
  const newest = leaves
    .filter(
      ({ sample, assessment }) =>
        sample.cropKey === crop.key &&
        sample.role !== 'affected' &&
        // One that waits for its laboratory says nothing yet.
        sample.values.length > 0 &&
        assessment.standard !== null &&
        sample.date <= until &&
        daysBetween(sample.date, until) <= VALID_DAYS,
    )
    .toSorted((a, b) => b.sample.date.localeCompare(a.sample.date))[0];
  if (!newest) return null;
  const { results } = newest.assessment;
  const k = readable(results, 'K');
  return {
    date: newest.sample.date,
    n: saysOf(results, 'N'),
    p: saysOf(results, 'P'),
    kPct: k && k.coreUnit === '%' ? k.value : null,
    leafCrop: tissueCrop,
  };
}

/** Whether the leaf has set the N dose: within its range, on a tree that bears. */
export const setByLeaf = (plan: Plan, leaf: LeafVerdict | null): boolean =>
  leaf?.n === 'within' && (plan.season.plantingYear ?? 99) > 4;
