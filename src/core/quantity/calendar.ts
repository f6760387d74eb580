import { addDays, differenceInCalendarDays, isValid, lightFormat, parseISO } from 'date-fns';
import { refuse } from './refusal';

/** A plain calendar date, YYYY-MM-DD, without a time zone. */
export type IsoDate = string;

const read = (date: IsoDate, field: string): Date => {
  const d = parseISO(date);
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || !isValid(d))
    refuse(
      'not_a_number',
      field,
      `${field} = ${date} is not a calendar date: write it as YYYY-MM-DD.`,
      { value: date, allowed: 'YYYY-MM-DD' },
    );
  return d;
};

const EPOCH = new Date(2000, 0, 1);
const dayNumbers = new Map<IsoDate, number>();
/** Days since 1 January 2000. Remembered: an assessment asks for the same few dates again and again. */
function dayNumber(date: IsoDate): number {
  const known = dayNumbers.get(date);
  if (known !== undefined) return known;
  const n = differenceInCalendarDays(read(date, 'date'), EPOCH);
  if (dayNumbers.size > 5000) dayNumbers.clear();
  dayNumbers.set(date, n);
  return n;
}

/** Whole days from one date to another; negative when the second lies earlier. */
export const daysBetween = (from: IsoDate, to: IsoDate): number => dayNumber(to) - dayNumber(from);
const datesByNumber = new Map<number, IsoDate>();
export function dateAfter(from: IsoDate, days: number): IsoDate {
  const n = dayNumber(from) + days;
  const known = datesByNumber.get(n);
  if (known !== undefined) return known;
  const date = lightFormat(addDays(EPOCH, n), 'yyyy-MM-dd');
  datesByNumber.set(n, date);
  return date;
}
/** "12 Feb 2027", the form used on screens and sheets. */
export const dateInWords = (date: IsoDate): string =>
  lightFormat(read(date, 'date'), `d '${monthName(date)}' yyyy`);
// Named here, since date-fns would bring a whole locale to the browser for these twelve words.
export const monthName = (date: IsoDate): string =>
  ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][
    read(date, 'date').getMonth()
  ] ?? '';
export const dayOfMonth = (date: IsoDate): number => Number(date.slice(8, 10));
export const monthOf = (date: IsoDate): number => Number(date.slice(5, 7));
