import { z } from 'zod';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';
import { factHead } from './head';

/**
 * Nitrate of one layer of the soil. Layers lie on each other without gap or overlap: the credit
 * refuses them else, by name.
 */
const ground = {
  topCm: num(RANGES.layerCm),
  bottomCm: num(RANGES.layerCm),
  bulkDensityGCm3: num(RANGES.bulkDensityGCm3).nullable(),
  stonesVolFrac: num(RANGES.stonesVolFrac).nullable(),
};
const goesDown = (l: { topCm: number; bottomCm: number }): boolean => l.bottomCm > l.topCm;
const DEEPER = { path: ['bottomCm'], error: 'deeper than the top of the layer' };
const nitrateLayer = z
  .strictObject({ ...ground, no3nMgKg: num(RANGES.no3nMgKg) })
  .refine(goesDown, DEEPER);
export type NitrateLayer = z.infer<typeof nitrateLayer>;
export const nitrateLayers = z.array(nitrateLayer).max(6);
/** Sulphate-S of one layer of the same profile: a laboratory finds it in the same extract or not. */
const sulphateLayer = z
  .strictObject({ ...ground, so4sMgKg: num(RANGES.so4sMgKg) })
  .refine(goesDown, DEEPER);
export type SulphateLayer = z.infer<typeof sulphateLayer>;
export const sulphateLayers = z.array(sulphateLayer).max(6);

/**
 * Nitrate of a field on one day, by layers: the only home of this fact, whether typed or out of a
 * laboratory's file.
 */
export const nitrateProfileFact = z.strictObject({
  ...factHead,
  date: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
  laboratory: z.string({ error: 'text' }).max(500).nullable(),
  layers: nitrateLayers,
  sulphateLayers,
});
export type NitrateProfileFact = z.infer<typeof nitrateProfileFact>;
