import { z } from 'zod';
import { N_SCHOOLS, PK_SCHOOLS } from '../budget/schools';
import { num } from '../quantity/input';

const maybeKey = z.string({ error: 'a key of the library' }).min(1).max(60).nullable();
/**
 * How the need is worked out; the sums of each school stand beside each other, one is planned
 * with.
 */
export const schools = z.strictObject({
  /** Null: the farm's default. */
  n: z.enum(N_SCHOOLS).nullable(),
  pk: z.enum(PK_SCHOOLS).nullable(),
  /** Own strip trials, for the economic optimum. */
  trials: z
    .array(
      z.strictObject({
        nKgHa: num({ label: 'N rate', unit: 'kg/ha', min: 0, max: 600 }),
        yieldTHa: num({ label: 'Yield', unit: 't/ha', min: 0, max: 200 }),
      }),
    )
    .max(60),
  calNo3KgHa: num({ label: 'Mean nitrate of the trials', unit: 'kg/ha', min: 0, max: 300 }),
  trialsAfterLegume: z.boolean().nullable(),
  smnKgHa: num({ label: 'Soil mineral N, 0-90 cm', unit: 'kg/ha', min: 0, max: 1000 }).nullable(),
  previousCropGroup: maybeKey,
  soilGroup: maybeKey,
  winterDrainageMmClass: maybeKey,
  regularManure: z.boolean(),
  buildYears: num({ label: 'Years to build up', unit: 'years', min: 1, max: 30 }),
});
export type Schools = z.infer<typeof schools>;

/** What a season plans with before anybody has chosen. */
export const DEFAULT_SCHOOLS: Schools = {
  n: null,
  pk: null,
  trials: [],
  calNo3KgHa: 40,
  trialsAfterLegume: null,
  smnKgHa: null,
  previousCropGroup: null,
  soilGroup: null,
  winterDrainageMmClass: null,
  regularManure: false,
  buildYears: 6,
};
