import { said } from '../why/said';
import type { Book } from '../book/book';
import { requirementIndex } from '../budget/indexSchool';
import { LINE_ERROR } from '../budget/ledger';
import { creditCropN, sulphurBudget } from '../budget/otherCredits';
import { requirementYieldGoal } from '../budget/requirement';
import { fitQuadraticPlateau } from '../budget/response';
import type { PlannedNSchool } from '../budget/schools';
import { refuse } from '../quantity/refusal';
import type { Crop } from '../book/crops';
import type { Step } from '../why/step';
import { chosenSchools } from './chosenSchools';
import type { Plan } from '../document/document';
import type { GroundAssessment } from './groundReading';
import type { LedgerLine } from './line';
import { pkRequirement } from './pkRequirement';
import { attempt } from './problem';

export const SCHOOL_NAMES: Record<PlannedNSchool, string> = {
  yield_goal: 'yield goal',
  economic_optimum: 'economic optimum',
  index_ceiling: 'index and ceiling',
};
/** A nodulated legume needs no N by any school. */
export const fixes = (crop: Crop): boolean =>
  crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume';

/** The school that a season is planned by: a fixing crop has one only. */
export const nSchoolOf = (plan: Plan, crop: Crop): PlannedNSchool =>
  fixes(crop) ? 'yield_goal' : chosenSchools(plan).n;

/**
 * N that a winter crop holds already; a crop that holds none is named where its credit is
 * reckoned.
 */
const cropInSpring = (book: Book, { cropN }: Plan, crop: Crop): number | null =>
  cropN
    ? attempt([], 'crop', () => creditCropN(book, { cropKey: crop.key, ...cropN }).creditKgHa)
    : null;
/**
 * N by the school of the plan; `soilNKgHa` is the nitrate that the layers hold, where they were
 * sampled.
 */
function nitrogen(
  book: Book,
  plan: Plan,
  crop: Crop,
  soilNKgHa: number | null,
): { value: number; why: Step } {
  const { season, schools, farm } = plan;
  const yieldGoalTHa = season.yieldGoalTHa ?? 0;
  const school = nSchoolOf(plan, crop);
  if (school === 'economic_optimum') {
    if (season.cropPricePerT === null)
      refuse(
        'missing',
        'crop_price_per_t',
        'crop_price_per_t: the economic optimum needs the price of the crop; give it at Crop.',
        { allowed: 'above 0' },
      );
    const fit = fitQuadraticPlateau({
      points: schools.trials.map((t) => [t.nKgHa, t.yieldTHa]),
      priceNPerKg: farm.nPricePerKg,
      priceCropPerT: season.cropPricePerT,
    });
    return { value: fit.eonrKgHa, why: fit.why };
  }
  if (school === 'index_ceiling') {
    const dose = requirementIndex(book, {
      cropKey: crop.key,
      yieldGoalTHa,
      smnKgHa: schools.smnKgHa ?? soilNKgHa,
      cropNKgHa: cropInSpring(book, plan, crop),
      omPct: plan.field.omPct,
      previousCropGroup: schools.previousCropGroup,
      soilGroup: schools.soilGroup,
      winterDrainageMmClass: schools.winterDrainageMmClass,
      regularManure: schools.regularManure,
      legalCapKgHa: farm.legalNCapKgHa,
    });
    // Nitrate of the layers is less than mineral N to 90 cm: it places the field low, so the dose
    // errs high. That must be told.
    const standIn = schools.smnKgHa === null && soilNKgHa !== null;
    return {
      value: dose.nDoseKgHa,
      why: standIn
        ? {
            ...dose.why,
            confidence: 'low',
            note: `The nitrate of the sampled layers stands in for soil mineral N to 90 cm: it reads low, so the dose may be too high. ${dose.why.note ?? ''}`.trim(),
          }
        : dose.why,
    };
  }
  const need = requirementYieldGoal(book, {
    cropKey: crop.key,
    yieldGoalTHa,
    proteinTargetMarketPct: season.proteinTargetPct,
    legumeShare: season.legumeShare,
    plantingYear: season.plantingYear,
  });
  return { value: need.nReqKgHa, why: need.why };
}

/**
 * What the crop will want, by the schools of the plan. Throws a Refusal that names the bad input.
 */
export function requirementLine(
  book: Book,
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
  soilNKgHa: number | null,
): LedgerLine {
  const yieldTHa = plan.season.yieldGoalTHa ?? 0;
  const n = nitrogen(book, plan, crop, soilNKgHa);
  const [p, k] = (['p', 'k'] as const).map((x) => pkRequirement(book, plan, crop, ground, x)) as [
    ReturnType<typeof pkRequirement>,
    ReturnType<typeof pkRequirement>,
  ];
  const s = sulphurBudget(book, { cropKey: crop.key, yieldTHa });
  const pk =
    p.school === k.school ? `P and K by ${p.school}` : `P by ${p.school}, K by ${k.school}`;
  return {
    id: 'requirement',
    label: said`Requirement, ${yieldTHa} t/ha`,
    detail: `${SCHOOL_NAMES[nSchoolOf(plan, crop)]}; ${chosenSchools(plan).pk === 'replacement' ? 'P and K replace off-take' : pk}`,
    kind: 'requirement',
    evidence: 'book',
    date: null,
    n: n.value,
    p: p.reqKgHa,
    k: k.reqKgHa,
    s: s.sReqKgHa,
    error: LINE_ERROR.requirement,
    struck: null,
    why: { n: n.why, p: p.why, k: k.why, s: s.why },
  };
}
