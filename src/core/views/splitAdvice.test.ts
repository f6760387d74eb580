import { describe, expect, it } from 'vitest';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { assess } from '../assessment/assess';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { inPeriod } from '../lines/days';
import { inWords } from '../why/said';
import { adviseSplit, type SplitAdvised } from './splitAdvice';

const plans = DEMO_PLANS.filter(([name]) =>
  ['low-fleet 2026', 'terrace-long 2026', 'bay-one 2026', 'bay-two 2026', 'bay-four'].some((n) =>
    name.startsWith(n),
  ),
);
const advise = (
  plan: Plan,
  more: Partial<Parameters<typeof adviseSplit>[2]> = {},
): SplitAdvised => {
  const found = adviseSplit(bookOf(plan.farm.library), plan, {
    productId: 'can_27',
    risk: 0.1,
    newId: (k) => `p${k}`,
    years: 6,
    ...more,
  });
  if (typeof found === 'string') throw new Error(found);
  return found;
};
const taken = (plan: Plan, found: SplitAdvised): Plan => ({
  ...plan,
  passes: [...plan.passes.filter((p) => p.status === 'done'), ...found.passes.map((p) => p.pass)],
});

describe('a split that is searched over weather years', () => {
  it.each(plans)('%s: within windows, doses, closed periods and the ceiling', (_, plan) => {
    const found = advise(plan);
    const book = bookOf(plan.farm.library);
    const a = assess(book, taken(plan, found));
    for (const p of found.passes) {
      expect(p.date >= plan.asOf).toBe(true);
      if (p.date !== p.startDate) {
        expect(p.date >= p.from && p.date <= p.to, p.name).toBe(true);
        expect(plan.farm.closedPeriods.some((c) => inPeriod(p.date, c))).toBe(false);
      }
      expect(p.nKgHa % 5).toBe(0);
    }
    const placed = found.passes.reduce((s, p) => s + p.nKgHa, 0);
    expect(placed + found.unplacedKgHa).toBeLessThanOrEqual(found.advice.totalKgHa + 5);
    expect(placed).toBeLessThanOrEqual(a.caps.nAllowedKgHa + 5);
    expect(a.supply.passes.flatMap((p) => p.warnings).some((w) => w.id === 'N05')).toBe(false);
  });
  it.each(plans)('%s: what is proposed is never worse than the template', (_, plan) => {
    const { start, best } = advise(plan).advice;
    expect(best.leastKgHa ?? Infinity).toBeLessThanOrEqual(start.leastKgHa ?? Infinity);
    if (best.leastKgHa === start.leastKgHa)
      expect(best.shortShare).toBeLessThanOrEqual(start.shortShare);
  });
  it('is the same whenever it is asked, and tells why', () => {
    const [, plan] = plans[0] as [string, Plan];
    const [one, other] = [advise(plan), advise(plan)];
    expect(other).toEqual(one);
    const words = one.words.map((w) => inWords(w)).join(' ');
    expect(words).toContain('what the sheet still asks for');
    expect(words).toContain('To be short in no more than 10 % of the years');
  });
  it('stops when told to, with the best so far', () => {
    const [, plan] = plans.find(([n]) => n.startsWith('bay-two')) as [string, Plan];
    const found = advise(plan, { onTried: () => false });
    expect(found.advice.stopped).toBe(true);
    expect(found.passes.length).toBeGreaterThan(0);
  });
  it('a season that is over is not split, nor a crop that wants nothing more', () => {
    const of = (name: string) =>
      (DEMO_PLANS.find(([n]) => n.startsWith(name)) as [string, Plan])[1];
    expect(() => advise(of('kiln-field 2025'))).toThrow('This season is over');
    expect(() => advise(of('rookery 2026'))).toThrow('too little to drive out for');
  });
});
