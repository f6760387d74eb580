import { assessSeason } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { UNSAID_OF_LEAF, type LeafSampleFact } from '../facts/leafSample';
import { leafBeside } from './leafBeside';

/** A season of the demo farms, by its field and year. */
export const seasonOf = (name: string): Plan =>
  (DEMO_PLANS.find(([n]) => n.startsWith(name)) as [string, Plan])[1];

const PERCENT = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'Cl', 'Na'];
/** A beet leaf that lacks nothing. */
export const FED = {
  N: 4.6,
  P: 0.4,
  K: 3.4,
  S: 0.4,
  Ca: 1.2,
  Mg: 0.5,
  B: 45,
  Zn: 40,
  Mn: 60,
  Cu: 11,
};
/** A leaf of beet in its window, with its figures. */
export const beetLeaf = (
  values: Record<string, number>,
  more: Partial<LeafSampleFact> = {},
): LeafSampleFact => ({
  id: `beet-${more.role ?? 'survey'}`,
  version: 1,
  author: null,
  recordedOn: null,
  cropKey: 'sugar_beet',
  date: '2027-06-24',
  part: 'blade',
  bbch: 37,
  system: null,
  nOrgans: 60,
  washed: 'no',
  sprayElements: [],
  daysSinceSpray: null,
  role: 'survey',
  ...UNSAID_OF_LEAF,
  values: Object.entries(values).map(([nutrient, v]) => ({
    nutrient,
    reported: String(v),
    unit: PERCENT.includes(nutrient) ? '%' : 'mg/kg',
  })),
  ...more,
});
/** The beets of Low Fleet at midsummer, with these leaves. */
export const beetsWith = (...leaves: LeafSampleFact[]): Plan => ({
  ...seasonOf('low-fleet 2026'),
  asOf: '2027-06-28',
  leaves,
});
/** A season with what stands beside its leaf. */
export function lookAt(given: Plan) {
  const book = bookOf(given.farm.library);
  const { plan, calendar, assessment: a } = assessSeason(book, given);
  return { book, plan, a, calendar, beside: leafBeside(book, plan, a) };
}
