import { LINE_ERROR } from '../budget/ledger';
import { pkReplacement } from '../budget/offtake';
import { sulphurBudget } from '../budget/otherCredits';
import { requirementYieldGoal } from '../budget/requirement';
import type { Crop } from '../reference/crops';
import type { Plan } from './document';
import type { GroundAssessment } from './groundReading';
import type { LedgerLine } from './line';

/** What the crop will want: N by yield goal, P and K by replacement of off-take, S by uptake. Throws a Refusal that names the bad input. */
export function requirementLine(plan: Plan, crop: Crop, ground: GroundAssessment): LedgerLine {
  const { season } = plan;
  const yieldTHa = season.yieldGoalTHa ?? 0;
  const n = requirementYieldGoal({ cropKey: crop.key, yieldGoalTHa: yieldTHa, proteinTargetMarketPct: season.proteinTargetPct, legumeShare: season.legumeShare, plantingYear: season.plantingYear });
  const carried = crop.residueDmTPerT === null ? 0 : season.strawRemovedFrac;
  const pk = (nutrient: 'p' | 'k') => pkReplacement({ cropKey: crop.key, yieldTHa, nutrient, soilClass: ground.classes[nutrient === 'p' ? 'P' : 'K'] ?? 'unknown', strawRemovedFrac: carried });
  const [p, k] = [pk('p'), pk('k')];
  const s = sulphurBudget({ cropKey: crop.key, yieldTHa });
  return {
    id: 'requirement', label: `Requirement, ${yieldTHa} t/ha`, detail: 'yield goal; P and K replace off-take', kind: 'requirement', evidence: 'book', date: null, n: n.nReqKgHa, p: p.reqKgHa, k: k.reqKgHa, s: s.sReqKgHa, error: LINE_ERROR.requirement, struck: null,
    why: { n: n.why, p: p.why, k: k.why, s: s.why },
  };
}
