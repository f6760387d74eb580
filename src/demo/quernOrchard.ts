import { UNSAID_OF_LEAF, type LeafSample } from '../core/facts/leafSample';
import { BLANK_RECORDS } from '../core/document/organicDefaults';
import type { Plan } from '../core/document/document';
import { pkMg, tested, season, spread, type DemoFarm, type DemoField } from './build';
import { PLAIN_FIELD } from '../core/document/defaults';
import { DEFAULT_TERMS } from '../core/document/farmTerms';

const farm: Plan['farm'] = {
  ...DEFAULT_TERMS,
  name: 'Quern Orchard',
  closedPeriods: [],
  legalNCapKgHa: 170,
  nPricePerKg: 2.4,
};
const at = {
  soilTextureId: 'loam',
  omDepthCm: 20,
  latitudeDeg: 52,
  climateId: 'maritime_cool_52n',
  tenure: 'owned',
  certification: 'in_conversion',
  clayPct: null,
  tillage: 'grass',
} as const;
const next = (field: Plan['field'], part: Parameters<typeof season>[4]) =>
  season(farm, field, '2026/27', '2026-11-01', part);
const field = (name: string, areaHa: number, omPct: number): Plan['field'] => ({
  ...PLAIN_FIELD,
  ...at,
  name,
  areaHa,
  omPct,
  cecCmolKg: 15,
});
const [bank, dell, rows, wall, acre] = [
  field('Hazel Bank', 2.3, 3.4),
  field('Hazel Dell', 1.6, 3.1),
  field('Currant Rows', 1.9, 3.6),
  field('Pear Wall', 1.4, 2.8),
  field('Pear Acre', 2.2, 3.0),
];
const grass = { kind: 'other' as const, cropName: 'Grass alley' };
const LAB = 'Senn laboratory';
const compost = (id: string, rate: number) =>
  spread(id, {
    date: '2027-03-05',
    materialKey: 'compost_green_waste',
    rate,
    methodKey: 'compost_broadcast',
    cover: 'short_grass',
    records: { ...BLANK_RECORDS, heatRecords: true },
  });

const fields: DemoField[] = [
  {
    key: 'hazel-bank',
    field: bank,
    seasons: [
      next(bank, {
        season: {
          cropKey: 'hazelnut',
          use: 'any',
          yieldGoalTHa: 2.4,
          yieldHistoryTHa: [1.9, 2.6, 2.2],
          plantingDate: null,
          plantingYear: 12,
          harvestDate: '2027-09-28',
          winterDrainageMm: 220,
          cropPricePerT: 3200,
        },
        ground: {
          sampleDate: '2025-11-06',
          laboratory: LAB,
          depthCm: 20,
          nCores: 20,
          moisture: 'moist',
          phWater: 6.1,
          readings: pkMg(14, 150, 96),
        },
        previous: grass,
        manureHistory: 'none',
        organics: [compost('hb-compost', 12)],
      }),
    ],
  },
  {
    key: 'hazel-dell',
    field: dell,
    seasons: [
      next(dell, {
        season: {
          cropKey: 'hazelnut',
          use: 'any',
          yieldGoalTHa: 0.4,
          yieldHistoryTHa: [],
          plantingDate: null,
          plantingYear: 3,
          harvestDate: '2027-09-28',
          winterDrainageMm: 220,
          cropPricePerT: 3200,
        },
        ground: {
          sampleDate: '2025-11-06',
          laboratory: LAB,
          depthCm: 20,
          nCores: 20,
          moisture: 'moist',
          phWater: 5.7,
          readings: pkMg(11, 128, 88),
        },
        previous: grass,
        manureHistory: 'none',
      }),
    ],
  },
  {
    key: 'currant-rows',
    field: rows,
    seasons: [
      next(rows, {
        season: {
          cropKey: 'blackcurrant',
          use: 'any',
          yieldGoalTHa: 7,
          yieldHistoryTHa: [6.2, 7.4, 6.8],
          plantingDate: null,
          plantingYear: 8,
          harvestDate: '2027-07-25',
          winterDrainageMm: 220,
          cropPricePerT: 1100,
          eatenRaw: true,
        },
        ground: {
          sampleDate: '2025-11-06',
          laboratory: LAB,
          depthCm: 20,
          nCores: 20,
          moisture: 'moist',
          phWater: 6.4,
          readings: [...pkMg(18, 175, 102), tested('b', 'hot_water', 0.6)],
        },
        previous: grass,
        manureHistory: 'yes',
        organics: [
          spread('cr-sheep', {
            date: '2027-03-08',
            materialKey: 'sheep_bedded',
            rate: 15,
            methodKey: 'solid_broadcast',
          }),
        ],
      }),
    ],
  },
  {
    key: 'pear-wall',
    field: wall,
    seasons: [
      next(wall, {
        season: {
          cropKey: 'pear',
          use: 'any',
          yieldGoalTHa: 32,
          yieldHistoryTHa: [28, 34, 30],
          plantingDate: null,
          plantingYear: 15,
          harvestDate: '2027-09-10',
          winterDrainageMm: 220,
          cropPricePerT: 900,
          eatenRaw: true,
        },
        ground: {
          sampleDate: '2025-11-06',
          laboratory: LAB,
          depthCm: 20,
          nCores: 20,
          moisture: 'moist',
          phWater: 6.5,
          readings: pkMg(16, 240, 84),
        },
        previous: grass,
        manureHistory: 'none',
      }),
    ],
  },
  {
    key: 'pear-acre',
    field: acre,
    seasons: [
      next(acre, {
        season: {
          cropKey: 'pear',
          use: 'any',
          yieldGoalTHa: 35,
          yieldHistoryTHa: [31, 36, 37],
          plantingDate: null,
          plantingYear: 15,
          harvestDate: '2027-09-12',
          winterDrainageMm: 220,
          cropPricePerT: 900,
          eatenRaw: true,
        },
        previous: grass,
        manureHistory: 'unknown',
      }),
    ],
  },
];

export const quernOrchard: DemoFarm = {
  key: 'quern-orchard',
  farmer: { key: 'piet-halloran', name: 'Piet Halloran' },
  farm,
  latitudeDeg: 52,
  climateId: 'maritime_cool_52n',
  place: 'Vale of Senn',
  fields,
  stores: [
    {
      key: 'quern-compost',
      name: 'Yard compost',
      materialKey: 'compost_green_waste',
      amountT: 45,
      pricePerT: 0,
      labs: [],
    },
  ],
  machines: [],
};

type Figures = Record<'N' | 'P' | 'K' | 'Ca' | 'Mg' | 'B' | 'Zn' | 'Mn' | 'Fe' | 'Cu', number>;
const PCT = ['N', 'P', 'K', 'Ca', 'Mg'];
const leaf = (
  fieldKey: string,
  cropKey: string,
  date: string,
  bbch: number,
  v: Figures,
): { fieldKey: string; cropKey: string; sample: LeafSample } => ({
  fieldKey,
  cropKey,
  sample: {
    id: `${fieldKey}-${date}`,
    date,
    part: 'leaf_midshoot',
    bbch,
    system: null,
    nOrgans: 60,
    washed: 'no',
    sprayElements: [],
    daysSinceSpray: null,
    role: 'survey',
    ...UNSAID_OF_LEAF,
    values: Object.entries(v).map(([nutrient, x]) => ({
      nutrient,
      reported: String(x),
      unit: PCT.includes(nutrient) ? '%' : 'mg/kg',
    })),
  },
});
/**
 * Four years of leaves: on Pear Wall potassium climbs and calcium sinks, and the fruit shows it.
 */
export const demoLeaves = [
  leaf('pear-wall', 'pear', '2023-08-08', 76, {
    N: 2.3,
    P: 0.17,
    K: 1.3,
    Ca: 1.6,
    Mg: 0.34,
    B: 28,
    Zn: 24,
    Mn: 62,
    Fe: 88,
    Cu: 11,
  }),
  leaf('pear-wall', 'pear', '2024-08-06', 76, {
    N: 2.4,
    P: 0.17,
    K: 1.5,
    Ca: 1.4,
    Mg: 0.31,
    B: 26,
    Zn: 22,
    Mn: 60,
    Fe: 92,
    Cu: 10,
  }),
  leaf('pear-wall', 'pear', '2025-08-09', 76, {
    N: 2.5,
    P: 0.16,
    K: 1.8,
    Ca: 1.2,
    Mg: 0.27,
    B: 24,
    Zn: 19,
    Mn: 58,
    Fe: 95,
    Cu: 9,
  }),
  leaf('pear-wall', 'pear', '2026-08-07', 76, {
    N: 2.6,
    P: 0.16,
    K: 2.1,
    Ca: 0.95,
    Mg: 0.23,
    B: 21,
    Zn: 15,
    Mn: 55,
    Fe: 90,
    Cu: 9,
  }),
  leaf('hazel-bank', 'hazelnut', '2023-08-16', 80, {
    N: 2.2,
    P: 0.16,
    K: 0.9,
    Ca: 1.4,
    Mg: 0.3,
    B: 38,
    Zn: 22,
    Mn: 120,
    Fe: 110,
    Cu: 8,
  }),
  leaf('hazel-bank', 'hazelnut', '2024-08-14', 80, {
    N: 2.25,
    P: 0.16,
    K: 0.86,
    Ca: 1.4,
    Mg: 0.3,
    B: 36,
    Zn: 21,
    Mn: 118,
    Fe: 105,
    Cu: 8,
  }),
  leaf('hazel-bank', 'hazelnut', '2025-08-15', 80, {
    N: 2.15,
    P: 0.15,
    K: 0.8,
    Ca: 1.45,
    Mg: 0.31,
    B: 33,
    Zn: 20,
    Mn: 125,
    Fe: 112,
    Cu: 7,
  }),
  leaf('hazel-bank', 'hazelnut', '2026-08-17', 80, {
    N: 2.1,
    P: 0.15,
    K: 0.72,
    Ca: 1.5,
    Mg: 0.32,
    B: 30,
    Zn: 19,
    Mn: 130,
    Fe: 108,
    Cu: 7,
  }),
];
