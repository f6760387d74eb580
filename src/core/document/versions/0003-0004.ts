import { objectOf, objectsOf, type Raw, type Step } from './step';

const labOf = (lab: unknown): Raw | null =>
  lab === null || lab === undefined ? null : { ...objectOf(lab), report: null, earlier: null };

/**
 * Version 4 carries the farm's money, limits and own library, what is known of the stand, and how a
 * dressing is laid.
 */
export const step0003: Step = {
  from: 3,
  up: (plan) => ({
    ...plan,
    version: 4,
    farm: {
      ...objectOf(plan.farm),
      manureNLimitKgHa: null,
      pPricePerKg: 2.8,
      kPricePerKg: 1,
      sPricePerKg: 0.6,
      nSchool: 'yield_goal',
      pkSchool: 'replacement',
      manureNSharePct: null,
      rawContactDays: 120,
      rawNoContactDays: 90,
      setbacks: [],
      haul: {
        hourCost: 90,
        roadSpeedKmH: 25,
        loadMin: 10,
        unloadMin: 12,
        waitMin: 5,
        hoursPerDay: 9,
      },
      spreadingCostHa: 12,
      library: [],
    },
    field: { ...objectOf(plan.field), fixes: 'none', slopePct: null, near: [], forage: null },
    season: {
      ...objectOf(plan.season),
      stand: {
        companionLegume: false,
        firstTimeHere: false,
        nodulesFailed: false,
        afterBareFallow: false,
        stressed: false,
        otherLimitRy: null,
      },
    },
    irrigation: plan.irrigation
      ? { ...objectOf(plan.irrigation), so4sMgL: null, kMgL: null }
      : null,
    organics: objectsOf(plan.organics).map((o) => ({
      ...o,
      lab: labOf(o.lab),
      storeId: null,
      use: { kind: 'field' },
      day: null,
      records: null,
      machine: null,
      pricePerT: 0,
      distanceKm: null,
      yieldBonusPct: 0,
    })),
  }),
};
