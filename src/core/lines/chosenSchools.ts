import type { PkSchool, PlannedNSchool } from '../budget/schools';
import type { Plan } from '../document/document';

/** The schools of a field: its own choice, else the farm's. */
export const chosenSchools = (
  plan: Pick<Plan, 'schools' | 'farm'>,
): { n: PlannedNSchool; pk: PkSchool } => ({
  n: plan.schools.n ?? plan.farm.nSchool,
  pk: plan.schools.pk ?? plan.farm.pkSchool,
});
