import type { Book } from '../book/book';
import { cropOf, CROPS, tissueCropOf } from '../book/crops';
import { leafStandards } from '../book/leafStandards';
import type { LeafSampleFact } from '../facts/leafSample';
import { readLeaf, type LeafResult } from '../lines/leaf';
import { standardsFor } from '../tissue/standard';
import { byYield, type BlockGroup, type LeafBlock } from './blockFigures';

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
/** Stages of a crop without windows of its own are taken together by so many codes. */
const STAGE_STEP = 10;

const valuesOf = (results: readonly LeafResult[]): LeafBlock['values'] =>
  results.flatMap((r) =>
    r.value !== null && r.value > 0 && !r.blocked && r.refused === null
      ? [{ nutrient: r.nutrient, unit: r.coreUnit, value: r.value, cls: r.cls }]
      : [],
  );
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
            by: r.why ? [r.why.source, r.why.confidence].filter(Boolean).join(', ') : '',
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
