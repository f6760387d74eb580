import { clip } from './curve';

// The one clock of warmth: ledger, section and whatever runs through a season count days by it.

/** Above this a soil releases no faster, °C (chapter 2, 4.4). */
const WARMEST_C = 30;

/**
 * Degree-days of one day for organic N: above 0 °C, at most 30 (chapter 2, 4.4).
 *
 * @example degreesOfDay(34) // 30
 */
export const degreesOfDay = (meanTempC: number): number => clip(meanTempC, 0, WARMEST_C);

/**
 * How much faster things rot or nitrify at a temperature than at the reference, doubling every 10
 * °C
 * unless a table says otherwise (chapter 1, C2 and C6).
 *
 * @example warmthAt(25, 15) // 2
 */
export const warmthAt = (tempC: number, referenceC: number, q10 = 2): number =>
  q10 ** ((tempC - referenceC) / 10);

/** Rates rise no further above this, and slow to nothing from here down to frost, °C. */
const HOTTEST_C = 35;
const RAMP_C = 5;
/**
 * How warmth moves what lives in the ground (chapter 4, S1): around 20 °C, nothing at frost, and a
 * ramp between that stands for freezing pores.
 *
 * @example frostedWarmth(20, 2) // 1
 */
export const frostedWarmth = (
  tempC: number,
  q10: number,
  reference = 20,
  ramp = RAMP_C,
  cap = HOTTEST_C,
): number =>
  tempC <= 0 ? 0 : q10 ** ((Math.min(tempC, cap) - reference) / 10) * Math.min(1, tempC / ramp);

/**
 * Sums of a figure of each day up to the beginning of each day; one more figure than days.
 *
 * @param of what of a day is summed; the day's figure itself unless said
 * @example runningSums([5, 7]) // [0, 5, 12]
 */
export function runningSums(
  daily: readonly number[],
  of: (x: number) => number = (x) => x,
): number[] {
  const sums = [0];
  let sum = 0;
  for (const x of daily) {
    sum += of(x);
    sums.push(sum);
  }
  return sums;
}
