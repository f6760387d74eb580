import type { Book } from '../book/book';
import { offtake, pkReplacement, type Replacement } from '../budget/offtake';
import { recBuildMaintain, recIndex, recSufficiency } from '../ground/pkSchools';
import { crosswalkOf, type Crop } from '../book/crops';
import { buildDrawdownOf, criticalLevelOf } from '../book/sampling';
import { textureGroup } from '../book/soils';
import { entered, fromTable, step, type Step } from '../why/step';
import { chosenSchools } from './chosenSchools';
import type { Plan } from '../document/document';
import { carriedOff } from './planOfftake';
import { buildRules } from '../ground/buildRules';
import { judge, type Warning } from '../rules/rule';
import type { GroundAssessment, GroundReading } from './groundReading';

/**
 * Scale of the build-up table's P rows (Bray-1, Mehlich-3 colorimetric) for other tests (chapter
 * 3, 10.3).
 */
const SCALE: Record<string, number> = {
  olsen: 1.5,
  mehlich_3_icp: 0.75,
  bray_1: 1,
  mehlich_3_col: 1,
  ammonium_acetate: 1,
  mehlich_3: 1,
};
const NAMES = {
  replacement: 'replacement of off-take',
  sufficiency: 'sufficiency',
  build_maintain: 'build and maintain',
  replacement_index: 'replacement at an index',
} as const;

function byReading(
  book: Book,
  plan: Plan,
  crop: Crop,
  nutrient: 'p' | 'k',
  found: GroundReading,
  removal: number,
): { value: number; inputs: Step[]; formula: string } | string {
  const { classified, reading } = found;
  if (!classified) return found.refused ?? 'the test has no class';
  const [l0, l1, l2, l3] = classified.limits;
  const test = classified.value;
  const id = `requirement.${nutrient}`;
  const base = [
    entered(`${id}.test`, 'Soil test', test, classified.unit),
    step(`${id}.removal`, 'Off-take', removal, 'kg/ha'),
  ];
  if (chosenSchools(plan).pk === 'sufficiency') {
    const group = crosswalkOf(book, crop.key).criticalLevelGroup;
    const row = group ? criticalLevelOf(group, nutrient, reading.extractant) : undefined;
    if (!row) return `no response curve for ${crop.name} by this test`;
    const cec = plan.field.cecCmolKg;
    const crit =
      row.crit95 * (nutrient === 'k' && cec !== null ? (cec < 7 ? 0.8 : cec > 25 ? 1.2 : 1) : 1);
    return {
      value: recSufficiency({ test, crit95: crit, rmax: row.rmaxKgHa, nutrient }),
      formula: 'largest rate x (1 - test / critical level)',
      inputs: [
        ...base,
        fromTable(`${id}.critical`, 'Critical level', crit, 'mg/kg', row),
        fromTable(`${id}.rmax`, 'Largest rate', row.rmaxKgHa, 'kg/ha', row),
      ],
    };
  }
  const scale = nutrient === 'p' ? SCALE[reading.extractant] : 1;
  if (chosenSchools(plan).pk === 'replacement_index' || scale === undefined) {
    const idx = test < l0 ? 1 : test < l1 ? 2 : test < l2 ? 3 : 4;
    return {
      value: recIndex({ idx, removal, nutrient, cls: classified.cls }),
      formula: `index ${idx}: ${idx < 3 ? 'off-take and an addition' : idx === 3 ? 'off-take' : 'less than off-take'}`,
      inputs: base,
    };
  }
  const texture = textureGroup(plan.field.soilTextureId);
  const limy = nutrient === 'p' && (plan.ground.phWater ?? 0) > 7.3;
  const row = buildDrawdownOf(
    nutrient,
    plan.field.fixes === nutrient
      ? nutrient === 'p'
        ? 'p_fixing_andisol_oxisol'
        : 'k_fixing_clay'
      : limy
        ? 'calcareous_ph_gt_7_3'
        : texture === 'organic'
          ? 'loam'
          : texture,
  );
  if (!row) return 'no build-up figure for this soil';
  const build = row.buildKgHaPerMgKg * scale;
  const leachingSand = texture === 'sand' && (plan.field.cecCmolKg ?? 10) < 5;
  return {
    value: recBuildMaintain({
      test,
      l1,
      l2,
      l3,
      removal,
      build,
      years: plan.schools.buildYears,
      nutrient,
      leachingSand,
      cap: nutrient === 'k' && texture === 'sand' ? 80 : null,
    }),
    formula:
      test < l1
        ? `off-take + what lifts the test to ${((l1 + l2) / 2).toFixed(0)} in ${plan.schools.buildYears} years`
        : 'off-take, less where the test is high',
    inputs: [...base, fromTable(`${id}.build`, 'For one mg/kg', build, 'kg/ha', row)],
  };
}

/**
 * P or K of the plan by its school (chapter 3, section 10); without a readable test the off-take is
 * replaced once, and says so.
 */
export function pkRequirement(
  book: Book,
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
  nutrient: 'p' | 'k',
): Replacement & { school: string } {
  const input = {
    cropKey: crop.key,
    yieldTHa: plan.season.yieldGoalTHa ?? 0,
    ...carriedOff(plan, crop),
  };
  const replaced = pkReplacement(book, {
    ...input,
    nutrient,
    soilClass: ground.classes[nutrient === 'p' ? 'P' : 'K'] ?? 'unknown',
  });
  const { pk } = chosenSchools(plan);
  if (pk === 'replacement') return { ...replaced, school: NAMES.replacement };
  const all = offtake(book, input);
  const removal = nutrient === 'p' ? all.offtakePKgHa : all.offtakeKKgHa;
  const reading = ground.readings.find((r) => r.reading.nutrient === nutrient);
  const tooOld = ground.ageYears !== null && ground.ageYears > 10;
  const found = !reading
    ? 'no test'
    : tooOld
      ? 'the test is more than ten years old'
      : byReading(book, plan, crop, nutrient, reading, removal);
  if (typeof found === 'string')
    return {
      ...replaced,
      school: NAMES.replacement,
      why: {
        ...replaced.why,
        note: `The ${NAMES[pk]} system needs a test it can read: ${found}. Off-take is replaced instead.`,
        confidence: 'low',
      },
    };
  return {
    offtakeKgHa: removal,
    reqKgHa: found.value,
    school: NAMES[pk],
    why: step(
      `requirement.${nutrient}`,
      `${nutrient.toUpperCase()} requirement`,
      found.value,
      'kg/ha',
      {
        school: NAMES[pk],
        formula: found.formula,
        source: 'chapter 3, section 10',
        confidence: 'medium',
        note: `Replacement of off-take would be ${replaced.reqKgHa.toFixed(0)} kg/ha.`,
        inputs: found.inputs,
      },
    ),
  };
}

/**
 * Whether a build-up that the plan asks for pays on this tenure and soil (chapter 3, R38 and R39).
 */
export function buildWarnings(
  book: Book,
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
): Warning[] {
  if (chosenSchools(plan).pk !== 'build_maintain') return [];
  return (['p', 'k'] as const).flatMap((x) => {
    const need = pkRequirement(book, plan, crop, ground, x);
    const row = buildDrawdownOf(x, x === 'p' ? 'p_fixing_andisol_oxisol' : 'k_fixing_clay');
    return judge(buildRules, {
      nutrient: x === 'p' ? 'P' : 'K',
      kgHa: need.reqKgHa - need.offtakeKgHa,
      yearlyLease: plan.field.tenure === 'yearly_lease',
      fixes: plan.field.fixes === x,
      buildKgHaPerMgKg: row?.buildKgHaPerMgKg ?? 25,
    });
  });
}
