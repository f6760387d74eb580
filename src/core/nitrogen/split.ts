import { clip, interpolate } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { oneOf, within } from '../quantity/range';
import { halfAwayFromZero } from '../quantity/rounding';
import { doseLimit, placementOf } from '../book/fertilisers';
import { stopRulesFor } from '../book/stopRules';
import { templateOf, templatesFor } from '../book/splitTemplates';
import { gddCurveOf, stagesOf } from '../book/stages';
import { step, type Step } from '../why/step';
import { stageDegrees } from './stageClock';

const SPLIT_CLASSES = ['heavy', 'medium', 'light'] as const;
const N_TOTAL = { label: 'N in all', unit: 'kg/ha', min: 0, max: 500 };

export interface PassCountInput {
  cropId: string;
  nTotalKgHa: number;
  expectedDrainageMm: number;
  splitClass: string;
  coatedOrInhibited?: boolean | null;
}

/**
 * How many N passes soil, drainage and dose call for, and the crop's template nearest to it
 * (chapter 4, F5.3).
 *
 * @param i.expectedDrainageMm drainage from the first pass to half of the uptake, mm
 * @example numberOfPasses({ cropId: 'winter_wheat', nTotalKgHa: 200, expectedDrainageMm: 60,
 * splitClass: 'medium' }).nPasses // 3
 */
export function numberOfPasses(i: PassCountInput) {
  const total = within('n_total_kg_ha', i.nTotalKgHa, N_TOTAL);
  const drainage = within('expected_drainage_mm', i.expectedDrainageMm, {
    label: 'Expected drainage',
    unit: 'mm',
    min: 0,
    max: 1500,
  });
  const splitClass = oneOf('split_class', i.splitClass, SPLIT_CLASSES);
  const texturePoints = SPLIT_CLASSES.indexOf(splitClass);
  const wetPoints = drainage < 25 ? 0 : drainage <= 100 ? 1 : 2;
  const raw = Math.max(1, 1 + texturePoints + wetPoints - (i.coatedOrInhibited ? 1 : 0));
  const limit = doseLimit('soil_applied', splitClass);
  const byDose = Math.ceil(total / (limit?.maxSingleDoseKgHa ?? 120));
  const wanted = Math.max(raw, byDose);
  const templates = templatesFor(i.cropId);
  const nearest = [...templates].sort(
    (a, b) => Math.abs(a.nPasses - wanted) - Math.abs(b.nPasses - wanted) || b.nPasses - a.nPasses,
  )[0];
  if (!nearest) {
    stagesOf(i.cropId);
    refuse(
      'unknown_id',
      'crop_id',
      `No split template for ${i.cropId}: place the passes by hand.`,
      { value: i.cropId },
    );
  }
  const why: Step = step('supply.passes', 'Number of N passes', nearest.nPasses, '', {
    formula: '1 + texture + wetness, or dose / largest single dose; the template nearest to it',
    source: limit?.source,
    confidence: 'medium',
    inputs: [
      step('supply.passes.texture', `Texture ${splitClass}`, texturePoints, 'points'),
      step('supply.passes.wet', `Drainage ${drainage} mm`, wetPoints, 'points'),
      step(
        'supply.passes.dose',
        `By dose, at most ${limit?.maxSingleDoseKgHa ?? '-'} kg/ha at once`,
        byDose,
        'passes',
      ),
    ],
    note:
      wanted > Math.max(...templates.map((t) => t.nPasses))
        ? `${wanted} passes would be wanted; the largest template has ${Math.max(...templates.map((t) => t.nPasses))}.`
        : undefined,
  });
  return {
    texturePoints,
    wetPoints,
    raw,
    byDose,
    wanted,
    nPasses: nearest.nPasses,
    templateId: nearest.templateId,
    why,
  };
}

/** Shares brought inside their bounds by water-filling (F5.4 step 5). */
function waterFill(
  raw: readonly number[],
  low: readonly number[],
  high: readonly number[],
): number[] {
  const fixed = new Map<number, number>();
  for (let round = 0; round <= raw.length; round++) {
    const free = raw.map((_, k) => k).filter((k) => !fixed.has(k));
    const left = 1 - [...fixed.values()].reduce((a, b) => a + b, 0);
    const sum = free.reduce((s, k) => s + (raw[k] ?? 0), 0);
    const share = (k: number) =>
      fixed.get(k) ?? (sum > 0 ? ((raw[k] ?? 0) / sum) * left : left / free.length);
    const shares = raw.map((_, k) => share(k));
    const over = free.filter((k) => share(k) > (high[k] ?? 1) + 1e-12);
    const under = free.filter((k) => share(k) < (low[k] ?? 0) - 1e-12);
    if (over.length === 0 && under.length === 0) return shares;
    const excess = over.reduce((s, k) => s + share(k) - (high[k] ?? 1), 0);
    const shortfall = under.reduce((s, k) => s + (low[k] ?? 0) - share(k), 0);
    if (excess >= shortfall) for (const k of over) fixed.set(k, high[k] ?? 1);
    else for (const k of under) fixed.set(k, low[k] ?? 0);
  }
  return raw.map((_, k) => fixed.get(k) ?? 0);
}

/**
 * Doses in 5 kg steps under their caps; what does not fit flows on, then back, else stays unplaced
 * (F5.5).
 *
 * @param shares shares of the total, 0 to 1
 * @example capAndRound(103, [0.5, 0.5], [60, 60]).doses // [55, 50]
 */
export function capAndRound(
  total: number,
  shares: readonly number[],
  caps: readonly number[],
): { doses: number[]; unplaced: number } {
  const doses = shares.map((s) => total * s);
  let carry = 0;
  for (let k = 0; k < doses.length; k++) {
    const want = (doses[k] ?? 0) + carry;
    doses[k] = Math.min(want, caps[k] ?? Infinity);
    carry = want - (doses[k] ?? 0);
  }
  for (let k = doses.length - 2; k >= 0 && carry > 0; k--) {
    const room = Math.min(carry, (caps[k] ?? Infinity) - (doses[k] ?? 0));
    doses[k] = (doses[k] ?? 0) + room;
    carry -= room;
  }
  const floors = doses.map((d) => 5 * Math.floor(d / 5 + 1e-9));
  let missing = halfAwayFromZero((total - carry - floors.reduce((a, b) => a + b, 0)) / 5);
  const order = doses
    .map((d, k) => ({ k, rest: d - (floors[k] ?? 0) }))
    .sort((a, b) => b.rest - a.rest || a.k - b.k);
  for (const { k } of order) {
    if (missing <= 0) break;
    if ((floors[k] ?? 0) + 5 <= (caps[k] ?? Infinity) + 1e-9) {
      floors[k] = (floors[k] ?? 0) + 5;
      missing--;
    }
  }
  return { doses: floors, unplaced: carry };
}

export interface SplitInput {
  templateId: string;
  nTotalKgHa: number;
  uTotalKgHa: number;
  /** Soil supply and credits in the n + 1 intervals before, between and after the passes, kg/ha. */
  soilSupplyKgHa: readonly number[];
  maxDoseKgHa?: readonly number[] | null;
  recoveryFrac?: readonly number[] | null;
}

/**
 * Size of each pass: what the crop wants until the next one, less what the soil brings, within the
 * template's bounds (chapter 4, F5.4, F5.5).
 * The total stays the budget's.
 *
 * @example splitAllocate({ templateId: 'winter_wheat_3', nTotalKgHa: 200, uTotalKgHa: 240,
 * soilSupplyKgHa: [45, 12, 15, 25] }).dosesKgHa // [60, 105, 35]
 */
export function splitAllocate(i: SplitInput) {
  const passes = templateOf(i.templateId);
  const cropId = passes[0]?.cropId ?? '';
  const total = within('n_total_kg_ha', i.nTotalKgHa, N_TOTAL);
  const u = within('u_total_kg_ha', i.uTotalKgHa, {
    label: 'Crop N at full uptake',
    unit: 'kg/ha',
    min: 1,
    max: 600,
  });
  if (i.soilSupplyKgHa.length !== passes.length + 1)
    refuse('inconsistent', 'soil_supply_kg_ha', `expected ${passes.length + 1} intervals`, {
      value: i.soilSupplyKgHa.length,
    });
  i.soilSupplyKgHa.forEach((s, k) =>
    within(`soil_supply_kg_ha[${k}]`, s, {
      label: 'Soil supply',
      unit: 'kg/ha',
      min: -200,
      max: 600,
    }),
  );
  const curve = gddCurveOf(cropId);
  const lead = (stagesOf(cropId)[0]?.tBaseC ?? 0) < 5 ? 100 : 60;
  const gddTargets = passes.map((p) => stageDegrees(cropId, p.bbchTarget));
  const bounds = [0, ...gddTargets.map((g) => interpolate(curve, g + lead)), 1];
  const intervalDemandKgHa = bounds.slice(1).map((c, k) => u * (c - (bounds[k] ?? 0)));
  const balanceBeforePass1KgHa = (i.soilSupplyKgHa[0] ?? 0) - (intervalDemandKgHa[0] ?? 0);
  let b = balanceBeforePass1KgHa;
  const rawNeedKgHa = passes.map((p, k) => {
    const gap = (intervalDemandKgHa[k + 1] ?? 0) - (i.soilSupplyKgHa[k + 1] ?? 0) - b;
    b = Math.max(0, -gap);
    return (
      Math.max(0, gap) / (i.recoveryFrac?.[k] ?? placementOf(p.placementId).nRecoveryTypicalFrac)
    );
  });
  const rawTotalKgHa = rawNeedKgHa.reduce((x, y) => x + y, 0);
  const rawShares = passes.map((p, k) =>
    rawTotalKgHa > 0 ? (rawNeedKgHa[k] ?? 0) / rawTotalKgHa : p.shareDefaultPct / 100,
  );
  const shares = waterFill(
    rawShares,
    passes.map((p) => p.shareMinPct / 100),
    passes.map((p) => p.shareMaxPct / 100),
  );
  const { doses, unplaced } = capAndRound(total, shares, i.maxDoseKgHa ?? []);
  const why: Step = step('supply.split', 'Split of the N', total, 'kg/ha', {
    formula:
      'demand between passes less soil supply, divided by recovery; shares within the template bounds; 5 kg steps',
    source: passes[0]?.source,
    confidence: 'medium',
    note:
      balanceBeforePass1KgHa < 0
        ? `The crop is ${Math.abs(balanceBeforePass1KgHa).toFixed(0)} kg/ha short before the first pass.`
        : undefined,
    inputs: passes.map((p, k) =>
      step(`supply.split.${k}`, p.passName, doses[k] ?? 0, 'kg/ha', {
        formula: `demand ${(intervalDemandKgHa[k + 1] ?? 0).toFixed(0)} - soil ${(i.soilSupplyKgHa[k + 1] ?? 0).toFixed(0)} kg/ha; share ${((shares[k] ?? 0) * 100).toFixed(0)} % (${p.shareMinPct} to ${p.shareMaxPct} %)`,
      }),
    ),
  });
  return {
    gddTargets,
    intervalDemandKgHa,
    balanceBeforePass1KgHa,
    rawNeedKgHa,
    rawTotalKgHa,
    rawShares,
    shares,
    dosesKgHa: doses,
    unplacedKgHa: unplaced,
    why,
  };
}

/**
 * Whether N at a stage is still in time for the crop and its use (chapter 4, F5.9). Stages are
 * compared on the thermal clock.
 *
 * @example stopCheck({ cropId: 'sugar_beet', use: 'any', bbch: '31' }) // { level: 'stop',
 * lastBbch: '16' }
 */
export function stopCheck(i: {
  cropId: string;
  use?: string | null;
  bbch: string;
  foliar?: boolean | null;
}): { lastBbch: string | null; level: 'ok' | 'info' | 'caution' | 'stop'; harm: string } {
  const rows = stopRulesFor(i.cropId);
  const uses = rows.map((r) => r.use);
  if (i.use != null && rows.length > 0 && !uses.includes(i.use) && !uses.includes('any'))
    refuse(
      'unknown_id',
      'use',
      `use = ${i.use} is not known: use one of ${[...new Set(uses)].join(', ')}.`,
      { value: i.use },
    );
  const row = rows.find((r) => r.use === i.use) ?? rows.find((r) => r.use === 'any') ?? rows[0];
  if (!row) return { lastBbch: null, level: 'ok', harm: '' };
  const last = String(i.foliar ? row.lastFoliarNBbch : row.lastSoilNBbch).padStart(2, '0');
  const late = clip(stageDegrees(i.cropId, i.bbch) - stageDegrees(i.cropId, last), 0, Infinity) > 0;
  return { lastBbch: last, level: late ? row.level : 'ok', harm: late ? row.harm : '' };
}
