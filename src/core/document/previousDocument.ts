import { z } from 'zod';
import { GREEN_MANURE_STAGES } from '../budget/schools';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const maybeDate = date.nullable();
const key = z.string({ error: 'a key of the library' }).min(1).max(60);
const maybeKey = key.nullable();
const share = (label: string) => num({ ...RANGES.share, label });
const previousLegume = z.strictObject({
  kind: z.literal('legume'),
  legumeKey: key,
  standClass: z.enum(['good', 'fair', 'poor']).nullable(),
  plantsM2: num(RANGES.plantsM2).nullable(),
  legumeCoverPct: num(RANGES.legumeCoverPct).nullable(),
  regrowth: z.enum(['full', 'half', 'none']).nullable(),
  removedFracTops: share('Share of tops carried off').nullable(),
  killDate: maybeDate,
  killTiming: maybeKey,
  tillage: maybeKey,
  climate: maybeKey,
  standAge: maybeKey,
  yearsSinceKill: num(RANGES.yearsSinceKill),
  overlap: z.enum(['none', 'autumn_kill_spring_sample', 'kill_4_8_weeks_before_sample']),
});
const greenManure = z.strictObject({
  kind: z.literal('green_manure'),
  /** 0 until it is weighed: nothing of it counts before. */
  dmTHa: num({ label: 'Dry matter', unit: 't DM/ha', min: 0, max: 25 }),
  /** What was weighed; null where the dry matter was said without. */
  weighed: z
    .strictObject({
      freshG: z
        .array(num({ label: 'Fresh weight of a frame', unit: 'g', min: 0, max: 50_000 }))
        .min(1)
        .max(20),
      frameM2: num({ label: 'Ground of a frame', unit: 'm2', min: 0.05, max: 4 }),
      subFreshG: num({ label: 'Sub-sample, fresh', unit: 'g', min: 0, max: 20_000, above: true }),
      subDryG: num({ label: 'Sub-sample, dry', unit: 'g', min: 0, max: 20_000, above: true }),
    })
    .nullable(),
  species: z
    .array(
      z.strictObject({
        speciesKey: key,
        share: share('Share of the dry matter'),
        stage: z.enum(GREEN_MANURE_STAGES),
        nPct: num({ label: 'N of the species', unit: '%', min: 0.3, max: 6 }).nullable(),
      }),
    )
    .min(1)
    .max(12),
  removedFracTops: share('Share of tops carried off'),
  placement: key,
  killDate: maybeDate,
  killTiming: maybeKey,
  weeksTo80pctUptake: num({
    label: 'Weeks to 80 % of uptake',
    unit: 'weeks',
    min: 0,
    max: 40,
  }).nullable(),
});
const previousOther = z.strictObject({
  kind: z.literal('other'),
  cropName: z
    .string({ error: 'text' })
    .trim()
    .min(1, { error: '1 to 120 letters' })
    .max(120, { error: '1 to 120 letters' }),
});
/** What grew before this season; null where nobody has said. */
export const previousCrop = z
  .discriminatedUnion('kind', [previousLegume, greenManure, previousOther])
  .nullable();
export type PreviousLegume = z.infer<typeof previousLegume>;
export type GreenManurePlan = z.infer<typeof greenManure>;
