const isPlain = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && Object.getPrototypeOf(v) === Object.prototype;

/**
 * What is reckoned now, with every part that says the same as before left as the object that it
 * was: whoever looks at such a part has nothing to draw again.
 *
 * @example shared({ a: { x: 1 }, b: 2 }, { a: { x: 1 }, b: 3 }) // `a` is the object of before
 */
export function shared<T>(before: T, now: T): T {
  if (Object.is(before, now)) return before;
  if (Array.isArray(before) && Array.isArray(now)) {
    const parts = now.map((v: unknown, i) => shared(before[i] as unknown, v));
    return (
      before.length === now.length && parts.every((p, i) => p === before[i]) ? before : parts
    ) as T;
  }
  if (!isPlain(before) || !isPlain(now)) return now;
  const keys = Object.keys(now);
  const parts = Object.fromEntries(keys.map((k) => [k, shared(before[k], now[k])]));
  const same =
    keys.length === Object.keys(before).length &&
    keys.every((k) => k in before && parts[k] === before[k]);
  return same ? before : (parts as T);
}
