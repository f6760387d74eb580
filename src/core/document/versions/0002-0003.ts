import type { Step } from './step';

/**
 * Version 3 knows several schools and residues; before, every plan went by yield goal and
 * replacement.
 */
export const step0002: Step = {
  from: 2,
  up: (plan) => ({
    ...plan,
    version: 3,
    residue: null,
    schools: {
      n: 'yield_goal',
      pk: 'replacement',
      trials: [],
      calNo3KgHa: 40,
      trialsAfterLegume: null,
      smnKgHa: null,
      previousCropGroup: null,
      soilGroup: null,
      winterDrainageMmClass: null,
      regularManure: false,
      buildYears: 6,
    },
  }),
};
