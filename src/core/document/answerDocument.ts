import { z } from 'zod';
import { num } from '../quantity/input';

// What people say beside the figures of a plan: who does a job, and what becomes of a caution.

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const id = z.string({ error: 'an id' }).min(1).max(120);
const words = (min: number) =>
  z
    .string({ error: 'text' })
    .trim()
    .min(min, { error: `${min} letters or more` })
    .max(200, { error: 'at most 200 letters' });

/** Who does a job of the plan: a pass, a dressing, the lime. */
export const jobTaken = z.strictObject({ line: id, who: words(1) });
export type JobTaken = z.infer<typeof jobTaken>;

/**
 * What somebody answered to a caution (chapter 7, W7.6): accepted with a reason, or put off until a
 * day. It holds as long as what is at stake stays about the same.
 */
export const cautionAnswer = z.strictObject({
  /** The caution: its rule and what it is about. */
  caution: id,
  state: z.enum(['accepted', 'postponed']),
  words: words(10).nullable(),
  by: words(1).nullable(),
  on: date,
  /** Of a caution put off: until when. */
  until: date.nullable(),
  /** What was at stake that day, kg/ha of the nutrient; null where it was not reckoned. */
  kgHa: num({ label: 'At stake', unit: 'kg/ha', min: 0, max: 5000 }).nullable(),
});
export type CautionAnswer = z.infer<typeof cautionAnswer>;

/** A day on which a forage crop is cut or grazed, and what it brings. */
export const forageCut = z.strictObject({
  date,
  yieldTHa: num({ label: 'Yield of the cut', unit: 't/ha', min: 0, max: 50 }).nullable(),
});
export type ForageCut = z.infer<typeof forageCut>;
