import { blankPlan } from '../core/document/blank';
import type { ManureLab, PlannedMachine } from '../core/document/organicDocument';
import { PLAIN_DRESSING } from '../core/document/organicDefaults';
import type { FertiliserPass, OrganicApplication, Plan } from '../core/document/document';
import type { PreviousLegume } from '../core/document/previousDocument';
import type { SoilReading } from '../core/facts/soilSample';

// The made-up Vale of Senn (52° N, maritime, 720 mm rain). People, farms and figures are invented.
const DEMO_TODAY = '2027-02-26';

export interface DemoField {
  key: string;
  field: Plan['field'];
  /** Newest first. */
  seasons: Plan[];
}
export interface DemoFarm {
  key: string;
  farmer: { key: string; name: string };
  farm: Plan['farm'];
  latitudeDeg: number;
  climateId: string;
  place: string;
  fields: DemoField[];
  stores: DemoStore[];
  machines: DemoMachine[];
}
export interface DemoStore {
  key: string;
  name: string;
  materialKey: string;
  amountT: number;
  pricePerT: number;
  labs: ManureLab[];
}
export interface DemoMachine {
  key: string;
  name: string;
  kind: string;
  minRate: number;
  maxRate: number;
  capacity: number;
  calibrations: NonNullable<PlannedMachine['calibration']>[];
}

export const tested = (
  nutrient: SoilReading['nutrient'],
  extractant: string,
  value: number,
  unit: SoilReading['unit'] = 'mg_kg',
): SoilReading => ({ nutrient, extractant, value, unit, belowDetection: false });
/** Olsen P, ammonium-acetate K and Mg: what the Senn laboratory reports. */
export const pkMg = (p: number, k: number, mg: number): SoilReading[] => [
  tested('p', 'olsen', p),
  tested('k', 'ammonium_acetate', k),
  tested('mg', 'ammonium_acetate', mg),
];
export const layers = (upper: number, lower: number): Plan['ground']['nitrateLayers'] => [
  { topCm: 0, bottomCm: 30, no3nMgKg: upper, bulkDensityGCm3: 1.35, stonesVolFrac: null },
  { topCm: 30, bottomCm: 60, no3nMgKg: lower, bulkDensityGCm3: 1.45, stonesVolFrac: null },
];

export const spread = (
  id: string,
  o: Partial<OrganicApplication> &
    Pick<OrganicApplication, 'date' | 'materialKey' | 'rate' | 'methodKey'>,
): OrganicApplication => ({
  id,
  status: 'planned',
  cropYear: 1,
  rateUnit: 't_ha',
  lab: null,
  coverings: [],
  plannedHours: null,
  tempC: null,
  windMS: null,
  soil: 'moist',
  cover: 'bare',
  ...PLAIN_DRESSING,
  ...o,
});
export const pass = (
  id: string,
  date: string,
  productId: string,
  productKgHa: number,
  placementId: string,
  o: Partial<FertiliserPass> = {},
): FertiliserPass => ({
  id,
  date,
  productId,
  productKgHa,
  placementId,
  status: 'planned',
  pricePerT: null,
  ...o,
});
export const legume = (
  o: Partial<PreviousLegume> & Pick<PreviousLegume, 'legumeKey'>,
): PreviousLegume => ({
  kind: 'legume',
  standClass: null,
  plantsM2: null,
  legumeCoverPct: null,
  regrowth: null,
  removedFracTops: null,
  killDate: null,
  killTiming: null,
  tillage: 'inversion',
  climate: 'warm_or_humid',
  standAge: null,
  yearsSinceKill: 1,
  overlap: 'none',
  ...o,
});

/** The plan, saying that it reads the facts that it holds. */
export const reading = (plan: Plan): Plan => ({
  ...plan,
  reads: {
    soil: plan.ground.sampleDate ? { id: 'soil-1', because: 'entered' } : null,
    nitrate: plan.ground.nitrateLayers.length > 0 ? { id: 'nitrate-1', because: 'entered' } : null,
  },
});

type Part = { [K in 'season' | 'ground']?: Partial<Plan[K]> } & Partial<
  Omit<Plan, 'season' | 'ground' | 'field' | 'farm'>
>;
/** A season from what is known of it; everything else stays unknown. */
export function season(
  farm: Plan['farm'],
  field: Plan['field'],
  label: string,
  startDate: string,
  part: Part,
): Plan {
  const blank = blankPlan({ asOf: DEMO_TODAY, farm, field, label, startDate });
  return reading({
    ...blank,
    ...part,
    season: { ...blank.season, ...part.season },
    ground: { ...blank.ground, ...part.ground },
  });
}
