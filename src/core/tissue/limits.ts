import { refuse } from '../quantity/refusal';
import type { SufficiencyRow } from '../book/leafStandards';

/** Limits of one nutrient in one standard (chapter 5, F5.0). `d` and `t` may be missing. */
export interface LeafLimits {
  d: number | null;
  l: number;
  sl: number;
  sh: number;
  hh: number;
  t: number | null;
}
export const limitsOf = (r: SufficiencyRow): LeafLimits => ({
  d: r.deficientBelow,
  l: r.lowBelow,
  sl: r.sufficientLow,
  sh: r.sufficientHigh,
  hh: r.highAbove,
  t: r.toxicAbove,
});

export function rowOfSet(
  ranges: readonly SufficiencyRow[],
  setId: string,
  nutrient: string,
): SufficiencyRow {
  const row = ranges.find((r) => r.setId === setId && r.nutrient === nutrient);
  if (row) return row;
  return refuse(
    'unknown_id',
    ranges.some((r) => r.setId === setId) ? 'nutrient' : 'set_id',
    `no range for ${setId} / ${nutrient}.`,
    { value: setId },
  );
}

/** Middle of a range on a log scale; SH/2 when the lower limit is 0. */
export const logMiddle = (l: LeafLimits): number =>
  l.sl === 0 ? l.sh / 2 : Math.sqrt(l.sl * l.sh);
