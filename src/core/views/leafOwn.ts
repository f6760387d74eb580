import { tissueCropOf } from '../book/crops';
import type { Book } from '../book/book';
import { leafStandards, type SufficiencyRow } from '../book/leafStandards';
import { tissueNutrientOf } from '../book/tissueNutrients';
import type { Plan } from '../document/document';
import type { LeafNorm, OwnLeafStandard } from '../document/leafDocument';
import type { LeafResult, ReadLeaf } from '../lines/leaf';
import { Refusal } from '../quantity/refusal';
import { balanceSays, drisBy, type BalanceSays, type DrisReading } from '../tissue/dris';
import { besideOwn, ENOUGH_FOR_SPAN, type BesideOwn } from '../tissue/ownStandard';
import { findStandard } from '../tissue/standard';

// What stands beside a leaf out of the farm's own making: good blocks of its own, norms that it
// brought, and a similar crop's ranges. None of them classes a leaf, moves a pass or fires a rule.

/** A leaf's figure that counts. */
const counts = (r: LeafResult): r is LeafResult & { value: number } =>
  r.value !== null && r.value > 0 && !r.blocked && r.refused === null;
/** What a standard or a norm is for. */
type Place = Pick<OwnLeafStandard, 'cropKey' | 'setId' | 'part' | 'bbchFrom' | 'bbchTo'>;
/** Of the same crop, group of cultivars, part and window; between two windows the earlier one counts. */
const isOf = ({ sample, assessment }: ReadLeaf, w: Place): boolean =>
  w.cropKey === sample.cropKey &&
  w.part === sample.part &&
  (assessment.standard?.setId.split('+')[0] ?? null) === w.setId;
const inStages = ({ sample }: ReadLeaf, w: Place): boolean =>
  sample.bbch >= w.bbchFrom && sample.bbch <= w.bbchTo;

export interface OwnBeside {
  standard: OwnLeafStandard;
  /** Fewer samples than a span of good blocks wants. */
  provisional: boolean;
  rows: {
    nutrient: string;
    unit: string;
    value: number;
    figure: OwnLeafStandard['figures'][number];
    says: BesideOwn;
  }[];
}
/** The leaf among the farm's good blocks. */
export const ownBeside = (plan: Pick<Plan, 'farm'>, leaf: ReadLeaf): OwnBeside[] =>
  plan.farm.ownLeaf.standards
    .filter((s) => isOf(leaf, s) && (s.setId !== null || inStages(leaf, s)))
    .map((standard) => ({
      standard,
      provisional: standard.blocks.length < ENOUGH_FOR_SPAN,
      rows: leaf.assessment.results.filter(counts).flatMap((r) => {
        const figure = standard.figures.find((f) => f.nutrient === r.nutrient);
        return figure
          ? [
              {
                nutrient: r.nutrient,
                unit: r.coreUnit,
                value: r.value,
                figure,
                says: besideOwn(r.value, figure, tissueNutrientOf(r.nutrient).combinedCvPct),
              },
            ]
          : [];
      }),
    }));

export interface BalanceBeside {
  normSet: string;
  norms: LeafNorm[];
  reading: DrisReading | null;
  /** Why there is no reading. */
  refused: string | null;
  /** The relatively shortest first. */
  rows: { nutrient: string; index: number; says: BalanceSays }[];
}
/** Balance by the norms of the farm that fit crop, part and stage. */
export function balanceBeside(plan: Pick<Plan, 'farm'>, leaf: ReadLeaf): BalanceBeside[] {
  const fitting = plan.farm.ownLeaf.norms.filter((x) => isOf(leaf, x) && inStages(leaf, x));
  const values = Object.fromEntries(
    leaf.assessment.results.filter(counts).map((r) => [r.nutrient, r.value]),
  );
  return [...new Set(fitting.map((x) => x.normSet))].map((normSet) => {
    const norms = fitting.filter((x) => x.normSet === normSet);
    try {
      const reading = drisBy(norms, { normSet, values });
      const scoreOf = (x: string) =>
        leaf.assessment.results.find((r) => r.nutrient === x)?.score ?? null;
      const rows = Object.entries(reading.index)
        .map(([nutrient, index]) => ({
          nutrient,
          index,
          says: balanceSays({ index, nbiMean: reading.nbiMean, score: scoreOf(nutrient) }),
        }))
        .toSorted((a, b) => a.index - b.index);
      return { normSet, norms, reading, refused: null, rows };
    } catch (e) {
      if (e instanceof Refusal)
        return { normSet, norms, reading: null, refused: e.message, rows: [] };
      throw e;
    }
  });
}

export interface SimilarBeside {
  like: string;
  /** Why nothing of it can stand beside this leaf; null where something does. */
  refused: string | null;
  rows: {
    nutrient: string;
    unit: string;
    value: number;
    row: SufficiencyRow;
    says: 'below' | 'within' | 'above';
  }[];
}
/**
 * Ranges of a similar crop beside a leaf whose own crop has none: of the same part and stage alone,
 * and only where the farm named that crop.
 */
export function similarBeside(
  book: Book,
  plan: Pick<Plan, 'farm' | 'season'>,
  leaf: ReadLeaf,
): SimilarBeside | null {
  const { sample } = leaf;
  const named = plan.farm.ownLeaf.similar.find((x) => x.cropKey === sample.cropKey);
  const use = sample.cropKey === plan.season.cropKey ? plan.season.use : null;
  if (!named || tissueCropOf(book, sample.cropKey, use) !== null) return null;
  const { ranges } = leafStandards(book);
  const rows = leaf.assessment.results.filter(counts).flatMap((r): SimilarBeside['rows'] => {
    try {
      const { row, limits } = findStandard(ranges, {
        crop: named.like,
        part: sample.part,
        bbch: sample.bbch,
        nutrient: r.nutrient,
        system: sample.system,
      });
      return [
        {
          nutrient: r.nutrient,
          unit: r.coreUnit,
          value: r.value,
          row: { ...row, sufficientLow: limits.sl, sufficientHigh: limits.sh },
          says: r.value < limits.sl ? 'below' : r.value > limits.sh ? 'above' : 'within',
        },
      ];
    } catch (e) {
      if (e instanceof Refusal) return [];
      throw e;
    }
  });
  return {
    like: named.like,
    rows,
    refused:
      rows.length > 0
        ? null
        : `${named.like.replaceAll('_', ' ')} has no range of this part at stage ${sample.bbch}.`,
  };
}
