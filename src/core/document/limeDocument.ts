import { z } from 'zod';
import { LIME_SCHOOLS } from '../ground/limeRequirement';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const maybeDate = date.nullable();
const key = z.string({ error: 'a key of the library' }).min(1).max(60);
const maybeKey = key.nullable();
const id = z.string({ error: 'an id' }).min(1).max(60);
const money = (label: string) => num({ label, unit: 'per t', min: 0, max: 1000 });
const sieveShare = (mm: string) => num({ ...RANGES.pctOf, label: `Share through ${mm} mm` });
const limeCandidate = z.strictObject({
  id,
  materialKey: key,
  pricePerT: money('Price'),
  haulPerT: money('Haulage'),
  spreadPerT: money('Spreading'),
  /** From the certificate of the load; the book value stands in until there is one. */
  analysis: z
    .strictObject({
      ccePct: num({ ...RANGES.ccePct, above: true }),
      dryMatterPct: num(RANGES.limeDryMatterPct),
      p8: sieveShare('2.36'),
      p20: sieveShare('0.85'),
      p60: sieveShare('0.25'),
    })
    .nullable(),
});
/** What the advisor plans for the pH of a field. Null until somebody opens it. */
export const limePlan = z.strictObject({
  school: z.enum(LIME_SCHOOLS),
  depthCm: num({ ...RANGES.incorporationCm, min: 2 }),
  split: z.boolean(),
  onePassMaxTHa: num({ label: 'Largest pass', unit: 't ECC/ha', min: 0.5, max: 12 }).nullable(),
  climate: z.enum(['moist', 'dry']),
  weathered: z.boolean(),
  labRateTHa: num({ label: 'Lime on the report', unit: 't/ha', min: 0, max: 40 }).nullable(),
  labReferenceEccPct: num({
    label: 'Effective carbonate of the laboratory’s lime',
    unit: '%',
    min: 10,
    max: 180,
  }).nullable(),
  labDepthCm: num(RANGES.sampleDepthCm).nullable(),
  /**
   * Crops of the next years: the most sensitive sets the target. `targetFor` decides where one of
   * them wants acid ground.
   */
  rotation: z.array(key).max(4),
  targetFor: maybeKey,
  spreadDate: maybeDate,
  candidates: z.array(limeCandidate).max(12),
  chosenId: id.nullable(),
  spread: z
    .strictObject({
      date,
      materialKey: key,
      rateTHa: num({ label: 'Lime spread', unit: 't/ha', min: 0, max: 40 }),
      soilMoist: z.boolean(),
      records: z
        .array(
          z.strictObject({
            days: num({ label: 'Days', unit: 'd', min: 1, max: 366 }),
            rainMm: num({ label: 'Rain', unit: 'mm', min: 0, max: 2000 }),
            irrigationMm: num(RANGES.irrigationMm),
            soilTempC: num({ label: 'Soil temperature', unit: '°C', min: -30, max: 60 }).nullable(),
          }),
        )
        .max(120),
    })
    .nullable(),
  calciumSchool: z.enum(['sufficiency', 'base_saturation']),
  acidBooks: z.enum(['convention', 'cycle']),
});

export type LimePlan = z.infer<typeof limePlan>;
