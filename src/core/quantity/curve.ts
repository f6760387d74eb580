/** Straight-line interpolation between knots sorted by x, flat outside the first and last. */
export function interpolate(knots: readonly (readonly [number, number])[], x: number): number {
  const first = knots[0];
  const last = knots[knots.length - 1];
  if (!first || !last) throw new Error('interpolate needs at least one knot');
  if (x <= first[0]) return first[1];
  if (x >= last[0]) return last[1];
  for (let i = 1; i < knots.length; i++) {
    const [x1, y1] = knots[i] as readonly [number, number];
    if (x > x1) continue;
    const [x0, y0] = knots[i - 1] as readonly [number, number];
    return x1 === x0 ? y1 : y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
  }
  return last[1];
}
/**
 * The same for many values that hardly ever step back, such as the days of a season: each search
 * goes on where the last one ended.
 *
 * @example interpolateAll([[0, 0], [10, 1]], [2, 5, 12]) // [0.2, 0.5, 1]
 */
export function interpolateAll(
  knots: readonly (readonly [number, number])[],
  xs: readonly number[],
): number[] {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  if (!first || !last) throw new Error('interpolateAll needs at least one knot');
  let i = 1;
  return xs.map((x) => {
    if (x <= first[0]) return first[1];
    if (x >= last[0]) return last[1];
    while (i > 1 && x <= (knots[i - 1] as readonly [number, number])[0]) i--;
    while (x > (knots[i] as readonly [number, number])[0]) i++;
    const [x1, y1] = knots[i] as readonly [number, number];
    const [x0, y0] = knots[i - 1] as readonly [number, number];
    return x1 === x0 ? y1 : y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
  });
}
export const clip = (x: number, low: number, high: number): number =>
  Math.max(low, Math.min(high, x));
