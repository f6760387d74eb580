import { largestRemainder } from '../budget/ledger';
import { NUTRIENT_KEYS, type LedgerLine, type NutrientKey } from '../lines/line';

export type Amounts = Record<NutrientKey, number | null>;

const signed = (l: LedgerLine, x: NutrientKey): number | null =>
  l[x] === null || l.struck !== null
    ? null
    : (l.kind === 'requirement' || l.kind === 'debit' ? 1 : -1) * (l[x] ?? 0);

/**
 * Whole kilograms for each line and nutrient that still add up to the total (largest remainder,
 * chapter 1, B2). Signs as on the sheet:
 * needs plus, what is found minus.
 */
export function wholeKilograms(lines: readonly LedgerLine[]): Map<string, Amounts> {
  const out = new Map<string, Amounts>(
    lines.map((l) => [l.id, { n: null, p: null, k: null, s: null }]),
  );
  for (const x of NUTRIENT_KEYS) {
    const known = lines.flatMap((l) => {
      const v = signed(l, x);
      return v === null ? [] : [{ id: l.id, v: Math.round(v * 100) / 100 }];
    });
    const { roundedLines } = largestRemainder(known.map((k) => k.v));
    known.forEach((k, i) => {
      const row = out.get(k.id);
      if (row) row[x] = roundedLines[i] ?? 0;
    });
  }
  return out;
}
