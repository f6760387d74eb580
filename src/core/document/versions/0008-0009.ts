import { objectOf, type Step } from './step';

/**
 * Version 9 knows when a standing crop grows and when it is cut, the rain since the nitrate sample,
 * who does each job, and what somebody answered to a caution.
 */
export const step0008: Step = {
  from: 8,
  up: (plan) => ({
    ...plan,
    version: 9,
    season: { ...objectOf(plan.season), ...NEW_SEASON_9 },
    jobs: [],
    answers: [],
  }),
};
export const NEW_SEASON_9 = { budBurst: null, leafFall: null, cuts: [], rainSinceSampleMm: null };
