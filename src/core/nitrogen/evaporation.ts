import type { Normals } from '../book/stages';
import { dateAfter, daysBetween, eachDay, monthOf, type IsoDate } from '../quantity/calendar';
import { clip } from '../quantity/curve';

const MONTH_D = 365.25 / 12;
const MJ_TO_MM = 0.408;

/** Radiation at the top of the atmosphere, MJ/m2 a day (FAO Irrigation and Drainage Paper 56). */
export function radiation(latitudeDeg: number, dayOfYear: number): number {
  const lat = (latitudeDeg * Math.PI) / 180;
  const turn = (2 * Math.PI * dayOfYear) / 365;
  const distance = 1 + 0.033 * Math.cos(turn);
  const declination = 0.409 * Math.sin(turn - 1.39);
  const sunset = Math.acos(clip(-Math.tan(lat) * Math.tan(declination), -1, 1));
  return (
    ((24 * 60) / Math.PI) *
    0.082 *
    distance *
    (sunset * Math.sin(lat) * Math.sin(declination) +
      Math.cos(lat) * Math.cos(declination) * Math.sin(sunset))
  );
}

/**
 * Reference evaporation of a day (Hargreaves & Samani 1985, Applied Engineering in Agriculture
 * 1:96-99), mm. Windy and dry, or humid coasts: +/- 20 %.
 *
 * @example referenceEvaporation({ latitudeDeg: 42, dayOfYear: 156, tMinC: 12, tMaxC: 24 }) // 4.83
 */
export const referenceEvaporation = (i: {
  latitudeDeg: number;
  dayOfYear: number;
  tMinC: number;
  tMaxC: number;
}): number =>
  Math.max(
    0,
    0.0023 *
      MJ_TO_MM *
      radiation(i.latitudeDeg, i.dayOfYear) *
      ((i.tMinC + i.tMaxC) / 2 + 17.8) *
      Math.sqrt(Math.max(0, i.tMaxC - i.tMinC)),
  );

/** Evaporation of a month of a normal year, as the farm has it or reckoned, mm. */
const evaporationOf = (m: Normals, latitudeDeg: number): number =>
  m.et0Mm ??
  MONTH_D *
    referenceEvaporation({
      latitudeDeg,
      dayOfYear: Math.round((m.month - 0.5) * MONTH_D),
      tMinC: m.tMeanC - m.tRangeC / 2,
      tMaxC: m.tMeanC + m.tRangeC / 2,
    });

/** A sum over the days between two dates of what a normal month gives. */
function overDays(
  climate: readonly Normals[],
  from: IsoDate,
  to: IsoDate,
  ofMonth: (m: Normals) => number,
): number {
  const days = daysBetween(from, to);
  if (days <= 0) return 0;
  const daily = new Map(climate.map((m) => [m.month, ofMonth(m) / MONTH_D]));
  let sum = 0;
  eachDay(from, days, (month) => {
    sum += daily.get(month) ?? 0;
  });
  return sum;
}

/**
 * Evaporation between two dates of a normal year, mm.
 *
 * @example normalEvaporation(climateOf('maritime_cool_52n'), 52, '2027-07-01', '2027-08-01') // 134.6
 */
export const normalEvaporation = (
  climate: readonly Normals[],
  latitudeDeg: number,
  from: IsoDate,
  to: IsoDate,
): number => overDays(climate, from, to, (m) => evaporationOf(m, latitudeDeg));

/** Rain above evaporation between two dates of a normal year, month by month, mm. */
export const normalDrainage = (
  climate: readonly Normals[],
  latitudeDeg: number,
  from: IsoDate,
  to: IsoDate,
): number =>
  overDays(climate, from, to, (m) => Math.max(0, m.rainMm - evaporationOf(m, latitudeDeg)));

const TYPICAL_HELD_MM = 150;
/**
 * How full the ground is on a day of a normal year: rain less evaporation, month by month, in a
 * store that is full after a wet winter. 1 at field capacity.
 *
 * @param heldMm what the ground holds between wilting point and field capacity
 * @example normalFilling(climateOf('maritime_cool_52n'), 52, '2027-03-01') // 1
 */
export function normalFilling(
  climate: readonly Normals[],
  latitudeDeg: number,
  on: IsoDate,
  heldMm = TYPICAL_HELD_MM,
): number {
  let store = heldMm / 2;
  // Two years forget where the sum began.
  for (let k = 24; k >= 1; k--) {
    const month = ((monthOf(on) - 1 - k + 24) % 12) + 1;
    const m = climate.find((x) => x.month === month);
    if (m) store = clip(store + m.rainMm - evaporationOf(m, latitudeDeg), 0, heldMm);
  }
  return store / heldMm;
}

/**
 * The day on which drainage begins in a normal year: the first month after midsummer with more rain
 * than 1.2 times the evaporation (chapter 7, W6.3); null in a climate without one.
 */
export function drainageBegins(
  climate: readonly Normals[],
  latitudeDeg: number,
  after: IsoDate,
): IsoDate | null {
  for (let k = 0; k < 12; k++) {
    const first = k === 0 ? after : `${dateAfter(after, Math.round(k * MONTH_D)).slice(0, 7)}-01`;
    const m = climate.find((x) => x.month === monthOf(first));
    if (m && m.rainMm > 1.2 * evaporationOf(m, latitudeDeg)) return first;
  }
  return null;
}
