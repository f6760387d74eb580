import type { Book } from '../book/book';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { cropOf } from '../book/crops';
import { entered, fromTable, step, type Step } from '../why/step';

const CROP_N_CAP_KG_HA = 120;
const N_PER_GAI_KG_HA = 50;
const N_PER_SHOOT_KG_HA = 0.02;
const KG = { label: 'Nitrogen', unit: 'kg/ha', min: 0, max: 2000 };

/**
 * N that irrigation water brings in the uptake window (chapter 1, C8).
 *
 * @param i.waterNo3nMgL nitrate-N in mg/L (0 to 100); nitrate divided by 4.4268
 * @example creditIrrigationWater({ irrigationMm: 300, waterNo3nMgL: 8, shareBeforeRunDown: 0.8
 * }).creditKgHa // 16.32
 */
export function creditIrrigationWater(i: {
  irrigationMm: number;
  waterNo3nMgL: number;
  shareBeforeRunDown?: number | null;
}): { nBroughtKgHa: number; creditKgHa: number; lateNKgHa: number; why: Step } {
  const mm = within('irrigation_mm', i.irrigationMm, RANGES.irrigationMm);
  const c = within('water_no3n_mg_l', i.waterNo3nMgL, RANGES.waterNo3n);
  const early = within('share_before_run_down', i.shareBeforeRunDown ?? 1, {
    ...RANGES.share,
    label: 'Share before run-down',
  });
  const brought = mm * c * 0.01;
  const creditKgHa = brought * 0.85 * early;
  return {
    nBroughtKgHa: brought,
    creditKgHa,
    lateNKgHa: brought * 0.85 * (1 - early),
    why: step('credit.irrigation', 'Irrigation water', creditKgHa, 'kg/ha', {
      formula: 'mm x mg/L x 0.01 x 0.85 x share before the run-down date',
      source: 'chapter 1, C8',
      confidence: 'high',
      inputs: [
        entered('credit.irrigation.mm', 'Water', mm, 'mm'),
        entered('credit.irrigation.no3n', 'Nitrate-N', c, 'mg/L'),
        entered('credit.irrigation.early', 'Share before run-down', early, ''),
      ],
    }),
  };
}

/**
 * S and K that irrigation water brings, kg/ha (chapter 1, C8): all of it, in whichever week.
 *
 * @param i.mgL sulphate-S (the ion divided by 2.9961) or K, mg/L
 * @example waterBrings({ irrigationMm: 200, mgL: 12 }) // 24
 */
export const waterBrings = (i: { irrigationMm: number; mgL: number }): number =>
  within('irrigation_mm', i.irrigationMm, RANGES.irrigationMm) *
  within('mg_l', i.mgL, { label: 'In the water', unit: 'mg/L', min: 0, max: 500 }) *
  0.01;

/**
 * N that a winter crop already holds on the day of the spring sample (C13).
 *
 * @throws Refusal for a crop that is not a winter cereal or winter canola
 * @example creditCropN(PRINTED, { cropKey: 'winter_canola', gai: 1.5 }).creditKgHa // 75
 */
export function creditCropN(
  book: Book,
  i: {
    cropKey: string;
    cropNKgHa?: number | null;
    gai?: number | null;
    shootsM2?: number | null;
  },
): { creditKgHa: number; why: Step } {
  const crop = cropOf(book, i.cropKey);
  const canola = crop.winterN === 'canola';
  if (crop.winterN === null)
    refuse(
      'inconsistent',
      'crop_key',
      `crop_key: only winter cereals and winter canola hold N in spring, not ${crop.name}.`,
      { value: crop.key },
    );
  const measured =
    i.cropNKgHa != null
      ? within('crop_n_kg_ha', i.cropNKgHa, {
          label: 'N in the crop',
          unit: 'kg/ha',
          min: 0,
          max: 200,
        })
      : null;
  const gai =
    i.gai != null && canola
      ? within('gai', i.gai, { label: 'Green area index', unit: 'm2/m2', min: 0, max: 6 })
      : null;
  const shoots =
    i.shootsM2 != null && !canola
      ? within('shoots_m2', i.shootsM2, { label: 'Shoots', unit: 'per m2', min: 0, max: 3000 })
      : null;
  const estimate =
    measured ??
    (gai !== null ? gai * N_PER_GAI_KG_HA : shoots !== null ? shoots * N_PER_SHOOT_KG_HA : 0);
  const creditKgHa = Math.min(CROP_N_CAP_KG_HA, estimate);
  const [label, value, unit] =
    measured !== null
      ? (['N measured in the crop', measured, 'kg/ha'] as const)
      : gai !== null
        ? (['Green area index', gai, 'm2/m2'] as const)
        : (['Shoots', shoots ?? 0, 'per m2'] as const);
  return {
    creditKgHa,
    why: step('credit.crop_n', 'N already in the crop', creditKgHa, 'kg/ha', {
      formula:
        measured !== null
          ? 'as measured, at most 120'
          : gai !== null
            ? 'green area index x 50, at most 120'
            : 'shoots x 0.02, at most 120',
      source: 'chapter 1, C13',
      confidence: 'low',
      inputs: [entered('credit.crop_n.count', label, value, unit)],
    }),
  };
}

/**
 * N credited beyond what the trials of the school already held (D1).
 *
 * @example creditDelta({ measuredKgHa: 75, calNo3KgHa: 40 }).creditKgHa // 35
 */
export function creditDelta(i: { measuredKgHa: number; calNo3KgHa: number }): {
  creditKgHa: number;
} {
  return {
    creditKgHa: Math.max(
      0,
      within('measured_kg_ha', i.measuredKgHa, KG) - within('cal_no3_kg_ha', i.calNo3KgHa, KG),
    ),
  };
}

/** Crop recovery of available S, and N:S of soil organic matter (chapter 1, section 7). */
const S_RECOVERY = 0.8;
const OM_N_TO_S = 8;

/**
 * Sulphur requirement and its credits (S1), kg S/ha available.
 *
 * @example sulphurBudget(PRINTED, { cropKey: 'spring_canola', yieldTHa: 2.4, omCreditNKgHa: 48,
 * depositionSKgHa: 5 }).sToBringKgHa // 29.06
 */
export function sulphurBudget(
  book: Book,
  i: {
    cropKey: string;
    yieldTHa: number;
    omCreditNKgHa?: number | null;
    depositionSKgHa?: number | null;
    manureSKgHa?: number | null;
  },
) {
  const crop = cropOf(book, i.cropKey);
  const y = within('yield_t_ha', i.yieldTHa, {
    label: 'Yield',
    unit: 't/ha',
    min: 0,
    max: crop.yieldMaxTHa,
  });
  const omS = within('om_credit_n_kg_ha', i.omCreditNKgHa ?? 0, KG) / OM_N_TO_S;
  const depositionS =
    within('deposition_s_kg_ha', i.depositionSKgHa ?? 0, RANGES.depositionS) * 0.5;
  const manureS = within('manure_s_kg_ha', i.manureSKgHa ?? 0, KG);
  const sReqKgHa = (y * crop.uptakeSKgT) / S_RECOVERY;
  const sCreditKgHa = Math.min(sReqKgHa, omS + depositionS + manureS);
  return {
    sReqKgHa,
    sCreditKgHa,
    omSKgHa: omS,
    depositionSKgHa: depositionS,
    sToBringKgHa: sReqKgHa - sCreditKgHa,
    why: step('requirement.s', 'S requirement', sReqKgHa, 'kg/ha', {
      formula: 'uptake per tonne x yield / 0.80',
      source: crop.source,
      confidence: crop.confidence,
      inputs: [
        fromTable('requirement.s.uptake', 'S uptake', crop.uptakeSKgT, 'kg/t', crop),
        entered('requirement.s.yield', 'Yield goal', y, 't/ha'),
      ],
    }),
    whyOm: step('credit.organic_matter.s', 'S from organic matter', omS, 'kg/ha', {
      formula: 'N credit of organic matter / 8',
      source: 'chapter 1, S1',
      confidence: 'medium',
    }),
  };
}
