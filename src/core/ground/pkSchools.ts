import { refuse } from '../quantity/refusal';
import { within, type Range } from '../quantity/range';

const span = (label: string, unit: string, min: number, max: number, above = false): Range => ({
  label,
  unit,
  min,
  max,
  above,
});
const TEST = span('Soil test', 'mg/kg', 0, 60_000);
const REMOVAL = span('Removal', 'kg/ha', 0, 1000);
/** Under this a spreader cannot place it evenly: combine or skip (chapter 3, 10.2). */
const SKIP = { p: 5, k: 15 } as const;
/** Most that a build-up year may bring, kg/ha. */
const BUILD_CAP = { p: 45, k: 150 } as const;
/** No soil of 20 cm rises by a mg/kg for less. */
const LEAST_BUILD = 2.6;
export type PkNutrient = 'p' | 'k';
export const roundHalfUp = (x: number): number => Math.floor(x + 0.5);

/**
 * P or K by the sufficiency school (chapter 3, 10.2): feed this crop, in proportion to what the
 * test lacks of the critical level.
 *
 * @example recSufficiency({ test: 10, crit95: 17, rmax: 45 }) // 19 kg P/ha
 */
export function recSufficiency(i: {
  test: number;
  crit95: number;
  rmax: number;
  nutrient?: PkNutrient | null;
  bandFactor?: number | null;
}): number {
  const test = within('test', i.test, TEST);
  const crit = within('crit95', i.crit95, {
    ...span('Critical level', 'mg/kg', 0, 60_000),
    above: true,
  });
  if (test >= crit) return 0;
  const rate = roundHalfUp(
    within('rmax', i.rmax, span('Largest rate', 'kg/ha', 0, 1000)) *
      (1 - test / crit) *
      within('band_factor', i.bandFactor ?? 1, span('Band factor', '', 0.3, 1)),
  );
  return rate < SKIP[i.nutrient ?? 'p'] ? 0 : rate;
}

export interface BuildInput {
  test: number;
  /** Starts of medium, high and very high on the scale of the test, mg/kg. */
  l1: number;
  l2: number;
  l3: number;
  removal: number;
  /** kg/ha for one mg/kg. */
  build: number;
  years: number;
  nutrient?: PkNutrient | null;
  /** Sand of low CEC holds no K: nothing is built there. */
  leachingSand?: boolean | null;
  cap?: number | null;
}
/**
 * P or K by build-up and maintenance (chapter 3, 10.3): to the middle of the medium class over some
 * years, then what the crop takes away.
 *
 * @throws Refusal for limits that do not rise, or a build figure that no soil has
 * @example recBuildMaintain({ test: 10, l1: 16, l2: 21, l3: 31, removal: 30.8, build: 9, years: 6
 * }) // 43.55 kg P/ha
 */
export function recBuildMaintain(i: BuildInput): number {
  const test = within('test', i.test, TEST);
  const removal = within('removal', i.removal, REMOVAL);
  const nutrient = i.nutrient ?? 'p';
  if (!(i.l1 < i.l2 && i.l2 < i.l3))
    refuse('inconsistent', 'l1', 'l1, l2, l3: starts of medium, high and very high must rise.', {
      value: [i.l1, i.l2, i.l3],
      allowed: 'l1 < l2 < l3',
    });
  if (i.build < LEAST_BUILD)
    refuse(
      'out_of_range',
      'build',
      `build_kg_ha_per_mg_kg below ${LEAST_BUILD}: no soil of 20 cm rises by a mg/kg for less.`,
      { value: i.build, allowed: `${LEAST_BUILD} or more` },
    );
  if (test >= i.l3) return 0;
  if (test >= i.l2) return (removal * (i.l3 - test)) / (i.l3 - i.l2);
  if (test >= i.l1) return removal;
  const target = (i.l1 + i.l2) / 2;
  if (nutrient === 'k' && i.leachingSand) return removal + Math.min(20, (target - test) * i.build);
  return Math.min(
    i.cap ?? BUILD_CAP[nutrient],
    removal +
      ((target - test) * within('build', i.build, span('Build-up', 'kg/ha per mg/kg', 0, 80))) /
        Math.max(1, within('years', i.years, span('Years to build', 'years', 1, 30))),
  );
}

const INDEX_ADDITION = { p: [26, 13], k: [50, 25] } as const;
/**
 * P or K by replacement at an index of four steps (chapter 3, 10.4); index 4 takes nothing of P,
 * and half the removal of K in the high class.
 *
 * @example recIndex({ idx: 1, removal: 25, nutrient: 'p' }) // 51 kg P/ha
 */
export function recIndex(i: {
  idx: number;
  removal: number;
  nutrient: PkNutrient;
  cls?: string | null;
}): number {
  const removal = within('removal', i.removal, REMOVAL);
  const idx = within('idx', i.idx, span('Index', '', 1, 4));
  if (!Number.isInteger(idx))
    refuse('not_a_number', 'idx', `idx = ${idx}: an index is 1, 2, 3 or 4.`, {
      value: idx,
      allowed: '1 to 4',
    });
  if (idx === 4) return i.nutrient === 'k' && i.cls === 'high' ? removal / 2 : 0;
  return removal + (INDEX_ADDITION[i.nutrient][idx - 1] ?? 0);
}
/** Index of a test between the starts of low, medium and high. */
export const pkIndexOf = (test: number, l0: number, l1: number, l2: number): 1 | 2 | 3 | 4 =>
  test < l0 ? 1 : test < l1 ? 2 : test < l2 ? 3 : 4;
