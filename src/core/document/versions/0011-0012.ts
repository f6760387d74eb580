import { objectOf, type Step } from './step';

/**
 * Version 12 knows leaf standards and norms of the farm's own, and what is asked of fruit that
 * drops.
 */
export const step0011: Step = {
  from: 11,
  up: (plan) => ({
    ...plan,
    version: 12,
    farm: { ...objectOf(plan.farm), ...NEW_TERMS_12 },
    season: { ...objectOf(plan.season), ...NEW_SEASON_12 },
  }),
};
export const NEW_TERMS_12 = { ownLeaf: { standards: [], norms: [], similar: [] } };
export const NEW_SEASON_12 = { fruitDrop: null };
