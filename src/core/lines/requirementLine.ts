import { said } from '../why/said';
import type { Book } from '../book/book';
import { requirementIndex } from '../budget/indexSchool';
import { LINE_ERROR } from '../budget/ledger';
import { creditCropN, sulphurBudget } from '../budget/otherCredits';
import { checkYield, countedYield, requirementYieldGoal } from '../budget/requirement';
import { fitQuadraticPlateau } from '../budget/response';
import type { PlannedNSchool } from '../budget/schools';
import { refuse } from '../quantity/refusal';
import type { Crop } from '../book/crops';
import { placementOf } from '../book/fertilisers';
import { dateInWords } from '../quantity/calendar';
import { entered, fromTable, step, type Step } from '../why/step';
import { chosenSchools } from './chosenSchools';
import type { Plan } from '../document/document';
import { fixes } from './fixing';
import type { GroundAssessment } from './groundReading';
import { setByLeaf, type LeafVerdict } from './leafVerdict';
import { byLeafPk } from './leafPk';
import type { LedgerLine } from './line';
import { pkRequirement } from './pkRequirement';
import { attempt } from './problem';

export const SCHOOL_NAMES: Record<PlannedNSchool, string> = {
  yield_goal: 'yield goal',
  economic_optimum: 'economic optimum',
  index_ceiling: 'index and ceiling',
};
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
/** A legume's need is what it takes up: the air is a credit of its own (chapter 7, W1.8). */
function uptakeOf(crop: Crop, yieldTHa: number): { value: number; why: Step } {
  const counted = countedYield(crop, checkYield(crop, yieldTHa, 'yield_goal_t_ha'));
  const value = crop.uptakeNKgT * counted;
  return {
    value,
    why: step('requirement.n', 'N that the crop takes up', value, 'kg/ha', {
      formula: 'uptake per tonne x yield goal',
      source: crop.source,
      confidence: crop.confidence,
      note: 'A nodulated legume asks for no fertiliser N: what soil does not give comes from the air.',
      inputs: [
        fromTable('requirement.n.uptake', 'N taken up per tonne', crop.uptakeNKgT, 'kg/t', crop),
        entered('requirement.n.yield', 'Yield goal', counted, 't/ha'),
      ],
    }),
  };
}
/** Share of what is given that leaves with the fruit again (assumed; chapter 7, W2.6). */
const RECOVERED = { spread: 0.6, fertigated: 0.75 } as const;
/** A perennial whose leaf N lies within its range is only kept up (chapter 7, W2.6). */
function maintenance(
  plan: Plan,
  crop: Crop,
  leaf: LeafVerdict | null,
  table: number,
  tableWhy: Step,
): { value: number; why: Step } {
  const removal = crop.removalNKgT * (plan.season.yieldGoalTHa ?? 0);
  const fertigated = plan.passes.some((p) => placementOf(p.placementId).byDrip);
  const recovered = fertigated ? RECOVERED.fertigated : RECOVERED.spread;
  const value = Math.min(table, removal / recovered);
  return {
    value,
    why: step('requirement.n', 'N to keep the stand up', value, 'kg/ha', {
      school: 'leaf',
      formula: `removal by the fruit / ${recovered}${fertigated ? ', fertigated' : ''}, at most the table’s rate`,
      source: 'chapter 7, W2.6',
      confidence: 'medium',
      note: `Leaf N of ${leaf ? dateInWords(leaf.date) : 'the season'} lies within its range: organic matter and nitrate are inside this dose.`,
      inputs: [
        fromTable('requirement.n.removal', 'N per tonne of fruit', crop.removalNKgT, 'kg/t', crop),
        tableWhy,
      ],
    }),
  };
}

/**
 * N by the school of the plan; `soilNKgHa` is the nitrate that the layers hold, where they were
 * sampled.
 */
function nitrogen(
  book: Book,
  plan: Plan,
  crop: Crop,
  soilNKgHa: number | null,
  leaf: LeafVerdict | null,
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
  if (fixes(crop)) return uptakeOf(crop, yieldGoalTHa);
  // The legumes of a sward stand in a line of their own: its need is told whole.
  const need = requirementYieldGoal(book, {
    cropKey: crop.key,
    yieldGoalTHa,
    proteinTargetMarketPct: season.proteinTargetPct,
    legumeShare: null,
    plantingYear: season.plantingYear,
  });
  return setByLeaf(plan, leaf)
    ? maintenance(plan, crop, leaf, need.nReqKgHa, need.why)
    : { value: need.nReqKgHa, why: need.why };
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
  leaf: LeafVerdict | null,
): LedgerLine {
  const yieldTHa = plan.season.yieldGoalTHa ?? 0;
  const n = nitrogen(book, plan, crop, soilNKgHa, leaf);
  const [p, k] = (['p', 'k'] as const).map((x) => byLeafPk(book, plan, crop, ground, x, leaf)) as [
    ReturnType<typeof pkRequirement>,
    ReturnType<typeof pkRequirement>,
  ];
  const s = sulphurBudget(book, { cropKey: crop.key, yieldTHa });
  const pk =
    p.school === k.school ? `P and K by ${p.school}` : `P by ${p.school}, K by ${k.school}`;
  return {
    id: 'requirement',
    label: said`Requirement, ${yieldTHa} t/ha`,
    detail: `${setByLeaf(plan, leaf) ? 'by the leaf' : fixes(crop) ? 'what the crop takes up' : SCHOOL_NAMES[nSchoolOf(plan, crop)]}; ${chosenSchools(plan).pk === 'replacement' ? 'P and K replace off-take' : pk}`,
    kind: 'requirement',
    evidence: 'table',
    date: null,
    n: n.value,
    p: p.reqKgHa,
    k: k.reqKgHa,
    s: s.sReqKgHa,
    // What a legume takes up and does not find comes from the air: that is no doubt of the plan.
    error: fixes(crop) ? 0 : LINE_ERROR.requirement,
    struck: null,
    why: { n: n.why, p: p.why, k: k.why, s: s.why },
  };
}
