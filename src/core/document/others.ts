import type { Plan } from './document';

// Other supplies of a season, held beside the plan: what was spread stands in all of them.

export type OtherPlan = Plan['others'][number];
export const MOST_OTHERS = 3;

const planned = <T extends { status: 'planned' | 'done' }>(list: readonly T[]): T[] =>
  list.filter((x) => x.status === 'planned');
const done = <T extends { status: 'planned' | 'done' }>(list: readonly T[]): T[] =>
  list.filter((x) => x.status === 'done');

/**
 * The supply of a plan as it is held aside. Which store a dressing comes from belongs to the plan
 * that is followed; it is found again by the dressing's id.
 */
export const heldAside = (
  { passes, organics }: Pick<Plan, 'passes' | 'organics'>,
  id: string,
  name: string,
): OtherPlan => ({
  id,
  name,
  passes: planned(passes),
  organics: planned(organics).map((o) => ({ ...o, storeId: null })),
});

/** The plan with another supply in place of what is still planned. */
export function withOther(plan: Plan, other: OtherPlan): Plan {
  const stores = new Map(plan.organics.map((o) => [o.id, o.storeId]));
  return {
    ...plan,
    passes: [...done(plan.passes), ...other.passes],
    organics: [
      ...done(plan.organics),
      ...other.organics.map((o) => ({ ...o, storeId: stores.get(o.id) ?? null })),
    ],
  };
}

/** The other supply takes the plan's place, and the plan the other's: nothing is lost. */
export const exchanged = (plan: Plan, id: string, nameOfPlan: string): Plan => {
  const other = plan.others.find((o) => o.id === id);
  if (!other) return plan;
  return {
    ...withOther(plan, other),
    others: plan.others.map((o) => (o.id === id ? heldAside(plan, id, nameOfPlan) : o)),
  };
};
