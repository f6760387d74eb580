import { creditAllowed } from '../budget/matrix';
import { creditDelta } from '../budget/otherCredits';
import type { Crop } from '../book/crops';
import { step } from '../why/step';
import type { Plan } from '../document/document';
import type { LedgerLine } from './line';
import { nSchoolOf, SCHOOL_NAMES } from './requirementLine';

const COUNTED_BY_SAMPLE = 'counted by the nitrate sample';
/** What comes on top of a dose by the leaf: water, and manure of earlier years. */
const BESIDE_LEAF = ['irrigation_nitrate', 'manure_earlier_years'];
/** Mean N that the trials' own crops held in spring, kg/ha (chapter 1, matrix). */
const TRIAL_CROP_N = { cereals: 20, canola: 50 } as const;
/**
 * A line under the school of the plan: what the school holds already stays visible and counts
 * nothing.
 */
export function bySchool(
  plan: Plan,
  crop: Crop,
  line: LedgerLine,
  matrixLine: string,
  flags: Record<string, boolean>,
  setBy: 'school' | 'leaf' = 'school',
): LedgerLine {
  const school = nSchoolOf(plan, crop);
  if (line.n === null) return line;
  const given = line.n;
  // A dose that keeps a perennial up holds what the ground itself gives (chapter 7, W2.6).
  if (setBy === 'leaf')
    return BESIDE_LEAF.includes(matrixLine)
      ? line
      : {
          ...line,
          n: 0,
          heldN: given,
          detail: 'already in: the leaf has set the dose',
        };
  const { state } = creditAllowed({ line: matrixLine, school, flags });
  if (state === 'allowed') return line;
  const name = SCHOOL_NAMES[school];
  const held = (n: number, detail: string, formula: string): LedgerLine => ({
    ...line,
    n,
    heldN: given,
    detail,
    why: {
      ...line.why,
      n: step(`credit.${line.id}.school`, line.label, n, 'kg/ha', {
        formula,
        school: name,
        source: 'chapter 1, 5.6 (credit matrix)',
        confidence: 'high',
        inputs: line.why.n ? [line.why.n] : [],
      }),
    },
  });
  if (state === 'delta') {
    const mean =
      matrixLine === 'crop_n_in_spring'
        ? crop.winterN === 'canola'
          ? TRIAL_CROP_N.canola
          : TRIAL_CROP_N.cereals
        : plan.schools.calNo3KgHa;
    return held(
      creditDelta({ measuredKgHa: line.n, calNo3KgHa: mean }).creditKgHa,
      `beyond the ${mean} kg that the trials held`,
      `what lies above the trials’ mean of ${mean} kg/ha`,
    );
  }
  if (state === 'zero') return held(0, COUNTED_BY_SAMPLE, 'the nitrate sample already holds it');
  return held(
    0,
    state === 'feeds_school'
      ? `sets the ${name}, not a line of its own`
      : `inside the ${name} figure`,
    `the ${name} figure holds it already: taking it off again would under-feed the crop by ${line.n.toFixed(0)} kg/ha`,
  );
}
