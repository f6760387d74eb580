import { RANGES, within } from '../quantity/range';
import { MG_PER_CMOL } from './cations';

/** S released by organic matter, kg/ha for each per cent in 20 cm (chapter 3, 13.1; 1 to 6). */
const S_PER_OM_PCT = 3.5;
const DEPOSITION_S = 4;
const KG_HA = (label: string) => ({ min: 0, max: 400, unit: 'kg/ha', label });

export interface SulphurInput {
  uptake: number;
  om: number;
  cool?: number | null;
  dep?: number | null;
  irrMgL?: number | null;
  irrMm?: number | null;
  manureS?: number | null;
}
/**
 * Sulphur that the soil, the air, the water and manure leave to bring (chapter 3, 13.1).
 * Negative: nothing is short.
 *
 * @param i.cool 0.5 for winter and early-spring crops, else 1
 * @example sulphurBalance({ uptake: 30, om: 1.8, cool: 0.5, dep: 4, irrMgL: 5, irrMm: 100
 * }).value // 17.85 kg S/ha
 */
export function sulphurBalance(i: SulphurInput): {
  value: number;
  fromOm: number;
  fromWater: number;
} {
  within('uptake', i.uptake, KG_HA('S uptake'));
  within('om', i.om, RANGES.omPct);
  const fromOm =
    i.om *
    S_PER_OM_PCT *
    within('cool', i.cool ?? 1, { min: 0.1, max: 1, unit: '', label: 'Cool-season factor' });
  const fromWater =
    within('irr_mg_l', i.irrMgL ?? 0, {
      min: 0,
      max: 1000,
      unit: 'mg/L',
      label: 'Sulphate-S in water',
    }) *
    within('irr_mm', i.irrMm ?? 0, RANGES.irrigationMm) *
    0.01;
  return {
    value:
      i.uptake -
      (fromOm +
        within('dep', i.dep ?? DEPOSITION_S, RANGES.depositionS) +
        fromWater +
        within('manure_s', i.manureS ?? 0, KG_HA('S of manure'))),
    fromOm,
    fromWater,
  };
}

/**
 * Votes for sulphur, since soil S tests are weak: three or more apply, one or two a strip trial,
 * none nothing (chapter 3, 13.1).
 */
export function sulphurVotes(i: {
  omPct: number | null;
  sand: boolean;
  manured: boolean | null;
  demanding: boolean;
  testLow: boolean;
  tissueNs: number | null;
}): { votes: string[]; verdict: 'apply' | 'strip_trial' | 'none' } {
  const all: [boolean, string][] = [
    [i.omPct !== null && i.omPct < 2, 'organic matter below 2 %'],
    [i.sand, 'sand'],
    [i.manured === false, 'no manure for three years'],
    [i.demanding, 'demanding crop'],
    [i.testLow, 'low test'],
    [i.tissueNs !== null && i.tissueNs > 15, 'leaf N:S above 15'],
  ];
  const votes = all.flatMap(([yes, word]) => (yes ? [word] : []));
  return {
    votes,
    verdict: votes.length >= 3 ? 'apply' : votes.length > 0 ? 'strip_trial' : 'none',
  };
}

/**
 * Chloride for small grains inland, kg Cl/ha, at most 45 (chapter 3, 13.2).
 *
 * @param i.profile chloride in 0-60 cm, kg/ha
 * @example chlorideRate({ profile: 30 }).value // 37
 */
export function chlorideRate(i: { profile: number }): { value: number } {
  within('profile', i.profile, { min: 0, max: 2000, unit: 'kg/ha', label: 'Chloride in 0-60 cm' });
  return { value: Math.min(45, Math.max(0, 67 - i.profile)) };
}

/**
 * Tetany ratio of herbage, K over Ca and Mg in equivalents; above 2.2 stock are at risk (chapter 3,
 * 12.5; Kemp & 't Hart 1957).
 *
 * @example tetanyRatio({ k: 3.2, ca: 0.4, mg: 0.14 }).value // 2.6
 */
export function tetanyRatio(i: { k: number; ca: number; mg: number }): {
  value: number;
  level: 'ok' | 'info' | 'caution';
} {
  for (const x of ['k', 'ca', 'mg'] as const)
    within(x, i[x], {
      min: 0,
      max: 15,
      unit: '% of dry matter',
      label: x.toUpperCase(),
      above: x !== 'k',
    });
  const value = i.k / 0.0391 / (i.ca / 0.02004 + i.mg / 0.012153);
  return { value, level: value > 2.2 ? 'caution' : value >= 1.8 ? 'info' : 'ok' };
}

/**
 * Potassium to magnesium in the soil, in cmol; K hinders Mg above 0.5 on dairy grass and above 1.0
 * elsewhere (chapter 3, 12.5).
 */
export const kMgRatio = (i: { kMgKg: number; mgMgKg: number }): number | null =>
  i.mgMgKg > 0 ? i.kMgKg / MG_PER_CMOL.k / (i.mgMgKg / MG_PER_CMOL.mg) : null;

/**
 * Molar P saturation ratio by Mehlich-3: above 0.10 raised, above 0.15 high risk to water, acid
 * soils only (chapter 3, 12.4; Sims et al. 2002).
 *
 * @example pSaturationRatio({ p: 120, al: 700, fe: 200 }).value // 0.131
 */
export function pSaturationRatio(i: { p: number; al: number; fe: number }): {
  value: number;
  level: 'ok' | 'caution' | 'stop';
} {
  for (const x of ['p', 'al', 'fe'] as const)
    within(x, i[x], {
      min: 0,
      max: 10_000,
      unit: 'mg/kg',
      label: x.toUpperCase(),
      above: x === 'al',
    });
  const value = i.p / 30.974 / (i.al / 26.982 + i.fe / 55.845);
  return { value, level: value > 0.15 ? 'stop' : value > 0.1 ? 'caution' : 'ok' };
}

/**
 * How much richer the top 5 cm is than the 10 cm below, and the mean for classing (chapter 3,
 * 12.2).
 *
 * @example stratification({ top: 60, below: 15 }) // { ratio: 4, mean_0_15: 30 }
 */
export function stratification(i: { top: number; below: number }): {
  ratio: number;
  mean_0_15: number;
  level: 'ok' | 'info' | 'caution';
} {
  within('top', i.top, RANGES.testMgKg);
  within('below', i.below, { ...RANGES.testMgKg, above: true });
  const ratio = i.top / i.below;
  return {
    ratio,
    mean_0_15: (5 * i.top + 10 * i.below) / 15,
    level: ratio > 3 ? 'caution' : ratio > 2 ? 'info' : 'ok',
  };
}
