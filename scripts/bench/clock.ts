// How often and how long: every bench of one run is told in the same way.

/** Milliseconds of each call, sorted. */
export function clock(times: number, call: (i: number) => unknown): number[] {
  return Array.from({ length: times }, (_, i) => {
    const t = performance.now();
    call(i);
    return performance.now() - t;
  }).sort((a, b) => a - b);
}
export const at = (sorted: number[], q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))] ?? 0;
export const ms = (v: number) => `${v.toFixed(v < 1 ? 3 : 1)} ms`;
