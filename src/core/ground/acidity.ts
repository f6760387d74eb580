import { RANGES, within } from '../quantity/range';

/** N as [kg/ha, kg CaCO3 per kg N by convention, protons per N if all nitrate leaches]. */
export type NitrogenAcid = readonly [number, number, number];
/**
 * A product carried off as [t/ha, ash alkalinity in kg CaCO3/t, is whole-plant forage, hay, silage
 * or legume].
 */
export type Carried = readonly [number, number, boolean];
export interface AcidityInput {
  ns: readonly NitrogenAcid[];
  prods: readonly Carried[];
  leach?: number | null;
  bases?: number | null;
  mode?: 'convention' | 'cycle' | null;
  nitrateLeachedFrac?: number | null;
}
/** kg CaCO3 that one proton per kg N makes: 50.04 / 14.007 (stoichiometry). */
const CACO3_PER_PROTON_N = 3.57;
const KG = (label: string, max: number) => ({ min: 0, max, unit: 'kg/ha', label });

/**
 * Acid that a year of cropping makes, kg CaCO3/ha (chapter 3, 7.7). The two ways of book-keeping
 * must not be mixed: by convention the
 * fertiliser figures hold the crop already, so grain is not counted again; by the cycle every
 * product that leaves is.
 *
 * @example acidityLoad({ ns: [[150, 1.8, 1]], prods: [[10, 6, false]], leach: 100 }) // {
 * nitrogen: 270, product: 0, total: 370 }
 */
export function acidityLoad(i: AcidityInput): { nitrogen: number; product: number; total: number } {
  i.ns.forEach(([n], k) => within(`ns[${k}]`, n, KG('N', 1000)));
  i.prods.forEach(([t], k) =>
    within(`prods[${k}]`, t, { min: 0, max: 300, unit: 't/ha', label: 'Product' }),
  );
  const leach = within('leach', i.leach ?? 0, KG('Acid by leaching', 2000));
  const bases = within('bases', i.bases ?? 0, KG('Bases in manure and water', 5000));
  const cycle = i.mode === 'cycle';
  const uptake = 1 - within('nitrate_leached_frac', i.nitrateLeachedFrac ?? 0.25, RANGES.share);
  const nitrogen = i.ns.reduce(
    (sum, [n, acid, protons]) =>
      sum + (cycle ? n * CACO3_PER_PROTON_N * (protons - uptake) : n * acid),
    0,
  );
  const product = i.prods.reduce(
    (sum, [t, ash, forage]) => sum + (cycle || forage ? t * ash : 0),
    0,
  );
  return { nitrogen, product, total: nitrogen + product + leach - bases };
}

/**
 * Bases that irrigation water brings, kg CaCO3/ha (chapter 3, 7.7).
 *
 * @example waterBases(250, 120) // 246
 */
export const waterBases = (hco3MgL: number, mm: number): number => hco3MgL * mm * 0.0082;

/**
 * Years until the pH falls to the limit below which lime is advised; null where nothing acidifies
 * (chapter 3, 7.8).
 *
 * @param i.bc buffering, t CaCO3/ha for one pH unit; i.load acid, kg CaCO3/ha a year
 * @example limeInterval({ bc: 5.3, ph: 6.5, act: 5.8, load: 370 }).value // 10.0 years
 */
export function limeInterval(i: { bc: number; ph: number; act: number; load: number }): {
  value: number | null;
  verdict: string;
} {
  within('bc', i.bc, { min: 0, max: 60, unit: 't CaCO3/ha', label: 'Buffering', above: true });
  within('ph', i.ph, RANGES.phWater);
  within('act', i.act, { ...RANGES.phWater, label: 'Lime advised below' });
  within('load', i.load, { min: -10_000, max: 10_000, unit: 'kg CaCO3/ha', label: 'Acid load' });
  const reserve = i.bc * 1000 * Math.max(0, i.ph - i.act);
  if (i.load <= 0) return { value: null, verdict: 'no fall expected' };
  const value = reserve / i.load;
  return { value, verdict: value === 0 ? 'lime is due now' : `${value.toFixed(1)} years` };
}
