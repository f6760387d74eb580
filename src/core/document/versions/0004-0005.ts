import { objectOf, objectsOf, type Raw, type Step } from './step';

/** What a report of version 4 could not say: every figure was its element in kg per tonne. */
export const labOfVersion5 = (lab: unknown): Raw | null => {
  if (lab === null || lab === undefined) return null;
  const { report, ...rest } = objectOf(lab);
  return {
    ...rest,
    report: report
      ? {
          ...objectOf(report),
          totalAs: 'total',
          nh4As: 'n',
          no3As: 'n',
          densityKgM3: null,
          below: [],
        }
      : null,
  };
};
export const NEW_RECORDS: Raw = {
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
export const NEW_STAND: Raw = { winterCover: false, strawWashed: false, pruningsTDmHa: 0 };
export const NEW_TERMS: Raw = {
  manureNSchool: 'two_pools',
  ammoniaSchool: 'curve',
  manurePkSchool: 'by_soil_test',
  soilWarmth: 'temperate',
  residualTailFrac: 0,
};

/** Version 5 knows schools of manure, dressings of part of a field, and N as a report names it. */
export const step0004: Step = {
  from: 4,
  up: (plan) => ({
    ...plan,
    version: 5,
    farm: { ...objectOf(plan.farm), ...NEW_TERMS },
    season: {
      ...objectOf(plan.season),
      stand: { ...objectOf(objectOf(plan.season).stand), ...NEW_STAND },
    },
    organics: objectsOf(plan.organics).map((o) => ({
      ...o,
      acidified: false,
      materialPh: null,
      areaFrac: 1,
      lab: labOfVersion5(o.lab),
      records: o.records ? { ...objectOf(o.records), ...NEW_RECORDS } : null,
    })),
  }),
};
