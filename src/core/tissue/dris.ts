import { drisNorms } from '../book/drisNorms';
import { refuse } from '../quantity/refusal';

// Balance of nutrients against norms of good crops (chapter 5, F8.4): which is relatively shortest.

export interface DrisReading {
  /** Below 0: relatively short. Only nutrients that were measured. */
  index: Record<string, number>;
  /** Sum of the indices without their signs, and by nutrient. */
  nbi: number;
  nbiMean: number;
  /** Pairs that could not be taken, because one of them was not measured. */
  skipped: string[];
}
/** Mean and variation of the ratio of two nutrients in good crops. */
export interface NormOfPair {
  ratio: string;
  normMean: number;
  cvPct: number;
}
const pairOf = (norm: NormOfPair): [string, string] => norm.ratio.split('/') as [string, string];
/** How far a pair is from its norm, on the scale of its variation. */
function distance(a: number, b: number, { normMean: m, cvPct }: NormOfPair): number {
  const r = a / b;
  return ((r >= m ? r / m - 1 : 1 - m / r) * 1000) / cvPct;
}

/** What an index says beside the class of the leaf (F8.4): it acts only where both agree. */
export type BalanceSays = 'short_by_both' | 'relatively_lowest' | 'in_balance';
const SHORT_SCORE = -0.5;
/**
 * Balance and sufficiency beside each other: an index far below the others counts only where the
 * range calls the leaf low as well.
 *
 * @param i.score place of the leaf on the scale of its range; null: it has none
 * @example balanceSays({ index: -20, nbiMean: 12, score: 0.2 }) // 'relatively_lowest'
 */
export function balanceSays(i: {
  index: number;
  nbiMean: number;
  score: number | null;
}): BalanceSays {
  if (i.index >= 0 || Math.abs(i.index) <= i.nbiMean) return 'in_balance';
  return i.score !== null && i.score < SHORT_SCORE ? 'short_by_both' : 'relatively_lowest';
}

/**
 * DRIS indices of a leaf by a set of norms (Beaufils 1973; Walworth & Sumner 1987).
 *
 * @param i.values nutrient -> value, above 0; null where it was not measured
 * @throws Refusal for an unknown set, a value not above 0, or where no pair was measured
 * @example dris({ normSet: 'EXAMPLE_ONLY', values: { N: 2.8, P: 0.3, K: 1.5 } }).index.K // -13.84
 */
export const dris = (i: {
  normSet: string;
  values: Readonly<Record<string, number | null>>;
}): DrisReading =>
  drisBy(
    drisNorms().get(i.normSet) ??
      refuse(
        'unknown_id',
        'norm_set',
        `norm_set = ${i.normSet} is not known: use one of ${[...drisNorms().keys()].join(', ')}.`,
        { value: i.normSet },
      ),
    i,
  );
/** The same by norms that somebody brought. */
export function drisBy(
  norms: readonly NormOfPair[],
  i: { normSet: string; values: Readonly<Record<string, number | null>> },
): DrisReading {
  for (const [x, v] of Object.entries(i.values))
    if (v !== null && !(Number.isFinite(v) && v > 0))
      refuse('out_of_range', `values.${x}`, `${x} = ${v} must be above 0.`, {
        value: v,
        allowed: 'above 0',
      });
  const sums = new Map<string, { sum: number; pairs: number }>();
  const add = (x: string, f: number) => {
    const had = sums.get(x) ?? { sum: 0, pairs: 0 };
    sums.set(x, { sum: had.sum + f, pairs: had.pairs + 1 });
  };
  const skipped: string[] = [];
  for (const norm of norms) {
    const [top, bottom] = pairOf(norm);
    const [a, b] = [i.values[top] ?? null, i.values[bottom] ?? null];
    if (a === null || b === null) {
      skipped.push(norm.ratio);
      continue;
    }
    const f = distance(a, b, norm);
    add(top, f);
    add(bottom, -f);
  }
  if (sums.size === 0) refuse('missing', 'values', `values: no pair of ${i.normSet} was measured.`);
  const index = Object.fromEntries([...sums].map(([x, { sum, pairs }]) => [x, sum / pairs]));
  const nbi = Object.values(index).reduce((s, v) => s + Math.abs(v), 0);
  return { index, nbi, nbiMean: nbi / sums.size, skipped };
}
