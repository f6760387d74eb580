import { z } from 'zod';
import { num } from '../quantity/input';

// Leaf standards that a farm has made or taken for itself: they stand beside the printed ranges and
// never in their place.

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const key = z.string({ error: 'a key of the library' }).min(1).max(60);
const bbch = num({ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 });
const concentration = num({ label: 'Leaf value', unit: '', min: 0, max: 1_000_000 });
const whose = { by: z.string().max(120), on: date };
const where = {
  cropKey: key,
  /** Set of the printed ranges, so that groups of cultivars are never mixed; null: the crop has none. */
  setId: key.nullable(),
  part: key,
  bbchFrom: bbch,
  bbchTo: bbch,
};

/** Mean and spread of one nutrient in the leaves of good blocks. */
const ownLeafFigure = z.strictObject({
  nutrient: z.string().min(1).max(8),
  n: num({ label: 'Samples', unit: '', min: 1, max: 10_000 }),
  mean: concentration,
  /** Standard deviation; null of a single sample. */
  sd: concentration.nullable(),
  /** Tenth and ninetieth part of a hundred, once there are enough samples for them. */
  lower: concentration.nullable(),
  upper: concentration.nullable(),
});
/** A provisional standard out of the good blocks of the farm. */
const ownLeafStandard = z.strictObject({
  id: z.string().min(1).max(60),
  ...where,
  /** The samples that it was made of, so that anybody can look them up. */
  blocks: z
    .array(z.strictObject({ field: z.string().min(1).max(120), date }))
    .min(1)
    .max(400),
  figures: z.array(ownLeafFigure).min(1).max(25),
  /** Why these blocks are called good. */
  why: z
    .string({ error: 'text' })
    .trim()
    .min(3, { error: '3 letters or more' })
    .max(300, { error: 'at most 300 letters' }),
  ...whose,
});
/** A norm of the balance of two nutrients (chapter 5, F8.5). None without its variation. */
export const leafNorm = z.strictObject({
  normSet: z.string({ error: 'text' }).trim().min(1).max(60, { error: '1 to 60 letters' }),
  ...where,
  ratio: z.string().regex(/^[A-Z][A-Za-z]?\/[A-Z][A-Za-z]?$/u, { error: 'two nutrients, N/P' }),
  normMean: num({ label: 'Mean of the norm', unit: '', min: 0, max: 1_000_000, above: true }),
  cvPct: num({ label: 'Variation of the norm', unit: '%', min: 0, max: 100, above: true }),
  /** Samples of good crops behind it; null: its source does not say. */
  nSamples: num({ label: 'Samples', unit: '', min: 50, max: 1_000_000 }).nullable(),
  source: z.string({ error: 'text' }).trim().min(3, { error: '3 letters or more' }).max(200),
  confidence: z.enum(['low', 'medium', 'high']),
  ...whose,
});
/** Another crop whose ranges are shown beside a leaf, as those of a similar one and nothing more. */
const similarLeaf = z.strictObject({
  cropKey: key,
  /** Crop of the leaf ranges. */
  like: key,
  ...whose,
});
export const ownLeaf = z.strictObject({
  standards: z.array(ownLeafStandard).max(60),
  norms: z.array(leafNorm).max(400),
  similar: z.array(similarLeaf).max(60),
});
export type OwnLeaf = z.infer<typeof ownLeaf>;
export type OwnLeafStandard = z.infer<typeof ownLeafStandard>;
export type LeafNorm = z.infer<typeof leafNorm>;
