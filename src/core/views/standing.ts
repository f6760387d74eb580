import { planChanges } from '../document/planChanges';
import type { Plan } from '../document/document';
import { dateInWords } from '../quantity/calendar';

/** The newest version of a plan that both agreed to. */
export interface AgreedPlan {
  number: number;
  /** The day of the farmer's word. */
  on: string;
  names: string[];
  plan: Plan;
}
export interface PlanStanding {
  agreed: AgreedPlan | null;
  /** A version that waits for the farmer's answer, and since when. */
  waiting: { number: number; since: string } | null;
}

/**
 * How a plan stands, in one sentence that every page and file says alike: a draft, agreed, or
 * changed since in so many lines.
 *
 * @example standingWords(plan, { agreed: null, waiting: null }) // 'Draft, not agreed'
 */
export function standingWords(plan: Plan, { agreed, waiting }: PlanStanding): string {
  const parts: string[] = [];
  if (agreed) {
    const changed = planChanges(agreed.plan, plan).length;
    parts.push(
      `Agreed ${dateInWords(agreed.on)} by ${agreed.names.join(' and ')}${
        changed > 0 ? `, changed since: ${changed} ${changed === 1 ? 'line' : 'lines'}` : ''
      }`,
    );
  } else parts.push('Draft, not agreed');
  if (waiting)
    parts.push(
      `version ${waiting.number} of ${dateInWords(waiting.since)} waits for the farmer’s answer`,
    );
  return parts.join('; ');
}
