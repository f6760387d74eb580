import type { Book } from '../book/book';
import { cropOf, crosswalkOf, type Crop } from '../book/crops';
import { climateOf, gddCurveOf, stagesOf, type Normals } from '../book/stages';
import { curveBaseC, uptakeKnots } from '../book/budgetTables';
import { interpolate, interpolateAll } from '../quantity/curve';
import { runningSums } from '../quantity/thermalTime';
import { dateAfter, daysBetween, monthOf, type IsoDate } from '../quantity/calendar';
import { seasonClock, stageOn, uptakeByClock, type SeasonClock } from '../nitrogen/stageClock';
import { dayOf, type SeasonDays } from './days';
import { growthWindow, type GrowthWindow } from './growth';
import { looksOf } from './observed';
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
  /** Growth after a cut: whose stages it goes by, and the days on which it begins. */
  regrowth: { cropId: string; from: number[] } | null;
  /** From bud burst to leaf fall, of a crop that stands over winter. */
  window: GrowthWindow | null;
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
    et0Mm: m.et0Mm,
  }));
}

/** Southern seasons run half a year later; months are read on the northern calendar. */
const northernMonth = (date: IsoDate, latitude: number): number =>
  latitude < 0 ? ((monthOf(date) + 5) % 12) + 1 : monthOf(date);
export const isAutumn = (date: IsoDate, latitude: number): boolean =>
  [8, 9, 10, 11, 12].includes(northernMonth(date, latitude));
const STANDING_AFTER_DAYS = 120;
const LONGEST_D = 700;

/**
 * Share of N taken up by each day where no season crop of chapter 4 stands for the crop: chapter
 * 1's curve over the warmth from the first day of uptake to the last (its base temperature), or
 * over the growing days where the climate gives none above that.
 */
function uptakeByWarmth(
  crop: Crop,
  meanTempC: readonly number[],
  from: number,
  to: number,
): number[] {
  const grows = (d: number, t: number) =>
    d >= from && d < to && (crop.growsAboveC === null || !crop.evergreen || t >= crop.growsAboveC);
  const over = (above: number) =>
    runningSums(
      meanTempC.map((t, d) => (grows(d, t) ? t : Number.NEGATIVE_INFINITY)),
      (t) => Math.max(0, t - above),
    );
  const warmth = over(curveBaseC(crop.uptakeCurveKey));
  const days = runningSums(
    meanTempC.map((t, d) => (grows(d, t) ? 1 : 0)),
    (x) => x,
  );
  const byWarmth = (warmth[to] ?? 0) > 0;
  const sums = byWarmth ? warmth : days;
  const all = sums[to] || 1;
  const knots = uptakeKnots(crop.uptakeCurveKey).map(
    (k) => [byWarmth ? k.thermalFrac : k.seasonFrac, k.nUptakeFrac] as const,
  );
  return meanTempC.map((_, d) => (d < from ? 0 : interpolate(knots, (sums[d] ?? 0) / all)));
}

/** A stretch of growth of a forage crop, up to its cut. */
interface Growth {
  from: number;
  to: number;
  share: number;
}
/** The growths of a forage crop by its cuts: yield by yield, alike where nobody weighed one. */
function growthsOf({ season }: Plan, from: number, start: IsoDate, harvest: number): Growth[] {
  const cuts = season.cuts
    .map((c) => ({ day: daysBetween(start, c.date), tHa: c.yieldTHa }))
    .filter((c) => c.day > from && c.day < harvest)
    .toSorted((a, b) => a.day - b.day);
  const last = season.cuts.find((c) => daysBetween(start, c.date) === harvest);
  const all = [...cuts, { day: harvest, tHa: last?.yieldTHa ?? null }];
  const known = all.flatMap((c) => c.tHa ?? []);
  const mean = known.length > 0 ? known.reduce((a, b) => a + b, 0) / known.length : 1;
  const sum = all.reduce((s, c) => s + (c.tHa ?? mean), 0) || 1;
  return all.map((c, i) => ({
    from: all[i - 1]?.day ?? from,
    to: c.day,
    share: (c.tHa ?? mean) / sum,
  }));
}
/** Degree-days of a growth that began on a day, by the base of its season crop. */
function degreesSince(meanTempC: readonly number[], cropId: string, from: number): number[] {
  const base = stagesOf(cropId)[0]?.tBaseC ?? 0;
  let sum = 0;
  return meanTempC.map((t, d) => (d < from ? 0 : (sum += Math.max(0, t - base))));
}
/** Each cut starts the clock anew (agronomy corrections, c): N of a growth belongs to its cut. */
function uptakeByCuts(
  growths: readonly Growth[],
  meanTempC: readonly number[],
  cropId: string,
): number[] {
  const taken = meanTempC.map(() => 0);
  for (const g of growths) {
    const degrees = degreesSince(meanTempC, cropId, g.from);
    const curve = interpolateAll(gddCurveOf(cropId), degrees);
    const whole = curve[g.to] || 1;
    curve.forEach((u, d) => {
      if (d >= g.from) taken[d] = (taken[d] ?? 0) + g.share * Math.min(1, u / whole);
    });
  }
  return taken;
}

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
  const climate = normalsOf(plan);
  const window = standing
    ? growthWindow({
        ...plan.season,
        crop,
        climate,
        southern: plan.field.latitudeDeg < 0,
        start,
        harvest: harvestDate,
      })
    : null;
  // What drops its leaves is fed until then: harvest is a day of its season, not the end.
  const end = window && window.to > harvestDate ? window.to : harvestDate;
  const days = daysBetween(start, end);
  if (days > LONGEST_D) return null;
  const walk = crosswalkOf(book, cropKey);
  const clock = seasonClock({
    cropId: walk.seasonCropId,
    climate,
    start,
    end,
    clockDate: sown < start ? start : sown,
    observed:
      walk.seasonCropId === null ? [] : looksOf(plan, walk.seasonCropId, { start, end }).counted,
    southern: plan.field.latitudeDeg < 0,
  });
  const harvest = daysBetween(start, harvestDate);
  const planting = Math.max(0, daysBetween(start, window?.from ?? sown));
  const last = window ? daysBetween(start, window.to) : days;
  const growths = crop.cut ? growthsOf(plan, planting, start, harvest) : [];
  const { meanTempC } = clock;
  const uptake =
    walk.regrowthCropId && growths.length > 1
      ? uptakeByCuts(growths, meanTempC, walk.regrowthCropId)
      : walk.seasonCropId && !(standing && crop.cut)
        ? uptakeByClock(clock, walk.seasonCropId).map((u, d) => (d < planting ? 0 : u))
        : uptakeByWarmth(crop, meanTempC, planting, last);
  const top = uptake[uptake.length - 1] ?? 1;
  const uptakeEnd = uptake.findIndex((u) => u >= UPTAKE_DONE * top);
  return {
    start,
    end,
    days,
    harvest,
    crop,
    seasonCropId: walk.seasonCropId,
    regrowth:
      walk.regrowthCropId && crop.cut
        ? { cropId: walk.regrowthCropId, from: growths.slice(1).map((g) => g.from) }
        : null,
    window,
    proxy: walk.seasonMatch === 'proxy',
    clock,
    uptake,
    planting,
    uptakeEnd: uptakeEnd < 0 ? days : uptakeEnd,
  };
}

/** The stage of a day and whose table it is of; null before planting, and where no table says. */
export function stageAt(
  calendar: SeasonCalendar,
  date: IsoDate,
): { cropId: string; bbch: string } | null {
  const day = dayOf(calendar, date);
  const { seasonCropId, regrowth, clock } = calendar;
  if (!seasonCropId || day < calendar.planting) return null;
  const cut = regrowth?.from.findLast((d) => d <= day);
  if (!regrowth || cut === undefined) {
    const bbch = stageOn(clock, seasonCropId, day);
    // Ripe grass was cut: without the day of its cuts nobody knows how old the growth is.
    const ripe = stagesOf(seasonCropId).at(-1)?.stageBbch;
    return regrowth && regrowth.from.length === 0 && bbch === ripe
      ? null
      : { cropId: seasonCropId, bbch };
  }
  const { cropId } = regrowth;
  const since = degreesSince(clock.meanTempC, cropId, cut);
  return { cropId, bbch: stageOn({ ...clock, degrees: since }, cropId, day) };
}

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
  const clock = seasonClock({
    cropId: null,
    climate,
    start: from,
    end: to,
    clockDate: from,
    southern: false,
  });
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
