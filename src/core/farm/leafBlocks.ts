import { mean } from 'simple-statistics';
import type { Book } from '../book/book';
import { cropOf, CROPS, tissueCropOf } from '../book/crops';
import { leafStandards } from '../book/leafStandards';
import { tissueNutrientOf } from '../book/tissueNutrients';
import type { LeafSampleFact } from '../facts/leafSample';
import { readLeaf, type LeafResult } from '../lines/leaf';
import type { LeafFigures } from '../tissue/ownStandard';
import { standardsFor } from '../tissue/standard';

// Leaves of one crop, part and stage over the fields of a farm: blocks side by side, and the good
// ones out of which the farm makes a standard of its own.

/** A field with its leaves and what its seasons gave. */
export interface FieldWithLeaves {
  id: string;
  name: string;
  areaHa: number;
  leaves: readonly LeafSampleFact[];
  seasons: readonly {
    startDate: string;
    cropKey: string | null;
    use: string | null;
    harvestedTHa: number | null;
  }[];
}
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
  nutrients: { nutrient: string; unit: string; low: number | null; high: number | null }[];
  /** By yield, the best first; those without one last, the newest first. */
  blocks: LeafBlock[];
}
/** Stages of a crop without windows of its own are taken together by so many codes. */
const STAGE_STEP = 10;

const valuesOf = (results: readonly LeafResult[]): LeafBlock['values'] =>
  results.flatMap((r) =>
    r.value !== null && r.value > 0 && !r.blocked && r.refused === null
      ? [{ nutrient: r.nutrient, unit: r.coreUnit, value: r.value, cls: r.cls }]
      : [],
  );
const byYield = (a: LeafBlock, b: LeafBlock): number =>
  Number(a.yieldTHa === null) - Number(b.yieldTHa === null) ||
  (b.yieldTHa ?? 0) - (a.yieldTHa ?? 0) ||
  b.date.localeCompare(a.date) ||
  a.field.localeCompare(b.field);

/**
 * Groups of leaves that may be compared. Plants that were picked because they look ill, samples that
 * wait, and leaves that no range reads although their crop has ranges, are in none.
 */
export function leafBlocks(book: Book, fields: readonly FieldWithLeaves[]): BlockGroup[] {
  const groups = new Map<string, BlockGroup>();
  const { ranges } = leafStandards(book);
  for (const field of fields)
    for (const leaf of field.leaves) {
      if (leaf.role === 'affected' || leaf.values.length === 0) continue;
      if (!book.rows(CROPS).has(leaf.cropKey)) continue;
      const season = field.seasons
        .filter((s) => s.startDate <= leaf.date)
        .toSorted((a, b) => b.startDate.localeCompare(a.startDate))[0];
      const sown = season?.cropKey === leaf.cropKey ? season : null;
      const use = sown?.use ?? null;
      const assessment = readLeaf(book, field.areaHa, leaf, use);
      const tissueCrop = tissueCropOf(book, leaf.cropKey, use);
      if (assessment.refused || (tissueCrop !== null && assessment.standard === null)) continue;
      // Between two windows the earlier one names the group.
      const setId = assessment.standard?.setId.split('+')[0] ?? null;
      const from = Math.floor(leaf.bbch / STAGE_STEP) * STAGE_STEP;
      const window = setId
        ? standardsFor(ranges, tissueCrop ?? '').find((s) => s.setId === setId)
        : null;
      const key = `${leaf.cropKey}/${setId ?? `${leaf.part}/${from}`}`;
      const group = groups.get(key) ?? {
        key,
        cropKey: leaf.cropKey,
        cropName: cropOf(book, leaf.cropKey).name,
        part: leaf.part,
        partLabel: window?.partLabel ?? leaf.part.replaceAll('_', ' '),
        stageLabel: window?.stageLabel ?? '',
        bbchFrom: window?.bbchFrom ?? from,
        bbchTo: window?.bbchTo ?? from + STAGE_STEP - 1,
        setId,
        nutrients: [],
        blocks: [],
      };
      groups.set(key, group);
      for (const r of assessment.results)
        if (r.value !== null && !group.nutrients.some((x) => x.nutrient === r.nutrient))
          group.nutrients.push({
            nutrient: r.nutrient,
            unit: r.coreUnit,
            low: r.limits?.sl ?? null,
            high: r.limits?.sh ?? null,
          });
      group.blocks.push({
        leafId: leaf.id,
        fieldId: field.id,
        field: field.name,
        date: leaf.date,
        bbch: leaf.bbch,
        yieldTHa: sown?.harvestedTHa ?? null,
        values: valuesOf(assessment.results),
      });
    }
  return [...groups.values()]
    .map((g) => ({ ...g, blocks: g.blocks.toSorted(byYield) }))
    .toSorted((a, b) => a.cropName.localeCompare(b.cropName) || a.bbchFrom - b.bbchFrom);
}

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
