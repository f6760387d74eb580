import { blankLime } from '../core/lines/lime';
import type { Plan } from '../core/document/document';
import { layers, pass, pkMg, season, spread, type DemoFarm, type DemoField } from './build';
import { newWater, PLAIN_FIELD } from '../core/document/defaults';
import { DEFAULT_TERMS } from '../core/document/farmTerms';

const farm: Plan['farm'] = {
  ...DEFAULT_TERMS,
  name: 'Kestrel Terrace',
  closedPeriods: [{ from: '10-01', to: '01-31' }],
  legalNCapKgHa: 250,
  nPricePerKg: 1.35,
};
const at = {
  soilTextureId: 'loamy_sand',
  omDepthCm: 20,
  latitudeDeg: 52,
  climateId: 'maritime_cool_52n',
  tenure: 'lease_8_years_or_more',
  certification: 'none',
  clayPct: 6,
  tillage: 'mixed',
} as const;
const next = (field: Plan['field'], part: Parameters<typeof season>[4]) =>
  season(farm, field, '2026/27', '2026-10-01', part);
const last = (field: Plan['field'], part: Parameters<typeof season>[4]) =>
  season(farm, field, '2025/26', '2025-10-01', part);
const LAB = 'Senn laboratory';
const wet = {
  moistureClass: 'irrigated_or_moist',
  winterDrainageMm: 280,
  springDrainageMm: 60,
} as const;
const field = (name: string, areaHa: number, omPct: number): Plan['field'] => ({
  ...PLAIN_FIELD,
  ...at,
  name,
  areaHa,
  omPct,
  cecCmolKg: 6,
});
const [bay1, bay2, bay3, bay4, upper, lower] = [
  field('Bay One', 1.2, 1.6),
  field('Bay Two', 0.9, 1.5),
  field('Bay Three', 1.1, 1.8),
  field('Bay Four', 0.8, 1.7),
  field('Upper Strip', 1.4, 1.4),
  field('Lower Strip', 1.0, 1.5),
];
const compost = (id: string, rate: number) =>
  spread(id, {
    date: '2027-04-10',
    materialKey: 'compost_green_waste',
    rate,
    methodKey: 'compost_broadcast',
    coverings: [{ kind: 'disc_or_cultivator_10_15_cm', hours: 24 }],
  });
const layer = (id: string, date: string, rate: number) =>
  spread(id, {
    date,
    materialKey: 'layer_manure_dried',
    rate,
    methodKey: 'poultry_broadcast',
    coverings: [{ kind: 'disc_or_cultivator_10_15_cm', hours: 6 }],
  });
const previous = (cropName: string) => ({ kind: 'other' as const, cropName });

/** Three limes against a planting date: two of them too slow for it. */
const BAY_TWO_LIME: Plan['lime'] = {
  ...blankLime({ farm, field: bay2, asOf: '2027-02-28' }),
  rotation: ['processing_tomato'],
};

const fields: DemoField[] = [
  {
    key: 'bay-one',
    field: bay1,
    seasons: [
      next(bay1, {
        season: {
          ...wet,
          cropKey: 'processing_tomato',
          use: 'processing',
          yieldGoalTHa: 90,
          yieldHistoryTHa: [78, 92, 85],
          plantingDate: '2027-05-12',
          harvestDate: '2027-09-20',
          cropPricePerT: 110,
          eatenRaw: true,
          touchesSoil: true,
        },
        ground: {
          sampleDate: '2026-10-02',
          laboratory: LAB,
          depthCm: 20,
          nCores: 15,
          moisture: 'moist',
          phWater: 6.4,
          readings: pkMg(24, 118, 52),
          nitrateSampleDate: '2027-02-10',
          nitrateLayers: layers(4, 3),
        },
        previous: previous('Leek'),
        manureHistory: 'yes',
        // The water of the borehole carries nitrate: a credit, and a caution for anybody who
        // drinks it.
        irrigation: { ...newWater(), mm: 280, no3nMgL: 14, shareBeforeRunDown: 0.85 },
        organics: [
          compost('b1-compost', 20),
          spread('b1-compost-26', {
            date: '2026-04-12',
            materialKey: 'compost_green_waste',
            rate: 25,
            methodKey: 'compost_broadcast',
            status: 'done',
            cropYear: 2,
          }),
        ],
        passes: [
          pass('b1-1', '2027-05-12', 'npk_12_8_20_sop', 330, 'broadcast_incorporated'),
          pass('b1-2', '2027-06-20', 'calcium_nitrate_15_5', 260, 'fertigation_drip'),
          pass('b1-3', '2027-07-12', 'potassium_nitrate_13_0_46', 300, 'fertigation_drip'),
        ],
      }),
      last(bay1, {
        season: {
          ...wet,
          cropKey: 'leek',
          yieldGoalTHa: 34,
          yieldHistoryTHa: [31],
          plantingDate: '2026-05-20',
          harvestDate: '2026-11-10',
        },
      }),
    ],
  },
  {
    key: 'bay-two',
    field: bay2,
    seasons: [
      next(bay2, {
        season: {
          ...wet,
          cropKey: 'leek',
          use: 'any',
          yieldGoalTHa: 35,
          yieldHistoryTHa: [31, 36, 33],
          plantingDate: '2027-05-25',
          harvestDate: '2027-11-15',
          cropPricePerT: 420,
        },
        ground: {
          sampleDate: '2026-10-02',
          laboratory: LAB,
          depthCm: 20,
          nCores: 7,
          moisture: 'moist',
          phWater: 5.9,
          readings: pkMg(38, 92, 44),
        },
        previous: previous('Pumpkin'),
        manureHistory: 'yes',
        organics: [layer('b2-layer', '2027-05-10', 4)],
        lime: BAY_TWO_LIME,
        irrigation: { ...newWater(), mm: 160, no3nMgL: 14, shareBeforeRunDown: 1 },
      }),
    ],
  },
  {
    key: 'bay-three',
    field: bay3,
    seasons: [
      next(bay3, {
        season: {
          ...wet,
          cropKey: 'winter_squash',
          use: 'stored',
          yieldGoalTHa: 35,
          yieldHistoryTHa: [30, 37, 34],
          plantingDate: '2027-05-18',
          harvestDate: '2027-10-01',
          cropPricePerT: 260,
        },
        ground: {
          sampleDate: '2026-10-02',
          laboratory: LAB,
          depthCm: 20,
          nCores: 15,
          moisture: 'dry',
          phWater: 5.6,
          phCacl2: 5.4,
          readings: pkMg(22, 108, 40),
        },
        previous: previous('Processing tomato'),
        manureHistory: 'yes',
        organics: [compost('b3-compost', 15)],
      }),
    ],
  },
  {
    key: 'bay-four',
    field: bay4,
    seasons: [
      next(bay4, {
        season: {
          ...wet,
          cropKey: 'celery',
          use: 'any',
          yieldGoalTHa: 60,
          yieldHistoryTHa: [52, 61],
          plantingDate: '2027-05-30',
          harvestDate: '2027-09-05',
          cropPricePerT: 380,
          eatenRaw: true,
          touchesSoil: true,
        },
        ground: {
          sampleDate: '2026-10-02',
          laboratory: LAB,
          depthCm: 20,
          nCores: 15,
          moisture: 'moist',
          phWater: 6.6,
          readings: pkMg(41, 140, 58),
          nitrateSampleDate: '2027-02-10',
          nitrateLayers: layers(6, 5),
        },
        previous: previous('Leek'),
        manureHistory: 'yes',
        // Raw layer manure too close to the harvest of a crop that is eaten raw.
        organics: [layer('b4-layer', '2027-05-15', 5)],
        irrigation: { ...newWater(), mm: 240, no3nMgL: 14, shareBeforeRunDown: 0.9 },
      }),
    ],
  },
  {
    key: 'upper-strip',
    field: upper,
    seasons: [
      next(upper, {
        season: {
          ...wet,
          cropKey: 'processing_tomato',
          use: 'processing',
          yieldGoalTHa: 88,
          yieldHistoryTHa: [80, 86],
          plantingDate: '2027-05-14',
          harvestDate: '2027-09-22',
          cropPricePerT: 110,
        },
        ground: {
          sampleDate: '2023-05-02',
          laboratory: LAB,
          depthCm: 20,
          nCores: 15,
          moisture: 'moist',
          phWater: 6.3,
          readings: pkMg(19, 96, 46),
        },
        previous: previous('Celery'),
        manureHistory: 'unknown',
      }),
    ],
  },
  { key: 'lower-strip', field: lower, seasons: [next(lower, { season: { ...wet } })] },
];

export const kestrelTerrace: DemoFarm = {
  key: 'kestrel-terrace',
  farmer: { key: 'wanda-ostrow', name: 'Wanda Ostrow' },
  farm,
  latitudeDeg: 52,
  climateId: 'maritime_cool_52n',
  place: 'Vale of Senn',
  fields,
  stores: [
    {
      key: 'green-waste',
      name: 'Green-waste compost, bought',
      materialKey: 'compost_green_waste',
      amountT: 60,
      pricePerT: 9,
      labs: [],
    },
    {
      key: 'layer-muck',
      name: 'Layer manure, bought',
      materialKey: 'layer_manure_dried',
      amountT: 8,
      pricePerT: 24,
      labs: [],
    },
  ],
  machines: [
    {
      key: 'small-spreader',
      name: 'Compost spinner',
      kind: 'litter_or_compost_spinner',
      minRate: 4,
      maxRate: 30,
      capacity: 4,
      calibrations: [],
    },
  ],
};
