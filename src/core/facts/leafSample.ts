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
