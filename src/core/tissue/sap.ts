import { sapThresholds, type SapThreshold } from '../book/sap';
import { elementShare } from '../quantity/forms';
import { oneOf, within } from '../quantity/range';

// Fresh sap by a quick meter (chapter 5, section 11). Never read against dry petioles.

const METERS = ['NO3', 'NO3-N', 'K'] as const;
export type SapMeter = (typeof METERS)[number];
const EDGE_LOW = 0.9;
const EDGE_HIGH = 1.1;
/** The same crop in the tables of sap and of leaf. */
const SAME: Readonly<Record<string, string>> = { processing_tomato: 'tomato' };
export type SapClass = 'low' | 'edge_low' | 'in_range' | 'edge_high' | 'high';

/** The row of a crop at a stage; undefined where there is none. */
const sapStandard = (crop: string, bbch: number): SapThreshold | undefined =>
  sapThresholds().find(
    (r) => r.crop === (SAME[crop] ?? crop) && bbch >= r.bbchFrom && bbch <= r.bbchTo,
  );
export interface SapReading {
  /** NO3-N, or K of a K meter, in the sap itself. */
  mgL: number;
  cls: SapClass | null;
  low: number | null;
  high: number | null;
  row: SapThreshold | null;
}
/**
 * A reading of a sap meter (F11.1, F11.2).
 *
 * @param i.readingMgL 0 to 20000 mg/L as the meter shows
 * @param i.meterReads what the meter shows: NO3, NO3-N or K
 * @param i.dilution times the sap was diluted, 1 to 100
 * @throws Refusal for another meter or a figure out of range
 * @example sapReading({ crop: 'tomato', bbch: 62, meterReads: 'NO3', readingMgL: 3100 }).cls // 'in_range'
 */
export function sapReading(i: {
  crop: string;
  bbch: number;
  meterReads: string;
  readingMgL: number;
  dilution?: number | null;
}): SapReading {
  const meter = oneOf('meter_reads', i.meterReads, METERS);
  const bbch = within('bbch', i.bbch, { label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 });
  const mgL =
    within('reading_mg_l', i.readingMgL, { label: 'Reading', unit: 'mg/L', min: 0, max: 20_000 }) *
    within('dilution', i.dilution ?? 1, { label: 'Dilution', unit: '', min: 1, max: 100 }) *
    (meter === 'NO3' ? elementShare('no3') : 1);
  const row = sapStandard(i.crop, bbch) ?? null;
  const low = row && (meter === 'K' ? row.kLowMgL : row.no3NLowMgL);
  const high = row && (meter === 'K' ? row.kHighMgL : row.no3NHighMgL);
  return {
    mgL,
    row,
    low,
    high,
    cls:
      low === null || high === null
        ? null
        : mgL < EDGE_LOW * low
          ? 'low'
          : mgL < low
            ? 'edge_low'
            : mgL <= high
              ? 'in_range'
              : mgL <= EDGE_HIGH * high
                ? 'edge_high'
                : 'high',
  };
}

/** Days between two readings that may be acted on together. */
const APART_D = [4, 7] as const;
/** A reading under this share of the lower limit is enough alone. */
const ALONE_BELOW = 0.5;
export interface DatedSap {
  day: number;
  reading: Pick<SapReading, 'mgL' | 'low' | 'cls'>;
}
/**
 * Whether readings are enough to act on (F11.3): one is weather. `act` where the newest two, four
 * to seven days apart, are low, or the newest is under half of its limit.
 *
 * @param readings oldest first, by day
 */
export function sapAct(readings: readonly DatedSap[]): 'act' | 'one_is_weather' | 'wait' {
  const [before, last] = [readings.at(-2), readings.at(-1)];
  if (!last) return 'wait';
  const low = (x: DatedSap) => x.reading.cls === 'low' || x.reading.cls === 'edge_low';
  if (last.reading.low !== null && last.reading.mgL < ALONE_BELOW * last.reading.low) return 'act';
  if (!low(last)) return 'wait';
  const apart = before ? last.day - before.day : 0;
  if (before && low(before) && apart >= APART_D[0] && apart <= APART_D[1]) return 'act';
  return 'one_is_weather';
}
