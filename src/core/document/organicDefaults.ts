import type {
  ManureLab,
  MaterialRecords,
  OrganicApplication,
  SpreadingDay,
} from './organicDocument';

// Values alone, without the schemas: a page that begins a dressing need not fetch the checker.
/** A dressing of which only the rate is known yet. */
export const PLAIN_DRESSING: Pick<
  OrganicApplication,
  | 'acidified'
  | 'materialPh'
  | 'areaFrac'
  | 'storeId'
  | 'use'
  | 'day'
  | 'records'
  | 'machine'
  | 'pricePerT'
  | 'distanceKm'
  | 'yieldBonusPct'
> = {
  acidified: false,
  materialPh: null,
  areaFrac: 1,
  storeId: null,
  use: { kind: 'field' },
  day: null,
  records: null,
  machine: null,
  pricePerT: 0,
  distanceKm: null,
  yieldBonusPct: 0,
};
export const BLANK_DAY: SpreadingDay = {
  rain48hMm: null,
  ground: null,
  soilTempC: null,
  drainsOpen: false,
  ponding: false,
  inhibitor: false,
  windToRawCrop: false,
  hoseOnRoad: false,
  leavesWet: false,
};
export const BLANK_RECORDS: MaterialRecords = {
  certifierApproval: false,
  heatRecords: null,
  permit: false,
  herbicideAsked: false,
  bioassayScore: null,
  ashOrLimeMixed: false,
  rationChanged: false,
  nh4MgKgDm: null,
  no3ToNh4: null,
  heapHot: false,
  touchesSeed: false,
  selfHeatRiseC: null,
  o2UptakeMmolKgH: null,
  co2MgGD: null,
  cressPct: null,
  ecDsM15: null,
  glassPctDm: null,
  smell: null,
  cuMgKgDm: null,
  znMgKgDm: null,
  cdMgKgDm: null,
};
/** A report in kg per tonne as received, every figure as its element. */
export const AS_KG_T: NonNullable<ManureLab['report']> = {
  unit: 'kg_t',
  basis: 'as_received',
  oxides: false,
  driedSample: false,
  totalAs: 'total',
  nh4As: 'n',
  no3As: 'n',
  densityKgM3: null,
  below: [],
};
export const BLANK_LAB: ManureLab = {
  date: null,
  totalNKgT: null,
  nh4NKgT: null,
  no3NKgT: null,
  pKgT: null,
  kKgT: null,
  sKgT: null,
  dmPct: null,
  cToN: null,
  report: null,
  earlier: null,
};
/** An analysis as it is kept today: what an older one could not say takes its default. */
export const currentLab = (
  lab: Partial<Omit<ManureLab, 'report'>> & {
    report?: Partial<NonNullable<ManureLab['report']>> | null;
  },
): ManureLab => ({
  ...BLANK_LAB,
  ...lab,
  report: lab.report ? { ...AS_KG_T, ...lab.report } : null,
});
