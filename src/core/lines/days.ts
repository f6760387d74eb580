import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';

/** The days of a season, without the crop's clock: all that a screen needs to place a date. */
export interface SeasonDays {
  start: IsoDate;
  end: IsoDate;
  days: number;
  /** Day of the harvest, which is the last day of all but crops that drop their leaves after it. */
  harvest: number;
  /** Day of planting, or of the first spring growth of a standing crop. */
  planting: number;
}
export const dayOf = (season: SeasonDays, date: IsoDate): number => daysBetween(season.start, date);
export const dateOf = (season: SeasonDays, day: number): IsoDate => dateAfter(season.start, day);

/** Whether a date falls in a period of the year, which may run over the new year. */
export const inPeriod = (date: string, p: { from: string; to: string }): boolean => {
  const day = date.slice(5);
  return p.from <= p.to ? day >= p.from && day <= p.to : day >= p.from || day <= p.to;
};
