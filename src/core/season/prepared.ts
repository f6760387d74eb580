import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { Refusal } from '../quantity/refusal';
import type { RunEvent } from './events';
import { runOfPlan, type PlannedRun } from './ofPlan';
import { fieldOf, planOf, type Field } from './run';
import { generateWeather, type Weather } from './weather';

/** Weather years that a plan is run over where nobody says another number, and their seed. */
export const OUTLOOK_YEARS = 30;
export const OUTLOOK_SEED = 2027;

/** A plan that is ready to run over the weather years of a seed. */
export interface Prepared {
  run: PlannedRun;
  field: Field;
  events: RunEvent[];
  weatherOf: (year: number) => Weather;
}
/**
 * The plan made ready; or a sentence that says why it cannot be run: what is outside the model's
 * range is named, never cut to fit.
 */
export function prepared(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
  seed: number,
): Prepared | string {
  const run = runOfPlan(book, plan, a, calendar);
  if (typeof run === 'string') return run;
  try {
    const field = fieldOf(run.record);
    return {
      run,
      field,
      events: planOf(book, field, run.record.events),
      weatherOf: (year) =>
        generateWeather({
          climate: run.climate,
          start: run.record.startDate,
          days: run.days,
          latitudeDeg: field.latitudeDeg,
          seed,
          year,
        }),
    };
  } catch (e) {
    if (e instanceof Refusal) return `The years cannot be run: ${e.message}`;
    throw e;
  }
}
