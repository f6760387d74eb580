import type { Book } from '../book/book';
import { interpolate } from '../quantity/curve';
import { RANGES, within } from '../quantity/range';
import { cropOf, type Crop, type SoilClass } from '../book/crops';
import { limitingRow, phYieldKnots } from '../book/budgetTables';
import { step, type Step } from '../why/step';
import { requirementYieldGoal } from './requirement';

export type Factor = string;
export interface LimitingInput {
  cropKey: string;
  yieldGoalTHa: number;
  nSupplyKgHa: number;
  nNeedKgHa: number;
  classes: Partial<Record<'P' | 'K' | 'S' | 'Mg', SoilClass>>;
  phWater?: number | null;
  /** What the plan repairs this season: kg/ha planned against needed. */
  planned?: Partial<
    Record<'P' | 'K' | 'S' | 'Mg', { plannedKgHa: number; neededKgHa: number; banded?: boolean }>
  > | null;
  otherLimits?: readonly { name: string; relativeYield: number }[] | null;
  repair?: { factor: string } | null;
}
export interface LimitingResult {
  limiting: Factor;
  coLimiting: Factor[];
  relativeYields: { factor: Factor; ry: number; why: Step }[];
  yLiebigTHa: number;
  yProductTHa: number;
  dyLiebigTHa: number | null;
  dyProductTHa: number | null;
}

/**
 * Share of the gap that a full dose closes this season: judgement of chapter 1, section 9, low
 * confidence.
 */
const REPAIR = { P_banded: 0.85, P: 0.6, K: 0.8, S: 0.95, Mg: 0.6 } as const;
/**
 * Relative yield once a full dose of a factor is given this season: P banded, N and pH put right
 * altogether.
 *
 * @example repairedYield('P', 0.7) // 0.955
 */
export const repairedYield = (factor: Factor, ry: number): number =>
  ry +
  (1 - ry) *
    (factor === 'P'
      ? REPAIR.P_banded
      : factor === 'K' || factor === 'S' || factor === 'Mg'
        ? REPAIR[factor]
        : 1);
const CO_LIMITING_WITHIN = 0.03;

const groupOf = (crop: Crop, nutrient: 'P' | 'K' | 'S' | 'Mg'): string =>
  nutrient === 'P'
    ? `p_efficiency_${crop.pEfficiency}`
    : nutrient === 'K'
      ? `k_demand_${crop.kDemand}`
      : nutrient === 'S'
        ? `s_demand_${crop.sDemand}`
        : 'all';

function classYield(
  crop: Crop,
  nutrient: 'P' | 'K' | 'S' | 'Mg',
  cls: SoilClass,
): { ry: number; source: string } | null {
  const row = limitingRow(groupOf(crop, nutrient), nutrient);
  if (!row || cls === 'unknown') return null;
  const ry = {
    very_low: row.ryVeryLow,
    low: row.ryLow,
    medium: row.ryMedium,
    high: row.ryHigh,
    very_high: row.ryVeryHigh,
  }[cls];
  return { ry, source: row.source };
}

/**
 * The least that a nutrient whose class nobody knows could leave of the yield; null where the table
 * is silent.
 *
 * @example leastYield(cropOf(PRINTED, 'sugar_beet'), 'P') // 0.7
 */
export const leastYield = (crop: Crop, nutrient: 'P' | 'K' | 'S' | 'Mg'): number | null =>
  classYield(crop, nutrient, 'very_low')?.ry ?? null;

/**
 * What holds the crop back (chapter 1, L1): relative yield of each factor as if the others were
 * adequate; the smallest limits. Liebig
 * takes the smallest, Mitscherlich-Baule the product: the field lies between. An unknown class is
 * left out, never taken as fine.
 *
 * @example limitingFactor(PRINTED, { cropKey: 'spring_wheat', yieldGoalTHa: 4, nSupplyKgHa: 160,
 * nNeedKgHa: 164, classes: { P: 'very_low' }, phWater: 6.4 }).limiting // 'P'
 */
export function limitingFactor(book: Book, i: LimitingInput): LimitingResult {
  const crop = cropOf(book, i.cropKey);
  const goal = within('yield_goal_t_ha', i.yieldGoalTHa, {
    label: 'Yield goal',
    unit: 't/ha',
    min: 0,
    max: crop.yieldMaxTHa,
  });
  const need = within('n_need_kg_ha', i.nNeedKgHa, {
    label: 'N need',
    unit: 'kg/ha',
    min: 0,
    max: 2000,
  });
  const supply = within('n_supply_kg_ha', i.nSupplyKgHa, {
    label: 'N supply',
    unit: 'kg/ha',
    min: 0,
    max: 2000,
  });
  const entry = (factor: Factor, ry: number, formula: string, source = 'chapter 1, L1') => ({
    factor,
    ry,
    why: step(`limit.${factor.toLowerCase()}`, `Relative yield by ${factor}`, ry, '', {
      formula,
      source,
      confidence: 'medium' as const,
    }),
  });
  const r = need > 0 ? Math.min(1, supply / need) : 1;
  const list = [
    entry('N', 1 - (1 - r) ** 2, `1 - (1 - supply / need)^2, supply / need = ${r.toFixed(2)}`),
  ];
  for (const nutrient of ['P', 'K', 'S', 'Mg'] as const) {
    const found = classYield(crop, nutrient, i.classes[nutrient] ?? 'unknown');
    if (!found) continue;
    const plan = i.planned?.[nutrient];
    const e = nutrient === 'P' && plan?.banded ? REPAIR.P_banded : REPAIR[nutrient];
    const repaired =
      plan && plan.neededKgHa > 0
        ? (1 - found.ry) * e * Math.min(1, plan.plannedKgHa / plan.neededKgHa)
        : 0;
    list.push(
      entry(
        nutrient,
        found.ry + repaired,
        `table by class ${i.classes[nutrient]?.replace('_', ' ')}${repaired > 0 ? `, and what ${plan?.plannedKgHa.toFixed(0)} kg/ha repair this season` : ''}`,
        found.source,
      ),
    );
  }
  const knots = phYieldKnots(crop.phGroup);
  if (i.phWater != null && knots.length > 0) {
    within('ph_water', i.phWater, RANGES.phWater);
    list.push(
      entry(
        'pH',
        interpolate(
          knots.map((k) => [k.phWater, k.relativeYield] as const),
          i.phWater,
        ),
        `table for ${crop.phGroup.replace('_', '-')} crops, straight between pH values`,
      ),
    );
  }
  for (const o of i.otherLimits ?? [])
    list.push(
      entry(o.name, within(`other_limits.${o.name}`, o.relativeYield, RANGES.share), 'entered'),
    );

  const yields = (factors: typeof list) => ({
    liebig: goal * Math.min(...factors.map((f) => f.ry)),
    product: goal * factors.reduce((p, f) => p * f.ry, 1),
  });
  const now = yields(list);
  const relativeYields = [...list].sort((a, b) => a.ry - b.ry);
  const lowest = relativeYields[0] as (typeof list)[number];
  const repairTo = (f: (typeof list)[number]) => ({ ...f, ry: repairedYield(f.factor, f.ry) });
  const after = i.repair
    ? yields(list.map((f) => (f.factor === i.repair?.factor ? repairTo(f) : f)))
    : null;
  return {
    limiting: lowest.factor,
    relativeYields,
    yLiebigTHa: now.liebig,
    yProductTHa: now.product,
    coLimiting: relativeYields
      .filter((f) => f.ry - lowest.ry <= CO_LIMITING_WITHIN + 1e-9)
      .map((f) => f.factor),
    dyLiebigTHa: after && after.liebig - now.liebig,
    dyProductTHa: after && after.product - now.product,
  };
}

/**
 * The yield that the other limits allow, and the N that it needs (L2). A suggestion, never
 * automatic.
 *
 * @example lowerNToAttainable(PRINTED, { cropKey: 'spring_wheat', yieldGoalTHa: 4, nSupplyKgHa:
 * 160, nNeedKgHa: 164, classes: { P: 'very_low' }, phWater: 6.4 }).nReqKgHa // 114.8
 */
export function lowerNToAttainable(
  book: Book,
  i: LimitingInput,
): {
  attainableTHa: number;
  nReqKgHa: number;
  nSavedKgHa: number;
} {
  const others = limitingFactor(book, { ...i, repair: null }).relativeYields.filter(
    (f) => f.factor !== 'N',
  );
  const attainableTHa = i.yieldGoalTHa * Math.min(1, ...others.map((f) => f.ry));
  const { nReqKgHa } = requirementYieldGoal(book, {
    cropKey: i.cropKey,
    yieldGoalTHa: attainableTHa,
  });
  return { attainableTHa, nReqKgHa, nSavedKgHa: i.nNeedKgHa - nReqKgHa };
}
