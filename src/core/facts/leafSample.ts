import { z } from 'zod';
import { num } from '../quantity/input';
import { factHead } from './head';

/** A leaf sample as the laboratory reported it. */
export const leafSampleSchema = z.strictObject({
  id: z.string().min(1).max(60),
  date: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }),
  part: z.string({ error: 'a plant part' }).min(1).max(60),
  bbch: num({ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }),
  system: z.string().max(40).nullable(),
  nOrgans: num({ label: 'Leaves or plants in the sample', unit: '', min: 1, max: 1000 }).nullable(),
  washed: z.enum(['no', 'distilled', 'tap']),
  sprayElements: z.array(z.string().max(4)).max(10),
  daysSinceSpray: num({ label: 'Days since the spray', unit: 'd', min: 0, max: 400 }).nullable(),
  role: z.enum(['survey', 'affected', 'unaffected']),
  /** Hour of the day at which it was picked; where, and by whom. */
  hour: num({ label: 'Hour of sampling', unit: 'h', min: 0, max: 24 }).nullable(),
  place: z.string().max(120).nullable(),
  takenBy: z.string().max(80).nullable(),
  /** Dry matter above ground where it was taken; mass of ten plants, to weigh a pair. */
  biomassTHa: num({ label: 'Biomass, dry', unit: 't/ha', min: 0.05, max: 40 }).nullable(),
  tenPlantsG: num({
    label: 'Ten plants, dry',
    unit: 'g',
    min: 0,
    max: 100_000,
    above: true,
  }).nullable(),
  laboratoryNumber: z.string().max(40).nullable(),
  /** Day on which it went to the laboratory; its values are empty until they are back. */
  sentOn: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
  values: z
    .array(
      z.strictObject({
        nutrient: z.string().min(1).max(8),
        reported: z
          .string({ error: 'a number, or <number' })
          .trim()
          .min(1, { error: 'a number, or <number' })
          .max(20),
        unit: z.string().min(1).max(10),
      }),
    )
    .max(25),
});
export type LeafSample = z.infer<typeof leafSampleSchema>;
/** What nobody said of a sample. */
export const UNSAID_OF_LEAF = {
  hour: null,
  place: null,
  takenBy: null,
  biomassTHa: null,
  tenPlantsG: null,
  laboratoryNumber: null,
  sentOn: null,
} as const satisfies Partial<LeafSample>;

/** A leaf sample with the crop it was taken from. */
export const leafSampleFact = z.strictObject({
  ...factHead,
  cropKey: z.string({ error: 'a key of the library' }).min(1).max(60),
  ...leafSampleSchema.shape,
});
export type LeafSampleFact = z.infer<typeof leafSampleFact>;
/** The sample as it was sent in, without its history. */
export const leafSampleOf = ({
  version: _version,
  author: _author,
  recordedOn: _recordedOn,
  cropKey: _cropKey,
  ...sample
}: LeafSampleFact): LeafSample => sample;
