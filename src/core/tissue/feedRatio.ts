import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';

// N:P:K:Ca:Mg that a feed should have, against what a product has. What soil and water bring is not
// in it: it is for beds and substrates that supply little, and for a look at a product elsewhere.

export const FED = ['N', 'P', 'K', 'Ca', 'Mg'] as const;
export type Fed = (typeof FED)[number];
export interface FeedRatioRow {
  nutrient: Fed;
  /** Per 100 of N. */
  wanted: number;
  product: number;
  /** Times what is wanted, if the product feeds the N; null for N itself. */
  times: number | null;
  says: 'far_too_little' | 'too_little' | 'fits' | 'too_much' | 'far_too_much' | 'basis';
}
/** Half and twice are far off; within a quarter it fits: leaf ranges are no narrower. */
const FITS = 1.25;
const FAR = 2;
const says = (times: number): FeedRatioRow['says'] =>
  times < 1 / FAR
    ? 'far_too_little'
    : times < 1 / FITS
      ? 'too_little'
      : times <= FITS
        ? 'fits'
        : times <= FAR
          ? 'too_much'
          : 'far_too_much';

/**
 * A product's ratio of N, P, K, Ca and Mg against the one that the crop takes, both per 100 of N.
 *
 * @param i.wanted what the crop takes or holds, in any one unit, above 0
 * @param i.product what the product holds as elements, %, 0 to 100
 * @throws Refusal for a product without N, a value out of range, or a ratio that is not wanted of N
 * @example feedRatio({ wanted: { N: 4, P: 0.5, K: 4 }, product: { N: 20, P: 8.7, K: 16.6 } })[1].times // 3.48
 */
export function feedRatio(i: {
  wanted: Readonly<Partial<Record<Fed, number | null>>>;
  product: Readonly<Partial<Record<Fed, number | null>>>;
}): FeedRatioRow[] {
  const wantedN = within('wanted.N', i.wanted.N ?? 0, {
    label: 'N wanted',
    unit: '',
    min: 0,
    max: 1e6,
    above: true,
  });
  const productN = within('product.N', i.product.N ?? 0, {
    label: 'N of the product',
    unit: '%',
    min: 0,
    max: 100,
  });
  if (productN === 0)
    refuse('inconsistent', 'product.N', 'product.N = 0: without N there is no ratio to N.', {
      value: 0,
      allowed: 'above 0 %',
    });
  return FED.flatMap((nutrient): FeedRatioRow[] => {
    const asked = i.wanted[nutrient];
    if (asked === undefined || asked === null) return [];
    const range = { label: nutrient, unit: '', min: 0, max: 1e6, above: true };
    const wanted = (100 * within(`wanted.${nutrient}`, asked, range)) / wantedN;
    const held = within(`product.${nutrient}`, i.product[nutrient] ?? 0, {
      label: nutrient,
      unit: '%',
      min: 0,
      max: 100,
    });
    const product = (100 * held) / productN;
    return [
      nutrient === 'N'
        ? { nutrient, wanted, product, times: null, says: 'basis' }
        : { nutrient, wanted, product, times: product / wanted, says: says(product / wanted) },
    ];
  });
}
