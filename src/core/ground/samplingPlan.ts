import { z } from 'zod';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';
import { MARK_KINDS } from './samplingMarks';

const degrees = z.tuple([z.number().min(-180).max(180), z.number().min(-90).max(90)], {
  error: 'longitude and latitude in degrees',
});
const ring = z.array(degrees).min(4, { error: 'a closed ring of three corners or more' }).max(5000);
const label = z
  .string({ error: 'a label' })
  .trim()
  .min(1, { error: 'a label of 1 to 40 letters' })
  .max(40, { error: 'a label of 1 to 40 letters' });

const SAMPLE_KINDS = ['whole', 'cell', 'zone', 'benchmark', 'problem', 'good'] as const;

const mark = z.strictObject({
  id: z.string().min(1).max(60),
  kind: z.enum(MARK_KINDS),
  at: degrees,
  radiusM: num({ label: 'Radius', unit: 'm', min: 1, max: 300 }),
  note: z.string().max(200),
});
const zone = z.strictObject({ name: label, ring });
const samplePoint = z.strictObject({
  label,
  kind: z.enum(SAMPLE_KINDS),
  at: degrees,
  areaHa: num(RANGES.areaHa),
  /** Rings of the ground that the sample stands for: a cell, a zone, or the whole outline. */
  shape: z.array(z.array(ring)).max(20),
  note: z.string().max(200),
});

/** Where and how a field is sampled. Points come in walking order. */
export const samplingPlanSchema = z.strictObject({
  purpose: z.string().min(1).max(60),
  scheme: z.enum(['whole_field', 'benchmark', 'grid', 'zone']),
  cellAreaHa: num({ label: 'Cell area', unit: 'ha', min: 0.05, max: 100 }).nullable(),
  coresPerSample: num(RANGES.nCores),
  layers: z
    .array(z.strictObject({ fromCm: num(RANGES.layerCm), toCm: num(RANGES.layerCm) }))
    .min(1, { error: 'one layer or more' })
    .max(4),
  headlandM: num({ label: 'Headland left out', unit: 'm', min: 0, max: 60 }),
  prefix: z.string().max(12),
  labPricePerSample: num({ label: 'Laboratory price', unit: 'per sample', min: 0, max: 1000 }),
  labourPerSample: num({ label: 'Labour', unit: 'per sample', min: 0, max: 1000 }),
  labourPerCore: num({ label: 'Labour', unit: 'per core', min: 0, max: 100 }),
  zones: z.array(zone).max(30),
  marks: z.array(mark).max(200),
  points: z.array(samplePoint).max(6000),
});
export type SamplingPlan = z.infer<typeof samplingPlanSchema>;
export type SamplePoint = SamplingPlan['points'][number];
export type Mark = SamplingPlan['marks'][number];
