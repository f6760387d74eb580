import { describe, expect, it } from 'vitest';
import { assessSeason } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import { comparePlans, type Comparison } from './compare';
import { dailyWeather } from './dailyWeather';
import { lateReleasesOf, type LateRelease } from './lateRelease';
import { bearingShare } from './workable';

const seasonOf = (name: string): Plan =>
  (DEMO_PLANS.find(([n]) => n.startsWith(name)) as [string, Plan])[1];
const named = (id: string, given: Plan) => {
  const { plan, calendar, assessment } = assessSeason(bookOf(given.farm.library), given);
  return { id, name: id, plan, a: assessment, calendar };
};
const compare = (...plans: [string, Plan][]): Comparison => {
  const first = plans[0]?.[1] as Plan;
  const found = comparePlans(
    bookOf(first.farm.library),
    plans.map(([id, p]) => named(id, p)),
    { years: 8 },
  );
  if (typeof found === 'string') throw new Error(found);
  return found;
};
const beet = seasonOf('low-fleet 2026');

describe('plans beside each other in the same years', () => {
  it('a plan against itself: no year differs', () => {
    const { plans, paired } = compare(['a', beet], ['b', beet]);
    expect(plans[1]).toEqual({ ...plans[0], id: 'b', name: 'b' });
    expect(paired[0]).toMatchObject({ spread: { p10: 0, p50: 0, p90: 0 }, clear: false });
    expect(inWords(paired[0]?.words ?? '')).toContain('loses about as much as the plan');
  });
  it('less N: cheaper, more often short, and never more of it in the crop', () => {
    const less = { ...beet, passes: beet.passes.slice(0, 1) };
    const found = compare(['plan', beet], ['less', less]);
    const [plan, other] = found.plans as [Comparison['plans'][0], Comparison['plans'][0]];
    expect(other.nKgHa).toBeLessThan(plan.nKgHa);
    expect(other.shortShare).toBeGreaterThanOrEqual(plan.shortShare);
    expect(other.inCrop?.p50 ?? 0).toBeLessThanOrEqual((plan.inCrop?.p50 ?? 0) + 1e-9);
    expect(found.cheapest).toBe('less');
  });
  it('a plan that cannot be run says why; the rest is weighed', () => {
    const unknown = { ...beet, field: { ...beet.field, omPct: null } };
    const { plans, notRun } = compare(['plan', beet], ['b', unknown]);
    expect(plans.map((p) => p.id)).toEqual(['plan']);
    expect(notRun[0]?.why).toContain('Organic matter');
  });
});

describe('what a dressing still releases late', () => {
  const late = (plan: Plan): LateRelease[] => {
    const { plan: known, calendar, assessment } = assessSeason(bookOf(plan.farm.library), plan);
    const found = lateReleasesOf(bookOf(plan.farm.library), known, assessment, calendar, {
      years: 8,
    });
    if (typeof found === 'string') throw new Error(found);
    return found;
  };
  it('compost still feeds after the run-down; a bed without it does so less', () => {
    const [first] = late(seasonOf('bay-one 2026')) as [LateRelease];
    expect(first.isRunDown).toBe(true);
    const [planned, without, mix] = first.beds as LateRelease['beds'] &
      [LateRelease['beds'][0], LateRelease['beds'][0], LateRelease['beds'][0]];
    expect(first.ownAfterKgHa).toBeGreaterThan(0);
    expect(planned.after.p50).toBeGreaterThan(without.after.p50);
    expect(mix.after.p50).toBeGreaterThan(without.after.p50);
    expect(mix.after.p50).toBeLessThan(planned.after.p50);
    expect(mix.inCrop.p50).toBeGreaterThan(without.inCrop.p50 - 1e-9);
  });
  it('a plan without a dressing has none', () =>
    expect(late({ ...beet, organics: [] })).toEqual([]));
  it('twice the compost releases more, before and after', () => {
    const plan = seasonOf('bay-one 2026');
    const twice = { ...plan, organics: plan.organics.map((o) => ({ ...o, rate: o.rate * 2 })) };
    const [[one], [two]] = [late(plan), late(twice)];
    expect(two?.ownAfterKgHa ?? 0).toBeGreaterThan(one?.ownAfterKgHa ?? 0);
  });
});

describe('days that bear a machine', () => {
  it('a week is enough where it holds the days that are needed', () => {
    const years = [Uint8Array.from([0, 0, 1, 0, 0, 0, 0, 1]), new Uint8Array(8)];
    expect(bearingShare(years, 0)).toBe(0.5);
    expect(bearingShare(years, 1, 2)).toBe(0.5);
    expect(bearingShare(years, 3, 2)).toBe(0);
    expect(bearingShare([], 0)).toBe(0);
  });
});

describe('weather day by day', () => {
  const day = { tMin: 8, tMax: 18, rainMm: 0 };
  it('without evaporation it is reckoned', () =>
    expect(dailyWeather('2025-06-10', [day], 52).et0Mm[0]).toBeGreaterThan(2));
  it.each([
    ['no day', [], 'weather'],
    ['rain below 0', [{ ...day, rainMm: -1 }], 'weather[0].rain_mm'],
    ['a minimum above the maximum', [day, { ...day, tMin: 20 }], 'weather[1].t_min'],
    ['no number', [{ ...day, tMax: Number.NaN }], 'weather[0].t_max'],
  ])('%s is refused by name', (_, days, field) => {
    try {
      dailyWeather('2025-06-10', days, 52);
      expect.unreachable();
    } catch (e) {
      expect((e as { detail: { field: string } }).detail.field).toBe(field);
    }
  });
});
