// Apart from the schema, so that a screen can name the marks without fetching it.

/** What to keep away from: never mixed into a composite (chapter 3, 2.1). */
export const MARK_KINDS = [
  'gateway',
  'feeding_point',
  'water_point',
  'old_heap',
  'lime_pile',
  'tree_or_hedge',
  'fertiliser_spill',
  'wet_hole',
  'other',
] as const;
export type MarkKind = (typeof MARK_KINDS)[number];
