import type { Book } from '../book/book';
import type { PkNutrient } from '../ground/pkSchools';
import type { PkSimulation } from '../ground/pkSimulation';
import { cropOf, crosswalkOf } from '../book/crops';
import { buildDrawdownOf, criticalLevelOf } from '../book/sampling';
import { textureGroup } from '../book/soils';
import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';

/** Chance from year to year (chapter 3, section 11): prices that remember, yields that vary. */
const CHANCE = {
  phi: 0.6,
  sigmaCrop: 0.22,
  sigmaFert: 0.3,
  rho: 0.4,
  cvYield: 0.15,
  discount: 0.06,
  passCost: 12,
} as const;
const YEARS_LOOKED_AT = 15;
export const RUNS = 400;
/**
 * Share of what is left in the ground that its tenant keeps, and the years that count (chapter 3,
 * section 11).
 */
const TENURE: Record<Plan['field']['tenure'], { weight: number; years: number }> = {
  owned: { weight: 1, years: YEARS_LOOKED_AT },
  lease_8_years_or_more: { weight: 0.5, years: 8 },
  lease_3_to_7_years: { weight: 0.2, years: 5 },
  yearly_lease: { weight: 0, years: 1 },
};
const FLOOR = { p: 3, k: 40 } as const;

/**
 * The field's own figures for the years under each system of P or K; a reason where the tables
 * know too little of it.
 *
 * @param seed of the chance, so that two people see the same years
 */
export function pkSimulationOf(
  book: Book,
  plan: Plan,
  a: Assessment,
  nutrient: PkNutrient,
  seed = 1,
): PkSimulation | string {
  const { cropKey, yieldGoalTHa, cropPricePerT } = plan.season;
  if (!cropKey || yieldGoalTHa === null) return 'Crop and goal first.';
  if (cropPricePerT === null) return 'The price of the crop is missing: give it at Crop.';
  const crop = cropOf(book, cropKey);
  const found = a.ground.readings.find((r) => r.reading.nutrient === nutrient);
  if (!found?.classified) return `No readable test of ${nutrient.toUpperCase()}.`;
  const group = crosswalkOf(book, cropKey).criticalLevelGroup;
  const crit = group ? criticalLevelOf(group, nutrient, found.reading.extractant) : undefined;
  if (!crit) return `The tables have no response curve of ${crop.name} for this test.`;
  const texture = textureGroup(plan.field.soilTextureId);
  const soil = buildDrawdownOf(
    nutrient,
    plan.field.fixes === nutrient
      ? nutrient === 'p'
        ? 'p_fixing_andisol_oxisol'
        : 'k_fixing_clay'
      : texture === 'organic'
        ? 'loam'
        : texture,
  );
  if (!soil) return 'The tables have no build-up figure for this soil.';
  const [l0, l1, l2, l3] = found.classified.limits;
  const scale = found.reading.extractant === 'olsen' && nutrient === 'p' ? 1.5 : 1;
  return {
    nutrient,
    yieldPot: yieldGoalTHa,
    price: cropPricePerT,
    cost: nutrient === 'p' ? plan.farm.pPricePerKg : plan.farm.kPricePerKg,
    conc: nutrient === 'p' ? crop.removalPKgT : crop.removalKKgT,
    start: found.classified.value,
    crit95: crit.crit95,
    ry0: crit.ry0Pct,
    rmax: crit.rmaxKgHa,
    build: soil.buildKgHaPerMgKg * scale,
    draw: soil.drawKgHaPerMgKg * scale,
    floor: Math.min(FLOOR[nutrient], crit.crit95 / 2),
    l0,
    l1,
    l2,
    l3,
    years: plan.schools.buildYears,
    horizon: TENURE[plan.field.tenure].years,
    tenure: TENURE[plan.field.tenure].weight,
    ...CHANCE,
    runs: RUNS,
    seed,
    shocks: true,
  };
}
