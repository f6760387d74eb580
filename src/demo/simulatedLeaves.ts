import { logMiddle, limitsOf } from '../core/tissue/limits';
import type { LeafStandards } from '../core/book/leafStandards';
import { tissueNutrientOf } from '../core/book/tissueNutrients';
import type { LeafSampleFact } from '../core/facts/leafSample';
import { normalFrom, randomStream, seedOf } from '../core/quantity/random';

/** A sample on its way, and the crop of the leaf ranges that it is of. */
export interface WaitingLeaf {
  fieldName: string;
  /** Null: no range reads this crop; the plants are then like others of the same part. */
  tissueCrop: string | null;
  sample: LeafSampleFact;
}
/** What is asked for of every leaf. */
const SET = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'B', 'Zn', 'Mn', 'Fe', 'Cu'];
/** What affected plants hold of the nutrient that they lack, to what healthy ones hold. */
const LACKING = 0.4;
/** How far a made-up field lies from the middle of its ranges, as a share of their width. */
const FIELD_SWING = 0.35;

/**
 * The stand-in laboratory's answer for leaves: made-up plants around the middle of their ranges,
 * each field with its own bent, affected plants short of one nutrient, and the error of sampling
 * and analysis. The same samples always get the same figures.
 */
export function simulateLeaves(
  standards: LeafStandards,
  waiting: readonly WaitingLeaf[],
): { headers: string[]; rows: string[][] } {
  const headers = ['Sample', 'Field', 'Part', 'BBCH', 'Date sampled', 'Pair'].concat(
    SET.map((x) => `${x} (${tissueNutrientOf(x).coreUnit})`),
  );
  const rows = waiting.map(({ fieldName, tissueCrop, sample }) => {
    const ofPart = standards.ranges.filter((r) => r.part === sample.part);
    const own = ofPart.filter(
      (r) => r.crop === tissueCrop && sample.bbch >= r.bbchFrom - 2 && sample.bbch <= r.bbchTo + 2,
    );
    // Out of its window, or without a window, a plant still holds something.
    const ranges = own.length > 0 ? own : ofPart;
    const field = randomStream(seedOf(fieldName));
    const chance = randomStream(seedOf(`${fieldName}|${sample.id}`));
    const short = SET[Math.floor(field() * SET.length)];
    const cells = SET.map((x) => {
      const row = ranges.find((r) => r.nutrient === x);
      if (!row) return '';
      const bent = Math.exp(FIELD_SWING * (2 * field() - 1));
      const error = Math.exp((tissueNutrientOf(x).combinedCvPct / 100) * normalFrom(chance));
      const lacks = sample.role === 'affected' && x === short ? LACKING : 1;
      return Number((logMiddle(limitsOf(row)) * bent * error * lacks).toPrecision(3)).toString();
    });
    return [
      sample.laboratoryNumber ?? sample.id,
      fieldName,
      sample.part.replaceAll('_', ' '),
      String(sample.bbch),
      sample.date,
      sample.role === 'affected' ? 'bad' : sample.role === 'unaffected' ? 'good' : '',
      ...cells,
    ];
  });
  return { headers, rows };
}
