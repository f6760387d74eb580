import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { Refusal } from '../quantity/refusal';
import { DICTIONARY } from './dictionary/dictionary';
import { ucum, type Quantity } from './dictionary/quantity';
import type { Field, Fields } from './fields';
import { METHODS, run } from './registry';
import { workedExamples } from './workedExample';

const quantities = Object.entries(DICTIONARY) as [string, Quantity][];
const examples = (await workedExamples()).filter((e) => !('refuse' in e.expected));

describe('every quantity of the dictionary', () => {
  it.each(quantities)('%s says what it is, in a unit that programs know', (name, q) => {
    expect(name).toMatch(/^[a-z][a-z0-9]*(_[a-z0-9]+)*$/);
    expect(q.label.length).toBeGreaterThan(0);
    expect(q.about).toMatch(/^(?:[A-Z0-9]|pH|kg|mg).*\.$/s);
    if (q.kind !== 'number' && q.kind !== 'figures') return;
    expect(ucum(q.unit), q.unit).toBeTruthy();
    expect(q.min).toBeLessThan(q.max);
    if ('usual' in q && q.usual)
      expect([q.usual[0] >= q.min, q.usual[1] <= q.max]).toEqual([true, true]);
  });
  it('is a quantity of some method', () => {
    const used = new Set<string>();
    const collect = (fields: Fields): void => {
      for (const [name, f] of Object.entries(fields) as [string, Field][]) {
        used.add(name);
        if (f.of) collect(f.of);
      }
    };
    for (const { fields } of METHODS) {
      collect(fields.takes);
      collect(fields.gives);
    }
    expect(quantities.map(([name]) => name).filter((name) => !used.has(name))).toEqual([]);
  });
});

/** Where a result does not keep to what its fields promise; nothing where it does. */
function faults(fields: Fields, result: Record<string, unknown>, path = ''): string[] {
  const known = fields as Record<string, Field | undefined>;
  const one = (f: Field, q: Quantity, v: unknown, at: string): string[] => {
    if (f.of)
      return v !== null && typeof v === 'object'
        ? faults(f.of, v as Record<string, unknown>, `${at}.`)
        : [`${at} is no group`];
    const fits: Record<Quantity['kind'], () => boolean> = {
      number: () =>
        q.kind === 'number' && typeof v === 'number' && v >= q.min - 1e-9 && v <= q.max + 1e-9,
      choice: () => q.kind === 'choice' && typeof v === 'string' && v in q.choices,
      yes: () => typeof v === 'boolean',
      figures: () =>
        v !== null &&
        typeof v === 'object' &&
        Object.values(v).every(
          (x) => typeof x === 'number' || (x === null && q.kind === 'figures' && q.gaps === true),
        ),
      texts: () =>
        v !== null && typeof v === 'object' && Object.values(v).every((x) => typeof x === 'string'),
      flags: () => v !== null && typeof v === 'object',
      rows: () => false,
      key: () => typeof v === 'string',
      text: () => typeof v === 'string',
      date: () => typeof v === 'string',
    };
    return fits[q.kind]() ? [] : [`${at} = ${JSON.stringify(v)} is no ${q.kind}`];
  };
  return [
    ...Object.entries(known).flatMap(([name, f]) =>
      f && !f.optional && (result[name] === undefined || result[name] === null)
        ? [`${path}${name} is missing`]
        : [],
    ),
    ...Object.entries(result).flatMap(([name, v]) => {
      const f = known[name];
      if (!f) return name.startsWith('why') ? [] : [`${path}${name} is not in the dictionary`];
      const q: Quantity = DICTIONARY[name as keyof typeof DICTIONARY];
      if (v === null || v === undefined) return [];
      return f.many
        ? Array.isArray(v)
          ? v.flatMap((x, i) => one(f, q, x, `${path}${name}[${i}]`))
          : [`${path}${name} is no list`]
        : one(f, q, v, `${path}${name}`);
    }),
  ];
}

describe('every method', () => {
  it.each(METHODS.map((m) => [m.id, m] as const))(
    '%s gives what it promises, for each worked example',
    async (id, m) => {
      for (const e of examples.filter((x) => x.method === id))
        expect(faults(m.fields.gives, await run(id, e.input)), e.id).toEqual([]);
    },
  );
  it('says in its schema what each field is', () => {
    for (const m of METHODS)
      for (const name of Object.keys(m.fields.takes)) {
        const q: Quantity = DICTIONARY[name as keyof typeof DICTIONARY];
        expect(q.about.length, `${m.id} ${name}`).toBeGreaterThan(3);
      }
  });
});

describe('figures given as text', () => {
  it.each([
    ['45 lb/ac', 50.438],
    ['45 kg/ha', 45],
  ])('%s is read in its unit', async (text, kgHa) => {
    const answer = await run('budget.balance', { requirement_kg_ha: text });
    expect(answer.net_kg_ha).toBeCloseTo(kgHa, 2);
  });
  it.each([
    ['budget.balance', { requirement_kg_ha: '45' }, 'requirement_kg_ha'],
    ['budget.balance', { requirement_kg_ha: '45 stone' }, 'requirement_kg_ha'],
    ['budget.balance', { requirement_kg_ha: '45 t/ha' }, 'requirement_kg_ha'],
    ['budget.credit_organic_matter_simple', { om_pct_mineral_soil: '3 %' }, 'om_pct_mineral_soil'],
  ])('%s refuses %j by name', async (id, input, field) => {
    await expect(run(id, input)).rejects.toMatchObject({ detail: { code: 'not_a_number', field } });
  });
  it('tells what is nested a hundred thousand deep, or named at length, in a few words', async () => {
    const deep = JSON.parse(`${'['.repeat(1e5)}${']'.repeat(1e5)}`) as unknown;
    const long = 'x'.repeat(300);
    for (const input of [
      { requirement_kg_ha: deep },
      { requirement_kg_ha: 1, credits_kg_ha: deep },
      { requirement_kg_ha: 1, credits_kg_ha: { [long]: 'much' } },
      { requirement_kg_ha: 1, [long]: 1 },
      deep,
    ]) {
      const e: unknown = await run('budget.balance', input).catch((x: unknown) => x);
      expect(e).toMatchObject({ detail: { message: expect.any(String) } });
      expect(JSON.stringify((e as { detail: unknown }).detail).length).toBeLessThan(1500);
    }
  });
});

it.each(METHODS.filter((m) => m.id !== 'organics.compost_maturity').map((m) => [m.id, m] as const))(
  '%s takes all that its own guards would take',
  async (id, m) => {
    const example = examples.find((e) => e.method === id)?.input as Record<string, unknown>;
    const narrower: string[] = [];
    for (const [name, f] of Object.entries(m.fields.takes) as [string, Field][]) {
      const q: Quantity = DICTIONARY[name as keyof typeof DICTIONARY];
      if (q.kind !== 'number' || f.many || !example) continue;
      // Past the schema, so that the calculation's own guard speaks.
      const e: unknown = await m
        .run({ ...example, [name]: 1e15 }, PRINTED)
        .catch((x: unknown) => x);
      const own = e instanceof Refusal && e.detail.field === name ? (e.detail.allowed ?? '') : '';
      const [, low, high] = /(-?[\d.]+) (?:to|up to) (-?[\d.]+)/.exec(own) ?? [];
      if (low !== undefined && (Number(low) < q.min || Number(high) > q.max))
        narrower.push(`${name}: ${q.min} to ${q.max}, but ${own}`);
    }
    expect(narrower).toEqual([]);
  },
);
