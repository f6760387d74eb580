import { describe, expect, it } from 'vitest';
import { Refusal, type RefusalDetail } from '../quantity/refusal';
import chapter1 from './examples/01-requirement-credits.json';
import chapter2 from './examples/02-manure-compost.json';
import chapter3 from './examples/03-soil-lime-pk.json';
import chapter4 from './examples/04-nitrogen-plan.json';
import chapter5 from './examples/05-tissue.json';
import { METHODS, run } from './registry';

interface Case {
  id: string;
  method: string;
  input: unknown;
  expected: Record<string, unknown>;
  tolerance?: number;
}
const ids = new Set(METHODS.map((m) => m.id));
const cases = ([...chapter1, ...chapter2, ...chapter3, ...chapter4, ...chapter5] as unknown as Case[]).filter((c) => ids.has(c.method));
/** Asks for the class of a value that the example's input does not give. */
const NOT_IN_INPUT = ['cls_of_1_45'];

function near(actual: unknown, expected: unknown, tolerance: number, path: string): void {
  if (typeof expected === 'number') {
    expect(actual, path).toBeTypeOf('number');
    expect(Math.abs((actual as number) - expected), `${path}: ${String(actual)} against ${expected}`).toBeLessThanOrEqual((tolerance || 1e-6) * Math.max(1, Math.abs(expected)));
  } else if (Array.isArray(expected)) {
    expect(actual, path).toHaveLength(expected.length);
    expected.forEach((e, i) => near((actual as unknown[])[i], e, tolerance, `${path}[${i}]`));
  } else if (expected !== null && typeof expected === 'object') {
    for (const [k, e] of Object.entries(expected)) if (!NOT_IN_INPUT.includes(k)) near((actual as Record<string, unknown> | undefined)?.[k], e, tolerance, `${path}.${k}`);
  } else expect(actual, path).toEqual(expected);
}

function refuses(detail: RefusalDetail, expected: string): void {
  if (expected.startsWith('{')) {
    expect(detail.code).toBe(/'code': '(\w+)'/.exec(expected)?.[1]);
    expect(detail.field).toBe(/'field': '([^']+)'/.exec(expected)?.[1]);
    return;
  }
  const field = /^[a-z_.0-9]+(?=:| =|$)/.exec(expected)?.[0];
  const named = detail.field === field || detail.rule === expected || detail.message.includes(expected);
  expect(named, `${JSON.stringify(detail)} against ${expected}`).toBe(true);
}

describe('worked examples of the chapters, replayed through the registry', () => {
  it('covers every method that is registered', () => expect(METHODS.filter((m) => !cases.some((c) => c.method === m.id)).map((m) => m.id)).toEqual([]));

  it.each(cases.map((c) => [c.id, c] as const))('%s', async (_, c) => {
    const wanted = c.expected.refuse;
    if (typeof wanted === 'string') {
      const error = await run(c.method, c.input).then(() => null, (e: unknown) => e);
      expect(error).toBeInstanceOf(Refusal);
      refuses((error as Refusal).detail, wanted);
    } else near(await run(c.method, c.input), c.expected, c.tolerance ?? 0, c.id);
  });
});
