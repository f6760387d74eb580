import type { Book } from '../book/book';
import { fertiliserOf, LABEL_PCT, type LabelNutrient } from '../book/fertilisers';
import type { ReadLeaf } from '../lines/leaf';
import { Refusal } from '../quantity/refusal';
import { FED, feedRatio, type Fed, type FeedRatioRow } from '../tissue/feedRatio';

// A feed against the leaf that it is to make: the middle of the crop's own ranges.

export interface FeedBeside {
  /** Middle of the range of each nutrient, % of dry matter. */
  wanted: Partial<Record<Fed, number>>;
  source: string;
  confidence: string;
}
/** What the crop's leaf holds when it is well fed; null where N has no range. */
export function feedWanted(leaf: ReadLeaf | null): FeedBeside | null {
  if (!leaf) return null;
  const rows = leaf.assessment.results.filter(
    (r) => (FED as readonly string[]).includes(r.nutrient) && r.limits !== null && r.limits.sl > 0,
  );
  const nitrogen = rows.find((r) => r.nutrient === 'N');
  if (!nitrogen) return null;
  return {
    wanted: Object.fromEntries(
      rows.map((r) => [r.nutrient, ((r.limits?.sl ?? 0) + (r.limits?.sh ?? 0)) / 2]),
    ),
    source: nitrogen.why?.source ?? '',
    confidence: nitrogen.why?.confidence ?? 'low',
  };
}
/** A product's ratio against it, or why there is none. */
export function feedAgainst(
  book: Book,
  feed: FeedBeside,
  productId: string,
): FeedRatioRow[] | string {
  const f = fertiliserOf(book, productId);
  try {
    return feedRatio({
      wanted: feed.wanted,
      product: Object.fromEntries(
        FED.map((x) => [x, LABEL_PCT[x.toLowerCase() as LabelNutrient](f)]),
      ),
    });
  } catch (e) {
    if (e instanceof Refusal) return e.message;
    throw e;
  }
}
