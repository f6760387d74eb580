import { mean } from 'simple-statistics';
import { tissueNutrientOf } from '../book/tissueNutrients';
import type { LeafResult } from '../lines/leaf';
import type { LeafFigures } from '../tissue/ownStandard';

// Sums over blocks that stand side by side: apart from how they are found, so that a page that shows
// them need not fetch the tables of ranges.

export interface LeafBlock {
  leafId: string;
  fieldId: string;
  field: string;
  date: string;
  bbch: number;
  /** What was harvested in the season of the leaf; null: nobody said. */
  yieldTHa: number | null;
  values: { nutrient: string; unit: string; value: number; cls: LeafResult['cls'] }[];
}
/** Leaves that may be compared: one crop, its group of cultivars, part and stage. */
export interface BlockGroup {
  key: string;
  cropKey: string;
  cropName: string;
  part: string;
  partLabel: string;
  stageLabel: string;
  bbchFrom: number;
  bbchTo: number;
  /** Set of the printed ranges; null: this crop has none. */
  setId: string | null;
  nutrients: {
    nutrient: string;
    unit: string;
    low: number | null;
    high: number | null;
    /** Source and confidence of the printed range; empty without one. */
    by: string;
  }[];
  /** By yield, the best first; those without one last, the newest first. */
  blocks: LeafBlock[];
}

/** The best yield first; those without one last, the newest first. */
export const byYield = (a: LeafBlock, b: LeafBlock): number =>
  Number(a.yieldTHa === null) - Number(b.yieldTHa === null) ||
  (b.yieldTHa ?? 0) - (a.yieldTHa ?? 0) ||
  b.date.localeCompare(a.date) ||
  a.field.localeCompare(b.field);

/** Leaves as the sums of a standard take them. */
export const figuresOf = (blocks: readonly LeafBlock[]): LeafFigures[] =>
  blocks.map((b) => Object.fromEntries(b.values.map((v) => [v.nutrient, v.value])));

const QUARTER = 4;
/** The best quarter by yield, of four blocks or more whose yield is known. */
export function bestQuarter(blocks: readonly LeafBlock[]): string[] {
  const known = blocks.filter((b) => b.yieldTHa !== null);
  return known.length < QUARTER
    ? []
    : known
        .toSorted(byYield)
        .slice(0, Math.floor(known.length / QUARTER))
        .map((b) => b.leafId);
}

export interface BlocksApart {
  nutrient: string;
  good: number;
  others: number;
  pct: number;
  /** Farther apart than sampling and laboratory alone put them. */
  sure: boolean;
}
const LEAST_PCT = 15;
const LEAST_Z = 2;
/**
 * Good blocks against the others, by the measure of a pair (chapter 5, F9.2 and F9.3): the log ratio
 * of their means against the error of both.
 *
 * @example blocksApart([{ K: 1.6 }, { K: 1.7 }], [{ K: 1.1 }, { K: 1.2 }])[0].sure // true
 */
export function blocksApart(
  good: readonly LeafFigures[],
  others: readonly LeafFigures[],
): BlocksApart[] {
  const nutrients = [...new Set(good.flatMap((s) => Object.keys(s)))];
  return nutrients.flatMap((nutrient): BlocksApart[] => {
    const of = (list: readonly LeafFigures[]) =>
      list.flatMap((s) => (s[nutrient] === undefined ? [] : [s[nutrient]]));
    const [g, o] = [of(good), of(others)];
    const { combinedCvPct } = tissueNutrientOf(nutrient);
    if (g.length === 0 || o.length === 0 || combinedCvPct <= 0) return [];
    const [a, b] = [mean(g), mean(o)];
    const u = (combinedCvPct / 100) * Math.sqrt(1 / g.length + 1 / o.length);
    const pct = 100 * (a / b - 1);
    return [
      {
        nutrient,
        good: a,
        others: b,
        pct,
        sure: Math.abs(Math.log(a / b)) / u >= LEAST_Z && Math.abs(pct) >= LEAST_PCT,
      },
    ];
  });
}
