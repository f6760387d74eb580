import { fruitCaTargets, type FruitCaTarget } from '../book/fruitCalcium';
import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { foliarProductOf } from './correction';

// Calcium on the fruit: what a programme of sprays brings against what the risk of the block asks
// for (chapter 5, section 14).

/** kg of CaCl2 with a kg of Ca. */
const CACL2_PER_CA = 110.98 / 40.078;
/** L of a dilute spray for a m3 of tree row. */
const DILUTE_L_PER_M3 = 0.0937;
/** This share of the dilute volume still covers. */
const COVERS_FROM = 0.5;
const CAUTION_C = 27;
const STOP_C = 30;

export type RiskGroup = 'low_risk' | 'moderate' | 'bitter_pit_prone';
/** Target of a crop by its risk; crops with one row serve every risk. */
export function fruitCaTarget(crop: string, riskGroup: string): FruitCaTarget {
  const own = fruitCaTargets().filter((r) => r.crop === crop);
  const row = own.find((r) => r.riskGroup === riskGroup) ?? own.find((r) => r.riskGroup === 'all');
  return (
    row ??
    refuse(
      'unknown_id',
      own.length === 0 ? 'crop' : 'risk_group',
      own.length === 0
        ? `There is no target of fruit calcium for ${crop}: use one of ${[...new Set(fruitCaTargets().map((r) => r.crop))].join(', ')}.`
        : `risk_group = ${riskGroup} is not known for ${crop}: use one of ${own.map((r) => r.riskGroup).join(', ')}.`,
      { value: own.length === 0 ? crop : riskGroup },
    )
  );
}

export interface CanopySize {
  heightM: number;
  widthM: number;
  rowM: number;
}
const M = (label: string, max: number) => ({ label, unit: 'm', min: 0, max, above: true });
/** Share of the canopy that a volume covers (F14.2). @example coverage(400, { heightM: 3.5, widthM: 1.5, rowM: 3.8 }) // 0.618 */
export function coverage(volumeLHa: number, c: CanopySize): number {
  const rowVolume =
    (10_000 *
      within('canopy_h_m', c.heightM, M('Height of the trees', 20)) *
      within('canopy_w_m', c.widthM, M('Width of the trees', 12))) /
    within('row_m', c.rowM, M('Between the rows', 15));
  return Math.min(1, volumeLHa / (COVERS_FROM * rowVolume * DILUTE_L_PER_M3));
}

export interface CalciumProgramme {
  productKgHaPerSpray: number;
  caKgHaPerSpray: number;
  caSeasonKgHa: number;
  /** Null where nobody gave the size of the trees: then the whole counts, and it is said. */
  coverageIndex: number | null;
  caEffectiveKgHa: number;
  cacl2EquivalentKgHaPerSpray: number;
  cls: 'below_minimum' | 'between_minimum_and_target' | 'meets_target' | 'above_maximum';
  extraSpraysToTarget: number;
  flags: string[];
  target: FruitCaTarget;
}
/**
 * A programme of alike sprays against its target (F14.1 to F14.6).
 *
 * @param i.concentrationPct of the product, % w/v; of a liquid by its weight
 * @param i.seasonDays from the first spray to the last that is allowed
 * @param i.tmaxC warmest hour of a spray day; left out: not judged
 * @throws Refusal that names field, value and range
 * @example calciumProgramme({ productId: 'cacl2_flake77', concentrationPct: 0.6, volumeLHa: 1000,
 * nSprays: 6, intervalD: 14, seasonDays: 100, riskGroup: 'bitter_pit_prone', crop: 'apple'
 * }).caSeasonKgHa // 10.008
 */
export function calciumProgramme(i: {
  productId: string;
  concentrationPct: number;
  volumeLHa: number;
  nSprays: number;
  intervalD: number;
  seasonDays: number;
  riskGroup: string;
  crop: string;
  canopy?: CanopySize | null;
  tmaxC?: number | null;
}): CalciumProgramme {
  const product = foliarProductOf(i.productId, 'Ca');
  const target = fruitCaTarget(i.crop, i.riskGroup);
  const volume = within('volume_l_ha', i.volumeLHa, {
    label: 'Water',
    unit: 'L/ha',
    min: 10,
    max: 5000,
  });
  const n = within('n_sprays', i.nSprays, { label: 'Sprays', unit: '', min: 0, max: 30 });
  const interval = within('interval_d', i.intervalD, {
    label: 'Days between',
    unit: 'd',
    min: 1,
    max: 120,
  });
  const days = within('season_days', i.seasonDays, {
    label: 'Days of spraying',
    unit: 'd',
    min: 0,
    max: 300,
  });
  const strength = within('concentration_pct', i.concentrationPct, {
    label: 'Strength of the spray',
    unit: '%',
    min: 0,
    max: 20,
    above: true,
  });
  const productKgHaPerSpray = (strength * volume) / 100;
  const caKgHaPerSpray = productKgHaPerSpray * product.elementFraction;
  const coverageIndex = i.canopy ? coverage(volume, i.canopy) : null;
  const perSpray = caKgHaPerSpray * (coverageIndex ?? 1);
  const effective = perSpray * n;
  const cacl2 = caKgHaPerSpray * CACL2_PER_CA;
  const tmax =
    i.tmaxC == null
      ? null
      : within('tmax_c', i.tmaxC, { label: 'Warmest hour', unit: '°C', min: -10, max: 50 });
  const max = product.maxConcentrationPctWVGeneral;
  const flags = [
    ...(coverageIndex !== null && coverageIndex < 1 ? ['coverage_short'] : []),
    ...(max !== null && strength > max ? ['too_strong'] : []),
    ...(cacl2 > target.maxCacl2KgHaLate
      ? ['burn_cap_late']
      : cacl2 > target.maxCacl2KgHaEarly
        ? ['burn_cap_early']
        : []),
    ...(interval < target.minIntervalD ? ['interval_short'] : []),
    ...((n - 1) * interval > days ? ['does_not_fit'] : []),
    ...(tmax === null
      ? []
      : [tmax >= STOP_C ? 'stop_heat' : tmax >= CAUTION_C ? 'caution_heat' : 'temp_ok']),
  ];
  return {
    productKgHaPerSpray,
    caKgHaPerSpray,
    caSeasonKgHa: caKgHaPerSpray * n,
    coverageIndex,
    caEffectiveKgHa: effective,
    cacl2EquivalentKgHaPerSpray: cacl2,
    cls:
      effective < target.seasonCaMinKgHa
        ? 'below_minimum'
        : effective < target.seasonCaTargetKgHa
          ? 'between_minimum_and_target'
          : effective <= target.seasonCaMaxKgHa
            ? 'meets_target'
            : 'above_maximum',
    extraSpraysToTarget: Math.max(0, Math.ceil(target.seasonCaTargetKgHa / perSpray - 1e-9) - n),
    flags,
    target,
  };
}

export interface PitRiskInput {
  lowKGroupAndKHigh?: boolean | null;
  leafNHigh?: boolean | null;
  /** Crop load to a normal one. */
  loadRatio?: number | null;
  shootCm?: number | null;
  bigFruit?: boolean | null;
  youngTrees?: boolean | null;
  peelNCa?: number | null;
  previousPitPct?: number | null;
}
/**
 * Risk of bitter pit of a block by points (F14.8); what nobody knows brings none.
 *
 * @example pitRisk({ lowKGroupAndKHigh: true, leafNHigh: true, loadRatio: 0.6, shootCm: 45, peelNCa:
 * 14, previousPitPct: 8 }).points // 10
 */
export function pitRisk(i: PitRiskInput): { points: number; group: RiskGroup; unknown: string[] } {
  const peel =
    i.peelNCa == null
      ? null
      : within('peel_n_ca', i.peelNCa, {
          label: 'N to Ca of the peel',
          unit: '',
          min: 0,
          max: 100,
        });
  const parts: [string, unknown, number][] = [
    ['low_k_group_and_k_high', i.lowKGroupAndKHigh, i.lowKGroupAndKHigh ? 2 : 0],
    ['leaf_n_high', i.leafNHigh, i.leafNHigh ? 1 : 0],
    [
      'load_ratio',
      i.loadRatio,
      i.loadRatio != null &&
      within('load_ratio', i.loadRatio, { label: 'Crop load', unit: '', min: 0, max: 3 }) < 0.7
        ? 2
        : 0,
    ],
    [
      'shoot_cm',
      i.shootCm,
      i.shootCm != null &&
      within('shoot_cm', i.shootCm, { label: 'Shoot', unit: 'cm', min: 0, max: 300 }) > 40
        ? 1
        : 0,
    ],
    ['big_fruit', i.bigFruit, i.bigFruit ? 1 : 0],
    ['young_trees', i.youngTrees, i.youngTrees ? 1 : 0],
    ['peel_n_ca', peel, peel === null ? 0 : peel > 13 ? 2 : peel >= 10 ? 1 : 0],
    [
      'previous_pit_pct',
      i.previousPitPct,
      i.previousPitPct != null &&
      within('previous_pit_pct', i.previousPitPct, {
        label: 'Pitted fruit',
        unit: '%',
        min: 0,
        max: 100,
      }) > 5
        ? 2
        : 0,
    ],
  ];
  const points = parts.reduce((s, [, , p]) => s + p, 0);
  return {
    points,
    group: points >= 6 ? 'bitter_pit_prone' : points >= 3 ? 'moderate' : 'low_risk',
    unknown: parts
      .filter(([, value]) => value === null || value === undefined)
      .map(([name]) => name),
  };
}
