import { assessSeason } from '../assessment/assess';
import type { Book } from '../book/book';
import type { StationState } from '../assessment/stations';
import type { Station } from '../lines/problem';
import type { Words } from '../why/said';
import { furrowSection } from '../views/furrow';
import { glanceOf, type SeasonGlance } from '../views/glance';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { sampleWindows } from '../views/sampleWindow';
import { fieldRow, type FarmField, type FarmFieldRow } from './wholeFarm';

/** All that lists show of the season being planned on a field. */
export interface FieldSummary extends FarmFieldRow {
  season: string;
  stations: Record<Station, StationState>;
  /** Newest leaf of this season, or nothing. */
  leafDate: string | null;
  /** A window of the leaf that is open, or opens within a fortnight, and has no sample yet. */
  leafWindow: { part: string; from: string; to: string | null; open: boolean } | null;
  /** N still to apply after all that is planned, kg/ha; null without a crop. */
  stillToApply: number | null;
  /** A credit that nobody knows may lower it. */
  atMost: boolean;
  /** The first thing to decide: a stop before a caution. */
  decide: Words | null;
  /** The station where that is put right. */
  decideAt: Station | null;
  glance: SeasonGlance | null;
}

function nextWindow(
  book: Book,
  plan: Plan,
  calendar: SeasonCalendar | null,
): FieldSummary['leafWindow'] {
  const next = sampleWindows(book, plan, calendar).find(
    (w) =>
      (w.state === 'open' || w.state === 'soon') &&
      !plan.leaves.some(
        (l) => l.part === w.part && l.date >= (w.from ?? '') && l.date <= (w.to ?? plan.asOf),
      ),
  );
  return next?.from
    ? { part: next.partLabel, from: next.from, to: next.to, open: next.state === 'open' }
    : null;
}

/**
 * Summary of one field, from the same assessment that its own page shows.
 *
 * @example fieldSummary(PRINTED, { fieldId: 'low-fleet', plan }).stations.budget.state // 'done'
 */
export function fieldSummary(book: Book, field: FarmField): FieldSummary {
  const { plan, calendar, assessment: a } = assessSeason(book, field.plan);
  const section = furrowSection(book, plan, a, calendar);
  const first = a.cautions.find((c) => c.shown);
  return {
    ...fieldRow(book, field.fieldId, plan, a),
    season: plan.season.label,
    stations: a.stations,
    leafDate: a.leaf.datesOfSeason[0] ?? null,
    leafWindow: nextWindow(book, plan, calendar),
    atMost: a.sums.n.unknown.high > 0 && a.sums.n.stillToApply > 0,
    stillToApply: plan.season.cropKey ? a.sums.n.stillToApply : null,
    decide: first?.warning.message ?? null,
    decideAt: first?.station ?? null,
    glance: section && glanceOf(section),
  };
}
