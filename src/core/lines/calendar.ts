import type { Book } from '../book/book';
import { cropOf, crosswalkOf, type Crop } from '../book/crops';
import { climateOf, type Normals } from '../book/stages';
import { uptakeKnots } from '../book/budgetTables';
import { interpolate } from '../quantity/curve';
import { dateAfter, daysBetween, monthOf, type IsoDate } from '../quantity/calendar';
import { seasonClock, stageOn, uptakeByClock, type SeasonClock } from '../nitrogen/stageClock';
import { dayOf, type SeasonDays } from './days';
import type { Plan } from '../document/document';

/**
 * The season laid out in days: the crop's clock in a normal year, and the share of N taken up by
 * each day.
 */
export interface SeasonCalendar extends SeasonDays {
  crop: Crop;
  seasonCropId: string | null;
  /** Stages and curve borrowed from a similar crop. */
  proxy: boolean;
  clock: SeasonClock;
  /** Cumulative share of N taken up, one figure a day. */
  uptake: number[];
  /** Last day of N uptake worth counting. */
  uptakeEnd: number;
}
const UPTAKE_DONE = 0.97;

/**
 * The normal year that a plan is reckoned with: the farm's own months, else the climate of the book
 * that was chosen. A range between day and night that the farm does not know is the book's.
 */
export function normalsOf({ farm, field }: Pick<Plan, 'farm' | 'field'>): readonly Normals[] {
  const book = climateOf(field.climateId);
  if (!farm.climate) return book;
  return farm.climate.months.map((m, i) => ({
    month: i + 1,
    tMeanC: m.tMeanC,
    tRangeC: m.tRangeC ?? book.find((b) => b.month === i + 1)?.tRangeC ?? 8,
    rainMm: m.rainMm,
  }));
}

/** Southern seasons run half a year later; months are read on the northern calendar. */
const northernMonth = (date: IsoDate, latitude: number): number =>
  latitude < 0 ? ((monthOf(date) + 5) % 12) + 1 : monthOf(date);
export const isAutumn = (date: IsoDate, latitude: number): boolean =>
  [8, 9, 10, 11, 12].includes(northernMonth(date, latitude));
const STANDING_UPTAKE_DAYS = 200;
const STANDING_AFTER_DAYS = 120;

/** Null until crop, planting and harvest are known. */
export function seasonCalendar(book: Book, plan: Plan): SeasonCalendar | null {
  const { cropKey, plantingDate, harvestDate, startDate } = plan.season;
  if (!cropKey || !harvestDate) return null;
  const crop = cropOf(book, cropKey);
  const perennial = crop.nBaseKgHa > 0;
  const sown = plantingDate ?? (perennial ? startDate : null);
  if (!sown || harvestDate <= sown || harvestDate <= startDate) return null;
  // An orchard, or a ley sown long before this season, stands already: its season is the
  // calendar's.
  const standing = perennial || daysBetween(sown, startDate) > STANDING_AFTER_DAYS;
  const start = standing || sown > startDate ? startDate : sown;
  const days = daysBetween(start, harvestDate);
  if (days > 700) return null;
  const walk = crosswalkOf(book, cropKey);
  const clock = seasonClock({
    cropId: walk.seasonCropId,
    climate: normalsOf(plan),
    start,
    end: harvestDate,
    clockDate: sown < start ? start : sown,
  });
  // A standing crop begins to take up N with spring growth, not on the day it was planted.
  const planting = standing
    ? Math.max(0, days - STANDING_UPTAKE_DAYS)
    : Math.max(0, daysBetween(start, sown));
  let uptake: number[];
  if (walk.seasonCropId && !(standing && crop.sward))
    uptake = uptakeByClock(clock, walk.seasonCropId);
  else {
    // No season crop, or a sward cut several times: chapter 1's curve by share of the season, from
    // planting or the start of growth.
    const origin = planting;
    const knots = uptakeKnots(crop.uptakeCurveKey).map(
      (k) => [k.seasonFrac, k.nUptakeFrac] as const,
    );
    uptake = clock.degrees.map((_, d) =>
      d < origin ? 0 : interpolate(knots, (d - origin) / Math.max(1, days - origin)),
    );
  }
  const top = uptake[uptake.length - 1] ?? 1;
  const uptakeEnd = uptake.findIndex((u) => u >= UPTAKE_DONE * top);
  return {
    start,
    end: harvestDate,
    days,
    crop,
    seasonCropId: walk.seasonCropId,
    proxy: walk.seasonMatch === 'proxy',
    clock,
    uptake,
    planting,
    uptakeEnd: uptakeEnd < 0 ? days : uptakeEnd,
  };
}

export const stageAt = (calendar: SeasonCalendar, date: IsoDate): string | null =>
  calendar.seasonCropId && dayOf(calendar, date) >= calendar.planting
    ? stageOn(calendar.clock, calendar.seasonCropId, dayOf(calendar, date))
    : null;

/**
 * Degree-days above 0 °C between two days, capped at 30 °C a day: the clock of organic N (chapter
 * 2, 4.4).
 */
export const thermalTime = (calendar: SeasonCalendar, from: number, to: number): number => {
  const sums = calendar.clock.thermal;
  const at = (day: number) => sums[Math.min(sums.length - 1, Math.max(0, day))] ?? 0;
  return to <= from ? 0 : at(to) - at(from);
};
const YEAR_D = 365;
/**
 * Degree-days above 0 °C, capped at 30 °C a day, that a normal year of this climate gives between
 * two dates.
 */
export function normalDegrees(climate: readonly Normals[], from: IsoDate, to: IsoDate): number {
  if (to <= from) return 0;
  const days = daysBetween(from, to);
  // A date far back is whole normal years and the rest.
  if (days > YEAR_D)
    return (
      Math.floor(days / YEAR_D) * normalDegrees(climate, from, dateAfter(from, YEAR_D)) +
      normalDegrees(climate, from, dateAfter(from, days % YEAR_D))
    );
  const clock = seasonClock({ cropId: null, climate, start: from, end: to, clockDate: from });
  return clock.thermal[days] ?? 0;
}
/**
 * Degree-days from an autumn dressing to the start of drainage, where nobody knows the day: late
 * summer 900, early autumn 500, late autumn 150 (chapter 2, 4.3 step 5).
 */
export function degreesBeforeDrainage(date: IsoDate, latitude: number): number {
  const month = northernMonth(date, latitude);
  return month <= 8
    ? 900
    : month === 9 || (month === 10 && Number(date.slice(8)) <= 15)
      ? 500
      : 150;
}

/**
 * Mean air temperature between two days, which stands in for soil temperature until a record
 * exists.
 */
export const meanTemperature = (calendar: SeasonCalendar, from: number, to: number): number => {
  const days = calendar.clock.meanTempC.slice(Math.max(0, from), Math.max(from + 1, to));
  return days.reduce((a, b) => a + b, 0) / Math.max(1, days.length);
};
