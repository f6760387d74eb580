import { objectOf, type Step } from './step';

/**
 * Version 8 knows the farm's price list, nutrients left out on purpose and credits taken on
 * assumption, what was weighed of a green manure, and of water its chloride and the day of its
 * analysis; nitrate of water may be unknown.
 */
export const step0007: Step = {
  from: 7,
  up: (plan) => ({
    ...plan,
    version: 8,
    farm: { ...objectOf(plan.farm), ...NEW_TERMS_8 },
    irrigation: plan.irrigation ? { ...objectOf(plan.irrigation), ...NEW_WATER_8 } : null,
    previous: withWeighing(plan.previous),
    left: [],
    assumed: [],
  }),
};
/** A green manure says what was weighed; before, nobody could. */
export const withWeighing = (previous: unknown): unknown =>
  previous && objectOf(previous).kind === 'green_manure'
    ? { ...objectOf(previous), weighed: null }
    : previous;
export const NEW_TERMS_8 = { prices: [] };
export const NEW_WATER_8 = { clMgL: null, sampledOn: null };
