// Keys alone, so that a schema or a screen can name them.

/** Figures of a manure report that are held in kg of element per tonne. */
export const LAB_KEYS = ['totalNKgT', 'nh4NKgT', 'no3NKgT', 'pKgT', 'kKgT', 'sKgT'] as const;
/**
 * What a report calls total N: all of it, Kjeldahl N without the nitrate, or the organic part
 * alone.
 */
export const TOTAL_N_FORMS = ['total', 'kjeldahl', 'organic'] as const;
export const AMMONIUM_FORMS = ['n', 'nh4', 'nh3'] as const;
export const NITRATE_FORMS = ['n', 'no3'] as const;

/** What a heap smells of. */
export const SMELLS = ['earthy', 'ammonia', 'sour'] as const;
/** Units that a manure report is written in. */
export const LAB_REPORT_UNITS = [
  'kg_t',
  'pct',
  'g_kg',
  'mg_kg',
  'lb_ton',
  'kg_m3',
  'g_l',
  'mg_l',
  'lb_1000gal',
  'lb_1000impgal',
  'lb_acin',
] as const;
