import { objectOf, type Step } from './step';

/** Version 2 knows lime, texture and tillage, buffer and aluminium. */
export const step0001: Step = {
  from: 1,
  up: (plan) => ({
    ...plan,
    version: 2,
    lime: null,
    field: { ...objectOf(plan.field), clayPct: null, tillage: null },
    ground: {
      ...objectOf(plan.ground),
      nPoints: null,
      bufferKind: null,
      bufferPh: null,
      alCmolKg: null,
      boronLastYearKgHa: null,
    },
  }),
};
