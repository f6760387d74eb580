import type { z } from 'zod';
import type { Book } from '../book/book';
import { fertiliserOf, placementOf, type Fertiliser } from '../book/fertilisers';
import type { lossFactorRow } from '../book/rows';
import { byKey, lazily, rowsOf } from '../book/table';
import lossFile from '../book/tables/loss_factors.json';
import { clip } from '../quantity/curve';
import { RANGES, within, type Range } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { frostedWarmth } from '../quantity/thermalTime';

// What one pass may lose, before anything is simulated (chapter 4, section 4). Rankings and orders
// of magnitude: shown as ranges, never added to what the simulator finds.

const factors = lazily(() =>
  byKey(rowsOf<z.infer<typeof lossFactorRow>>(lossFile), (r) => r.param),
);
const factor = (param: string): number =>
  factors().get(param)?.default ??
  refuse('unknown_id', 'param', `There is no loss factor ${param}.`);

const span = (label: string, unit: string, min: number, max: number): Range => ({
  label,
  unit,
  min,
  max,
});
const KG = span('N', 'kg/ha', 0, 400);
/** The most of urea and ammonium N that a range reaches. */
const HIGHEST_SHARE = 0.75;
const RESIDUE_FROM = 0.5;

export interface RainAfter {
  /** Days after the pass. */
  day: number;
  mm: number;
}
export type Closure = 'good' | 'fair' | 'poor';
export interface AmmoniaInput {
  productId: string;
  placementId: string;
  nKgHa: number;
  ph: number;
  cecCmolcKg: number;
  residueCoverFrac: number;
  /** Mean of the air in the next seven days. */
  tMeanC: number;
  rain?: readonly RainAfter[] | null;
  /** How well the slot of injected ammonia closed. */
  closure?: Closure | null;
}
export interface LossRange {
  lossKgHa: number;
  lowKgHa: number;
  highKgHa: number;
}
export interface AmmoniaEstimate extends LossRange {
  fTemp: number;
  fCec: number;
  fResidue: number;
  fRain: number;
  ureaLossFrac: number;
  ammoniumLossFrac: number;
}

/** Rains end the loss, the first millimetres most of it (F4.2). */
function rainFactor(rain: readonly RainAfter[], tau: number): number {
  const by = (d: number) => 1 - Math.exp(-((d / tau) ** factor('v_shape')));
  let [left, before, lost] = [1, 0, 0];
  for (const r of rain.toSorted((a, b) => a.day - b.day)) {
    lost += left * (by(r.day) - before);
    before = by(r.day);
    left *= 1 - Math.min(1, r.mm / factor('v_wash_mm'));
  }
  return lost + left * (1 - before);
}

/** How ammonium of a product goes to the air: its base share, and how steeply with pH. */
function ammoniumBase(f: Fertiliser): { base: number; slope: number } {
  if (f.nh4AnionClass === 'nonprecipitating')
    return {
      base: factor('v_base_salt_nonprecipitating'),
      slope: factor('v_ph_slope_nonprecipitating'),
    };
  // Urea has no ammonium yet: alkaline speaks of what is left on top as ammonium.
  if (f.nh4AnionClass === 'alkaline' && f.nAmmoniumPct > 0)
    return { base: factor('v_base_alkaline_nh4'), slope: factor('v_ph_slope_urea') };
  return {
    base: factor('v_base_salt_precipitating'),
    slope: factor('v_ph_slope_precipitating'),
  };
}

/**
 * Ammonia that a fertiliser pass may lose (F4.1, F4.2). Ammonia from manure is chapter 2's.
 *
 * @throws Refusal for an unknown product or placement, or a figure outside its range
 * @example ammoniaLoss(PRINTED, { productId: 'urea_46', placementId: 'broadcast_surface', nKgHa:
 * 100, ph: 6.5, cecCmolcKg: 15, residueCoverFrac: 0, tMeanC: 15 }).lossKgHa // 20
 */
export function ammoniaLoss(book: Book, i: AmmoniaInput): AmmoniaEstimate {
  const product = fertiliserOf(book, i.productId);
  const place = placementOf(i.placementId);
  const n = within('n_kg_ha', i.nKgHa, KG);
  const ph = within('ph', i.ph, span('pH', '', 3.5, 9.5));
  const cec = within('cec_cmolc_kg', i.cecCmolcKg, span('CEC', 'cmolc/kg', 1, 80));
  const cover = within('residue_cover_frac', i.residueCoverFrac, {
    ...RANGES.share,
    label: 'Residue cover',
  });
  const t = within('t_mean_c', i.tMeanC, span('Mean temperature', '°C', -20, 45));
  const fTemp = clip(factor('v_q10') ** ((t - 15) / 10), 0.3, 2.5);
  const fCec = clip(Math.exp(-factor('v_cec_slope') * (cec - 15)), 0.6, 1.4);
  const fResidue = place.volFactor >= RESIDUE_FROM ? 1 + factor('v_residue') * cover : 1;
  const inhibited = product.ureaseInhibitor === 1;
  const fRain = rainFactor(i.rain ?? [], factor(inhibited ? 'v_tau_ui_d' : 'v_tau_d') / fTemp);
  const share = (base: number, slope: number): number =>
    Math.min(
      factor('v_cap'),
      base * place.volFactor * Math.exp(slope * (ph - 6.5)) * fCec * fTemp * fResidue * fRain,
    );
  const ureaLossFrac =
    share(factor('v_base_urea'), factor('v_ph_slope_urea')) * (inhibited ? factor('v_ui_mult') : 1);
  const { base, slope } = ammoniumBase(product);
  const injected = product.nh4AnionClass === 'ammonia' && place.kind === 'band';
  const ammoniumLossFrac = injected
    ? factor(`v_closure_${i.closure ?? 'good'}`)
    : share(base, slope);
  const per = (pct: number) => (product.nTotalPct > 0 ? (n * pct) / product.nTotalPct : 0);
  const [urea, ammonium] = [per(product.nUreaPct), per(product.nAmmoniumPct)];
  const lossKgHa = urea * ureaLossFrac + ammonium * ammoniumLossFrac;
  return {
    fTemp,
    fCec,
    fResidue,
    fRain,
    ureaLossFrac,
    ammoniumLossFrac,
    lossKgHa,
    lowKgHa: factor('u_low_vol') * lossKgHa,
    highKgHa: Math.max(
      lossKgHa,
      Math.min(factor('u_high_vol') * lossKgHa, HIGHEST_SHARE * (urea + ammonium)),
    ),
  };
}

/**
 * Nitrate that wet ground may lose as gas (F4.3).
 *
 * @example denitrificationLoss({ nitrateKgHa: 100, saturatedDays: 5, tSoilC: 20, omPct: 2.5
 * }).lossKgHa // 18.127
 */
export function denitrificationLoss(i: {
  nitrateKgHa: number;
  saturatedDays: number;
  tSoilC: number;
  omPct?: number | null;
}): LossRange & { ratePerDay: number; lossFrac: number } {
  const nitrate = within('nitrate_kg_ha', i.nitrateKgHa, span('Nitrate', 'kg/ha', 0, 1000));
  const days = within('saturated_days', i.saturatedDays, span('Saturated days', 'd', 0, 120));
  const t = within('t_soil_c', i.tSoilC, span('Soil temperature', '°C', -20, 45));
  const om = within('om_pct', i.omPct ?? 2.5, RANGES.omPct);
  const ratePerDay = factor('d_k') * frostedWarmth(t, factor('d_q10')) * clip(om / 2.5, 0.4, 1.5);
  const lossFrac = 1 - Math.exp(-ratePerDay * Math.max(0, days - factor('d_lag_d')));
  const lossKgHa = nitrate * lossFrac;
  return {
    ratePerDay,
    lossFrac,
    lossKgHa,
    lowKgHa: factor('u_low_den') * lossKgHa,
    highKgHa: Math.min(factor('u_high_den') * lossKgHa, nitrate),
  };
}

/**
 * Share of ammonium that has turned to nitrate (F4.4).
 *
 * @example nitrifiedShare({ tSoilC: 10, days: 28 }) // 0.6737
 */
export function nitrifiedShare(i: {
  tSoilC: number;
  days: number;
  nitrificationInhibitor?: boolean | null;
}): number {
  const t = within('t_soil_c', i.tSoilC, span('Soil temperature', '°C', -20, 45));
  const days = within('days', i.days, span('Days', 'd', 0, 400));
  const k = factor('n_k') * frostedWarmth(t, factor('n_q10'));
  if (k === 0) return 0;
  if (!i.nitrificationInhibitor) return 1 - Math.exp(-k * days);
  const tau = factor('n_ni_tau_d') / frostedWarmth(t, 2);
  return 1 - Math.exp(-k * (days - factor('n_ni_eff') * tau * (1 - Math.exp(-days / tau))));
}

/**
 * Nitrate that drains below the roots (F4.5, after Burns 1975, Journal of Agricultural Science
 * 85:443-454).
 *
 * @example leachingLoss({ nitrateKgHa: 60, drainageMm: 150, fieldCapacityVolPct: 12, rootDepthCm:
 * 60 }).lossKgHa // 37.198
 */
export function leachingLoss(i: {
  nitrateKgHa: number;
  drainageMm: number;
  fieldCapacityVolPct: number;
  rootDepthCm: number;
  position?: 'surface' | 'uniform' | null;
}): LossRange & { lossFrac: number } {
  const nitrate = within('nitrate_kg_ha', i.nitrateKgHa, span('Nitrate', 'kg/ha', 0, 1000));
  const cm = within('drainage_mm', i.drainageMm, RANGES.drainageMm) / 10;
  const capacity = within(
    'field_capacity_vol_pct',
    i.fieldCapacityVolPct,
    span('Field capacity', '%', 1, 80),
  );
  const depth = within('root_depth_cm', i.rootDepthCm, span('Root depth', 'cm', 1, 300));
  const h = i.position === 'uniform' ? depth / 2 : depth;
  const lossFrac = cm === 0 ? 0 : (cm / (cm + capacity / 100)) ** h;
  const lossKgHa = nitrate * lossFrac;
  return {
    lossFrac,
    lossKgHa,
    lowKgHa: factor('u_low_lea') * lossKgHa,
    highKgHa: Math.min(factor('u_high_lea') * lossKgHa, nitrate),
  };
}

export interface EventInput extends AmmoniaInput {
  tSoilC: number;
  /** From the pass to the end of what is looked at. */
  days: number;
  saturatedDays: number;
  drainageMm: number;
  fieldCapacityVolPct: number;
  rootDepthCm: number;
  omPct?: number | null;
  /** The farm's own price of the product; the placeholder stands in. */
  pricePerT?: number | null;
}
export interface EventLoss {
  volatilisedKgHa: number;
  nitrateByThenKgHa: number;
  denitrifiedKgHa: number;
  leachedKgHa: number;
  lostKgHa: number;
  lostLowKgHa: number;
  lostHighKgHa: number;
  nPricePerKg: number;
  moneyLostHa: number;
  costPerKgLeft: number;
}
/**
 * All that one pass may lose, in the order in which it goes: to the air, as gas from wet ground,
 * with the water (F4.6).
 *
 * @example eventLoss(PRINTED, { productId: 'urea_46', placementId: 'broadcast_surface', nKgHa: 100,
 * ph: 6.5, cecCmolcKg: 15, residueCoverFrac: 0, tMeanC: 15, tSoilC: 15, days: 30, saturatedDays: 3,
 * drainageMm: 60, fieldCapacityVolPct: 31, rootDepthCm: 60 }).lostKgHa // 27.27
 */
export function eventLoss(book: Book, i: EventInput): EventLoss {
  const product = fertiliserOf(book, i.productId);
  const air = ammoniaLoss(book, i);
  const per = (pct: number) => (product.nTotalPct > 0 ? (i.nKgHa * pct) / product.nTotalPct : 0);
  const left = per(product.nUreaPct) + per(product.nAmmoniumPct) - air.lossKgHa;
  const nitrate =
    per(product.nNitratePct) +
    left *
      nitrifiedShare({
        tSoilC: i.tSoilC,
        days: i.days,
        nitrificationInhibitor: product.nitrificationInhibitor === 1,
      });
  const gas = denitrificationLoss({
    nitrateKgHa: nitrate,
    saturatedDays: i.saturatedDays,
    tSoilC: i.tSoilC,
    omPct: i.omPct ?? null,
  });
  const water = leachingLoss({ ...i, nitrateKgHa: nitrate - gas.lossKgHa, position: null });
  const lostKgHa = air.lossKgHa + gas.lossKgHa + water.lossKgHa;
  const price = i.pricePerT ?? product.pricePerTDemo;
  const nPricePerKg = product.nTotalPct > 0 ? price / (10 * product.nTotalPct) : 0;
  return {
    volatilisedKgHa: air.lossKgHa,
    nitrateByThenKgHa: nitrate,
    denitrifiedKgHa: gas.lossKgHa,
    leachedKgHa: water.lossKgHa,
    lostKgHa,
    lostLowKgHa: air.lowKgHa + gas.lowKgHa + water.lowKgHa,
    lostHighKgHa: Math.min(i.nKgHa, air.highKgHa + gas.highKgHa + water.highKgHa),
    nPricePerKg,
    moneyLostHa: lostKgHa * nPricePerKg,
    costPerKgLeft: i.nKgHa > lostKgHa ? (i.nKgHa * nPricePerKg) / (i.nKgHa - lostKgHa) : Infinity,
  };
}

/** What is set beside each other under the same weather (F4.7). */
const ALTERNATIVES: readonly (readonly [string, string])[] = [
  ['urea_46', 'broadcast_surface'],
  ['urea_46_ui', 'broadcast_surface'],
  ['urea_46', 'broadcast_incorporated'],
  ['uan_28', 'surface_band'],
  ['uan_28', 'coulter_injection_shallow'],
  ['can_27', 'broadcast_surface'],
  ['ammonium_sulphate_21', 'broadcast_surface'],
  ['anhydrous_ammonia_82', 'knife_injection_deep'],
];
export interface Alternative extends EventLoss {
  productId: string;
  placementId: string;
}
/** The same N by eight ways, the least lost first; often another one is the cheapest a kilogram. */
export const alternativesOf = (
  book: Book,
  i: Omit<EventInput, 'productId' | 'placementId' | 'pricePerT'>,
): Alternative[] =>
  ALTERNATIVES.map(([productId, placementId]) => ({
    productId,
    placementId,
    ...eventLoss(book, { ...i, productId, placementId }),
  })).toSorted(
    (a, b) =>
      a.lostKgHa - b.lostKgHa ||
      a.costPerKgLeft - b.costPerKgLeft ||
      a.productId.localeCompare(b.productId) ||
      a.placementId.localeCompare(b.placementId),
  );
