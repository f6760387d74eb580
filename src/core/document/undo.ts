import type { Plan } from './document';
import { mergePlans, takeTheirs } from './merge';

/** One thing that somebody entered: the plan before it and after it. */
export interface Entry {
  before: Plan;
  after: Plan;
}

/**
 * Takes one's own entry back and nothing of anybody else's: what the entry changed returns to what
 * it was, unless it has been changed again
 * since, by somebody else or by a later entry. Then it stays.
 *
 * @example undone({ before: goal(8), after: goal(9) }, goal(9)).season.yieldGoalTHa // 8
 */
export function undone({ before, after }: Entry, now: Plan): Plan {
  const { plan, conflicts } = mergePlans(after, before, now);
  return conflicts.reduce((p, c) => takeTheirs(p, c), plan);
}
