import { objectOf, type Step } from './step';

/**
 * Version 10 knows how the field drains, what lies on top, which stages were seen, how the crop is
 * drilled, what was measured in the growing crop, and other supplies that a plan is weighed against.
 */
export const step0009: Step = {
  from: 9,
  up: (plan) => ({
    ...plan,
    version: 10,
    field: { ...objectOf(plan.field), ...NEW_FIELD_10 },
    season: { ...objectOf(plan.season), ...NEW_SEASON_10 },
    others: [],
  }),
};
export const NEW_FIELD_10 = { drainageClass: null };
export const NEW_SEASON_10 = {
  residueCoverFrac: null,
  observedStages: [],
  rowCm: null,
  openerId: null,
  sidedressTest: null,
  richStrip: null,
};
