// Keys alone, so that a schema or a screen can name them without the tables behind them.

/** Schools of the N requirement that a field may be planned with. */
export const N_SCHOOLS = ['yield_goal', 'economic_optimum', 'index_ceiling'] as const;
export type PlannedNSchool = (typeof N_SCHOOLS)[number];
/** Schools of P and K. */
export const PK_SCHOOLS = [
  'replacement',
  'sufficiency',
  'build_maintain',
  'replacement_index',
] as const;
export type PkSchool = (typeof PK_SCHOOLS)[number];
export const GREEN_MANURE_STAGES = [
  'vegetative',
  'early_flower',
  'full_flower',
  'seed_fill',
] as const;
