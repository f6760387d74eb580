import { z } from 'zod';
import { num } from '../quantity/input';

// What somebody saw or measured in the growing crop, and the other plan that this one is weighed
// against.

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const id = z.string({ error: 'an id' }).min(1).max(120);

/** A growth stage that was seen in the field: it puts the crop's clock right. */
export const observedStage = z.strictObject({
  id,
  date,
  stage: z
    .string({ error: 'a stage of the crop' })
    .regex(/^\d{2}$/u, { error: 'two digits, as in the crop’s table of stages' }),
});
export type ObservedStage = z.infer<typeof observedStage>;

/** Nitrate of the topsoil when the crop is a foot high, before the sidedressing. */
export const sidedressTest = z.strictObject({
  date,
  nitrateNMgKg: num({
    label: 'Nitrate-N, 0 to 30 cm',
    unit: 'mg/kg',
    min: 0,
    max: 200,
  }).nullable(),
  plantHeightCm: num({
    label: 'Height of the plants',
    unit: 'cm',
    min: 1,
    max: 300,
  }).nullable(),
});
/** The field beside a strip that was fed richly, by the same meter on the same day. */
export const richStrip = z.strictObject({
  date,
  fieldReading: num({
    label: 'Reading of the field',
    unit: '',
    min: 0,
    max: 1000,
    above: true,
  }).nullable(),
  stripReading: num({
    label: 'Reading of the strip',
    unit: '',
    min: 0,
    max: 1000,
    above: true,
  }).nullable(),
});
