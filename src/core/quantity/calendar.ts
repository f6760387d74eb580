import { addDays, differenceInCalendarDays, format, isValid, parseISO } from 'date-fns';
import { refuse } from './refusal';

/** A plain calendar date, YYYY-MM-DD, without a time zone. */
export type IsoDate = string;

const read = (date: IsoDate, field: string): Date => {
  const d = parseISO(date);
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || !isValid(d)) refuse('not_a_number', field, `${field} = ${date} is not a calendar date: write it as YYYY-MM-DD.`, { value: date, allowed: 'YYYY-MM-DD' });
  return d;
};

/** Whole days from one date to another; negative when the second lies earlier. */
export const daysBetween = (from: IsoDate, to: IsoDate): number => differenceInCalendarDays(read(to, 'date'), read(from, 'date'));
export const dateAfter = (from: IsoDate, days: number): IsoDate => format(addDays(read(from, 'date'), days), 'yyyy-MM-dd');
/** "12 Feb 2027", the form used on screens and sheets. */
export const dateInWords = (date: IsoDate): string => format(read(date, 'date'), 'd MMM yyyy');
export const monthName = (date: IsoDate): string => format(read(date, 'date'), 'MMM');
export const dayOfMonth = (date: IsoDate): number => read(date, 'date').getDate();
export const monthOf = (date: IsoDate): number => read(date, 'date').getMonth() + 1;
export const requireDate = (date: IsoDate, field: string): IsoDate => (read(date, field), date);
