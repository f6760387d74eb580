import type { Book } from '../book/book';
import { leastYield, repairedYield } from '../budget/limiting';
import { requirementYieldGoal } from '../budget/requirement';
import { readingError } from '../ground/survey';
import { phMoney } from '../ground/ph';
import { relativeYield } from '../ground/relativeYield';
import { cropOf, crosswalkOf } from '../book/crops';
import { criticalLevelOf } from '../book/sampling';
import { step, type Step } from '../why/step';
import type { Assessment } from '../assessment/assess';
import { WATER_OR_STAND } from '../assessment/limits';
import { chosenSchools } from '../lines/chosenSchools';
import type { Plan } from '../document/document';
import { attempt } from '../lines/problem';

export interface Stave {
  factor: string;
  /** Relative yield as if the rest were adequate, 0 to 1: the height of the stave. */
  ry: number;
  /** The same by another way of reading, or its span; null where there is none. */
  other: { low: number; high: number; label: string } | null;
  why: Step;
}
/** What a full dose of one factor would bring this season, alone. */
export interface Repair {
  factor: string;
  ryNow: number;
  ryAfter: number;
  /** More yield, t/ha, where the shortest alone counts and where all multiply. */
  dyLiebigTHa: number;
  dyProductTHa: number;
  /** Pays only once the ground is put right (chapter 7, W2.3 d): no money is told of it. */
  waits: boolean;
  /** Money a hectare; null where no price is known. */
  costHa: number | null;
  valueLiebigHa: number | null;
  valueProductHa: number | null;
}
export interface Barrel {
  /** pH first while it forbids or hinders the crop, then the shortest stave first. */
  staves: Stave[];
  shortest: Stave | null;
  /** Yield that the shortest stave allows, t/ha. */
  attainableTHa: number;
  /** What money spent elsewhere will not do, in words. */
  elsewhere: string;
  /** Factors without a reading, and the least yield that each could leave (chapter 7, W1.16). */
  notRead: { factor: string; least: number | null }[];
  repairs: Repair[];
  /**
   * Where the other limits hold the crop below its goal all the same: the yield to plan for, and
   * the N that it saves (chapter 1, L2).
   */
  lowerGoal: { attainableTHa: number; nReqKgHa: number; nSavedKgHa: number } | null;
}
const pct = (x: number) => `${(100 * x).toFixed(0)} %`;

/**
 * The test read on the response curve of its own crop and extractant, with the span that its
 * sampling error leaves (chapter 3, 4.3).
 */
function onCurve(book: Book, plan: Plan, nutrient: 'p' | 'k'): Stave['other'] {
  const reading = plan.ground.readings.find((r) => r.nutrient === nutrient && r.unit === 'mg_kg');
  const group = plan.season.cropKey
    ? crosswalkOf(book, plan.season.cropKey).criticalLevelGroup
    : null;
  const row = reading && group ? criticalLevelOf(group, nutrient, reading.extractant) : undefined;
  if (!reading || !row) return null;
  const cec = plan.field.cecCmolKg;
  const crit95 =
    row.crit95 * (nutrient === 'k' && cec !== null ? (cec < 7 ? 0.8 : cec > 25 ? 1.2 : 1) : 1);
  const at = (test: number) =>
    relativeYield({ test: Math.max(0, test), crit95, ry0: row.ry0Pct }).value / 100;
  const se =
    readingError(nutrient, reading.value, plan.ground.nCores, plan.ground.nPoints ?? 1) ?? 0;
  return {
    low: at(reading.value - 1.645 * se),
    high: at(reading.value + 1.645 * se),
    label: `response curve, critical level ${crit95.toFixed(0)} mg/kg`,
  };
}
function bySlope(book: Book, plan: Plan, ph: number): Stave['other'] {
  const group = plan.season.cropKey ? crosswalkOf(book, plan.season.cropKey).targetPhGroup : null;
  if (!group) return null;
  const ry = phMoney({ ph, crop: group, yieldGoal: 1, price: 1 }).ryPh / 100;
  return {
    low: ry,
    high: ry,
    label: 'straight slope (chapter 3); the stave shows the steeper table',
  };
}

/** Factors that money for fertiliser repairs, with what is still to apply of each and its price. */
function repairsOf(
  plan: Plan,
  a: Pick<Assessment, 'limiting' | 'sums' | 'soilFirst'>,
  goal: number,
): Repair[] {
  const list = a.limiting?.relativeYields ?? [];
  const { farm, season } = plan;
  const left = {
    N: [a.sums.n.stillToApply, farm.nPricePerKg],
    P: [a.sums.p.stillToApply, farm.pPricePerKg],
    K: [a.sums.k.stillToApply, farm.kPricePerKg],
    S: [a.sums.s.stillToApply, farm.sPricePerKg],
  } as Record<string, [number, number] | undefined>;
  const yields = (ry: (f: (typeof list)[number]) => number) => ({
    liebig: goal * Math.min(1, ...list.map(ry)),
    product: goal * list.reduce((p, f) => p * ry(f), 1),
  });
  const now = yields((f) => f.ry);
  return list
    .filter((f) => f.factor !== WATER_OR_STAND)
    .map((f) => {
      const ryAfter = repairedYield(f.factor, f.ry);
      const after = yields((x) => (x === f ? ryAfter : x.ry));
      const [dyLiebigTHa, dyProductTHa] = [after.liebig - now.liebig, after.product - now.product];
      const price = season.cropPricePerT;
      const dose = left[f.factor];
      const waits = a.soilFirst !== null && dose !== undefined;
      return {
        factor: f.factor,
        ryNow: f.ry,
        ryAfter,
        dyLiebigTHa,
        dyProductTHa,
        costHa: dose ? Math.max(0, dose[0]) * dose[1] : null,
        waits,
        valueLiebigHa: price === null || waits ? null : dyLiebigTHa * price,
        valueProductHa: price === null || waits ? null : dyProductTHa * price,
      };
    });
}
const HELD_BELOW = 0.97;
/**
 * The yield that the limits beside N leave after what is planned, and the N that it needs: a
 * suggestion, never automatic.
 */
function lowerGoalOf(
  book: Book,
  plan: Plan,
  a: Pick<Assessment, 'limiting' | 'sums'>,
  goal: number,
): Barrel['lowerGoal'] {
  const others = (a.limiting?.relativeYields ?? []).filter((f) => f.factor !== 'N');
  const ry = Math.min(1, ...others.map((f) => f.ry));
  if (
    ry >= HELD_BELOW ||
    plan.season.cropKey === null ||
    a.sums.n.requirement <= 0 ||
    chosenSchools(plan).n !== 'yield_goal'
  )
    return null;
  const attainableTHa = goal * ry;
  const { season } = plan;
  const need = attempt([], 'budget', () =>
    requirementYieldGoal(book, {
      cropKey: season.cropKey as string,
      yieldGoalTHa: attainableTHa,
      proteinTargetMarketPct: season.proteinTargetPct,
      legumeShare: season.legumeShare,
      plantingYear: season.plantingYear,
    }),
  );
  return (
    need && {
      attainableTHa,
      nReqKgHa: need.nReqKgHa,
      nSavedKgHa: a.sums.n.requirement - need.nReqKgHa,
    }
  );
}

/**
 * What limits this field for this crop: the staves of a barrel, each as high as the yield that its
 * factor allows (chapter 1, section 9 and
 * chapter 3, 4.3). Null while crop or yield goal are not known.
 */
export function barrel(
  book: Book,
  plan: Plan,
  a: Pick<Assessment, 'limiting' | 'ground' | 'sums' | 'soilFirst'>,
): Barrel | null {
  const goal = plan.season.yieldGoalTHa;
  if (!a.limiting || goal === null || goal === 0) return null;
  const other = (factor: string): Stave['other'] =>
    factor === 'P' || factor === 'K'
      ? onCurve(book, plan, factor === 'P' ? 'p' : 'k')
      : factor === 'pH' && a.ground.planning
        ? bySlope(book, plan, a.ground.planning.ph)
        : null;
  const staves = a.limiting.relativeYields.map((f): Stave => ({
    factor: f.factor,
    ry: f.ry,
    other: other(f.factor),
    why: f.why,
  }));
  const acid = a.ground.gate?.level === 'stop' || a.ground.gate?.level === 'caution';
  const order = [...staves].sort(
    (p, q) => Number(acid && q.factor === 'pH') - Number(acid && p.factor === 'pH') || p.ry - q.ry,
  );
  const shortest = staves.reduce<Stave | null>((s, x) => (s === null || x.ry < s.ry ? x : s), null);
  const next = shortest
    ? staves
        .filter((s) => s !== shortest)
        .reduce<Stave | null>((s, x) => (s === null || x.ry < s.ry ? x : s), null)
    : null;
  const first = order[0];
  const elsewhere =
    !shortest || !first
      ? ''
      : acid && first.factor === 'pH'
        ? `pH comes first: money for P or K waits in the ground until the pH is put right, and the crop stays near ${pct(first.ry)} of its goal by pH alone.`
        : shortest.ry > 0.97
          ? 'Nothing holds this crop back by more than 3 %: more of anything buys next to nothing.'
          : next
            ? `Until ${shortest.factor} is put right, the crop stays near ${pct(shortest.ry)} of its goal. Bringing ${next.factor} from ${pct(next.ry)} to full adds at most ${(goal * shortest.ry * (1 / next.ry - 1)).toFixed(1)} t/ha where both count, and nothing where the shortest alone decides.`
            : '';
  const known = new Set(staves.map((s) => s.factor));
  return {
    staves: order,
    shortest,
    attainableTHa: a.limiting.yLiebigTHa,
    elsewhere,
    notRead: [
      ...(known.has('pH') ? [] : [{ factor: 'pH', least: null }]),
      ...(['P', 'K', 'S', 'Mg'] as const)
        .filter((f) => !known.has(f))
        .map((factor) => ({
          factor,
          least: leastYield(cropOf(book, plan.season.cropKey as string), factor),
        })),
    ],
    repairs: repairsOf(plan, a, goal),
    lowerGoal: lowerGoalOf(book, plan, a, goal),
  };
}

/** The barrel's shortest stave as a reason. */
export const barrelStep = (b: Barrel): Step =>
  step('barrel', 'Limiting factor', b.shortest ? b.shortest.factor : null, '', {
    formula: 'smallest relative yield, each factor as if the others were adequate',
    source: 'chapter 1, section 9',
    confidence: 'medium',
    inputs: b.staves.map((s) => s.why),
  });
