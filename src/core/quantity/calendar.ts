import { refuse } from './refusal';

/** A plain calendar date, YYYY-MM-DD, without a time zone. */
export type IsoDate = string;

const DAY_MS = 86_400_000;
/** A number of plain digits within a text; NaN where another sign stands. Dates are read often. */
function digits(text: string, from: number, to: number): number {
  let value = 0;
  for (let i = from; i < to; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (!(digit >= 0 && digit <= 9)) return Number.NaN;
    value = value * 10 + digit;
  }
  return value;
}
const notADate = (date: IsoDate): never =>
  refuse('not_a_number', 'date', `date = ${date} is not a calendar date: write it as YYYY-MM-DD.`, {
    value: date,
    allowed: 'YYYY-MM-DD',
  });

/**
 * Whole days since 1 January 1970 of a plain date: no time zone, no summer time. @throws Refusal
 * for what is no date of the calendar
 */
function dayNumber(date: IsoDate): number {
  if (date.length !== 10 || date[4] !== '-' || date[7] !== '-') return notADate(date);
  const [year, month, day] = [digits(date, 0, 4), monthOf(date), dayOfMonth(date)];
  const real =
    year >= 0 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
  if (!real) return notADate(date);
  return Date.UTC(year, month - 1, day) / DAY_MS;
}

/**
 * Whole days from one date to another; negative when the second lies earlier.
 *
 * @example daysBetween('2027-02-26', '2027-03-01') // 3
 */
export const daysBetween = (from: IsoDate, to: IsoDate): number => dayNumber(to) - dayNumber(from);
/** The date some days later, or earlier. @example dateAfter('2027-02-26', 3) // '2027-03-01' */
export const dateAfter = (from: IsoDate, days: number): IsoDate =>
  new Date((dayNumber(from) + days) * DAY_MS).toISOString().slice(0, 10);
/** Month (1 to 12) and day of `days` + 1 days in a row, from `start` on. */
export function eachDay(
  start: IsoDate,
  days: number,
  visit: (month: number, dayOfMonth: number, index: number) => void,
): void {
  dayNumber(start);
  let [year, month, day] = [digits(start, 0, 4), monthOf(start), dayOfMonth(start)];
  let last = daysInMonth(year, month);
  for (let d = 0; d <= days; d++) {
    visit(month, day, d);
    day += 1;
    if (day <= last) continue;
    day = 1;
    month = month === 12 ? 1 : month + 1;
    if (month === 1) year += 1;
    last = daysInMonth(year, month);
  }
}
const LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const isLeap = (year: number): boolean => year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
/** Asked for on every date that is compared: no date object is made for it. */
const daysInMonth = (year: number, month: number): number =>
  month === 2 && isLeap(year) ? 29 : (LENGTHS[month - 1] ?? 0);
/** "12 Feb 2027", the form used on screens and sheets. */
export function dateInWords(date: IsoDate): string {
  dayNumber(date);
  return `${dayOfMonth(date)} ${monthName(date)} ${date.slice(0, 4)}`;
}
// Named here, since a locale for these twelve words would weigh more than the core's arithmetic.
export const monthName = (date: IsoDate): string =>
  ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][
    monthOf(date) - 1
  ] ?? '';
export const dayOfMonth = (date: IsoDate): number => digits(date, 8, 10);
export const monthOf = (date: IsoDate): number => digits(date, 5, 7);
