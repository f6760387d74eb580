import type { Book } from '../book/book';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { cropOf, type Crop } from '../book/crops';
import { entered, fromTable, step, type Step } from '../why/step';

/** Share of full need in planting years 1 to 4 of a perennial. */
const YEAR_FACTOR = [0.2, 0.4, 0.7, 1.0] as const;
const LATE_N_RECOVERY = 0.55;
const N_RECOVERY = 0.7;
/** A stand with this share of legume feeds itself (R9). */
const SELF_FEEDING_LEGUME_SHARE = 0.4;

/**
 * Yield that asks for N, t/ha: of a crop whose best dose hardly rises further, at most its ceiling;
 * beyond it more N costs quality (chapter 1, 5.3).
 *
 * @example countedYield(cropOf(PRINTED, 'sugar_beet'), 90) // 70
 */
export const countedYield = (crop: Pick<Crop, 'nCountedYieldMaxTHa'>, yieldTHa: number): number =>
  Math.min(yieldTHa, crop.nCountedYieldMaxTHa ?? Infinity);

export interface RequirementInput {
  cropKey: string;
  yieldGoalTHa: number;
  proteinTargetMarketPct?: number | null;
  legumeShare?: number | null;
  plantingYear?: number | null;
}
export interface Requirement {
  nReqKgHa: number;
  extraProteinNKgHa: number;
  requirementKind: 'total_supply';
  why: Step;
}

/** Refuses a yield that the crop cannot give: 0 is only for a perennial in its planting years. */
export function checkYield(
  crop: Crop,
  yieldTHa: number,
  field: string,
  zeroAllowed = false,
): number {
  return within(field, yieldTHa, {
    label: `${crop.name} yield`,
    unit: 't/ha',
    min: 0,
    max: crop.yieldMaxTHa,
    above: !zeroAllowed,
  });
}

function proteinExtra(
  crop: Crop,
  target: number,
  yieldTHa: number,
  base: number,
): { extra: number; step: Step } {
  const f = crop.proteinNFactor;
  if (f === null)
    refuse(
      'inconsistent',
      'protein_target_pct',
      `protein_target_pct: only for wheat, durum and barley, not for ${crop.name}.`,
      { value: target },
    );
  within('protein_target_pct', target, RANGES.proteinPct);
  const builtIn = (crop.removalNKgT * f) / 10;
  if (Math.abs(target - builtIn) > 5)
    refuse(
      'out_of_range',
      'protein_target_pct',
      `protein_target_pct = ${target} % is more than 5 points from the ${builtIn.toFixed(1)} % that the table holds.`,
      { value: target, allowed: `${(builtIn - 5).toFixed(1)} to ${(builtIn + 5).toFixed(1)} %` },
    );
  const grainN = (((target - builtIn) * 10) / f) * yieldTHa;
  const extra = grainN >= 0 ? grainN / LATE_N_RECOVERY : Math.max(-0.2 * base, grainN / N_RECOVERY);
  return {
    extra,
    step: step('requirement.n.protein', `Protein ${target} %`, extra, 'kg/ha', {
      formula: `(target - ${builtIn.toFixed(2)} % in the table) x 10 / ${f} x yield / ${grainN >= 0 ? LATE_N_RECOVERY : N_RECOVERY}`,
      source: 'consensus (chapter 1, R1)',
      confidence: 'medium',
    }),
  };
}

/**
 * N requirement by the yield-goal school (chapter 1, R1): all plant-available N that the crop must
 * find, from every source.
 *
 * @param i.yieldGoalTHa t/ha at market moisture, above 0 up to the crop's credible maximum
 * @throws Refusal for an impossible yield (bushels typed as tonnes) or a protein target on
 * another crop
 * @example requirementYieldGoal(PRINTED, { cropKey: 'winter_wheat', yieldGoalTHa: 8 }).nReqKgHa
 * // 288 kg/ha
 */
export function requirementYieldGoal(book: Book, i: RequirementInput): Requirement {
  const crop = cropOf(book, i.cropKey);
  const year = i.plantingYear ?? null;
  if (year !== null) {
    within('planting_year', year, { label: 'Planting year', unit: '', min: 1, max: 100 });
    if (crop.nBaseKgHa === 0)
      refuse(
        'inconsistent',
        'planting_year',
        `planting_year: ${crop.name} is not a perennial with a base need.`,
        { value: year },
      );
  }
  const yearFactor = year === null ? 1 : (YEAR_FACTOR[Math.min(4, Math.floor(year)) - 1] ?? 1);
  const goal = checkYield(crop, i.yieldGoalTHa, 'yield_goal_t_ha', year !== null && year <= 4);
  const counted = countedYield(crop, goal);
  const fixes = crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume';
  const legumeShare = i.legumeShare ?? 0;
  within('legume_share', legumeShare, { ...RANGES.share, label: 'Legume share' });
  const stand =
    crop.nFixing === 'mixed_ley' ? Math.max(0, 1 - legumeShare / SELF_FEEDING_LEGUME_SHARE) : 1;
  const base = fixes ? 0 : (crop.nBaseKgHa * yearFactor + crop.nReqKgT * counted) * stand;
  const protein =
    i.proteinTargetMarketPct == null
      ? null
      : proteinExtra(crop, i.proteinTargetMarketPct, goal, base);
  const extraProteinNKgHa = protein?.extra ?? 0;
  return {
    nReqKgHa: base + extraProteinNKgHa,
    extraProteinNKgHa,
    requirementKind: 'total_supply',
    why: step('requirement.n', 'N requirement', base + extraProteinNKgHa, 'kg/ha', {
      school: 'yield goal',
      source: crop.source,
      confidence: crop.confidence,
      formula: fixes
        ? 'a nodulated legume takes its N from the air: requirement 0'
        : `${crop.nBaseKgHa ? 'base x year factor + ' : ''}N per tonne x yield goal${stand < 1 ? ' x (1 - legume share / 0.40)' : ''}${protein ? ' + protein' : ''}`,
      note:
        counted < goal
          ? `Only ${counted} t/ha count for N in beet: more N costs sugar.`
          : 'A total supply: soil nitrate, organic matter, legumes and manure are credited against it. The economic-optimum and index systems give a dose instead.',
      inputs: [
        fromTable('requirement.n.per_t', 'N per tonne', crop.nReqKgT, 'kg/t', crop),
        entered('requirement.n.yield', 'Yield goal', goal, 't/ha'),
        ...(crop.nBaseKgHa
          ? [
              fromTable(
                'requirement.n.base',
                'Base need of the stand',
                crop.nBaseKgHa * yearFactor,
                'kg/ha',
                crop,
              ),
            ]
          : []),
        ...(protein ? [protein.step] : []),
      ],
    }),
  };
}

/**
 * A realistic goal from the field's own years (R0): mean x 1.05, the worst of five or more years
 * left out.
 *
 * @example realisticYield(PRINTED, { cropKey: 'spring_wheat', yieldHistoryTHa: [2.1, 3.8, 4.2,
 * 3.9, 4.5], yieldGoalTHa: 5.5 }).realisticYieldTHa // 4.305
 */
export function realisticYield(
  book: Book,
  i: {
    cropKey: string;
    yieldHistoryTHa: readonly number[];
    yieldGoalTHa?: number | null;
  },
) {
  const crop = cropOf(book, i.cropKey);
  i.yieldHistoryTHa.forEach((y) => checkYield(crop, y, 'yield_history_t_ha', true));
  if (i.yieldGoalTHa != null) checkYield(crop, i.yieldGoalTHa, 'yield_goal_t_ha');
  const years = [...i.yieldHistoryTHa].sort((a, b) => a - b);
  const kept = years.length >= 5 ? years.slice(1) : years;
  const fromHistory = years.length >= 3;
  const meanTHa = fromHistory
    ? kept.reduce((a, b) => a + b, 0) / kept.length
    : crop.yieldTypicalTHa;
  const realisticYieldTHa = fromHistory ? meanTHa * 1.05 : crop.yieldTypicalTHa;
  return {
    realisticYieldTHa,
    meanTHa,
    bookYield: !fromHistory,
    tooHigh: i.yieldGoalTHa != null && fromHistory && i.yieldGoalTHa > 1.2 * realisticYieldTHa,
  };
}
