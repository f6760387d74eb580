import { z } from 'zod';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';

// What was seen and measured of the crop's health, and what follows for the season after.

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const id = z.string({ error: 'an id' }).min(1).max(60);
const key = z.string({ error: 'a key of the library' }).min(1).max(60);

/**
 * Symptoms of one occasion. What was not looked at is not there: it is not a no. Lists of rows with
 * ids, so that two people who look at once lose nothing.
 */
export const symptoms = z.strictObject({
  seenOn: date,
  answers: z.array(z.strictObject({ id, yes: z.boolean() })).max(60),
  /** Pictures that are telling for the crop and were seen. */
  pictures: z.array(z.strictObject({ id })).max(20),
  /** Conditions of soil, season and history. */
  conditions: z.array(z.strictObject({ id })).max(30),
  /** Tests that were done, each with its outcome. */
  tests: z.array(z.strictObject({ id, outcome: id })).max(20),
});
/** A reading of a quick meter in pressed sap. */
export const sapMeasured = z.strictObject({
  id,
  date,
  bbch: num({ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }),
  meter: z.enum(['NO3', 'NO3-N', 'K']),
  readingMgL: num({ label: 'Reading', unit: 'mg/L', min: 0, max: 20_000 }),
  dilution: num({ label: 'Dilution', unit: '', min: 1, max: 100 }),
});
/** Fruit that drops early, year after year: what is asked before calcium and potassium are. */
export const fruitDrop = z.strictObject({
  years: num({ label: 'Years in which it dropped', unit: 'years', min: 1, max: 30 }).nullable(),
  drought: z.boolean().nullable(),
  waterlogged: z.boolean().nullable(),
});
/** A fruit block as its calcium sprays and its risk of pitting see it. */
export const fruitBlock = z.strictObject({
  canopyHeightM: num({
    label: 'Height of the trees',
    unit: 'm',
    min: 0,
    max: 20,
    above: true,
  }).nullable(),
  canopyWidthM: num({
    label: 'Width of the trees',
    unit: 'm',
    min: 0,
    max: 12,
    above: true,
  }).nullable(),
  rowM: num({ label: 'Between the rows', unit: 'm', min: 0, max: 15, above: true }).nullable(),
  sprayVolumeLHa: num({ label: 'Water of a spray', unit: 'L/ha', min: 10, max: 5000 }).nullable(),
  loadRatio: num({ label: 'Crop load to a normal one', unit: '', min: 0, max: 3 }).nullable(),
  shootCm: num({ label: 'Shoots', unit: 'cm', min: 0, max: 300 }).nullable(),
  bigFruit: z.boolean().nullable(),
  youngTrees: z.boolean().nullable(),
  peelNCa: num({ label: 'N to Ca of the peel', unit: '', min: 0, max: 100 }).nullable(),
  previousPitPct: num({ label: 'Pitted fruit before', unit: '%', min: 0, max: 100 }).nullable(),
});
/** Whether the condition of a cell of soil and leaf holds here. */
export const soilLeafAnswer = z.strictObject({ id, holds: z.boolean() });
/** A correction of the soil that the next season begins with, as a planned pass. */
export const forNextSeason = z.strictObject({
  id,
  nutrient: z.string().min(1).max(8),
  productId: key,
  productKgHa: num(RANGES.productKgHa),
  why: z.string({ error: 'text' }).max(200, { error: 'at most 200 letters' }),
});
