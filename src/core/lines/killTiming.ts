import { modifierLevels } from '../book/legumes';
import type { Plan } from '../document/document';
import type { GreenManurePlan, PreviousLegume } from '../document/previousDocument';
import { seasonClock } from '../nitrogen/stageClock';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { refuse } from '../quantity/refusal';
import { normalsOf } from './calendar';
import { midwinterBefore } from './growth';

const EARLY_D = 56;
const COLD_C = 5;
const SPRING_EARLY_D = 21;
/** A date of the kill is good to about this many days either way. */
const GIVE_OR_TAKE_D = 14;
const DRY_MM = 100;
const WET_MM = 250;

/** A kill before winter, early or late by the ground that is still warm, as the table has it. */
function beforeWinter(plan: Plan, on: IsoDate): string {
  const { winterDrainageMm: mm } = plan.season;
  const clock = seasonClock({
    cropId: null,
    climate: normalsOf(plan),
    start: on,
    end: dateAfter(on, EARLY_D + 1),
    clockDate: on,
    southern: plan.field.latitudeDeg < 0,
  });
  const early = clock.meanTempC.slice(0, EARLY_D).every((t) => t >= COLD_C);
  if (early)
    return mm > WET_MM
      ? 'autumn_early_wet'
      : mm >= DRY_MM
        ? 'autumn_early_moderate'
        : 'autumn_early_dry';
  return mm > WET_MM ? 'autumn_late_wet' : 'autumn_late';
}
/** How the table calls a kill on that day, before this season's crop. */
function byDate(plan: Plan, on: IsoDate): string {
  const { plantingDate, harvestDate, startDate } = plan.season;
  // The winter before this harvest: a crop sown in autumn has it behind the kill too.
  const winter = midwinterBefore(
    harvestDate ?? plantingDate ?? startDate,
    plan.field.latitudeDeg < 0,
  );
  if (on < winter) return beforeWinter(plan, on);
  return plantingDate && daysBetween(on, plantingDate) < SPRING_EARLY_D
    ? 'spring_at_planting'
    : 'spring_early';
}
/** Early or late, autumn or spring: wet and dry are a matter of the winter, not of the date. */
const stem = (timing: string): string => timing.replace(/_(dry|moderate|wet)$/, '');

/**
 * When a legume or green manure was killed, in the table's words: by its date, the climate and the
 * winter's drainage where the date is known (agronomy corrections, e); else as somebody said.
 *
 * @throws Refusal where it was killed after this season's planting, or where the date rules out
 * what was said; both values are named
 */
export function killTimingOf(
  plan: Plan,
  previous: PreviousLegume | GreenManurePlan,
): string | null {
  const { killDate: on, killTiming: said } = previous;
  const { plantingDate } = plan.season;
  if (on === null) return said;
  const fresh = previous.kind === 'green_manure' || previous.yearsSinceKill < 2;
  if (fresh && plantingDate && on > plantingDate)
    refuse(
      'inconsistent',
      'previous.kill_date',
      `previous.kill_date = ${on} lies after planting on ${plantingDate}.`,
      { value: on, allowed: `up to ${plantingDate}` },
    );
  if (!fresh) return said;
  const found = byDate(plan, on);
  if (said === null) return found;
  const possible = [-GIVE_OR_TAKE_D, 0, GIVE_OR_TAKE_D].map((d) => byDate(plan, dateAfter(on, d)));
  if (!possible.some((p) => stem(p) === stem(said)) && modifierLevels('kill_timing').includes(said))
    refuse(
      'inconsistent',
      'previous.kill_timing',
      `previous.kill_timing = ${said} does not go with previous.kill_date = ${on}, which is ${found}.`,
      { value: said, allowed: [...new Set(possible)].join(', ') },
    );
  return said;
}
