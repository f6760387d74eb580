import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { METHODS, run } from './registry';
import { exampleOf } from './workedExample';

const ODD = ['__proto__', 'constructor', 'toString', 'hasOwnProperty'];

/** The input with each of its texts in turn replaced, and each of its tables given an odd key. */
function* twisted(v: unknown, word: string): Generator<unknown> {
  if (typeof v === 'string') yield word;
  else if (Array.isArray(v))
    for (const [i, x] of v.entries())
      for (const t of twisted(x, word)) yield v.map((y: unknown, k) => (k === i ? t : y));
  else if (v !== null && typeof v === 'object') {
    const entries = Object.entries(v);
    for (const [i, [, x]] of entries.entries())
      for (const t of twisted(x, word))
        yield Object.fromEntries(entries.map(([k, y], n) => [k, n === i ? t : y]));
    yield JSON.parse(
      JSON.stringify(v)
        .replace(/^\{/, `{${JSON.stringify(word)}:1,`)
        .replace(',}', '}'),
    ) as unknown;
  }
}

describe('names that every object has', () => {
  it.each(METHODS.map((m) => m.id))(
    '%s refuses them, or reckons on, and never breaks',
    async (id) => {
      const input = (await exampleOf(id))?.input ?? {};
      for (const word of ODD)
        for (const odd of twisted(input, word)) {
          try {
            await run(id, odd);
          } catch (e) {
            expect(e, `${JSON.stringify(odd)}: ${String(e)}`).toBeInstanceOf(Refusal);
          }
        }
    },
  );
  it('are no methods', async () => {
    for (const word of ODD) await expect(run(word, {})).rejects.toBeInstanceOf(Refusal);
  });
});
