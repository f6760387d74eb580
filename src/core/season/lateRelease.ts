import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { waterOf } from './events';
import { newState, newTrace, type SeasonSummary } from './nitrogen';
import { OUTLOOK_SEED, OUTLOOK_YEARS, prepared } from './prepared';
import type { SeasonEvent } from './record';
import { planOf, runPlan } from './run';
import { layOutYears, shortShare, spreadOf, type Spread } from './years';

// What a dressing still releases when the crop should run down, beside a bed without it and beside
// half of it with early N (chapter 4, M8).

export type Bed = 'as_planned' | 'without' | 'half_and_early';
export interface BedOutcome {
  bed: Bed;
  /** Set free in the ground before the crop should run down, and after, kg/ha. */
  before: Spread;
  after: Spread;
  /** Nitrate left at harvest, and the crop's N at harvest. */
  residual: Spread | null;
  inCrop: Spread;
  shortShare: number;
}
export interface LateRelease {
  /** `organic.<id>` */
  id: string;
  /** The day from which the crop should run down: its own, or when it holds nearly all its N. */
  from: IsoDate;
  isRunDown: boolean;
  /** Quick N at planting beside half of the dressing, kg/ha. */
  earlyKgHa: number;
  beds: BedOutcome[];
  /** What is there of the dressing's own release after that day, in the middle year. */
  ownAfterKgHa: number;
}

/** A share of its N by which a crop without a run-down date counts as done. */
const NEARLY_ALL = 0.9;
const EARLY_PRODUCT = 'calcium_nitrate_15_5';
const EARLY_PLACEMENT = 'broadcast_incorporated';

const halfOf = (e: Extract<SeasonEvent, { type: 'organic' }>): SeasonEvent => ({
  ...e,
  nOrgKgHa: e.nOrgKgHa / 2,
  nh4NKgHa: (e.nh4NKgHa ?? 0) / 2,
});

/**
 * Each dressing that is still planned, by what it releases before and after the run-down; or a
 * sentence that says why the plan cannot be run.
 */
export function lateReleasesOf(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
  { years = OUTLOOK_YEARS, seed = OUTLOOK_SEED }: { years?: number; seed?: number } = {},
): LateRelease[] | string {
  const ready = prepared(book, plan, a, calendar, seed);
  if (typeof ready === 'string' || !calendar) return ready as string;
  const { run, field } = ready;
  const { record } = run;
  const dressings = run.sources.filter((s) => record.events[s.at]?.type === 'organic');
  if (dressings.length === 0) return [];
  const top = calendar.uptake[calendar.days] || 1;
  const nearly = calendar.uptake.findIndex((u) => u >= NEARLY_ALL * top);
  const from = a.runDownDate ?? dateAfter(calendar.start, Math.max(0, nearly));
  const fromDay = Math.max(0, daysBetween(record.startDate, from));
  const planting = plan.season.plantingDate ?? calendar.start;
  const weather = Array.from({ length: years }, (_, y) => ready.weatherOf(y));
  const laid = layOutYears(field, weather, waterOf(ready.events, run.days));
  const state = newState(field.site.layers);
  const trace = newTrace(run.days);
  const over = (events: readonly SeasonEvent[]) => {
    const plannedN = planOf(book, field, events);
    const found: { s: SeasonSummary; before: number; after: number }[] = laid.map((y) => {
      const s = runPlan(field, plannedN, y, state, trace);
      const end = Math.min(run.days, (s.harvestDay ?? run.days - 1) + 1);
      let [before, after] = [0, 0];
      for (let d = 0; d < end; d++) {
        if (d < fromDay) before += trace.netMin[d] ?? 0;
        else after += trace.netMin[d] ?? 0;
      }
      return { s, before, after };
    });
    return found;
  };
  const told = (bed: Bed, found: ReturnType<typeof over>): BedOutcome => ({
    bed,
    before: spreadOf(found.map((f) => f.before)) as Spread,
    after: spreadOf(found.map((f) => f.after)) as Spread,
    residual: spreadOf(found.map((f) => f.s.residualNo3)),
    inCrop: spreadOf(found.map((f) => f.s.uptake)) as Spread,
    shortShare: shortShare(
      found.map((f) => f.s),
      field.params.shortFrac,
    ),
  });
  const asPlanned = over(record.events);
  return dressings.map(({ id, at }): LateRelease => {
    const event = record.events[at] as Extract<SeasonEvent, { type: 'organic' }>;
    const without = over(record.events.filter((_, k) => k !== at));
    const own = (key: 'before' | 'after') =>
      (spreadOf(asPlanned.map((f, y) => f[key] - (without[y]?.[key] ?? 0))) as Spread).p50;
    const mineral = event.nh4NKgHa ?? 0;
    // Half of the dressing gives half as much early: quick N stands in for the other half.
    const earlyKgHa = Math.max(0, (own('before') + mineral) / 2);
    const early: SeasonEvent = {
      type: 'fertilise',
      date: planting > record.startDate ? planting : record.startDate,
      productId: EARLY_PRODUCT,
      placementId: EARLY_PLACEMENT,
      nKgHa: Math.min(400, earlyKgHa),
    };
    const mixed = over([
      ...record.events.map((e, k) => (k === at ? halfOf(event) : e)),
      ...(earlyKgHa > 0 ? [early] : []),
    ]);
    return {
      id,
      from,
      isRunDown: a.runDownDate !== null,
      earlyKgHa,
      beds: [
        told('as_planned', asPlanned),
        told('without', without),
        told('half_and_early', mixed),
      ],
      ownAfterKgHa: own('after'),
    };
  });
}
