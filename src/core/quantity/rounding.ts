/** Rounds half away from zero: 2.5 -> 3, -2.5 -> -3. */
export const halfAwayFromZero = (x: number): number =>
  x < 0 ? -Math.floor(-x + 0.5) : Math.floor(x + 0.5);

/**
 * Hundredths of a kilogram, the whole numbers that the ledger adds up. The epsilon is there because
 * 12.345 x 100 is 1234.4999... in binary.
 *
 * @example toHundredths(12.345) // 1235
 */
export const toHundredths = (kg: number): number =>
  (kg < 0 ? -toHundredths(-kg) : halfAwayFromZero(kg * 100 + 1e-9)) || 0;

/** Kilograms again, exact to two decimals. */
export const fromHundredths = (h: number): number => h / 100;
