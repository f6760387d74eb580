import { RANGES, within } from '../quantity/range';

/** Sulphur that the acid of 1 kg CaCO3 takes (32.06 / 100.09; stoichiometry). */
const S_PER_CACO3 = 0.3203;
/** One pass of elemental sulphur at most, kg/ha (chapter 3, 5.6). */
const MAX_S_PASS_KG_HA = 450;

/**
 * Elemental sulphur that dissolves the free lime of a layer, t/ha (chapter 3, 5.5). Shown to say
 * that it does not pay.
 *
 * @param i.m soil in the layer, kg/ha
 * @example acidifyCost({ caco3Pct: 1, m: 2600000 }).value // 8.3 t S/ha
 */
export function acidifyCost(i: { caco3Pct: number; m: number }): { value: number } {
  within('caco3_pct', i.caco3Pct, { ...RANGES.pctOf, label: 'Free lime' });
  within('m', i.m, { min: 1000, max: 3e7, unit: 'kg/ha', label: 'Soil in the layer' });
  return { value: (S_PER_CACO3 * (i.caco3Pct / 100) * i.m) / 1000 };
}

/**
 * Elemental sulphur that lowers the pH of ground without free lime, kg/ha, and the passes of at
 * most 450 kg it takes (chapter 3, 5.6).
 *
 * @param i.bc buffering, t CaCO3/ha for one pH unit
 * @example sToLowerPh({ bc: 3.6, drop: 0.8 }) // { value: 922, passes: 3 } kg S/ha
 */
export function sToLowerPh(i: { bc: number; drop: number }): { value: number; passes: number } {
  within('bc', i.bc, { min: 0, max: 60, unit: 't CaCO3/ha', label: 'Buffering', above: true });
  within('drop', i.drop, { min: 0, max: 4, unit: 'pH', label: 'Drop' });
  const value = i.bc * 1000 * i.drop * S_PER_CACO3;
  return { value, passes: Math.ceil(value / MAX_S_PASS_KG_HA) };
}
