import { errorFunction } from 'simple-statistics';

/**
 * Share of a normal distribution below a value (accurate to 1e-7).
 *
 * @param sd standard deviation, above 0
 * @example normalBelow(1.96, 0, 1) // 0.975
 */
export const normalBelow = (x: number, mean: number, sd: number): number =>
  (1 + errorFunction((x - mean) / (sd * Math.SQRT2))) / 2;
