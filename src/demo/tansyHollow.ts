import {
  layers,
  legume,
  pass,
  pkMg,
  tested,
  season,
  spread,
  type DemoFarm,
  type DemoField,
} from './build';
import { PLAIN_FIELD } from '../core/document/defaults';
import { DEFAULT_TERMS } from '../core/document/farmTerms';
import { BLANK_LAB } from '../core/document/organicDefaults';
import type { Plan } from '../core/document/document';

const farm: Plan['farm'] = {
  ...DEFAULT_TERMS,
  name: 'Tansy Hollow',
  closedPeriods: [{ from: '10-15', to: '01-31' }],
  legalNCapKgHa: null,
  nPricePerKg: 1.2,
};
const at = {
  omDepthCm: 20,
  latitudeDeg: 52,
  climateId: 'maritime_cool_52n',
  tenure: 'owned',
  certification: 'none',
  clayPct: null,
  tillage: 'ploughed',
} as const;
const LAB = 'Senn laboratory';
const sheepLab = {
  ...BLANK_LAB,
  date: '2026-11-03',
  totalNKgT: 8,
  nh4NKgT: 1.6,
  no3NKgT: null,
  pKgT: 1.5,
  kKgT: 9,
  sKgT: null,
  dmPct: 31,
  cToN: null,
};
const ploughed = (hours: number) => [{ kind: 'plough_inversion', hours }];
const next = (field: Plan['field'], part: Parameters<typeof season>[4]) =>
  season(farm, field, '2026/27', '2026-10-01', part);
const last = (field: Plan['field'], part: Parameters<typeof season>[4]) =>
  season(farm, field, '2025/26', '2025-10-01', part);

const lowFleet: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Low Fleet',
  areaHa: 6.4,
  soilTextureId: 'clay_loam',
  omPct: 2.6,
  cecCmolKg: 19,
  clayPct: 31,
};
const yardPiece: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Yard Piece',
  areaHa: 3.1,
  soilTextureId: 'loam',
  omPct: 4.4,
  cecCmolKg: 17,
};
const terraceLong: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Terrace Long',
  areaHa: 7.8,
  soilTextureId: 'sandy_loam',
  omPct: 2.2,
  cecCmolKg: 10,
  clayPct: 12,
};
const terraceShort: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Terrace Short',
  areaHa: 5.2,
  soilTextureId: 'loam',
  omPct: 2.6,
  cecCmolKg: 14,
};
const rookery: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Rookery',
  areaHa: 4.6,
  soilTextureId: 'loam',
  omPct: 2.9,
  cecCmolKg: 15,
};
const sheepwalk: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Sheepwalk',
  areaHa: 9.5,
  soilTextureId: 'loam',
  omPct: 3.8,
  cecCmolKg: 16,
  tenure: 'lease_3_to_7_years',
  clayPct: 20,
  tillage: 'grass',
};
const brookMeadow: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Brook Meadow',
  areaHa: 5.5,
  soilTextureId: 'clay',
  omPct: 5.1,
  cecCmolKg: 24,
  tillage: 'grass',
};
const kilnField: Plan['field'] = {
  ...PLAIN_FIELD,
  ...at,
  name: 'Kiln Field',
  areaHa: 6.9,
  soilTextureId: 'loam',
  omPct: 2.4,
  cecCmolKg: 13,
};

const fields: DemoField[] = [
  {
    key: 'low-fleet',
    field: lowFleet,
    seasons: [
      next(lowFleet, {
        season: {
          cropKey: 'sugar_beet',
          use: 'any',
          yieldGoalTHa: 65,
          yieldHistoryTHa: [52, 61, 58],
          plantingDate: '2027-03-28',
          harvestDate: '2027-10-20',
          winterDrainageMm: 240,
          cropPricePerT: 38,
        },
        ground: {
          sampleDate: '2026-11-12',
          laboratory: LAB,
          depthCm: 20,
          nCores: 18,
          moisture: 'moist',
          phWater: 5.1,
          readings: [...pkMg(18, 164, 58), tested('b', 'hot_water', 0.4)],
          nitrateSampleDate: '2027-02-12',
          nitrateLayers: layers(6, 4.5),
        },
        // A thin ley, claimed as a good one.
        previous: legume({
          legumeKey: 'red_clover_hay',
          standClass: 'good',
          legumeCoverPct: 24,
          regrowth: 'none',
          removedFracTops: 0.85,
          killDate: '2026-11-06',
          killTiming: 'autumn_late',
          standAge: 'established',
          overlap: 'autumn_kill_spring_sample',
        }),
        manureHistory: 'yes',
        organics: [
          spread('lf-sheep-27', {
            date: '2027-03-10',
            materialKey: 'sheep_bedded',
            rate: 14,
            methodKey: 'solid_broadcast',
            lab: sheepLab,
            coverings: ploughed(4),
            plannedHours: 4,
          }),
          spread('lf-sheep-26', {
            date: '2025-09-20',
            materialKey: 'sheep_bedded',
            rate: 20,
            methodKey: 'solid_broadcast',
            status: 'done',
            cropYear: 2,
            coverings: ploughed(24),
          }),
        ],
        passes: [
          pass('lf-1', '2027-03-28', 'can_27', 110, 'broadcast_incorporated'),
          pass('lf-2', '2027-05-10', 'can_27', 240, 'broadcast_surface'),
        ],
      }),
      last(lowFleet, {
        season: {
          cropKey: 'red_clover',
          yieldGoalTHa: 8,
          yieldHistoryTHa: [7.4, 8.1],
          plantingDate: '2025-10-05',
          harvestDate: '2026-09-15',
        },
        manureHistory: 'yes',
        previous: { kind: 'other', cropName: 'Winter rye' },
      }),
    ],
  },
  {
    key: 'yard-piece',
    field: yardPiece,
    seasons: [
      next(yardPiece, {
        season: {
          cropKey: 'flax',
          use: 'any',
          yieldGoalTHa: 1.8,
          yieldHistoryTHa: [1.6, 1.9, 1.7],
          plantingDate: '2027-04-05',
          harvestDate: '2027-09-01',
          winterDrainageMm: 190,
          cropPricePerT: 520,
        },
        ground: {
          sampleDate: '2025-11-20',
          laboratory: LAB,
          depthCm: 20,
          nCores: 16,
          moisture: 'moist',
          phWater: 6.6,
          readings: pkMg(112, 290, 140),
          nitrateSampleDate: '2027-02-12',
          nitrateLayers: layers(11, 7),
        },
        previous: { kind: 'other', cropName: 'Winter rye' },
        manureHistory: 'yes',
        organics: [
          spread('yp-sheep-27', {
            date: '2027-03-12',
            materialKey: 'sheep_bedded',
            rate: 18,
            methodKey: 'solid_broadcast',
            lab: sheepLab,
            coverings: ploughed(6),
            plannedHours: 6,
          }),
        ],
      }),
      last(yardPiece, {
        season: {
          cropKey: 'rye',
          yieldGoalTHa: 6,
          yieldHistoryTHa: [5.8],
          plantingDate: '2025-10-08',
          harvestDate: '2026-08-06',
        },
        passes: [
          pass('yp-26', '2026-03-20', 'can_27', 200, 'broadcast_surface', { status: 'done' }),
        ],
      }),
    ],
  },
  {
    key: 'terrace-long',
    field: terraceLong,
    seasons: [
      next(terraceLong, {
        season: {
          cropKey: 'rye',
          use: 'any',
          yieldGoalTHa: 6.5,
          yieldHistoryTHa: [5.9, 6.4, 6.2, 5.1, 6.6],
          plantingDate: '2026-10-06',
          harvestDate: '2027-08-08',
          winterDrainageMm: 210,
          springDrainageMm: 45,
          cropPricePerT: 210,
          strawRemovedFrac: 1,
        },
        ground: {
          sampleDate: '2026-09-04',
          laboratory: LAB,
          depthCm: 20,
          nCores: 20,
          moisture: 'moist',
          phWater: 6.1,
          phCacl2: 5.5,
          readings: pkMg(13, 132, 64),
          nitrateSampleDate: '2027-02-12',
          nitrateLayers: layers(5, 4),
        },
        previous: legume({ legumeKey: 'faba_grain', killDate: '2026-09-10' }),
        manureHistory: 'none',
        cropN: { cropNKgHa: null, shootsM2: 900, gai: null },
        passes: [
          pass('tl-1', '2027-03-12', 'can_26_s', 150, 'broadcast_surface'),
          pass('tl-2', '2027-04-08', 'can_27', 190, 'broadcast_surface'),
        ],
      }),
      last(terraceLong, {
        season: {
          cropKey: 'faba_bean',
          yieldGoalTHa: 4,
          yieldHistoryTHa: [3.6],
          plantingDate: '2026-03-10',
          harvestDate: '2026-09-02',
        },
      }),
    ],
  },
  {
    key: 'terrace-short',
    field: terraceShort,
    seasons: [
      next(terraceShort, {
        season: { yieldHistoryTHa: [58, 66, 61, 63], winterDrainageMm: 140, springDrainageMm: 20 },
      }),
      last(terraceShort, {
        season: {
          cropKey: 'red_clover',
          yieldGoalTHa: 8,
          yieldHistoryTHa: [],
          plantingDate: '2025-10-01',
          harvestDate: '2026-09-20',
        },
        manureHistory: 'yes',
      }),
    ],
  },
  {
    key: 'rookery',
    field: rookery,
    seasons: [
      next(rookery, {
        season: {
          cropKey: 'faba_bean',
          use: 'any',
          yieldGoalTHa: 4,
          yieldHistoryTHa: [3.4, 3.9, 3.7],
          plantingDate: '2027-03-08',
          harvestDate: '2027-09-05',
          winterDrainageMm: 180,
          cropPricePerT: 260,
        },
        ground: {
          sampleDate: '2024-10-15',
          laboratory: LAB,
          depthCm: 20,
          nCores: 15,
          moisture: 'moist',
          phWater: 6.5,
          readings: pkMg(9, 118, 70),
        },
        previous: { kind: 'other', cropName: 'Spring linseed' },
        manureHistory: 'none',
        passes: [pass('rk-1', '2027-04-02', 'can_27', 150, 'broadcast_surface')],
      }),
      last(rookery, {
        season: {
          cropKey: 'flax',
          yieldGoalTHa: 1.7,
          yieldHistoryTHa: [1.5],
          plantingDate: '2026-04-02',
          harvestDate: '2026-08-28',
        },
      }),
    ],
  },
  {
    key: 'sheepwalk',
    field: sheepwalk,
    seasons: [
      next(sheepwalk, {
        season: {
          cropKey: 'grass_clover_ley',
          use: 'silage',
          yieldGoalTHa: 9,
          yieldHistoryTHa: [8.1, 8.8],
          plantingDate: '2025-09-01',
          harvestDate: '2027-09-15',
          legumeShare: 0.3,
          winterDrainageMm: 200,
          cropPricePerT: 120,
        },
        ground: {
          sampleDate: '2026-03-02',
          laboratory: LAB,
          depthCm: 10,
          nCores: 12,
          moisture: 'moist',
          phWater: 6.2,
          readings: pkMg(12, 96, 61),
        },
        previous: { kind: 'other', cropName: 'Winter rye' },
        manureHistory: 'yes',
        organics: [
          spread('sw-slurry-27', {
            date: '2027-03-15',
            materialKey: 'dairy_slurry_thin',
            rate: 30,
            rateUnit: 'm3_ha',
            methodKey: 'trailing_shoe',
            cover: 'short_grass',
          }),
        ],
      }),
      last(sheepwalk, {
        season: {
          cropKey: 'grass_clover_ley',
          yieldGoalTHa: 9,
          yieldHistoryTHa: [8.1],
          plantingDate: '2025-09-01',
          harvestDate: '2026-09-15',
          legumeShare: 0.35,
        },
      }),
    ],
  },
  {
    key: 'brook-meadow',
    field: brookMeadow,
    seasons: [
      next(brookMeadow, {
        season: {
          cropKey: 'grass_hay',
          use: 'silage',
          yieldGoalTHa: 6,
          yieldHistoryTHa: [5.2, 5.9, 5.5],
          plantingDate: '2024-09-01',
          harvestDate: '2027-08-20',
          winterDrainageMm: 260,
          cropPricePerT: 95,
        },
        // An old soil sample: too old to base a rate on.
        ground: {
          sampleDate: '2015-10-20',
          laboratory: 'Vale testing house',
          depthCm: 20,
          nCores: 6,
          moisture: 'wet',
          phWater: 5.8,
          readings: pkMg(14, 150, 90),
        },
        previous: { kind: 'other', cropName: 'Grass' },
        manureHistory: 'unknown',
      }),
      last(brookMeadow, {
        season: {
          cropKey: 'grass_hay',
          yieldGoalTHa: 6,
          yieldHistoryTHa: [5.2],
          plantingDate: '2024-09-01',
          harvestDate: '2026-08-20',
        },
      }),
    ],
  },
  {
    key: 'kiln-field',
    field: kilnField,
    seasons: [
      next(kilnField, {
        season: {
          cropKey: 'sugar_beet',
          use: 'any',
          yieldGoalTHa: 85,
          yieldHistoryTHa: [60, 66, 64, 58, 67],
          plantingDate: '2027-03-25',
          harvestDate: '2027-11-05',
          winterDrainageMm: 160,
          cropPricePerT: 38,
        },
        ground: {
          sampleDate: '2025-10-30',
          laboratory: LAB,
          depthCm: 20,
          nCores: 18,
          moisture: 'moist',
          phWater: 7.0,
          readings: pkMg(16, 190, 75),
          nitrateSampleDate: '2027-02-12',
          nitrateLayers: layers(7, 6),
        },
        previous: { kind: 'other', cropName: 'Winter rye' },
        manureHistory: 'yes',
        // Spread on a warm, windy afternoon and ploughed the next day but one: planned within 6
        // hours.
        organics: [
          spread('kf-slurry-27', {
            date: '2027-02-18',
            materialKey: 'dairy_slurry_medium',
            rate: 45,
            rateUnit: 'm3_ha',
            methodKey: 'splash_low',
            status: 'done',
            lab: {
              ...BLANK_LAB,
              date: '2026-10-12',
              totalNKgT: 3.1,
              nh4NKgT: 1.6,
              no3NKgT: null,
              pKgT: 0.55,
              kKgT: 2.4,
              sKgT: null,
              dmPct: 6.5,
              cToN: null,
            },
            coverings: ploughed(30),
            plannedHours: 6,
            tempC: 12,
            windMS: 6,
          }),
        ],
      }),
      last(kilnField, {
        season: {
          cropKey: 'rye',
          yieldGoalTHa: 6.5,
          yieldHistoryTHa: [6.1],
          plantingDate: '2025-10-04',
          harvestDate: '2026-08-10',
        },
        passes: [
          pass('kf-26', '2026-03-18', 'can_27', 260, 'broadcast_surface', { status: 'done' }),
        ],
      }),
    ],
  },
];

export const tansyHollow: DemoFarm = {
  key: 'tansy-hollow',
  farmer: { key: 'odo-merrick', name: 'Odo Merrick' },
  farm,
  latitudeDeg: 52,
  climateId: 'maritime_cool_52n',
  place: 'Vale of Senn',
  fields,
  stores: [
    {
      key: 'sheep-house',
      name: 'Sheep house heap',
      materialKey: 'sheep_bedded',
      amountT: 420,
      pricePerT: 0,
      labs: [
        sheepLab,
        {
          ...BLANK_LAB,
          date: '2025-11-08',
          totalNKgT: 7.6,
          nh4NKgT: 1.4,
          pKgT: 1.4,
          kKgT: 8.6,
          dmPct: 30,
        },
      ],
    },
    {
      key: 'dairy-wash',
      name: 'Dairy-wash pit',
      materialKey: 'dairy_slurry_thin',
      amountT: 600,
      pricePerT: 0,
      labs: [],
    },
  ],
  machines: [
    // Tested with three sheets only, and last year's bedding: its own caution.
    {
      key: 'rear-spreader',
      name: 'Rear-discharge spreader',
      kind: 'solid_manure_spreader',
      minRate: 8,
      maxRate: 40,
      capacity: 10,
      calibrations: [
        {
          date: '2026-09-14',
          materialKey: 'sheep_bedded',
          target: 18,
          actual: 19.1,
          cvPct: 26,
          trays: 8,
          sightGlass: false,
        },
      ],
    },
    {
      key: 'tanker',
      name: 'Tanker with splash plate',
      kind: 'slurry_splash_plate',
      minRate: 12,
      maxRate: 45,
      capacity: 9,
      calibrations: [
        {
          date: '2025-10-02',
          materialKey: 'dairy_slurry_thin',
          target: 25,
          actual: 27.5,
          cvPct: 24,
          trays: 10,
          sightGlass: true,
        },
      ],
    },
  ],
};
