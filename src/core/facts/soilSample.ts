import { z } from 'zod';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';
import { factHead } from './head';

/** Units of soil tests; kg/ha are of chloride alone, in the layer 0-60 cm. */
export const SOIL_UNITS = ['mg_kg', 'mg_l', 'lb_ac', 'kg_ha'] as const;
const key = z.string({ error: 'a key of the library' }).min(1).max(60);

/** A reading of a soil test, by its own extractant. */
export const soilReading = z.strictObject({
  nutrient: z.enum(['p', 'k', 'mg', 's', 'ca', 'b', 'zn', 'mn', 'cu', 'fe', 'cl']),
  extractant: key,
  value: num(RANGES.testMgKg),
  unit: z.enum(SOIL_UNITS),
  /** The laboratory reported "less than"; the value is half its limit. */
  belowDetection: z.boolean(),
});
export type SoilReading = z.infer<typeof soilReading>;

/** What a laboratory found in a soil sample, and how it was taken. */
export const soilFindings = {
  laboratory: z.string({ error: 'text' }).max(500, { error: 'at most 500 letters' }).nullable(),
  depthCm: num(RANGES.sampleDepthCm).nullable(),
  nCores: num(RANGES.nCores).nullable(),
  nPoints: num({ label: 'Points sampled', unit: '', min: 1, max: 6000 }).nullable(),
  moisture: z.enum(['dry', 'moist', 'wet']).nullable(),
  phWater: num(RANGES.phWater).nullable(),
  phCacl2: num(RANGES.phSalt).nullable(),
  bufferKind: z.enum(['adams_evans', 'smp', 'sikora', 'mehlich']).nullable(),
  bufferPh: num({ label: 'Buffer pH', unit: '', min: 4, max: 8.1 }).nullable(),
  alCmolKg: num(RANGES.alCmolKg).nullable(),
  readings: z.array(soilReading).max(20),
};
export const soilSampleFact = z.strictObject({
  ...factHead,
  date: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
  ...soilFindings,
});
export type SoilSampleFact = z.infer<typeof soilSampleFact>;

/** All that can be corrected in a stored sample: what was found, and where and when it was taken. */
export const correctedSample = z.strictObject({
  ...soilFindings,
  date: soilSampleFact.shape.date,
  label: z.string({ error: 'text' }).trim().max(120, { error: 'at most 120 letters' }).nullable(),
  depthFromCm: num({ label: 'Depth from', unit: 'cm', min: 0, max: 200 }),
  omPct: num(RANGES.omPct).nullable(),
  ocPct: num({ label: 'Organic carbon', unit: '%', min: 0, max: 60 }).nullable(),
  cecCmolKg: num(RANGES.cecCmolKg).nullable(),
  clayPct: num(RANGES.clayPct).nullable(),
  stonesPct: num({ label: 'Stones', unit: '%', min: 0, max: 95 }).nullable(),
});
export type CorrectedSample = z.infer<typeof correctedSample>;
/** A sample as it stood before a change, and who had written it so. */
export const earlierSample = correctedSample.extend({
  version: factHead.version,
  author: factHead.author,
  recordedOn: factHead.recordedOn,
});
export type EarlierSample = z.infer<typeof earlierSample>;

/** A figure of the ground that a report tells and the field could take over. */
export interface GroundOffer {
  column: 'omPct' | 'cecCmolKg' | 'clayPct';
  label: string;
  unit: string;
  value: number;
  /** What the field says now; null: not known. */
  now: number | null;
  /** How the report tells it, where that is another figure. */
  from: string | null;
}
/** Several samples of one taking: their spread, figure by figure. */
export interface Spread {
  label: string;
  mean: number;
  sd: number;
  min: number;
  max: number;
  n: number;
}
