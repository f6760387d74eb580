// Keys alone, so that a schema or a screen can name them.

/**
 * How much of a manure's N the first crop gets: by two pools, or of a dry solid by the N of its dry
 * matter (chapter 2, 4.3).
 */
export const MANURE_N_SCHOOLS = ['two_pools', 'dry_matter_n'] as const;
/**
 * Ammonia by the curve with weather and placement, or by the simple table of many plan forms
 * (chapter 2, 4.1).
 */
export const AMMONIA_SCHOOLS = ['curve', 'simple_table'] as const;
/**
 * P and K of manure: only what is quick where the soil test is low, or all of it (chapter 2, 5.1).
 */
export const MANURE_PK_SCHOOLS = ['by_soil_test', 'full_credit'] as const;
export const SEASON_WARMTHS = ['cool', 'temperate', 'warm', 'hot_moist'] as const;
/** Factor on the organic N of a season by the warmth of its soil (chapter 2, 4.3 step 4). */
export const WARMTH_FACTOR: Record<(typeof SEASON_WARMTHS)[number], number> = {
  cool: 0.8,
  temperate: 1,
  warm: 1.1,
  hot_moist: 1.15,
};
