import { z } from 'zod';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';
import {
  AMMONIUM_FORMS,
  LAB_KEYS,
  LAB_REPORT_UNITS,
  NITRATE_FORMS,
  SMELLS,
  TOTAL_N_FORMS,
} from './organicKeys';

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const key = z.string({ error: 'a key of the library' }).min(1).max(60);
const id = z.string({ error: 'an id' }).min(1).max(60);
const label = z.string({ error: 'text' }).max(120);
const kgT = (name: string, max: number) =>
  num({ label: name, unit: 'kg/t', min: 0, max }).nullable();
const metres = (name: string, max: number) => num({ label: name, unit: 'm', min: 0, max });

/**
 * An analysis of a material. Held in kg of element per tonne as received; `report` says how the
 * laboratory wrote it, for the checks against slips.
 */
export const manureLab = z.strictObject({
  date: date.nullable(),
  totalNKgT: kgT('Total N', 250),
  nh4NKgT: kgT('Ammonium-N', 250),
  no3NKgT: kgT('Nitrate-N', 250),
  pKgT: kgT('P', 200),
  kKgT: kgT('K', 500),
  sKgT: kgT('S', 250),
  dmPct: num(RANGES.dmPct).nullable(),
  cToN: num({ label: 'C:N', unit: '', min: 1, max: 500 }).nullable(),
  report: z
    .strictObject({
      unit: z.enum(LAB_REPORT_UNITS),
      basis: z.enum(['as_received', 'dry']),
      oxides: z.boolean(),
      driedSample: z.boolean(),
      totalAs: z.enum(TOTAL_N_FORMS),
      nh4As: z.enum(AMMONIUM_FORMS),
      no3As: z.enum(NITRATE_FORMS),
      densityKgM3: num({ label: 'Density', unit: 'kg/m3', min: 60, max: 1500 }).nullable(),
      /**
       * Figures reported as "less than": half of the limit is held, or 0 where the limit is nothing
       * beside the book.
       */
      below: z.array(z.enum(LAB_KEYS)).max(6),
    })
    .nullable(),
  /**
   * N and P of the sample before this one, from the same store: two that disagree tell of a store
   * that was not mixed.
   */
  earlier: z.strictObject({ date, totalNKgT: kgT('Total N', 250), pKgT: kgT('P', 200) }).nullable(),
});

/**
 * How a dressing is laid: over the field, in rings round trees, as a layer on beds, or between
 * standing plants.
 */
const organicUse = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('field') }),
  z.strictObject({
    kind: z.literal('ring'),
    plantKind: key,
    ageClass: key,
    canopyRadiusM: metres('Canopy radius', 15),
    trunkClearM: metres('Clear of the trunk', 5),
    beyondM: metres('Beyond the canopy', 5),
    rowM: num({ label: 'Row spacing', unit: 'm', min: 0.3, max: 20 }),
    inRowM: num({ label: 'Spacing in the row', unit: 'm', min: 0.1, max: 20 }),
    dormant: z.boolean(),
  }),
  z.strictObject({
    kind: z.literal('layer'),
    layerMm: num({ label: 'Layer', unit: 'mm', min: 0, max: 500, above: true }),
    coveredFrac: num({ ...RANGES.share, label: 'Share of the field covered', above: true }),
    mixed: z.boolean(),
    mixingDepthCm: num({ label: 'Mixing depth', unit: 'cm', min: 1, max: 60 }),
    ecCompost: num({ label: 'Salt of the material', unit: 'dS/m', min: 0, max: 60 }).nullable(),
    ecSoil: num({ label: 'Salt of the soil', unit: 'dS/m', min: 0, max: 60 }).nullable(),
  }),
  z.strictObject({
    kind: z.literal('in_crop'),
    cropGroup: key,
    technique: key,
    bbch: num({ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }).nullable(),
    vStage: num({ label: 'Leaf collars', unit: '', min: 0, max: 25 }).nullable(),
    standLossPct: num({ label: 'Stand lost', unit: '%', min: 0, max: 100 }),
    wheelPan: z.boolean(),
  }),
]);
/** What was looked at before spreading. Unknown is not dry. */
const spreadingDay = z.strictObject({
  rain48hMm: num({ label: 'Rain within 48 h', unit: 'mm', min: 0, max: 400 }).nullable(),
  ground: z.enum(['ok', 'frozen', 'snow', 'saturated']).nullable(),
  soilTempC: num({ label: 'Soil temperature at 10 cm', unit: '°C', min: -10, max: 45 }).nullable(),
  drainsOpen: z.boolean(),
  ponding: z.boolean(),
  inhibitor: z.boolean(),
  windToRawCrop: z.boolean(),
  hoseOnRoad: z.boolean(),
  leavesWet: z.boolean(),
});
/** What is on file about a material: letters, records and tests. Null: nobody asked yet. */
const materialRecords = z.strictObject({
  certifierApproval: z.boolean(),
  heatRecords: z.boolean().nullable(),
  permit: z.boolean(),
  herbicideAsked: z.boolean(),
  bioassayScore: num({ label: 'Bean test', unit: '', min: 0, max: 3 }).nullable(),
  ashOrLimeMixed: z.boolean(),
  rationChanged: z.boolean(),
  nh4MgKgDm: num({
    label: 'Ammonium-N of dry matter',
    unit: 'mg/kg',
    min: 0,
    max: 100_000,
  }).nullable(),
  no3ToNh4: num({ label: 'Nitrate to ammonium', unit: '', min: 0, max: 1000 }).nullable(),
  heapHot: z.boolean(),
  touchesSeed: z.boolean(),
  /** Whether a compost is ready: what was tested of it. */
  selfHeatRiseC: num({ label: 'Self-heating', unit: '°C', min: -20, max: 80 }).nullable(),
  o2UptakeMmolKgH: num({ label: 'Oxygen uptake', unit: 'mmol/kg h', min: 0, max: 500 }).nullable(),
  co2MgGD: num({ label: 'Respiration', unit: 'mg C/g d', min: 0, max: 200 }).nullable(),
  cressPct: num({ label: 'Cress against control', unit: '%', min: 0, max: 200 }).nullable(),
  ecDsM15: num({ label: 'Salt in 1:5 water', unit: 'dS/m', min: 0, max: 60 }).nullable(),
  glassPctDm: num({ label: 'Glass, metal and plastic', unit: '%', min: 0, max: 100 }).nullable(),
  smell: z.enum(SMELLS).nullable(),
  /** Metals of this lot; the book stands in where nobody tested. */
  cuMgKgDm: num({ label: 'Copper', unit: 'mg/kg', min: 0, max: 20_000 }).nullable(),
  znMgKgDm: num({ label: 'Zinc', unit: 'mg/kg', min: 0, max: 50_000 }).nullable(),
  cdMgKgDm: num({ label: 'Cadmium', unit: 'mg/kg', min: 0, max: 500 }).nullable(),
});
/** The machine as it stood when the plan was made, with what its last calibration found. */
export const plannedMachine = z.strictObject({
  id,
  name: label,
  kind: key,
  minRate: num({ label: 'Lowest even rate', unit: '', min: 0, max: 200 }),
  maxRate: num({ label: 'Highest rate of a pass', unit: '', min: 0.1, max: 400 }),
  capacity: num({ label: 'Load', unit: 't or m3', min: 0.1, max: 60 }),
  calibration: z
    .strictObject({
      date,
      materialKey: key,
      target: num({ label: 'Target rate', unit: '', min: 0, max: 400, above: true }),
      actual: num({ label: 'Rate found', unit: '', min: 0, max: 400, above: true }),
      cvPct: num({ label: 'Spread CV', unit: '%', min: 0, max: 200 }).nullable(),
      trays: num({ label: 'Trays', unit: '', min: 1, max: 200 }).nullable(),
      sightGlass: z.boolean(),
    })
    .nullable(),
});

export const organicApplication = z.strictObject({
  id,
  date,
  materialKey: key,
  status: z.enum(['planned', 'done']),
  /** 1 for the crop of this season, 2 for last year's dressing, and so on. */
  cropYear: num({ label: 'Crop year', unit: '', min: 1, max: 10 }),
  rate: num({ label: 'Rate', unit: '', min: 0, max: 400 }),
  rateUnit: z.enum(['t_ha', 'm3_ha']),
  methodKey: key,
  lab: manureLab.nullable(),
  coverings: z.array(z.strictObject({ kind: key, hours: num(RANGES.hours) })).max(6),
  plannedHours: num(RANGES.hours).nullable(),
  tempC: num(RANGES.tempC).nullable(),
  windMS: num(RANGES.windMS).nullable(),
  soil: key,
  cover: key,
  /**
   * Acidified in the store or on the machine, and the pH of the material where it was measured:
   * both decide how much ammonium goes to the air.
   */
  acidified: z.boolean(),
  materialPh: num({ label: 'pH of the material', unit: '', min: 2, max: 13 }).nullable(),
  /**
   * Share of the field that it goes on: strips kept clear of water and houses, or a part that gets
   * none, are left out of loads and sums.
   */
  areaFrac: num({ ...RANGES.share, label: 'Share of the field spread', above: true }),
  /** The heap or tank that it comes from. */
  storeId: id.nullable(),
  use: organicUse,
  day: spreadingDay.nullable(),
  records: materialRecords.nullable(),
  machine: plannedMachine.nullable(),
  pricePerT: num({ label: 'Price of the material', unit: 'per t', min: -1000, max: 1000 }),
  distanceKm: num({ label: 'Distance', unit: 'km', min: 0, max: 150 }).nullable(),
  yieldBonusPct: num({ label: 'Yield bonus believed in', unit: '%', min: 0, max: 15 }),
});
export type OrganicApplication = z.infer<typeof organicApplication>;
/** What of a dressing no query asks for: kept as one document. */
export const dressingDocument = organicApplication.omit({
  id: true,
  date: true,
  materialKey: true,
  status: true,
  storeId: true,
});
export type DressingDocument = z.infer<typeof dressingDocument>;
export type ManureLab = z.infer<typeof manureLab>;
export type SpreadingDay = z.infer<typeof spreadingDay>;
export type MaterialRecords = z.infer<typeof materialRecords>;
export type PlannedMachine = z.infer<typeof plannedMachine>;
