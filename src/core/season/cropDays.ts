import { cropParamIds, cropParamsOf, gddCurveOf, stagesOf, type StageRow } from '../book/stages';
import { dayDegrees, paceSeen, stageDegrees, winterOf } from '../nitrogen/stageClock';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import type { CropRecord } from './record';
import type { SimParams } from './params';
import type { Weather } from './weather';

// The crop's own clock through a run (chapter 4, F5.1, F5.2, S5): what it asks for by each day.

const LAST_G = 1e9;
/** A crop as a run needs it: its curve, its dates as days of the run, what was seen of it. */
export interface SeasonCrop {
  sowDay: number;
  /** Day on which it is taken off; beyond the run where nobody said one. */
  harvestDay: number;
  uTotalKgHa: number;
  gInit: number;
  base: number;
  upper: number;
  /** Degree-days at which the autumn count stops; 0 for a crop without winter. */
  autumnCap: number;
  restartDay: number;
  springAtStart: boolean;
  catchUp: number;
  emerge: number;
  fullCover: number;
  coverMax: number;
  senesce: number;
  maturity: number;
  kc: number;
  rootZ0: number;
  rootRate: number;
  rootMax: number;
  uDayMax: number;
  fixationMax: number;
  curveG: Float64Array;
  curveN: Float64Array;
  /** First degree-days at which all N is in the crop. */
  curveEnd: number;
  observed: { day: number; g: number }[];
}

/**
 * A crop's record with the figures of its table.
 *
 * @throws Refusal for an unknown crop, dates that contradict, an observation outside the crop's
 * days
 */
export function seasonCropOf(
  p: SimParams,
  record: CropRecord,
  start: IsoDate,
  latitudeDeg: number,
): SeasonCrop {
  const stage = stagesOf(record.cropId)[0] as StageRow;
  const params =
    cropParamsOf(record.cropId) ??
    refuse('unknown_id', 'crop.crop_id', `crop.crop_id = ${record.cropId} has no season figures.`);
  const curve = gddCurveOf(record.cropId);
  const sowDay = daysBetween(start, record.sowDate);
  const harvestDay = record.harvestDate ? daysBetween(start, record.harvestDate) : LAST_G;
  if (harvestDay <= sowDay)
    refuse(
      'inconsistent',
      'crop.harvest_date',
      `crop.harvest_date = ${record.harvestDate} is not after sowing on ${record.sowDate}.`,
      { value: record.harvestDate },
    );
  const gInit = within('crop.g_init', record.gInit ?? 0, {
    label: 'Degree-days at the start',
    unit: '°C d',
    min: 0,
    max: 6000,
  });
  const autumnCap = stage.autumnCapGddCD ?? 0;
  const restart = dateAfter(
    winterOf(record.sowDate, latitudeDeg < 0),
    (stage.restartDoyNh ?? 1) - 1,
  );
  const observed = (record.observedStages ?? []).map((o, k) => {
    const day = daysBetween(start, o.date);
    if (day < Math.max(0, sowDay) || day > harvestDay)
      refuse(
        'out_of_range',
        `crop.observed_stages[${k}].date`,
        `crop.observed_stages[${k}].date = ${o.date} lies outside the days of the crop.`,
        { value: o.date },
      );
    return { day, g: stageDegrees(record.cropId, o.bbch) };
  });
  return {
    sowDay,
    harvestDay,
    uTotalKgHa:
      record.uTotalKgHa == null
        ? params.nUptakeTotalDefaultKgHa
        : within('crop.u_total_kg_ha', record.uTotalKgHa, {
            label: 'N in the crop',
            unit: 'kg/ha',
            min: 1,
            max: 600,
          }),
    gInit,
    base: stage.tBaseC,
    upper: stage.tUpperC,
    autumnCap,
    restartDay: autumnCap > 0 ? daysBetween(start, restart) : LAST_G,
    springAtStart: record.springClock ?? (autumnCap > 0 && gInit > autumnCap),
    catchUp: p.winterCatchUp,
    emerge: params.gEmergeCD,
    fullCover: params.gFullCoverCD,
    coverMax: params.coverMaxFrac,
    senesce: params.gSenesceCD,
    maturity: params.gMaturityCD,
    kc: params.kcFull,
    rootZ0: params.rootZ0Cm,
    rootRate: params.rootRateCmPerCD,
    rootMax: record.rootZmaxCm ?? params.rootZmaxCm,
    uDayMax: params.uDayMaxKgHaD,
    fixationMax: params.fixationMaxFrac,
    curveG: Float64Array.from(curve, (k) => k[0]),
    curveN: Float64Array.from(curve, (k) => k[1]),
    curveEnd: curve.find((k) => k[1] >= 1)?.[0] ?? LAST_G,
    observed,
  };
}

/** Crops whose season can be run. */
export const seasonCrops = (): string[] => cropParamIds();

/** Share of the crop's N that is in it at so many degree-days. */
function curveAt(c: Pick<SeasonCrop, 'curveG' | 'curveN'>, g: number): number {
  const { curveG: x, curveN: y } = c;
  const last = x.length - 1;
  if (g <= (x[0] as number)) return y[0] as number;
  if (g >= (x[last] as number)) return y[last] as number;
  let i = 1;
  while ((x[i] as number) < g) i++;
  const [x0, y0] = [x[i - 1] as number, y[i - 1] as number];
  return y0 + (((y[i] as number) - y0) * (g - x0)) / ((x[i] as number) - x0);
}

/** What the clock says of each day of a run. */
export interface CropDays {
  /** 1 from sowing to harvest, both included. */
  on: Uint8Array;
  /** 1 where it had emerged when the day began. */
  emerged: Uint8Array;
  g: Float64Array;
  /** Asked for by the end of each day, and on it, kg/ha. */
  demand: Float64Array;
  newDemand: Float64Array;
  /** Day of harvest or maturity; -1 where neither is reached. */
  harvestDay: number;
  /** First day on which the crop has nearly all its N; -1 where it is not reached. */
  lateDay: number;
}
export const newCropDays = (days: number): CropDays => ({
  on: new Uint8Array(days),
  emerged: new Uint8Array(days),
  g: new Float64Array(days),
  demand: new Float64Array(days),
  newDemand: new Float64Array(days),
  harvestDay: -1,
  lateDay: -1,
});

/** Runs the clock over the days of some weather. */
export function runClock(p: SimParams, c: SeasonCrop, w: Weather, out: CropDays): void {
  let { gInit: g } = c;
  let gB = c.springAtStart ? Math.max(0, g - c.autumnCap) : 0;
  let spring = c.springAtStart;
  let rate = 1;
  let anchor = 0;
  let cumD = c.uTotalKgHa * curveAt(c, g);
  let seen = 0;
  const observed = c.observed.toSorted((a, b) => a.day - b.day);
  out.harvestDay = -1;
  out.lateDay = -1;
  for (let d = 0; d < w.days; d++) {
    const on = d >= c.sowDay && out.harvestDay < 0;
    out.on[d] = on ? 1 : 0;
    out.emerged[d] = on && g >= c.emerge ? 1 : 0;
    out.newDemand[d] = 0;
    if (on) {
      const inc = rate * dayDegrees(w.tMinC[d] as number, w.tMaxC[d] as number, c.base, c.upper);
      if (c.autumnCap === 0) g += inc;
      else {
        if (d >= c.restartDay) spring = true;
        if (spring) {
          gB += inc;
          g = Math.min(c.autumnCap + gB, g + c.catchUp * inc);
        } else g = Math.min(c.autumnCap, g + inc);
      }
      const stage = observed[seen];
      if (stage?.day === d) {
        seen += 1;
        if (g - anchor >= 1) rate = paceSeen(rate, stage.g - anchor, g - anchor);
        g = stage.g;
        anchor = stage.g;
        gB = Math.max(0, stage.g - c.autumnCap);
      }
      const asked = Math.max(cumD, c.uTotalKgHa * curveAt(c, g));
      out.newDemand[d] = asked - cumD;
      cumD = asked;
      if (out.lateDay < 0 && curveAt(c, g) >= p.lateFrac) out.lateDay = d;
      if (d >= c.harvestDay || g >= c.maturity) out.harvestDay = d;
    }
    out.g[d] = g;
    out.demand[d] = cumD;
  }
}
