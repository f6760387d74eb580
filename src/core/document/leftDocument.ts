import { z } from 'zod';
import { num } from '../quantity/input';

// What a person decides beside the figures: nutrients that are left out on purpose, and credits
// that nobody measured and that are reckoned with all the same.

const SHEET_NUTRIENTS = ['n', 'p', 'k', 's'] as const;
/** A remainder that a person leaves out, with the reason (chapter 7, W1.4). */
export const leftOut = z.strictObject({
  id: z.string({ error: 'an id' }).min(1).max(60),
  nutrient: z.enum(SHEET_NUTRIENTS),
  /** Null: all that is still to apply. */
  kgHa: num({ label: 'Left out', unit: 'kg/ha', min: 0, max: 1000 }).nullable(),
  /** Brought with another year's dressing, or simply not given. */
  reason: z.enum(['rotation', 'decision']),
  words: z
    .string({ error: 'text' })
    .trim()
    .min(3, { error: '3 letters or more' })
    .max(200, { error: 'at most 200 letters' }),
  by: z.string({ error: 'text' }).max(120, { error: 'at most 120 letters' }).nullable(),
  until: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
});
export type LeftOut = z.infer<typeof leftOut>;

/** Credits of a plan that may be unknown (chapter 7, W4.5). */
export const UNKNOWN_CREDITS = [
  'soil_nitrate',
  'organic_matter',
  'previous_crop',
  'green_manure',
  'earlier_manure',
  'crop_n_in_spring',
  'soil_sulphate',
  'irrigation_nitrate',
] as const;
/** An unknown credit that is reckoned with at a figure of its usual range, or at one's own. */
export const assumedCredit = z.strictObject({
  /** The line of the sheet. */
  id: z.enum(UNKNOWN_CREDITS),
  take: z.enum(['low', 'middle', 'own']),
  /** Of `own` alone. */
  kgHa: num({ label: 'Assumed', unit: 'kg/ha', min: 0, max: 400 }).nullable(),
});
export type UnknownCredit = (typeof UNKNOWN_CREDITS)[number];
export type AssumedCredit = z.infer<typeof assumedCredit>;
