import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { placementOf, placements } from '../book/fertilisers';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { dateAfter } from '../quantity/calendar';
import type { SeasonSummary } from './nitrogen';
import { newState } from './nitrogen';
import { waterOf } from './events';
import { OUTLOOK_SEED, OUTLOOK_YEARS, prepared } from './prepared';
import type { SeasonEvent } from './record';
import { planOf } from './run';
import { layOutYears, runYears, shortShare, spreadOf, totalLoss, type Spread } from './years';

// What one pass or dressing is worth: the same years with it left out, halved, later, or placed
// otherwise (chapter 4, M3 and M6).

export type Change = 'skip' | 'halve' | 'later' | 'placement';
export interface WhatIf {
  change: Change;
  /** Where it goes instead; of a change of placement. */
  placement: string | null;
  /** More N in the crop than as planned, year by year, kg/ha. */
  inCrop: Spread;
  /** More N lost to air and water. */
  lost: Spread;
  shortShare: number;
  /** More yield at risk by N, money/ha in the middle year; null without a price of the crop. */
  riskHa: number | null;
  /** Product and pass that are saved, money/ha. */
  savedHa: number;
  /** The years agree on which way it goes: their middle eight of ten exclude no change. */
  clear: boolean;
}
export interface PassWhatIfs {
  /** `pass.<id>` or `organic.<id>`. */
  id: string;
  changes: WhatIf[];
}

const LATER_D = 14;
/** Less than this is no difference, kg/ha. */
const TOLD_KG = 0.5;
/** Yield lost to a shortage of N: a share, by the share of N that is lacking (M6, low confidence). */
const RISK = 1.6;
/** Ways that a solid, and a fluid, may go on instead. */
const OTHER_WAYS = {
  solid: ['broadcast_surface', 'broadcast_incorporated', 'surface_band'],
  fluid: ['surface_band', 'coulter_injection_shallow', 'knife_injection_deep'],
} as const;

const FLUIDS = ['solution', 'suspension'];
const PRESSURISED = 'pressurised_gas';

const atRisk = (s: SeasonSummary, worthHa: number): number =>
  worthHa * RISK * (1 - Math.min(1, s.plantNFrac ?? 1)) ** 2;
const differences = (
  now: readonly SeasonSummary[],
  then: readonly SeasonSummary[],
  of: (s: SeasonSummary) => number,
): Spread => spreadOf(then.map((s, y) => of(s) - of(now[y] as SeasonSummary))) as Spread;

/** The event halved: its N, of whatever kind. */
function halved(e: SeasonEvent): SeasonEvent {
  if (e.type === 'fertilise') return { ...e, nKgHa: e.nKgHa / 2 };
  if (e.type === 'organic')
    return { ...e, nOrgKgHa: e.nOrgKgHa / 2, nh4NKgHa: (e.nh4NKgHa ?? 0) / 2 };
  return e;
}
/** The changes that are looked at for one event, with what becomes of it; null: it is left out. */
function changesOf(
  e: SeasonEvent,
  form: string,
): { change: Change; placement: string | null; event: SeasonEvent | null }[] {
  const ways =
    e.type === 'fertilise' && form !== PRESSURISED && !placementOf(e.placementId).onLeaf
      ? OTHER_WAYS[FLUIDS.includes(form) ? 'fluid' : 'solid'].filter(
          (p) => p !== e.placementId && placements().some((x) => x.placementId === p),
        )
      : [];
  return [
    { change: 'skip', placement: null, event: null },
    { change: 'halve', placement: null, event: halved(e) },
    { change: 'later', placement: null, event: { ...e, date: dateAfter(e.date, LATER_D) } },
    ...ways.map((placement) => ({
      change: 'placement' as const,
      placement,
      event: { ...e, placementId: placement } as SeasonEvent,
    })),
  ];
}

/**
 * Each pass and dressing that is still planned, with what it is worth in the same weather years; or
 * a sentence that says why the plan cannot be run.
 */
export function whatIfsOf(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
  { years = OUTLOOK_YEARS, seed = OUTLOOK_SEED }: { years?: number; seed?: number } = {},
): PassWhatIfs[] | string {
  const ready = prepared(book, plan, a, calendar, seed);
  if (typeof ready === 'string') return ready;
  const { run, field } = ready;
  const { record } = run;
  const weather = Array.from({ length: years }, (_, year) => ready.weatherOf(year));
  const laid = layOutYears(field, weather, waterOf(ready.events, run.days));
  const state = newState(field.site.layers);
  const over = (events: readonly SeasonEvent[]) =>
    runYears(field, planOf(book, field, events), laid, state);
  const now = over(record.events);
  const { cropPricePerT, yieldGoalTHa } = plan.season;
  const worthHa = cropPricePerT === null ? null : cropPricePerT * (yieldGoalTHa ?? 0);
  const passes = new Map(a.supply.passes.map((p) => [`pass.${p.pass.id}`, p]));
  return run.sources.flatMap(({ id, at }): PassWhatIfs[] => {
    const event = record.events[at] as SeasonEvent;
    const pass = passes.get(id);
    const form = pass?.product.physicalForm ?? 'granular';
    const changes = changesOf(event, form).map(({ change, placement, event: then }): WhatIf => {
      const events = record.events.flatMap((e, k) =>
        k !== at ? [e] : then === null ? [] : [then],
      );
      const found = over(events);
      const inCrop = differences(now, found, (s) => s.uptake);
      return {
        change,
        placement,
        inCrop,
        lost: differences(now, found, totalLoss),
        shortShare: shortShare(found, field.params.shortFrac),
        riskHa: worthHa === null ? null : differences(now, found, (s) => atRisk(s, worthHa)).p50,
        savedHa: (pass?.cost ?? 0) * (change === 'skip' ? 1 : change === 'halve' ? 0.5 : 0),
        clear: Math.abs(inCrop.p50) >= TOLD_KG && (inCrop.p10 > 0 || inCrop.p90 < 0),
      };
    });
    return [{ id, changes }];
  });
}
