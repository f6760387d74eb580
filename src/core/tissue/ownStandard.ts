import { mean, quantile, sampleStandardDeviation } from 'simple-statistics';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import type { NormOfPair } from './dris';

// A standard out of a farm's own good blocks (chapter 5, section 5, own optimum, and F8.5): how
// many, mean and spread. It informs, and never takes the place of a printed range.

/** From so many samples on the middle eight tenths of the good blocks are told. */
export const ENOUGH_FOR_SPAN = 30;
/** Norms of a balance want so many samples of good crops; 200 are better. */
export const ENOUGH_FOR_NORMS = 50;
/** Fewer are no standard, but a few leaves. */
const FEWEST = 3;
const LOWER_TENTH = 0.1;
const UPPER_TENTH = 0.9;

/** Nutrient to value of one sample, in the unit of the ranges. */
export type LeafFigures = Readonly<Record<string, number>>;
export interface OwnFigure {
  nutrient: string;
  n: number;
  mean: number;
  /** Null of a single sample. */
  sd: number | null;
  lower: number | null;
  upper: number | null;
}
const checked = (samples: readonly LeafFigures[]): readonly LeafFigures[] => {
  samples.forEach((s) =>
    Object.entries(s).forEach(([x, v]) =>
      within(`samples.${x}`, v, { label: x, unit: '', min: 0, max: 1e6, above: true }),
    ),
  );
  return samples;
};
const nutrientsOf = (samples: readonly LeafFigures[]): string[] => [
  ...new Set(samples.flatMap((s) => Object.keys(s))),
];
const valuesOf = (samples: readonly LeafFigures[], nutrient: string): number[] =>
  samples.flatMap((s) => (s[nutrient] === undefined ? [] : [s[nutrient]]));

/**
 * Mean and spread of every nutrient in leaves of good blocks; of 30 or more also the middle eight
 * tenths.
 *
 * @param samples one or more, values above 0 in the unit of the ranges
 * @throws Refusal for no sample, or a value that is not above 0
 * @example ownFigures([{ N: 2.8 }, { N: 3 }, { N: 3.2 }])[0].mean // 3
 */
export function ownFigures(samples: readonly LeafFigures[]): OwnFigure[] {
  if (samples.length === 0) refuse('missing', 'samples', 'samples: choose one good block or more.');
  return nutrientsOf(checked(samples)).map((nutrient) => {
    const values = valuesOf(samples, nutrient);
    const spans = values.length >= ENOUGH_FOR_SPAN;
    return {
      nutrient,
      n: values.length,
      mean: mean(values),
      sd: values.length < 2 ? null : sampleStandardDeviation(values),
      lower: spans ? quantile(values, LOWER_TENTH) : null,
      upper: spans ? quantile(values, UPPER_TENTH) : null,
    };
  });
}

export type BesideOwn = 'far_below' | 'below' | 'alike' | 'above' | 'far_above' | 'too_few';
/**
 * Where a leaf lies among the good blocks: within one spread of their mean it is like them. A few
 * leaves of one block lie closer together than one sample is sure: the spread is never taken
 * narrower than sampling and laboratory make it. It is no class: nothing is called short by it.
 *
 * @param combinedCvPct variation of laboratory and sampling, %
 * @example besideOwn(2.3, { n: 12, mean: 2.9, sd: 0.2 }, 6) // 'far_below'
 */
export function besideOwn(
  value: number,
  { n, mean: m, sd }: Pick<OwnFigure, 'n' | 'mean' | 'sd'>,
  combinedCvPct: number,
): BesideOwn {
  if (n < FEWEST || sd === null) return 'too_few';
  const z = (value - m) / Math.max(sd, (m * combinedCvPct) / 100);
  if (Math.abs(z) <= 1) return 'alike';
  return z < 0 ? (z < -2 ? 'far_below' : 'below') : z > 2 ? 'far_above' : 'above';
}

/** Pairs are taken one way round, so that each stands once. */
const IN_ORDER = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'B', 'Zn', 'Mn', 'Cu', 'Fe', 'Mo'];
const MOST_CV_PCT = 100;
/**
 * Norms of the balance of nutrients out of leaves of good crops: mean and variation of every pair
 * that all of them hold.
 *
 * @param samples 50 or more leaves of good crops of one crop, part and stage
 * @throws Refusal for fewer, or where no pair has a usable variation
 * @example normsOf(Array.from({ length: 50 }, (_, k) => ({ N: 3 + k / 100, P: 0.3 })))[0].ratio // 'N/P'
 */
export function normsOf(samples: readonly LeafFigures[]): NormOfPair[] {
  if (samples.length < ENOUGH_FOR_NORMS)
    refuse(
      'out_of_range',
      'samples',
      `samples: ${samples.length} are too few for norms: at least ${ENOUGH_FOR_NORMS} of good crops, better 200.`,
      { value: samples.length, allowed: `${ENOUGH_FOR_NORMS} or more` },
    );
  checked(samples);
  const inAll = IN_ORDER.filter((x) => valuesOf(samples, x).length === samples.length);
  const norms = inAll.flatMap((a, k) =>
    inAll.slice(k + 1).flatMap((b): NormOfPair[] => {
      const ratios = samples.map((s) => (s[a] ?? 0) / (s[b] ?? 1));
      const normMean = mean(ratios);
      const cvPct = (100 * sampleStandardDeviation(ratios)) / normMean;
      return cvPct > 0 && cvPct <= MOST_CV_PCT ? [{ ratio: `${a}/${b}`, normMean, cvPct }] : [];
    }),
  );
  if (norms.length === 0)
    refuse('missing', 'samples', 'samples: no two nutrients stand in all of them.');
  return norms;
}
