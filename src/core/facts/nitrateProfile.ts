import { z } from 'zod';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';
import { factHead } from './head';

/**
 * Nitrate of one layer of the soil. Layers lie on each other without gap or overlap: the credit
 * refuses them else, by name.
 */
const nitrateLayer = z
  .strictObject({
    topCm: num(RANGES.layerCm),
    bottomCm: num(RANGES.layerCm),
    no3nMgKg: num(RANGES.no3nMgKg),
    bulkDensityGCm3: num(RANGES.bulkDensityGCm3).nullable(),
    stonesVolFrac: num(RANGES.stonesVolFrac).nullable(),
  })
  .refine((l) => l.bottomCm > l.topCm, {
    path: ['bottomCm'],
    error: 'deeper than the top of the layer',
  });
export type NitrateLayer = z.infer<typeof nitrateLayer>;
export const nitrateLayers = z.array(nitrateLayer).max(6);

/**
 * Nitrate of a field on one day, by layers: the only home of this fact, whether typed or out of a
 * laboratory's file.
 */
export const nitrateProfileFact = z.strictObject({
  ...factHead,
  date: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
  laboratory: z.string({ error: 'text' }).max(500).nullable(),
  layers: nitrateLayers,
});
export type NitrateProfileFact = z.infer<typeof nitrateProfileFact>;
