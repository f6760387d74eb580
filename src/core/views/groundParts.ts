import type { Book } from '../book/book';
import { phCurve } from '../ground/limeComparison';
import { cropOf } from '../book/crops';
import { phBandOf } from '../book/limes';
import type { Assessment } from '../assessment/assess';
import { barrel, barrelStep, type Barrel } from './barrel';
import type { Plan } from '../document/document';
import type { LimePlan } from '../document/limeDocument';
import { assessLime, blankLime, type LimeAssessment } from '../lines/lime';
import type { Problem } from '../lines/problem';
import { secondaryRisks, type SecondaryRisk } from '../lines/secondary';
import type { Step } from '../why/step';

export interface PhCurve {
  id: string;
  name: string;
  points: { month: number; date: string; ph: number }[];
}
/** What the parts of Ground show beside the assessment: computed only where one of them is open. */
export interface GroundParts {
  /** The lime part as it is, or as it would begin. */
  limePlan: LimePlan;
  lime: LimeAssessment | null;
  limeProblems: Problem[];
  /** pH over three years for each lime, as compared. */
  curves: PhCurve[];
  band: ReturnType<typeof phBandOf> | null;
  barrel: Barrel | null;
  barrelWhy: Step | null;
  secondary: SecondaryRisk[];
}
const MONTHS = 36;

export function groundPartsOf(book: Book, plan: Plan, a: Assessment): GroundParts {
  const limeProblems: Problem[] = [];
  const lime = plan.lime
    ? a.lime
    : assessLime(
        book,
        plan,
        a.ground,
        a.limiting?.relativeYields.find((f) => f.factor === 'pH')?.ry ?? null,
        limeProblems,
      );
  const { comparison } = lime ?? { comparison: null };
  const b = barrel(book, plan, a);
  const { cropKey } = plan.season;
  return {
    limePlan: plan.lime ?? blankLime(plan),
    lime,
    limeProblems,
    curves: comparison
      ? (lime?.rows ?? []).map((r) => ({
          id: r.candidate.id,
          name: r.material.name,
          points: phCurve(book, r.candidate, comparison, MONTHS),
        }))
      : [],
    band: a.ground.planning ? phBandOf(a.ground.planning.ph) : null,
    barrel: b,
    barrelWhy: b ? barrelStep(b) : null,
    secondary: cropKey ? secondaryRisks(plan, cropOf(book, cropKey), a.ground, a.leaf.short) : [],
  };
}
