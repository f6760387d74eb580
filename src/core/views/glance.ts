import { interpolateAll } from '../quantity/curve';
import type { FurrowSection } from './furrow';
import type { Stratum } from './strata';

/** What a season in section needs to be drawn, at whatever fineness. */
export interface SeasonGlance extends Pick<
  FurrowSection,
  'days' | 'demand' | 'wanted' | 'demandTotal' | 'supply'
> {
  calendar: { days: number };
  strata: Stratum[];
}
const POINTS = 32;
const tenth = (v: number): number => Math.round(v * 10) / 10;

/**
 * The section at {@link POINTS} points of the season, kg/ha to a tenth: for a picture of thumb
 * width in a list of fields, never for a figure.
 *
 * @example glanceOf(section).days.length // 32
 */
export function glanceOf(section: FurrowSection): SeasonGlance {
  const last = section.days.at(-1) ?? 0;
  const days = Array.from({ length: POINTS }, (_, i) => Math.round((last * i) / (POINTS - 1)));
  const at = (values: readonly number[]) =>
    interpolateAll(
      section.days.map((d, i) => [d, values[i] ?? 0]),
      days,
    ).map(tenth);
  return {
    calendar: { days: section.calendar.days },
    days,
    demand: at(section.demand),
    wanted: at(section.wanted),
    demandTotal: section.demandTotal,
    supply: at(section.supply),
    strata: section.strata.map((s) => ({ ...s, given: at(s.given) })),
  };
}
