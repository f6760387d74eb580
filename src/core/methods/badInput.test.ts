import { beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { METHODS, run } from './registry';
import { workedExamples, type WorkedExample } from './workedExample';

let examples: WorkedExample[];
beforeAll(async () => {
  examples = await workedExamples();
});

const finite = (v: unknown): boolean =>
  typeof v === 'number'
    ? Number.isFinite(v)
    : v === null || typeof v !== 'object'
      ? true
      : Object.values(v).every(finite);
/**
 * What a method did with an input: a finite result, a typed refusal, or the fault that must not
 * be.
 */
async function outcome(id: string, input: unknown): Promise<string> {
  try {
    return finite(await run(id, input)) ? 'finite' : 'NOT FINITE';
  } catch (e) {
    if (!(e instanceof Refusal)) return `THREW ${e instanceof Error ? e.message : String(e)}`;
    return e.detail.message && e.detail.field && e.detail.code
      ? 'refused'
      : 'REFUSED WITHOUT WORDS';
  }
}
const good = (method: string) =>
  examples.find((x) => x.method === method && !('refuse' in ((x.expected ?? {}) as object)));

describe('every method', () => {
  it('has a title, a chapter, and both schemas', () => {
    for (const m of METHODS)
      expect([m.title.length > 3, m.chapter.length > 0, m.id]).toEqual([
        true,
        true,
        expect.stringMatching(/^[a-z]+\.[a-z0-9_]+$/),
      ]);
    expect(new Set(METHODS.map((m) => m.id)).size).toBe(METHODS.length);
  });
  it('opens with a worked example that it answers', async () => {
    const faults: string[] = [];
    for (const m of METHODS) {
      const example = good(m.id);
      if (!example) continue;
      const what = await outcome(m.id, example.input);
      if (what !== 'finite') faults.push(`${m.id}: ${what}`);
    }
    expect(faults).toEqual([]);
  });
  it('takes a wrong figure with a typed refusal or a finite answer, never with a fault', async () => {
    const faults: string[] = [];
    let tried = 0;
    for (const m of METHODS) {
      const input = good(m.id)?.input as Record<string, unknown> | undefined;
      if (!input) continue;
      for (const [field, value] of Object.entries(input)) {
        const wrong: unknown[] =
          typeof value === 'number'
            ? [Number.NaN, -1e9, 1e12, 0, -0.0001, 'x', true]
            : typeof value === 'string'
              ? ['', 'no_such_thing', 7]
              : [null, 'x', []];
        for (const w of wrong) {
          tried += 1;
          const what = await outcome(m.id, { ...input, [field]: w });
          if (what !== 'finite' && what !== 'refused')
            faults.push(`${m.id} ${field} = ${String(w)}: ${what}`);
        }
      }
    }
    expect(faults).toEqual([]);
    expect(tried).toBeGreaterThan(800);
  });
  it('refuses an unknown field by name', async () => {
    const faults: string[] = [];
    for (const m of METHODS) {
      const input = good(m.id)?.input as Record<string, unknown> | undefined;
      if (!input) continue;
      await run(m.id, { ...input, surprise_kg: 1 }).then(
        () => faults.push(m.id),
        (e: unknown) => {
          if (!(e instanceof Refusal) || !JSON.stringify(e.detail).includes('surprise_kg'))
            faults.push(`${m.id}: ${String(e)}`);
        },
      );
    }
    expect(faults).toEqual([]);
  });
  it('refuses an input that is missing, or no object', async () => {
    for (const m of METHODS) {
      for (const input of [undefined, null, 3, 'x', []])
        expect(await outcome(m.id, input), `${m.id} ${JSON.stringify(input)}`).toBe('refused');
    }
  });
  it('shows its reasons where it has a number to defend', async () => {
    for (const id of [
      'budget.credit_organic_matter',
      'budget.credit_soil_nitrate',
      'organics.ammonia_loss',
      'ground.ph_gate',
      'nitrogen.product_rate',
    ]) {
      const answer = await run(id, good(id)?.input);
      expect(answer.why, id).toMatchObject({
        label: expect.any(String),
        inputs: expect.any(Array),
      });
    }
  });
});

it.each(METHODS.flatMap((m) => m.either.map((names) => ({ id: m.id, names }))))(
  '$id refuses two of $names, by name',
  async ({ id, names: [one, other] }) => {
    const input = { ...(good(id)?.input as object), [one]: 0.5, [other]: 0.5 };
    await expect(run(id, input)).rejects.toMatchObject({
      detail: { code: 'inconsistent', field: other },
    });
  },
);
