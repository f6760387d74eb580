import { describe, expect, it } from 'vitest';
import { Refusal, type RefusalDetail } from '../quantity/refusal';
import { METHODS, run } from './registry';
import { workedExamples } from './workedExample';

const ids = new Set(METHODS.map((m) => m.id));
const cases = (await workedExamples()).filter((c) => ids.has(c.method));
/** Asks for the class of a value that the example's input does not give. */
const NOT_IN_INPUT = ['cls_of_1_45'];
/** The chapters print at most ten decimals: no expectation can be finer. */
const PRINTED_TO = 0.5e-10;

function near(actual: unknown, expected: unknown, tolerance: number, path: string): void {
  if (typeof expected === 'number') {
    expect(actual, path).toBeTypeOf('number');
    expect(
      Math.abs((actual as number) - expected),
      `${path}: ${String(actual)} against ${expected}`,
    ).toBeLessThanOrEqual(
      Math.max(tolerance || 1e-6, PRINTED_TO) * Math.max(1, Math.abs(expected)),
    );
  } else if (Array.isArray(expected)) {
    expect(actual, path).toHaveLength(expected.length);
    expected.forEach((e, i) => near((actual as unknown[])[i], e, tolerance, `${path}[${i}]`));
  } else if (expected !== null && typeof expected === 'object') {
    for (const [k, e] of Object.entries(expected))
      if (!NOT_IN_INPUT.includes(k))
        near((actual as Record<string, unknown> | undefined)?.[k], e, tolerance, `${path}.${k}`);
  } else expect(actual, path).toEqual(expected);
}

/** What chapter 5 calls in its refusals by another name than in its inputs. */
const ALSO_CALLED: Readonly<Record<string, string>> = { biomass_t_ha: 'biomass_dry_t_ha' };
function refuses(detail: RefusalDetail, expected: string): void {
  if (expected.startsWith('{')) {
    expect(detail.code).toBe(/'code': '(\w+)'/.exec(expected)?.[1]);
    expect(detail.field).toBe(/'field': '([^']+)'/.exec(expected)?.[1]);
    return;
  }
  const field = /^[a-z_.0-9]+(?=[:,]| =| must be|$)/.exec(expected)?.[0];
  const named =
    detail.field === field ||
    detail.field === ALSO_CALLED[field ?? ''] ||
    detail.rule === expected ||
    detail.message.includes(expected);
  expect(named, `${JSON.stringify(detail)} against ${expected}`).toBe(true);
}

describe('worked examples of the chapters, replayed through the registry', () => {
  it('covers every method that is registered', () =>
    expect(METHODS.filter((m) => !cases.some((c) => c.method === m.id)).map((m) => m.id)).toEqual(
      [],
    ));

  it.each(cases.map((c) => [c.id, c] as const))('%s', async (_, c) => {
    const wanted = c.expected.refuse;
    if (typeof wanted === 'string') {
      const error = await run(c.method, c.input).then(
        () => null,
        (e: unknown) => e,
      );
      expect(error).toBeInstanceOf(Refusal);
      refuses((error as Refusal).detail, wanted);
    } else near(await run(c.method, c.input), c.expected, c.tolerance ?? 0, c.id);
  });
});
