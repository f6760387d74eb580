import { PRINTED } from '../core/book/book';
import { describe, expect, it } from 'vitest';
import { fromHundredths } from '../core/quantity/rounding';
import { asLines } from '../core/why/step';
import type { Plan } from '../core/document/document';
import { figuresOf } from '../core/views/figures';
import { hundredths, NUTRIENT_KEYS } from '../core/lines/line';
import { Refusal } from '../core/quantity/refusal';
import { proposeSplit } from '../core/views/splitProposal';
import { DEMO_FARMS } from './scenario';

const plans: [string, Plan][] = DEMO_FARMS.flatMap((f) =>
  f.fields.flatMap((x) => x.seasons.map((s): [string, Plan] => [`${x.key} ${s.season.label}`, s])),
);
const planned = plans.filter(
  ([, p]) => p.season.cropKey !== null && p.season.yieldGoalTHa !== null,
);

describe('the demo farms', () => {
  it('are three, with fields that have names of their own', () => {
    expect(DEMO_FARMS).toHaveLength(3);
    const keys = DEMO_FARMS.flatMap((f) => f.fields.map((x) => x.key));
    expect(new Set(keys).size).toBe(keys.length);
  });
  it.each(planned)('%s: the sheet adds up and each line can be explained', (_, plan) => {
    const { a, sheet } = figuresOf(PRINTED, plan);
    for (const x of NUTRIENT_KEYS) {
      const sum = a.lines.reduce(
        (s, l) => s + (l.kind === 'requirement' || l.kind === 'debit' ? 1 : -1) * hundredths(l, x),
        0,
      );
      expect(fromHundredths(sum)).toBeCloseTo(a.sums[x].net, 9);
      expect(sheet.totals.find((t) => t.kind === 'still_to_apply')?.[x]).toBeGreaterThanOrEqual(0);
    }
    for (const l of a.lines)
      for (const x of NUTRIENT_KEYS)
        if ((l[x] ?? 0) !== 0) expect(l.why[x], `${l.id}.${x}`).toBeDefined();
    for (const f of a.figures) expect(asLines(f).join('\n')).not.toMatch(/NaN|undefined|Infinity/);
  });
  it.each(planned)(
    '%s: its figures are data: they go from the server to the screen as they are',
    (_, plan) => {
      const f = figuresOf(PRINTED, plan, true);
      expect(structuredClone(f)).toEqual(f);
    },
  );
  it.each(planned)('%s: every warning says what is wrong and what to do', (_, plan) => {
    for (const w of figuresOf(PRINTED, plan).a.warnings)
      expect(`${w.message} | ${w.action}`).not.toMatch(/[{}]|NaN|undefined| null/);
  });
  it.each(planned)('%s: the furrow only gives, never takes back', (_, plan) => {
    const { section } = figuresOf(PRINTED, plan);
    if (!section) return;
    const rising = (v: number[]) => v.every((x, i) => i === 0 || x >= (v[i - 1] ?? 0) - 1e-6);
    expect(rising(section.demand)).toBe(true);
    for (const s of section.strata) {
      expect(s.given.every(Number.isFinite), s.label).toBe(true);
      expect(s.given.at(-1) ?? 0, s.label).toBeLessThanOrEqual(s.total + 1e-6);
    }
    expect(section.days[0]).toBe(0);
  });
  it.each(planned.filter(([, p]) => p.season.label === '2026/27'))(
    '%s: a split keeps the N of the budget, or says why there is none',
    (_, plan) => {
      const bare = { ...plan, passes: [] };
      const wanted = figuresOf(PRINTED, bare).a.caps.nAllowedKgHa;
      try {
        const split = proposeSplit(PRINTED, bare, 'can_27', (k) => `p${k}`);
        const placed = figuresOf(PRINTED, { ...bare, passes: split.passes }).a.supply.total.n;
        expect(placed + split.unplacedKgHa).toBeGreaterThan(wanted - 6);
        expect(placed).toBeLessThan(wanted + 6);
        expect(split.passes.length).toBeLessThanOrEqual(3);
        for (const p of split.passes) expect(p.date >= plan.season.startDate).toBe(true);
      } catch (e) {
        if (!(e instanceof Refusal)) throw e;
        expect(e.message).toMatch(/stage table|still to apply|template/);
      }
    },
  );
});
