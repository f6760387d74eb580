import { UNSAID_OF_LEAF } from '../facts/leafSample';
import { layers } from '../../demo/build';
import { blankPlan } from '../document/blank';
import { PLAIN_FIELD } from '../document/defaults';
import type { Plan } from '../document/document';
import { DEFAULT_TERMS } from '../document/farmTerms';

// Whole plans for tests, from what is known of them; the rest is as a new season has it.

type Part<K extends keyof Plan> = Partial<Plan[K]>;
export interface Given {
  field?: Part<'field'>;
  season: Part<'season'>;
  ground?: Part<'ground'>;
  farm?: Part<'farm'>;
  more?: Partial<Omit<Plan, 'field' | 'season' | 'ground' | 'farm'>>;
  asOf?: string;
}
export const plan = ({ field, season, ground, farm, more, asOf = '2027-02-26' }: Given): Plan => {
  const blank = blankPlan({
    asOf,
    farm: {
      ...DEFAULT_TERMS,
      name: 'Cold Ash Vale',
      closedPeriods: [],
      legalNCapKgHa: null,
      nPricePerKg: 1.2,
      ...farm,
    },
    field: {
      name: 'The field',
      areaHa: 7,
      soilTextureId: 'loam',
      omPct: null,
      omDepthCm: 20,
      cecCmolKg: 15,
      clayPct: null,
      tillage: 'ploughed',
      latitudeDeg: 52,
      climateId: 'maritime_cool_52n',
      tenure: 'owned',
      certification: 'none',
      ...PLAIN_FIELD,
      ...field,
    },
    label: '2026/27',
    startDate: season.startDate ?? '2026-09-01',
  });
  return {
    ...blank,
    previous: { kind: 'other', cropName: 'winter barley' },
    manureHistory: 'none',
    ...more,
    season: { ...blank.season, ...season },
    ground: {
      ...blank.ground,
      sampleDate: '2026-10-15',
      depthCm: 20,
      nCores: 20,
      moisture: 'dry',
      ...ground,
    },
  };
};
/** Nitrate of layers that hold so many kg/ha in all, 0-60 cm. */
export const nitrateKg = (kg: number): Plan['ground']['nitrateLayers'] => {
  const mgKg = kg / (1.35 * 3 + 1.45 * 3);
  return layers(mgKg, mgKg);
};
export const leaf = (
  cropKey: string,
  part: string,
  bbch: number,
  date: string,
  values: Record<string, number>,
): Plan['leaves'][number] => ({
  id: 'leaf-1',
  version: 1,
  author: null,
  recordedOn: null,
  cropKey,
  date,
  part,
  bbch,
  system: null,
  nOrgans: 60,
  washed: 'distilled',
  sprayElements: [],
  daysSinceSpray: null,
  role: 'survey',
  ...UNSAID_OF_LEAF,
  values: Object.entries(values).map(([nutrient, v]) => ({
    nutrient,
    reported: String(v),
    unit: ['Fe', 'Al', 'Mn', 'Zn', 'Cu', 'B'].includes(nutrient) ? 'mg/kg' : '%',
  })),
});
