import { withLibrary } from '../book/library';
import { assess, type Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
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
export const figuresOf = (plan: Plan, withParts = false): Figures =>
  withLibrary(plan.farm.library, () => {
    const a = assess(plan);
    return {
      a,
      section: furrowSection(plan, a),
      sheet: buildSheet(plan, a),
      parts: withParts ? groundPartsOf(plan, a) : null,
    };
  });
