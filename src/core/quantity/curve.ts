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
export const clip = (x: number, low: number, high: number): number =>
  Math.max(low, Math.min(high, x));
