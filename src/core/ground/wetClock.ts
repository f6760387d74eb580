import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { groundParameter } from '../book/sampling';

export interface WetRecord {
  days: number;
  rainMm: number;
  soilTempC: number | null;
  irrigationMm?: number;
}
export const DAYS_PER_MONTH = 30.4;
/** Water of the last 30 days below which the soil counts as drying, mm (chapter 3, 7.3). */
const MOIST_MM = 20;
const WINDOW_DAYS = 30;
const DRY_WEIGHT = 0.25;
/**
 * Effective months in a calendar month where no weather is known, in a moist climate and in a dry
 * one (7.3 step 4).
 */
export const ASSUMED_CLOCK_RATE = { moist: 0.7, dry: 0.4 } as const;

const warmth = (t: number | null, growth: number): number =>
  t === null || t >= growth ? 1 : t >= 0 ? 0.5 : 0;

/**
 * The wet clock: lime reacts while the soil is wet and above freezing, not by the calendar
 * (chapter 3, 7.3).
 *
 * @param i.records rain and irrigation since spreading, in order; water is spread evenly over the
 * days of a record
 * @param i.moist the soil was moist when the lime was spread
 * @example effectiveMonths({ records: [{ days: 10, rainMm: 30, irrigationMm: 0, tempC: 12 }],
 * moist: true }) // { started: true, cumMm: 30 }
 */
export function effectiveMonths(i: {
  records: readonly WetRecord[];
  moist: boolean;
  startMm?: number | null;
}): { tEffMonths: number; started: boolean; cumMm: number; startMm: number } {
  const startMm = within('wet_clock_mm', i.startMm ?? groundParameter('wet_clock_mm').default, {
    min: 0,
    max: 200,
    unit: 'mm',
    label: 'Water that starts the clock',
  });
  const growth = groundParameter('growth_temp_c').default;
  i.records.forEach((r, k) => {
    within(`recs[${k}].days`, r.days, {
      min: 0,
      max: 366,
      unit: 'd',
      label: 'Days of the record',
      above: true,
    });
    within(`recs[${k}].rain_mm`, r.rainMm, { min: 0, max: 2000, unit: 'mm', label: 'Rain' });
    within(`recs[${k}].irrigation_mm`, r.irrigationMm ?? 0, {
      min: 0,
      max: 2000,
      unit: 'mm',
      label: 'Irrigation',
    });
    if (r.soilTempC !== null && (r.soilTempC < -30 || r.soilTempC > 60))
      refuse(
        'out_of_range',
        `recs[${k}].soil_temp_c`,
        `Soil temperature = ${r.soilTempC} °C is outside -30 to 60 °C.`,
        { value: r.soilTempC, allowed: '-30 to 60 °C' },
      );
  });
  const water = (r: WetRecord) => r.rainMm + (r.irrigationMm ?? 0);
  /** Water of the last 30 days at the end of record k, or since spreading where that is shorter. */
  const trailing = (k: number): number => {
    let left = WINDOW_DAYS;
    let mm = 0;
    for (let j = k; j >= 0 && left > 0; j--) {
      const r = i.records[j] as WetRecord;
      const days = Math.min(left, r.days);
      mm += (water(r) * days) / r.days;
      left -= days;
    }
    return mm;
  };
  let cumMm = 0;
  let started = i.moist;
  let weighted = 0;
  i.records.forEach((r, k) => {
    cumMm += water(r);
    if (!started) {
      // The record in which the clock starts does not count itself: only what follows does.
      if (cumMm >= startMm) started = true;
      return;
    }
    const moist = trailing(k) >= MOIST_MM || (r.irrigationMm ?? 0) > 0;
    weighted += warmth(r.soilTempC, growth) * (moist ? 1 : DRY_WEIGHT) * r.days;
  });
  return { tEffMonths: weighted / DAYS_PER_MONTH, started, cumMm, startMm };
}
