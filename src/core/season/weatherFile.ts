import { z } from 'zod';
import { readGrid } from '../laboratory/grid';
import { dateAfter, dateInWords, daysBetween, type IsoDate } from '../quantity/calendar';
import { refusalOf } from '../quantity/input';
import { Refusal, refuse } from '../quantity/refusal';
import { dayOrders, readDay, type DayOrder } from '../quantity/writtenDay';
import { dailyWeather, type DayOfWeather } from './dailyWeather';
import type { Weather } from './weather';

// Daily weather of a station, out of whatever table it writes (chapter 4, M1). What can be read two
// ways is asked; a day that is missing is never taken as dry.

type Column = 'date' | 'tMax' | 'tMin' | 'rain' | 'et0';
/** What a heading says; the first that fits is meant, so the narrower ones stand first. */
const HEADINGS: readonly [Column, RegExp][] = [
  ['date', /^(date|datum|day|dag|dia|fecha|data|jour|giorno|tag)\b/u],
  ['et0', /evap|\bet0?\b|\betp\b|\beto\b|verdunst/u],
  ['rain', /rain|precip|\bprcp\b|nieder|pluie|lluv|piogg|neerslag|nederb|chuva|sade/u],
  ['tMax', /max|\btx\b|\bhigh\b/u],
  ['tMin', /min|\btn\b|\blow\b/u],
];
const plain = (text: string): string =>
  text.trim().toLowerCase().normalize('NFD').replaceAll(/\p{M}/gu, '').replaceAll('_', ' ');
const SAYS_F = /°\s*f\b|\(f\)|fahrenheit|\bdeg ?f\b|\bf$/u;
const SAYS_C = /°\s*c\b|\(c\)|celsius|\bdeg ?c\b|\bc$/u;
const SAYS_IN = /\bin(ch|ches)?\b|"/u;
const SAYS_MM = /\bmm\b/u;

/** How what can be read two ways is meant. */
const answersSchema = z.strictObject({
  dates: z.enum(['dmy', 'mdy', 'ymd']).optional(),
  temperature: z.enum(['c', 'f']).optional(),
  rain: z.enum(['mm', 'in']).optional(),
});
export type WeatherAnswers = z.infer<typeof answersSchema>;
/** @throws Refusal naming the answer that is none */
export function weatherAnswers(raw: unknown): WeatherAnswers {
  const parsed = answersSchema.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw new Refusal(refusalOf(parsed.error, raw));
}
export interface StationWeather {
  from: IsoDate;
  to: IsoDate;
  /** Days by their date; those that are missing or not complete have none. */
  days: ReadonlyMap<IsoDate, DayOfWeather>;
  /** What was done to the file: units, rows that stood twice, days without a figure. */
  told: string[];
}

/** No place is so hot that its days reach this, °C: it was °F. */
const NO_CELSIUS = 60;
/** A mean of the days' highest from here on may be a hot desert, or °F. */
const HOT_MEAN = 30;
/** So little rain a day, mm, on the mean, may be a desert or inches. */
const DRY_MEAN = 0.35;
const WET_DAY = 12;

const figure = (text: string): number | null => {
  const t = text.trim().replaceAll(/\s/gu, '');
  if (t === '' || /^(na|nan|null|-+|n\/a|m)$/iu.test(t)) return null;
  const v = Number(/^-?\d+,\d+$/u.test(t) ? t.replace(',', '.') : t);
  return Number.isFinite(v) ? v : Number.NaN;
};
const mean = (list: readonly number[]): number =>
  list.reduce((a, b) => a + b, 0) / Math.max(1, list.length);

function asked(field: string, message: string, allowed: string): never {
  return refuse('missing', field, message, { allowed });
}

/** The unit of the temperatures: by the headings, by the answer, or by what is possible. */
function isFahrenheit(
  heads: readonly string[],
  highs: readonly number[],
  a: WeatherAnswers,
): boolean {
  if (heads.some((h) => SAYS_F.test(h))) return true;
  if (heads.some((h) => SAYS_C.test(h))) return false;
  if (a.temperature !== undefined) return a.temperature === 'f';
  if (highs.some((v) => v > NO_CELSIUS)) return true;
  if (mean(highs) > HOT_MEAN)
    asked(
      'temperature',
      `The days’ highest are ${mean(highs).toFixed(0)} on the mean, and no heading says °C or °F: say which.`,
      'c, f',
    );
  return false;
}
function isInches(head: string, rain: readonly number[], a: WeatherAnswers): boolean {
  if (SAYS_IN.test(head)) return true;
  if (SAYS_MM.test(head)) return false;
  if (a.rain !== undefined) return a.rain === 'in';
  if (rain.length > 60 && mean(rain) < DRY_MEAN && !rain.some((v) => v > WET_DAY))
    asked(
      'rain',
      `A day has ${mean(rain).toFixed(2)} of rain on the mean, and no heading says mm or inches: say which.`,
      'mm, in',
    );
  return false;
}

/**
 * Reads daily weather: date, lowest and highest temperature, rain and, where known, evaporation.
 *
 * @throws Refusal that names the row, or asks what can be read two ways
 */
export async function readWeather(
  bytes: Uint8Array,
  answers: WeatherAnswers = {},
): Promise<StationWeather> {
  const { rows } = await readGrid(bytes);
  const texts = rows.map((r) => r.cells.map((c) => c.text));
  const columnsOf = (cells: readonly string[]) => {
    const found = new Map<Column, number>();
    cells.forEach((cell, i) => {
      const hit = HEADINGS.find(([, words]) => words.test(plain(cell)));
      if (hit && !found.has(hit[0])) found.set(hit[0], i);
    });
    return found;
  };
  const head = texts.findIndex((cells) => {
    const c = columnsOf(cells);
    return (['date', 'tMin', 'tMax', 'rain'] as const).every((x) => c.has(x));
  });
  if (head < 0)
    refuse(
      'missing',
      'file',
      'No row names a date, the lowest and highest temperature and the rain of a day.',
      { allowed: 'date, minimum, maximum, rain, and evaporation where it is known' },
    );
  const columns = columnsOf(texts[head] ?? []);
  const heading = (c: Column) => plain(texts[head]?.[columns.get(c) ?? -1] ?? '');
  const body = texts.slice(head + 1);
  const cell = (cells: readonly string[], c: Column) => cells[columns.get(c) ?? -1] ?? '';
  const order = orderOf(
    body.map((cells) => cell(cells, 'date')),
    answers,
  );
  const read = body.map((cells, k) => {
    const date = readDay(cell(cells, 'date').trim(), order);
    const of = (c: Column) => {
      const v = columns.has(c) ? figure(cell(cells, c)) : null;
      if (Number.isNaN(v))
        refuse('not_a_number', 'file', `Row ${head + k + 2}: ${cell(cells, c)} is no number.`, {
          value: cell(cells, c),
        });
      return v;
    };
    return {
      row: head + k + 2,
      date:
        date ??
        refuse('inconsistent', 'file', `Row ${head + k + 2}: ${cell(cells, 'date')} is no day.`, {
          value: cell(cells, 'date'),
        }),
      tMin: of('tMin'),
      tMax: of('tMax'),
      rain: of('rain'),
      et0: of('et0'),
    };
  });
  if (read.length === 0) refuse('missing', 'file', 'The file has no day.');
  const known = (list: readonly (number | null)[]) => list.flatMap((v) => v ?? []);
  const f = isFahrenheit(
    [heading('tMin'), heading('tMax')],
    known(read.map((r) => r.tMax)),
    answers,
  );
  const inches = isInches(heading('rain'), known(read.map((r) => r.rain)), answers);
  const etInches = SAYS_IN.test(heading('et0')) || (inches && !SAYS_MM.test(heading('et0')));
  const warmth = (v: number) => (f ? (v - 32) / 1.8 : v);
  const days = new Map<IsoDate, DayOfWeather>();
  const rowOf = new Map<IsoDate, number>();
  let [twice, without] = [0, 0];
  for (const r of read) {
    const day: DayOfWeather | null =
      r.tMin === null || r.tMax === null || r.rain === null
        ? null
        : {
            tMin: warmth(r.tMin),
            tMax: warmth(r.tMax),
            rainMm: inches ? r.rain * 25.4 : r.rain,
            et0Mm: r.et0 === null ? null : etInches ? r.et0 * 25.4 : r.et0,
          };
    if (day === null) {
      without += 1;
      continue;
    }
    const had = days.get(r.date);
    if (had && (had.tMin !== day.tMin || had.tMax !== day.tMax || had.rainMm !== day.rainMm))
      refuse(
        'inconsistent',
        'file',
        `${dateInWords(r.date)} stands twice with other figures, in rows ${rowOf.get(r.date)} and ${r.row}: keep one of them.`,
        { value: r.date },
      );
    if (had) twice += 1;
    days.set(r.date, day);
    rowOf.set(r.date, r.row);
  }
  const dates = [...days.keys()].toSorted();
  const [from, to] = [dates[0], dates.at(-1)];
  if (!from || !to) return refuse('missing', 'file', 'No day of the file is complete.');
  // Every figure is looked at once, so that a day out of range is named by its date.
  for (const date of dates) dayChecked(date, days.get(date) as DayOfWeather);
  const gaps = daysBetween(from, to) + 1 - dates.length;
  return {
    from,
    to,
    days,
    told: [
      f ? 'temperatures read as °F' : 'temperatures read as °C',
      inches ? 'rain read as inches' : 'rain read as mm',
      ...(twice > 0 ? [`${twice} rows stood twice with the same figures`] : []),
      ...(without > 0 ? [`${without} rows without temperature or rain`] : []),
      ...(gaps > 0 ? [`${gaps} days between the first and the last are missing`] : []),
    ],
  };
}

function orderOf(cells: readonly string[], answers: WeatherAnswers): DayOrder {
  const orders = dayOrders(cells.map((c) => c.trim()));
  const [first, second] = orders;
  if (answers.dates && orders.includes(answers.dates)) return answers.dates;
  if (first === undefined)
    return refuse('inconsistent', 'file', 'No day of the file is in the calendar.');
  if (second !== undefined)
    asked(
      'dates',
      `The days can be read as ${orders.join(' or ')}: say which comes first.`,
      orders.join(', '),
    );
  return first;
}
const EQUATOR = 0;
function dayChecked(date: IsoDate, day: DayOfWeather): void {
  try {
    dailyWeather(date, [day], EQUATOR);
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    const { message, ...rest } = e.detail;
    throw new Refusal({
      ...rest,
      field: 'file',
      message: `${dateInWords(date)}: ${message.replaceAll('weather[0].', '')}`,
    });
  }
}

/** The same stretch of the calendar in each year of a station. */
export interface RealYears {
  years: { year: number; weather: Weather }[];
  /** Years that are left out, with the days that they lack. */
  leftOut: { year: number; missing: number }[];
}
/** Fewer years than this say too little: generated ones are run. */
export const LEAST_YEARS = 10;
const EARLIEST = 1800;
/**
 * Years of a station for a season that begins on a day and lasts so many: only those in which no
 * day is missing.
 */
export function realYears(
  station: StationWeather,
  start: IsoDate,
  days: number,
  latitudeDeg: number,
): RealYears {
  const out: RealYears = { years: [], leftOut: [] };
  const monthDay = start.slice(4) === '-02-29' ? '-02-28' : start.slice(4);
  const first = Math.max(EARLIEST, Number(station.from.slice(0, 4)) - 1);
  for (let year = first; year <= Number(station.to.slice(0, 4)); year++) {
    const from = `${year}${monthDay}`;
    const list = Array.from({ length: days }, (_, d) => station.days.get(dateAfter(from, d)));
    const missing = list.filter((d) => d === undefined).length;
    if (missing === 0)
      out.years.push({
        year,
        weather: dailyWeather(from, list as DayOfWeather[], latitudeDeg),
      });
    else if (missing < days) out.leftOut.push({ year, missing });
  }
  return out;
}
