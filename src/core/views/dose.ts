import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import type { Crop } from '../book/crops';
import { requirementYieldGoal } from '../budget/requirement';
import type { Plan } from '../document/document';
import { setByLeaf } from '../lines/leafVerdict';
import { attempt } from '../lines/problem';
import { fixes } from '../lines/fixing';
import { nSchoolOf } from '../lines/requirementLine';

/**
 * What a dose holds of the N that the ground itself gives: the need by yield goal less the dose, 0
 * for schools that tell a total supply (chapter 7, W1.7). It is drawn under the supply and above
 * the line alike, so that it changes nothing of the end.
 */
export function doseHolds(
  book: Book,
  plan: Plan,
  crop: Crop,
  a: Pick<Assessment, 'sums' | 'leafSays'>,
): number {
  if (fixes(crop)) return 0;
  if (nSchoolOf(plan, crop) === 'yield_goal' && !setByLeaf(plan, a.leafSays)) return 0;
  const need = attempt([], 'budget', () =>
    requirementYieldGoal(book, {
      cropKey: crop.key,
      yieldGoalTHa: plan.season.yieldGoalTHa ?? 0,
      proteinTargetMarketPct: plan.season.proteinTargetPct,
      legumeShare: null,
      plantingYear: plan.season.plantingYear,
    }),
  );
  return need ? Math.max(0, need.nReqKgHa - a.sums.n.requirement) : 0;
}
