import { bookOf, type Book } from '../book/book';
import { assess, type Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import { withoutUnknown } from '../document/keys';
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
/** The assessed plan with its furrow and its sheet: on the server for the first paint, in the browser from the first edit on. */
export function figuresOf(book: Book, given: Plan, withParts = false): Figures {
  const a = assess(book, given);
  const { plan } = withoutUnknown(book, given);
  return {
    a,
    section: furrowSection(book, plan, a),
    sheet: buildSheet(book, plan, a),
    parts: withParts ? groundPartsOf(book, plan, a) : null,
  };
}

/** The sheet of a plan as it stands, for downloads. */
export function sheetOfPlan(plan: Plan): SheetDocument {
  const book = bookOf(plan.farm.library);
  return buildSheet(book, withoutUnknown(book, plan).plan, assess(book, plan));
}

/** The season in section alone, for lists of fields. */
export const sectionOfPlan = (book: Book, plan: Plan, a: Assessment): FurrowSection | null =>
  furrowSection(book, withoutUnknown(book, plan).plan, a);
