import type { ClimateMonth } from '../book/stages';
import { eachDay, type IsoDate } from '../quantity/calendar';
import { referenceEvaporation } from '../nitrogen/evaporation';
import { STREAMS, streamOf, streamSeed } from './random';

/** Weather of consecutive days, in flat arrays. */
export interface Weather {
  start: IsoDate;
  days: number;
  tMinC: Float64Array;
  tMaxC: Float64Array;
  rainMm: Float64Array;
  /** Reference evaporation, mm. */
  et0Mm: Float64Array;
}

export const newWeather = (start: IsoDate, days: number): Weather => ({
  start,
  days,
  tMinC: new Float64Array(days),
  tMaxC: new Float64Array(days),
  rainMm: new Float64Array(days),
  et0Mm: new Float64Array(days),
});

/** Middle of each month, as the day of a year of 365 days. */
const MIDDLES = [16, 45, 75, 105, 136, 166, 197, 228, 258, 289, 319, 350];
const BEFORE = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
const IN_MONTH = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const YEAR = 365;

/** Day of a year of 365 days; 29 February counts as the 28th. */
export const dayOf365 = (month: number, day: number): number =>
  (BEFORE[month - 1] ?? 0) + (month === 2 && day === 29 ? 28 : day);

/** A figure of the months, straight and around between their middles. */
function between(byMonth: Float64Array, doy: number): number {
  let i = 11;
  while (i >= 0 && (MIDDLES[i] as number) > doy) i--;
  const from = i < 0 ? (MIDDLES[11] as number) - YEAR : (MIDDLES[i] as number);
  const to = i === 11 ? (MIDDLES[0] as number) + YEAR : (MIDDLES[i + 1] as number);
  const a = byMonth[i < 0 ? 11 : i] as number;
  const b = byMonth[i === 11 ? 0 : i + 1] as number;
  return a + ((b - a) * (doy - from)) / (to - from);
}

/** Shares of the wet-day chain (Geng, Penning de Vries & Supit 1986). */
const DRY_TO_WET = 0.75;
const WET_TO_WET = 0.25;
/** Day and night lie closer together on wet days. */
const WET_RANGE = 0.75;

export interface WeatherYear {
  climate: readonly ClimateMonth[];
  start: IsoDate;
  days: number;
  latitudeDeg: number;
  seed: number;
  /** Weather year, 0 for the first. */
  year: number;
}
/**
 * One year of daily weather of a climate (chapter 4, W3): rain by a chain of wet days with gamma
 * amounts and a factor for the whole year, temperature around the normals. The same seed and year
 * give the same days everywhere.
 */
export function generateWeather(i: WeatherYear): Weather {
  const months = [...i.climate].sort((a, b) => a.month - b.month);
  const monthly = (of: (m: ClimateMonth) => number) => Float64Array.from(months, of);
  const [mean, range, sd] = [
    monthly((m) => m.tMeanC),
    monthly((m) => m.tRangeC),
    monthly((m) => m.tSdC),
  ];
  const first = months[0] as ClimateMonth;
  const [phi, cv] = [first.tempAr1, first.annualRainCv];
  const stream = (s: keyof typeof STREAMS) => streamOf(streamSeed(i.seed, i.year, STREAMS[s]));
  const [occurrence, amount, temperature] = [
    stream('occurrence'),
    stream('amount'),
    stream('temperature'),
  ];
  const s = Math.sqrt(Math.log(1 + cv * cv));
  const yearFactor = Math.exp(s * stream('year').normal() - (s * s) / 2);
  const w = newWeather(i.start, i.days);
  let wet: boolean | null = null;
  let anomaly = 0;
  eachDay(i.start, i.days - 1, (month, day, d) => {
    const m = months[month - 1] as ClimateMonth;
    const doy = dayOf365(month, day);
    const pw = Math.min(0.95, m.wetDays / (IN_MONTH[month - 1] as number));
    const pWd = DRY_TO_WET * pw;
    const p = wet === null ? pw : wet ? Math.min(0.98, WET_TO_WET + pWd) : pWd;
    wet = occurrence.next() < p;
    if (wet)
      w.rainMm[d] = amount.gamma(m.gammaShape) * (m.rainMm / m.wetDays / m.gammaShape) * yearFactor;
    const z = temperature.normal();
    anomaly = d === 0 ? z : phi * anomaly + Math.sqrt(1 - phi * phi) * z;
    const t = between(mean, doy) + between(sd, doy) * anomaly;
    const spread = between(range, doy) * (wet ? WET_RANGE : (1 - WET_RANGE * pw) / (1 - pw));
    const [tMin, tMax] = [t - spread / 2, t + spread / 2];
    w.tMinC[d] = tMin;
    w.tMaxC[d] = tMax;
    w.et0Mm[d] = referenceEvaporation({
      latitudeDeg: i.latitudeDeg,
      dayOfYear: doy,
      tMinC: tMin,
      tMaxC: tMax,
    });
  });
  return w;
}
