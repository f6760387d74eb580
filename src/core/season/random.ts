// Random numbers that are the same in every place that reckons (chapter 4, W1): 32-bit integers,
// one stream for each thing that is drawn, so that a change of one leaves the others as they are.

const GOLDEN = 0x9e3779b9;
const STREAM = 0x7f4a7c15;
const WEYL = 0x6d2b79f5;

/** What a stream of a weather year is for. */
export const STREAMS = { occurrence: 1, amount: 2, temperature: 3, year: 4 } as const;

/** Mixes the bits of a 32-bit integer. */
export function fmix32(value: number): number {
  let h = value | 0;
  h ^= h >>> 16;
  h = Math.imul(h, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  h ^= h >>> 16;
  return h >>> 0;
}
/** Seed of one stream of one weather year. */
export const streamSeed = (seed: number, year: number, stream: number): number =>
  fmix32((seed + Math.imul(GOLDEN, year + 1) + Math.imul(STREAM, stream)) >>> 0);

/** A stream of numbers from 0 up to 1, and what is drawn from them. */
export interface Stream {
  next: () => number;
  /** Mean 0, standard deviation 1. */
  normal: () => number;
  /** Mean `shape`, scale 1. */
  gamma: (shape: number) => number;
}

/**
 * A stream from a seed (mulberry32).
 *
 * @example streamOf(12345).next() // 0.9797282677609473
 */
export function streamOf(seed: number): Stream {
  let a = seed | 0;
  const next = (): number => {
    a = (a + WEYL) | 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const normal = (): number => {
    const u1 = 1 - next();
    const u2 = next();
    return Math.sqrt(-2 * Math.log(u1)) * Math.cos(2 * Math.PI * u2);
  };
  /** Marsaglia & Tsang 2000, for a shape of 1 or more. */
  const large = (shape: number): number => {
    const d = shape - 1 / 3;
    const c = 1 / Math.sqrt(9 * d);
    for (;;) {
      const x = normal();
      const v = (1 + c * x) ** 3;
      if (v <= 0) continue;
      const u = 1 - next();
      if (u < 1 - 0.0331 * x ** 4) return d * v;
      if (Math.log(u) < 0.5 * x * x + d * (1 - v + Math.log(v))) return d * v;
    }
  };
  const gamma = (shape: number): number => {
    if (shape >= 1) return large(shape);
    const g = large(shape + 1);
    const u = 1 - next();
    return g * u ** (1 / shape);
  };
  return { next, normal, gamma };
}
