import { z } from 'zod';
import { N_SCHOOLS, PK_SCHOOLS } from '../budget/schools';
import {
  AMMONIA_SCHOOLS,
  MANURE_N_SCHOOLS,
  MANURE_PK_SCHOOLS,
  SEASON_WARMTHS,
} from '../organics/schools';
import { num } from '../quantity/input';
import { libraryChange } from '../book/libraryChange';
import { ownLeaf } from './leafDocument';

const price = (label: string) => num({ label, unit: 'per kg', min: 0, max: 100 });
const minutes = (label: string) => num({ label, unit: 'min', min: 0, max: 240 });
/** Twelve months of a normal year: what the season's clock, rain and drainage are reckoned with. */
const ownClimate = z.strictObject({
  name: z.string({ error: 'text' }).trim().min(1).max(120, { error: '1 to 120 letters' }),
  months: z
    .array(
      z.strictObject({
        tMeanC: num({ label: 'Mean temperature', unit: '°C', min: -40, max: 45 }),
        /** Day against night; null: as in the climate of the book. */
        tRangeC: num({ label: 'Daily range', unit: '°C', min: 0, max: 30 }).nullable(),
        rainMm: num({ label: 'Rain', unit: 'mm', min: 0, max: 1500 }),
        et0Mm: num({ label: 'Evaporation', unit: 'mm', min: 0, max: 400 }).nullable(),
      }),
    )
    .length(12, { error: 'twelve months' }),
});
/** A price of a product as somebody asks it, and since when. */
const productPrice = z.strictObject({
  /** Fertiliser or lime of the library. */
  product: z.string({ error: 'a key of the library' }).min(1).max(60),
  price: num({ label: 'Price', unit: '', min: 0, max: 1_000_000 }),
  per: z.enum(['t', 'short_ton', 'kg', 'bag', 'l']),
  /** What a bag weighs; of bags alone. */
  bagKg: num({ label: 'A bag', unit: 'kg', min: 0.5, max: 2000 }).nullable(),
  from: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }),
});
export type ProductPrice = z.infer<typeof productPrice>;
const monthDay = z.string().regex(/^\d\d-\d\d$/, { error: 'month and day, MM-DD' });

/**
 * Money and rules of a farm, as its plans carry them: prices are placeholders until the farm gives
 * its own, limits are its local law.
 */
export const farmTerms = z.strictObject({
  name: z
    .string({ error: 'text' })
    .trim()
    .min(1, { error: '1 to 120 letters' })
    .max(120, { error: '1 to 120 letters' }),
  /**
   * Weeks of the year when manure with much ammonium may not go out; empty until somebody asked
   * the authority.
   */
  closedPeriods: z.array(z.strictObject({ from: monthDay, to: monthDay })).max(6),
  legalNCapKgHa: num({ label: 'Legal N cap', unit: 'kg/ha', min: 0, max: 500 }).nullable(),
  /** Total N from manure in a year, without losses taken off; null: no such limit. */
  manureNLimitKgHa: num({
    label: 'Yearly limit of manure N',
    unit: 'kg/ha',
    min: 50,
    max: 500,
  }).nullable(),
  /** What prices are in, as the farm writes it: EUR, £, ksh. Null: nobody said. */
  currency: z
    .string({ error: 'text' })
    .trim()
    .min(1)
    .max(8, { error: '1 to 8 letters' })
    .nullable(),
  /** Monthly normals of the farm's own place; null: the climate of the book that was chosen. */
  climate: ownClimate.nullable(),
  nPricePerKg: num({ label: 'N price', unit: 'per kg', min: 0, max: 100, above: true }),
  pPricePerKg: price('P price'),
  kPricePerKg: price('K price'),
  sPricePerKg: price('S price'),
  /** Schools that a field follows until it has chosen its own. */
  nSchool: z.enum(N_SCHOOLS),
  pkSchool: z.enum(PK_SCHOOLS),
  /**
   * How the N, the ammonia and the P and K of manure are reckoned; the defaults alone show what
   * placement and a soil test are worth.
   */
  manureNSchool: z.enum(MANURE_N_SCHOOLS),
  ammoniaSchool: z.enum(AMMONIA_SCHOOLS),
  manurePkSchool: z.enum(MANURE_PK_SCHOOLS),
  /** Warmth of the soil in the season: organic N comes slower from cool ground. */
  soilWarmth: z.enum(SEASON_WARMTHS),
  /**
   * Share of its organic N that a dressing still gives in each of years 5 to 10 (long memory); 0
   * by default.
   */
  residualTailFrac: num({ label: 'Yearly share after year 4', unit: '', min: 0, max: 0.03 }),
  /**
   * Share of total N that a regulation makes the farm reckon with in the first year; null: two
   * pools, the default.
   */
  manureNSharePct: num({ label: 'Share of total N', unit: '%', min: 1, max: 100 }).nullable(),
  /**
   * Days from raw manure to the first harvest of what is eaten raw: where the crop touches the
   * soil, and where it does not.
   */
  rawContactDays: num({ label: 'Days to harvest, touching soil', unit: 'd', min: 30, max: 400 }),
  rawNoContactDays: num({ label: 'Days to harvest, off the soil', unit: 'd', min: 30, max: 400 }),
  /** Metres that differ from the shown defaults, by row of the setback table. */
  setbacks: z
    .array(
      z.strictObject({
        feature: z.string().max(60),
        situation: z.string().max(60),
        metres: num({ label: 'Setback', unit: 'm', min: 1, max: 150 }),
      }),
    )
    .max(20),
  haul: z.strictObject({
    hourCost: num({ label: 'Cost of an hour', unit: 'per h', min: 0, max: 1000 }),
    roadSpeedKmH: num({ label: 'Road speed', unit: 'km/h', min: 5, max: 80 }),
    loadMin: minutes('Loading'),
    unloadMin: minutes('Spreading a load'),
    waitMin: minutes('Other time of a trip'),
    hoursPerDay: num({ label: 'Field hours in a day', unit: 'h', min: 1, max: 24 }),
  }),
  /** What products cost, by the day: the newest that holds on the day of a pass is taken. */
  prices: z.array(productPrice).max(500),
  spreadingCostHa: num({ label: 'Spreading fertiliser', unit: 'per ha', min: 0, max: 500 }),
  /** Leaf standards and norms of its own. */
  ownLeaf,
  library: z.array(libraryChange).max(400),
});
export type OwnClimate = z.infer<typeof ownClimate>;
export type FarmTerms = z.infer<typeof farmTerms>;

/** What a farm plans with before it has said otherwise; each shown as a default beside its box. */
export const DEFAULT_TERMS: Omit<
  FarmTerms,
  'name' | 'closedPeriods' | 'legalNCapKgHa' | 'nPricePerKg'
> = {
  currency: null,
  climate: null,
  manureNLimitKgHa: null,
  pPricePerKg: 2.8,
  kPricePerKg: 1,
  sPricePerKg: 0.6,
  nSchool: 'yield_goal',
  pkSchool: 'replacement',
  manureNSchool: 'two_pools',
  ammoniaSchool: 'curve',
  manurePkSchool: 'by_soil_test',
  soilWarmth: 'temperate',
  residualTailFrac: 0,
  manureNSharePct: null,
  rawContactDays: 120,
  rawNoContactDays: 90,
  setbacks: [],
  haul: { hourCost: 90, roadSpeedKmH: 25, loadMin: 10, unloadMin: 12, waitMin: 5, hoursPerDay: 9 },
  prices: [],
  spreadingCostHa: 12,
  ownLeaf: { standards: [], norms: [], similar: [] },
  library: [],
};
