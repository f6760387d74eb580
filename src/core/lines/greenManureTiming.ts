import type { Book } from '../book/book';
import type { GreenManureInput } from '../budget/greenManure';
import { effectiveWeeks, releaseFraction } from '../budget/residues';
import { clip } from '../quantity/curve';
import { dateAfter, daysBetween } from '../quantity/calendar';
import { normalDegrees, normalsOf, seasonCalendar } from './calendar';
import { dateOf } from './days';
import { killTimingOf } from './killTiming';
import type { Plan } from '../document/document';
import type { GreenManurePlan } from '../document/previousDocument';

const TAKEN_UP = 0.8;
const MOST_WEEKS = 40;
/**
 * Mean temperature of the ground between two dates of a normal year, within the range that the
 * release table is scaled over, °C.
 */
const meanNormal = (plan: Plan, from: string, to: string): number =>
  clip(normalDegrees(normalsOf(plan), from, to) / Math.max(1, daysBetween(from, to)), 2, 32);

/**
 * Weeks from the kill until the next crop has taken 80 % of its N, by its own clock, and how warm
 * the ground is on the way; null where it is typed, or not known.
 */
function byClock(
  book: Book,
  plan: Plan,
  gm: GreenManurePlan,
): { weeks: number; tempC: number } | null {
  if (gm.weeksTo80pctUptake !== null || gm.killDate === null) return null;
  const calendar = seasonCalendar(book, plan);
  if (!calendar) return null;
  const top = calendar.uptake[calendar.uptake.length - 1] ?? 0;
  const date = dateOf(
    calendar,
    calendar.uptake.findIndex((u) => u >= TAKEN_UP * top),
  );
  if (date <= gm.killDate) return null;
  return {
    weeks: Math.min(MOST_WEEKS, daysBetween(gm.killDate, date) / 7),
    tempC: plan.season.soilTempSeasonC ?? meanNormal(plan, gm.killDate, date),
  };
}

/**
 * A weighed green manure as the method wants it. Where nobody typed the weeks, they run from the
 * kill to 80 % of the next crop's uptake (chapter 1, C6 step 6), at the
 * temperature of the farm's climate: cold weeks between an autumn kill and spring release little.
 */
export function greenManureInput(book: Book, plan: Plan, gm: GreenManurePlan): GreenManureInput {
  const clock = byClock(book, plan, gm);
  return {
    gmTotalTDmHa: gm.dmTHa,
    gmSpecies: gm.species,
    removedFracTops: gm.removedFracTops,
    placement: gm.placement,
    killTiming: killTimingOf(plan, gm),
    weeksTo80pctUptake: clock?.weeks ?? gm.weeksTo80pctUptake,
    soilTempSeasonC: clock?.tempC ?? plan.season.soilTempSeasonC,
  };
}

const SPRING_KILL_D = 21;
/**
 * The same stand, killed three weeks before this season's planting; null where it was killed in
 * spring anyway. What was killed before winter is never worth more (agronomy corrections, e).
 */
export function killedInSpring(plan: Plan, gm: GreenManurePlan): GreenManurePlan | null {
  const { plantingDate } = plan.season;
  if (!plantingDate || gm.killDate === null) return null;
  const spring = dateAfter(plantingDate, -SPRING_KILL_D);
  return gm.killDate < spring && killTimingOf(plan, gm)?.startsWith('autumn')
    ? { ...gm, killDate: spring, killTiming: null }
    : null;
}

const MOST_SAMPLED = 0.6;
const LONG_BEFORE_D = 28;
const AWAKE_C = 5;
/**
 * Share of a green manure's credit that a nitrate sample taken after its kill holds already
 * (chapter 1, C12): what was released by then over what is released in all,
 * at most 0.6. 0 where the sample came first, less than four weeks after the kill, or through
 * ground below 5 °C.
 *
 * @param cnRatio of what was left on the field
 */
export function sampledShare(book: Book, plan: Plan, gm: GreenManurePlan, cnRatio: number): number {
  const { nitrateSampleDate: on, nitrateLayers } = plan.ground;
  if (
    on === null ||
    nitrateLayers.length === 0 ||
    gm.killDate === null ||
    daysBetween(gm.killDate, on) < LONG_BEFORE_D ||
    plan.struck.some((s) => s.line === 'soil_nitrate')
  )
    return 0;
  const tempC = meanNormal(plan, gm.killDate, on);
  if (tempC <= AWAKE_C) return 0;
  const input = greenManureInput(book, plan, gm);
  const [seen, all] = [
    releaseFraction(cnRatio, effectiveWeeks(daysBetween(gm.killDate, on) / 7, tempC)),
    releaseFraction(
      cnRatio,
      effectiveWeeks(input.weeksTo80pctUptake ?? 10, input.soilTempSeasonC ?? null),
    ),
  ];
  return seen > 0 && all > 0 ? Math.min(MOST_SAMPLED, seen / all) : 0;
}
