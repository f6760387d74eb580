/**
 * A repeatable stream of numbers from 0 to under 1: mulberry32 in 32-bit arithmetic, bit for bit as
 * chapter 3, section 11 gives it. Core has
 * no other randomness, and the seed is always an input.
 *
 * @example randomStream(12345)() // 0.9797282677609473
 */
export function randomStream(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A standard normal number from two of the stream (Box and Muller). */
export const normalFrom = (next: () => number): number =>
  Math.sqrt(-2 * Math.log(Math.max(next(), 1e-12))) * Math.cos(2 * Math.PI * next());

/** A seed from a name, so that the same field always gets the same ground (FNV-1a, 32 bit). */
export const seedOf = (text: string): number =>
  [...text].reduce((h, c) => Math.imul(h ^ (c.codePointAt(0) ?? 0), 16777619) >>> 0, 2166136261);
