import { bookOf, type Book } from '../book/book';
import { assessSeason, type Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import type { UnitSystem } from '../quantity/units';
import { furrowSection, type FurrowSection } from './furrow';
import { groundPartsOf, type GroundParts } from './groundParts';
import { buildSheet, type SheetDocument } from './sheet';

/** All that a screen shows of a plan. */
export interface Figures {
  a: Assessment;
  section: FurrowSection | null;
  sheet: SheetDocument;
  /** Only where one of the parts of Ground is open. */
  parts: GroundParts | null;
}
/**
 * The assessed plan with its furrow and its sheet: on the server for the first paint, in the
 * browser from the first edit on.
 */
export function figuresOf(book: Book, given: Plan, withParts = false): Figures {
  const { plan, calendar, assessment: a } = assessSeason(book, given);
  return {
    a,
    section: furrowSection(book, plan, a, calendar),
    sheet: buildSheet(book, plan, a),
    parts: withParts ? groundPartsOf(book, plan, a) : null,
  };
}

/** The sheet of a plan as it stands, for downloads. */
export function sheetOfPlan(given: Plan, system: UnitSystem = 'metric'): SheetDocument {
  const book = bookOf(given.farm.library);
  const { plan, assessment } = assessSeason(book, given);
  return buildSheet(book, plan, assessment, system);
}
