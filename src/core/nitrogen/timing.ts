import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { paceSeen, stageDegrees } from './stageClock';

// What the clock, the ground and the grain say about a pass (chapter 4, F5.2, F5.6, F5.8).

/** A look so far from the clock is asked about. */
const FAR = 0.2;

/**
 * A clock of degree-days put right by a stage that was seen (F5.2).
 *
 * @param i.clockGdd what the clock had counted, 1 to 6000 °C d
 * @example stageCorrect({ cropId: 'winter_wheat', observedBbch: '31', clockGdd: 1240, targetBbch:
 * '39' }).rawGddToTarget // 423.667
 */
export function stageCorrect(i: {
  cropId: string;
  observedBbch: string;
  clockGdd: number;
  targetBbch?: string | null;
}): {
  clockAfter: number;
  rate: number;
  shiftGdd: number;
  rawGddToTarget: number | null;
  isFarFromClock: boolean;
} {
  const counted = within('clock_gdd', i.clockGdd, {
    label: 'Degree-days counted',
    unit: '°C d',
    min: 1,
    max: 6000,
  });
  const seen = stageDegrees(i.cropId, i.observedBbch);
  const rate = paceSeen(1, seen, counted);
  return {
    clockAfter: seen,
    rate,
    shiftGdd: seen - counted,
    rawGddToTarget:
      i.targetBbch == null ? null : Math.max(0, stageDegrees(i.cropId, i.targetBbch) - seen) / rate,
    isFarFromClock: seen > 0 && Math.abs(seen - counted) > FAR * seen,
  };
}

/** A day as a machine finds it. */
export interface GroundDay {
  rainMm: number;
  /** Water of the top layer, as a share of field capacity. */
  wTopFracFc: number;
  tSoilC: number;
}
const WORKABLE_RAIN_MM = 2;
/** Days on which the ground bears a machine and a pass may go out (F5.6). */
export const isWorkable = (d: GroundDay, trafficFcFrac: number): boolean =>
  d.rainMm < WORKABLE_RAIN_MM && d.wTopFracFc <= trafficFcFrac && d.tSoilC > 0;

/**
 * How often a window holds the days that a pass needs (F5.6).
 *
 * @param i.years days of the window, year by year
 * @param i.trafficFcFrac share of field capacity above which the ground does not bear, 0.5 to 1.2
 * @example workWindow({ years: [[{ rainMm: 0, wTopFracFc: 0.9, tSoilC: 9 }]], trafficFcFrac: 0.95,
 * needDays: 1 }).pWindow // 1
 */
export function workWindow(i: {
  years: readonly (readonly GroundDay[])[];
  trafficFcFrac: number;
  needDays: number;
}): { goodDays: number[]; pWindow: number } {
  if (i.years.length === 0)
    refuse('missing', 'years', 'years: give the days of at least one year.');
  const bears = within('traffic_fc_frac', i.trafficFcFrac, {
    label: 'Bears up to',
    unit: '',
    min: 0.5,
    max: 1.2,
  });
  const need = within('need_days', i.needDays, { label: 'Days needed', unit: '', min: 0, max: 60 });
  const goodDays = i.years.map((days) => days.filter((d) => isWorkable(d, bears)).length);
  return {
    goodDays,
    pWindow: goodDays.filter((d) => d >= need).length / goodDays.length,
  };
}

const PROTEIN_PER_N = 5.7;
const TO_GRAIN = 0.35;
const MARKET_MOISTURE = 0.14;
const QUOTED_MOISTURE = 0.12;

/**
 * Protein that a late dressing of milling wheat brings, and the dose for a wanted gain (F5.8). The
 * margin holds only if the step is reached.
 *
 * @param i.yieldTHa 1 to 16 t/ha at market moisture
 * @param i.doseKgHa 0 to 200 kg N/ha
 * @example proteinDressing({ yieldTHa: 9, doseKgHa: 40 }).proteinGainPctPoint // 0.907 points
 */
export function proteinDressing(i: {
  yieldTHa: number;
  doseKgHa: number;
  targetGainPctPoint?: number | null;
  recoveryFrac?: number | null;
  premiumPerT?: number | null;
  nPricePerKg?: number | null;
  passCostHa?: number | null;
}): { proteinGainPctPoint: number; doseNeededKgHa: number | null; marginHa: number | null } {
  const grain = within('yield_t_ha', i.yieldTHa, { label: 'Yield', unit: 't/ha', min: 1, max: 16 });
  const dose = within('dose_kg_ha', i.doseKgHa, { label: 'Dose', unit: 'kg/ha', min: 0, max: 200 });
  const recovery = within('recovery_frac', i.recoveryFrac ?? TO_GRAIN, {
    label: 'Recovered in grain',
    unit: '',
    min: 0.2,
    max: 0.5,
  });
  const quotedKg = (grain * 1000 * (1 - MARKET_MOISTURE)) / (1 - QUOTED_MOISTURE);
  const perKg = (100 * PROTEIN_PER_N * recovery) / quotedKg;
  const priced = i.premiumPerT != null && i.nPricePerKg != null && i.passCostHa != null;
  return {
    proteinGainPctPoint: perKg * dose,
    doseNeededKgHa:
      i.targetGainPctPoint == null
        ? null
        : within('target_gain_pct_point', i.targetGainPctPoint, {
            label: 'Gain wanted',
            unit: 'points',
            min: 0,
            max: 5,
          }) / perKg,
    marginHa: priced
      ? (i.premiumPerT ?? 0) * grain - dose * (i.nPricePerKg ?? 0) - (i.passCostHa ?? 0)
      : null,
  };
}
