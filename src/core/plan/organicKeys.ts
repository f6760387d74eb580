// Keys alone, so that a schema or a screen can name them.

/** Units that a manure report is written in. */
export const LAB_REPORT_UNITS = ['kg_t', 'pct', 'g_kg', 'mg_kg', 'lb_ton', 'kg_m3', 'g_l', 'mg_l', 'lb_1000gal', 'lb_1000impgal', 'lb_acin'] as const;
