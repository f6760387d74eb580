import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { Refusal } from '../quantity/refusal';
import { describeFields, type FieldDescription } from './describe';
import { METHODS, run } from './registry';

const WORDS = ['', '__proto__', 'constructor', 'no_such_thing', 'ö 1', 'x'.repeat(300)];
/** Numbers that fit mostly, edges often, and now and then what must be refused. */
const numberOf = (min: number, max: number): fc.Arbitrary<unknown> =>
  fc.oneof(
    { weight: 6, arbitrary: fc.double({ min, max, noNaN: true }) },
    { weight: 2, arbitrary: fc.constantFrom(min, max, 0, 1) },
    { weight: 1, arbitrary: fc.constantFrom(-1, 1e12, Number.NaN, '45 lb/ac', null) },
  );
const figuresOf = (value: fc.Arbitrary<unknown>) =>
  fc.dictionary(fc.constantFrom('N', 'P', 'K', 'manure', 'constructor'), value, { maxKeys: 3 });

function plain({ quantity: q, choices }: FieldDescription): fc.Arbitrary<unknown> {
  const odd = fc.constantFrom<unknown>(...WORDS, 7, null);
  switch (q.kind) {
    case 'number':
      return numberOf(q.min, q.max);
    case 'figures':
      return figuresOf(numberOf(q.min, q.max));
    case 'flags':
      return figuresOf(fc.boolean());
    case 'texts':
      return figuresOf(fc.constantFrom(...WORDS));
    case 'yes':
      return fc.oneof({ weight: 9, arbitrary: fc.boolean() }, { weight: 1, arbitrary: odd });
    case 'date':
      return fc.constantFrom('2027-02-26', '2027-02-30', '', 'tomorrow', '1999-12-31');
    default:
      return choices && choices.length > 0
        ? fc.oneof(
            { weight: 9, arbitrary: fc.constantFrom(...choices.map((c) => c.value)) },
            { weight: 1, arbitrary: odd },
          )
        : fc.constantFrom<unknown>('p', 'k', 'N', 'maize', 'kg_t', ...WORDS);
  }
}
const inputOf = (fields: readonly FieldDescription[]): fc.Arbitrary<Record<string, unknown>> =>
  fc.record(
    Object.fromEntries(
      fields.map((f) => {
        const one = f.of ? inputOf(f.of) : plain(f);
        const all = f.many ? fc.array(one, { maxLength: 5 }) : one;
        return [f.name, f.optional ? fc.option(all, { nil: undefined }) : all];
      }),
    ),
  );
const isFinite = (v: unknown): boolean =>
  typeof v === 'number'
    ? Number.isFinite(v)
    : v === null || typeof v !== 'object' || Object.values(v).every(isFinite);

describe('whatever fits the fields, and much that does not', () => {
  // The outlook draws futures: a few runs of it are slow enough.
  it.each(METHODS.filter((m) => m.id !== 'ground.pk_simulation').map((m) => [m.id, m] as const))(
    '%s answers with figures, or refuses by name',
    async (id, m) => {
      await fc.assert(
        fc.asyncProperty(inputOf(describeFields(PRINTED, m.fields.takes)), async (input) => {
          const answer = await run(id, input).catch((e: unknown) => e);
          if (answer instanceof Refusal) {
            expect(answer.detail.field).toMatch(/^[a-z]/);
            expect(answer.detail.field).not.toBe('output');
            expect(answer.detail.message.length).toBeGreaterThan(0);
          } else {
            expect(answer).not.toBeInstanceOf(Error);
            expect(isFinite(answer)).toBe(true);
          }
        }),
        { numRuns: 60 },
      );
    },
  );
});
