import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { targetPhOf, type TargetPh } from '../book/soilTests';
import type { Level } from '../rules/rule';
import { entered, fromTable, step, type Step } from '../why/step';

export interface PhReadings {
  phWater?: number | null;
  phCacl2?: number | null;
  phKcl?: number | null;
  moisture?: 'dry' | 'moist' | 'wet' | null;
}
export interface PlanningPh {
  ph: number;
  low: number;
  high: number;
  flag: 'ok' | 'salt_bias' | 'negative_offset' | 'large_offset' | 'estimated' | 'dry_sample';
  why: Step;
}

/** CaCl2 pH + 0.6 and KCl pH + 1.0 stand in for water pH (chapter 3, 2.4; consensus). */
const CACL2_TO_WATER = 0.6;
const KCL_TO_WATER = 1.0;
const SALT_SOURCE = { source: 'consensus (chapter 3, 2.4)', confidence: 'medium' } as const;

/**
 * The pH to plan with. Dry or salty soil reads low in water, so the salt reading decides when the
 * two lie too close together.
 *
 * @throws Refusal when no pH is given or one is impossible (65 for 6.5)
 * @example planningPh({ phWater: 5.4, phCacl2: 5.3 }) // { ph: 5.9, flag: 'salt_bias' }
 */
export function planningPh(r: PhReadings): PlanningPh {
  const water = r.phWater ?? null;
  const cacl2 = r.phCacl2 ?? null;
  const kcl = r.phKcl ?? null;
  if (water !== null) within('ph_water', water, RANGES.phWater);
  for (const [field, v] of [
    ['ph_cacl2', cacl2],
    ['ph_kcl', kcl],
  ] as const)
    if (v !== null) within(field, v, RANGES.phSalt);
  const inputs = [
    ...(water !== null ? [entered('ground.ph.water', 'pH in water', water, '')] : []),
    ...(cacl2 !== null ? [entered('ground.ph.cacl2', 'pH in 0.01 M CaCl2', cacl2, '')] : []),
    ...(kcl !== null ? [entered('ground.ph.kcl', 'pH in KCl', kcl, '')] : []),
  ];
  const result = (
    ph: number,
    flag: PlanningPh['flag'],
    low: number,
    high: number,
    formula: string,
  ): PlanningPh => ({
    ph,
    low,
    high,
    flag,
    why: step('ground.ph.planning', 'pH to plan with', ph, '', { formula, inputs, ...SALT_SOURCE }),
  });

  if (water === null) {
    if (cacl2 !== null)
      return result(
        cacl2 + CACL2_TO_WATER,
        'estimated',
        cacl2 + 0.3,
        cacl2 + 1.0,
        'pH in CaCl2 + 0.6, estimated (0.3 to 1.0)',
      );
    if (kcl !== null)
      return result(
        kcl + KCL_TO_WATER,
        'estimated',
        kcl + 0.5,
        kcl + 1.5,
        'pH in KCl + 1.0, estimated (0.5 to 1.5), low confidence',
      );
    return refuse(
      'missing',
      'ph_water',
      `pH (ph_water) is missing: give ${RANGES.phWater.min} to ${RANGES.phWater.max}, or a pH in CaCl2 or KCl.`,
      { allowed: '2.5 to 11' },
    );
  }
  if (cacl2 !== null) {
    const offset = water - cacl2;
    if (offset < 0)
      return result(
        water,
        'negative_offset',
        water,
        water,
        'water pH kept, unconfirmed: the salt pH lies above it, ask the laboratory',
      );
    if (offset < 0.3 - 1e-9)
      return result(
        cacl2 + CACL2_TO_WATER,
        'salt_bias',
        cacl2 + 0.3,
        cacl2 + 1.0,
        'water and salt pH lie under 0.3 apart (salts, drought): salt pH + 0.6',
      );
    return result(
      water,
      offset > 1 + 1e-9 ? 'large_offset' : 'ok',
      water,
      water,
      'water pH kept: the salt pH confirms it',
    );
  }
  if (r.moisture === 'dry')
    return result(
      water,
      'dry_sample',
      water - 0.1,
      water + 0.6,
      'water pH of a sample taken dry: may read 0.1 to 0.6 low, not corrected',
    );
  return result(water, 'ok', water, water, 'pH in water as reported');
}

export interface PhGate {
  level: Level | 'ok';
  gap: number;
  targetPh: number;
  actBelowPh: number;
  maxPreferredPh: number;
  /** What the level means in words. */
  verdict: string;
  why: Step;
}

const ACID_LOVING = ['blueberry_cranberry', 'tea'];
const TOLERANCE = 1e-9;

const gateLevel = (
  ph: number,
  t: TargetPh,
  target: number,
  act: number,
): [PhGate['level'], string] => {
  const gap = target - ph;
  if (ACID_LOVING.includes(t.cropGroup)) {
    if (ph < act - TOLERANCE)
      return [
        'caution',
        'below the range of an acid-loving crop: manganese; retest, lime only on laboratory advice',
      ];
    if (ph > 6 + TOLERANCE)
      return [
        'stop',
        'far too limy for an acid-loving crop: lower the pH a year ahead or plant elsewhere',
      ];
    if (ph > t.maxPreferredPh + TOLERANCE) return ['caution', 'too limy for an acid-loving crop'];
    return ['ok', 'sufficient for an acid-loving crop'];
  }
  if (ph < 4.5 - TOLERANCE)
    return [
      'stop',
      'lime first: aluminium and manganese injure roots and fertiliser is largely wasted',
    ];
  if (ph < act - TOLERANCE) {
    const tooFar =
      (t.alSensitivity === 'very_sensitive' && gap >= 1 - TOLERANCE) ||
      (t.alSensitivity === 'sensitive' && gap >= 1.2 - TOLERANCE);
    return tooFar
      ? ['stop', 'too acid for this crop: lime and wait, or sow a tolerant crop']
      : ['caution', 'lime advised before more P or K'];
  }
  if (ph < target - TOLERANCE) return ['info', 'maintain: lime at the next convenient time'];
  if (ph <= t.maxPreferredPh + TOLERANCE) return ['ok', 'sufficient'];
  if (ph <= 7.8 + TOLERANCE) return ['info', 'above the preferred range: no lime'];
  if (ph <= 8.5 + TOLERANCE) return ['caution', 'limy: no lime; manage P, zinc and iron'];
  return [
    'stop',
    'above 8.5 suggests sodium: no lime or gypsum until EC, sodium and carbonate are known',
  ];
};

/**
 * pH gate (chapter 3, 5.2): is the ground fit for the crop, and is fertiliser money wasted before
 * lime?
 *
 * @param i.crop crop group of the target table
 * @param i.omPct organic matter, %; peat (over 25 %) and 10-25 % cap the target
 * @throws Refusal for a pH outside 2.5 to 11 or an unknown crop group
 * @example phGate({ ph: 5.8, crop: 'alfalfa' }) // { level: 'stop', gap: 1.0 }
 */
export function phGate(i: { ph: number; crop: string; omPct?: number | null }): PhGate {
  within('ph_water', i.ph, RANGES.phWater);
  const t = targetPhOf(i.crop);
  const om = i.omPct ?? 0;
  const cap =
    om > 25
      ? { target: 5.4, act: 5.0 }
      : om >= 10
        ? { target: 6.0, act: 5.6 }
        : { target: Infinity, act: Infinity };
  const targetPh = Math.min(t.targetPh, cap.target);
  const actBelowPh = Math.min(t.actBelowPh, cap.act);
  const [level, verdict] = gateLevel(i.ph, t, targetPh, actBelowPh);
  const gap = targetPh - i.ph;
  return {
    level,
    verdict,
    gap,
    targetPh,
    actBelowPh,
    maxPreferredPh: t.maxPreferredPh,
    why: step('ground.ph.gate', 'pH gate', level, '', {
      formula: verdict,
      note: t.note ?? undefined,
      inputs: [
        entered('ground.ph.gate.ph', 'pH to plan with', i.ph, ''),
        fromTable(
          'ground.ph.gate.target',
          `Target for ${i.crop.replaceAll('_', ' ')}`,
          targetPh,
          '',
          t,
        ),
        fromTable('ground.ph.gate.act', 'Lime advised below', actBelowPh, '', t),
        fromTable('ground.ph.gate.max', 'No lime above', t.maxPreferredPh, '', t),
        step('ground.ph.gate.gap', 'Gap to the target', gap, 'pH units', {
          formula: 'target - pH',
        }),
      ],
    }),
  };
}

/**
 * What a low pH costs in yield each year, against lime (chapter 3, 5.4). A straight slope: too kind
 * below pH 5.2, so it is shown beside
 * the steeper table of chapter 1 as the lower bound.
 *
 * @example phMoney({ ph: 5.2, crop: 'wheat', yieldGoal: 7, price: 200, limeCostHa: 250
 * }).lossPerHa // 126
 */
export function phMoney(i: {
  ph: number;
  crop: string;
  yieldGoal: number;
  price: number;
  limeCostHa?: number | null;
  years?: number | null;
}) {
  within('ph', i.ph, RANGES.phWater);
  within('yield_goal', i.yieldGoal, { min: 0, max: 500, unit: 't/ha', label: 'Yield goal' });
  within('price', i.price, RANGES.pricePerT);
  const t = targetPhOf(i.crop);
  const ryPh = clip(100 - t.phYieldSlopePctPerUnit * Math.max(0, t.actBelowPh - i.ph), 30, 100);
  const lossPerHa = (i.yieldGoal * i.price * (100 - ryPh)) / 100;
  const limeCostPerYear = i.limeCostHa == null ? null : i.limeCostHa / (i.years ?? 5);
  return {
    ryPh,
    lossPerHa,
    limeCostPerYear,
    limeBeforeBuildup: limeCostPerYear !== null && lossPerHa > 2 * limeCostPerYear,
  };
}
