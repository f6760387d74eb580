import { degreesOfDay, runningSums } from '../quantity/thermalTime';
import { clip, interpolate, interpolateAll } from '../quantity/curve';
import { dateAfter, daysBetween, eachDay, monthOf, type IsoDate } from '../quantity/calendar';
import { refuse } from '../quantity/refusal';
import { gddCurveOf, stagesOf, type Normals, type StageRow } from '../book/stages';

/**
 * Degree-days of one day between the crop's base and ceiling (chapter 4, F5.1); temperatures are
 * clipped before averaging.
 */
export const dayDegrees = (tMin: number, tMax: number, base: number, upper: number): number =>
  (clip(tMax, base, upper) + clip(tMin, base, upper)) / 2 - base;

/**
 * Degree-days by day and in all.
 *
 * @throws Refusal when a minimum lies above its maximum
 * @example degreeDays({ cropId: 'maize', daysTminTmax: [[8, 22], [14, 34], [2, 9]] }).gddSum // 18
 */
export function degreeDays(i: {
  cropId: string;
  daysTminTmax: readonly (readonly [number, number])[];
}): { gddByDay: number[]; gddSum: number } {
  const crop = stagesOf(i.cropId)[0] as StageRow;
  const gddByDay = i.daysTminTmax.map(([tMin, tMax], k) => {
    if (!Number.isFinite(tMin) || !Number.isFinite(tMax))
      refuse(
        'not_a_number',
        `days_tmin_tmax[${k}]`,
        `days_tmin_tmax[${k}]: give two temperatures in °C.`,
      );
    if (tMin > tMax)
      refuse('inconsistent', `days_tmin_tmax[${k}]`, 'minimum temperature is above the maximum', {
        value: `${tMin}, ${tMax}`,
      });
    return dayDegrees(tMin, tMax, crop.tBaseC, crop.tUpperC);
  });
  return { gddByDay, gddSum: gddByDay.reduce((a, b) => a + b, 0) };
}

/**
 * Degree-days at which a stage is reached: the table's code, else straight between neighbours,
 * leaving out rows whose code runs backwards
 * (potato lists tuber stage 40 before canopy stage 39). Stages are compared by these, never by
 * code (chapter 4, F5.2).
 */
export function stageDegrees(cropId: string, bbch: string): number {
  const rows = stagesOf(cropId);
  const exact = rows.find((r) => Number(r.stageBbch) === Number(bbch));
  if (exact) return exact.gddCD;
  let highest = -1;
  const rising = rows.filter((r) =>
    Number(r.stageBbch) > highest ? ((highest = Number(r.stageBbch)), true) : false,
  );
  return interpolate(
    rising.map((r) => [Number(r.stageBbch), r.gddCD] as const),
    Number(bbch),
  );
}

const SLOWEST = 0.75;
const FASTEST = 1.33;
/** One look mixes the variety, the soil and who looked: it counts half. */
const WEIGHT = 0.5;

/**
 * The pace of a crop's clock after a stage was seen.
 *
 * @example paceSeen(1, 1160, 1240) // 0.96774
 */
export const paceSeen = (pace: number, seen: number, counted: number): number =>
  clip(pace * (1 + WEIGHT * (seen / counted - 1)), SLOWEST, FASTEST);

/** A climate's normals by month, December before January and January after December again. */
function monthsAround(months: readonly Normals[]): (month: number) => Normals {
  const first = months[0] as Normals;
  const byMonth: Normals[] = [];
  for (const m of months) {
    byMonth[m.month] = m;
    if (m.month === 12) byMonth[0] = m;
    if (m.month === 1) byMonth[13] = m;
  }
  return (month) => byMonth[month] ?? first;
}

export interface SeasonClock {
  start: IsoDate;
  /** Degree-days counted by the crop's clock at the end of each day. */
  degrees: number[];
  /** Degree-days of organic N up to the beginning of each day, and of the day after the last. */
  thermal: number[];
  meanTempC: number[];
}
const MAX_DAYS = 800;

/** First day of the year as the tables count it: 1 January, 1 July in the south. */
const newYear = (year: number, southern: boolean): IsoDate =>
  `${year}-${southern ? '07' : '01'}-01`;
/** The winter that a crop sown on a day has before it, or has just begun in. */
export const winterOf = (sown: IsoDate, southern: boolean): IsoDate => {
  const year = Number(sown.slice(0, 4));
  return newYear(southern || monthOf(sown) <= 6 ? year : year + 1, southern);
};
/** The last time that a day of the tables' year came round before a date. */
function lastBefore(end: IsoDate, doyNh: number, southern: boolean): IsoDate {
  const year = Number(end.slice(0, 4));
  const found = dateAfter(newYear(year, southern), doyNh - 1);
  return found <= end ? found : dateAfter(newYear(year - 1, southern), doyNh - 1);
}

/**
 * The day on which a crop's clock begins: its sowing, or the fixed day of a perennial in the year of
 * its harvest, whatever the planting date.
 */
export function clockStart(
  cropId: string,
  i: { clockDate: IsoDate; end: IsoDate; southern: boolean },
): IsoDate {
  const crop = stagesOf(cropId)[0];
  return crop?.clockStart === 'fixed_doy'
    ? lastBefore(i.end, crop.fixedStartDoyNh ?? 1, i.southern)
    : i.clockDate;
}

/**
 * The crop's clock in a normal year, day by day from `start` to `end` (chapter 4, F5.2, on monthly
 * normals instead of weather).
 * Expect +/- 7 to 10 days; an observed stage always beats it.
 *
 * @param i.clockDate sowing, transplanting or, for crops that count from a fixed date, that date
 */
export function seasonClock(i: {
  cropId: string | null;
  climate: readonly Normals[];
  start: IsoDate;
  end: IsoDate;
  clockDate: IsoDate;
  /** Its winter is in July: dates of the tables move by half a year. */
  southern: boolean;
  /** Stages that were seen: each puts the clock right from its day on. */
  observed?: readonly { date: IsoDate; stage: string }[];
}): SeasonClock {
  const days = daysBetween(i.start, i.end);
  if (days < 1 || days > MAX_DAYS)
    refuse(
      'out_of_range',
      'harvest_date',
      `harvest_date = ${i.end} must lie 1 to ${MAX_DAYS} days after ${i.start}.`,
      { value: i.end },
    );
  const normalOf = monthsAround(i.climate);
  const crop = i.cropId === null ? null : (stagesOf(i.cropId)[0] as StageRow);
  const from = i.cropId === null ? i.clockDate : clockStart(i.cropId, i);
  const winter = (crop?.autumnCapGddCD ?? 0) > 0;
  const cap = crop?.autumnCapGddCD ?? 0;
  const restart = winter
    ? dateAfter(winterOf(i.clockDate, i.southern), (crop?.restartDoyNh ?? 1) - 1)
    : null;
  const [degrees, meanTempC]: [number[], number[]] = [[], []];
  let g = 0;
  let spring = 0;
  let pace = 1;
  let anchor = 0;
  let anchorDay = -1;
  const seen = new Map(
    crop
      ? (i.observed ?? []).map((o) => [
          daysBetween(i.start, o.date),
          stageDegrees(crop.cropId, o.stage),
        ])
      : [],
  );
  const fromDay = crop ? daysBetween(i.start, from) : 0;
  const restartDay = restart === null ? null : daysBetween(i.start, restart);
  eachDay(i.start, days, (month, dayInMonth, d) => {
    // Mean of the day and half its daily range: straight between the middles of two months, °C.
    const before = dayInMonth < 15 ? month - 1 : month;
    const [a, b] = [normalOf(before), normalOf(before + 1)];
    const f = (dayInMonth < 15 ? dayInMonth + 15 : dayInMonth - 15) / 30;
    const tMean = a.tMeanC + (b.tMeanC - a.tMeanC) * f;
    if (crop && d >= fromDay) {
      const half = (a.tRangeC + (b.tRangeC - a.tRangeC) * f) / 2;
      const inc = pace * dayDegrees(tMean - half, tMean + half, crop.tBaseC, crop.tUpperC);
      if (restartDay === null) g += inc;
      else if (d < restartDay) g = Math.min(cap, g + inc);
      else {
        spring += inc;
        g = Math.min(cap + spring, g + 1.5 * inc);
      }
      const looked = seen.get(d);
      if (looked !== undefined && looked >= anchor) {
        if (g - anchor >= 1) pace = paceSeen(pace, looked - anchor, g - anchor);
        // The days before ran to where the crop was found, neither ahead of it nor back.
        const fit = g > anchor ? (looked - anchor) / (g - anchor) : 0;
        for (let k = anchorDay + 1; k < d; k++)
          degrees[k] = anchor + ((degrees[k] ?? anchor) - anchor) * fit;
        [g, anchor, anchorDay, spring] = [looked, looked, d, Math.max(0, looked - cap)];
      }
    }
    degrees.push(g);
    meanTempC.push(tMean);
  });
  return { start: i.start, degrees, meanTempC, thermal: runningSums(meanTempC, degreesOfDay) };
}

/** First day whose degree-days are enough, by halving, since they only rise; -1 where none is. */
function firstDay({ degrees }: SeasonClock, enough: (degrees: number) => boolean): number {
  let [low, high] = [0, degrees.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (enough(degrees[middle] ?? 0)) high = middle;
    else low = middle + 1;
  }
  return low === degrees.length ? -1 : low;
}

/** The date on which a stage is reached in a normal year, or null if the season ends before. */
export function stageDate(clock: SeasonClock, cropId: string, bbch: string): IsoDate | null {
  const wanted = stageDegrees(cropId, bbch);
  // Stage 00 is the day the clock starts, not the days before it.
  if (wanted === 0)
    return dateAfter(
      clock.start,
      Math.max(
        0,
        firstDay(clock, (g) => g > 0),
      ),
    );
  const day = firstDay(clock, (g) => g >= wanted);
  return day < 0 ? null : dateAfter(clock.start, day);
}

/** The stage code reached on a day, straight between the table's stages. */
export function stageOn(clock: SeasonClock, cropId: string, day: number): string {
  const g = clock.degrees[Math.max(0, Math.min(clock.degrees.length - 1, day))] ?? 0;
  const rows = stagesOf(cropId);
  return rows.findLast((r) => g >= r.gddCD)?.stageBbch ?? rows[0]?.stageBbch ?? '00';
}

/** Share of its N that the crop has taken up by each day. */
export const uptakeByClock = (clock: SeasonClock, cropId: string): number[] =>
  interpolateAll(gddCurveOf(cropId), clock.degrees);
