import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assessSeason } from '../assessment/assess';
import { DEMO_PLANS, WILD } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import { outlookOf, type Outlook } from './outlook';

const look = (given: Plan, options: Parameters<typeof outlookOf>[4] = {}) => {
  const book = bookOf(given.farm.library);
  const { plan, calendar, assessment } = assessSeason(book, given);
  return {
    a: assessment,
    o: outlookOf(book, plan, assessment, calendar, { years: 6, ...options }),
  };
};
const ran = (o: Outlook | string): Outlook => {
  if (typeof o === 'string') throw new Error(o);
  return o;
};
const seasonOf = (name: string): Plan =>
  (DEMO_PLANS.find(([n]) => n.startsWith(name)) as [string, Plan])[1];

describe('a plan over many years of weather', () => {
  it.each(DEMO_PLANS)('%s is run, or says why not', (_, plan) => {
    const { o } = look(plan);
    if (typeof o === 'string') expect(o).toMatch(/\.$/u);
    else {
      expect(o.years).toBe(6);
      for (const list of [o.supply.p10, o.supply.p50, o.supply.p90, o.demand, o.drained])
        for (const v of list) expect(v).toBeGreaterThanOrEqual(0);
      o.days.forEach((_d, i) =>
        expect(o.supply.p10[i]).toBeLessThanOrEqual((o.supply.p90[i] ?? 0) + 1e-9),
      );
      expect(inWords(o.sentence)).toMatch(/^The sheet reckons with a middling year/u);
    }
  });
  it('W9-40: running it, with whatever seed, changes nothing of the sheet', () => {
    const plan = seasonOf('low-fleet');
    const [one, other] = [look(plan, { seed: 1 }), look(plan, { seed: 99 })];
    expect(other.a.sums).toEqual(one.a.sums);
    expect(ran(other.o).sheetEndKgHa).toBe(ran(one.o).sheetEndKgHa);
    expect(ran(other.o).spreads).not.toEqual(ran(one.o).spreads);
    expect(ran(look(plan, { seed: 1 }).o)).toEqual(ran(one.o));
  });
  it('what is left out and still to apply is told beside the weather', () => {
    const { a, o } = look(seasonOf('low-fleet'));
    expect(inWords(ran(o).sentence)).toContain(
      `${Math.round(a.sums.n.leftOut)} kg/ha are left out on purpose`,
    );
    expect(inWords(ran(o).sentence, 'us')).not.toMatch(/kg\/ha/u);
  });
  it('a pass that is skipped costs N in every year', () => {
    const plan = seasonOf('low-fleet');
    const whole = ran(look(plan).o);
    const less = ran(look({ ...plan, passes: plan.passes.slice(0, 1) }).o);
    expect(less.spreads.plantNFrac?.p50).toBeLessThan((whole.spreads.plantNFrac?.p50 ?? 0) - 0.1);
    expect(less.shortWorstKgHa).toBeGreaterThan(whole.shortWorstKgHa + 30);
  });
  it('can be stopped: what is done stands', () =>
    expect(ran(look(seasonOf('low-fleet'), { onYear: (y) => y < 2 }).o).years).toBe(2));
  it('without organic matter, dates or a stage table it says so', () => {
    const plan = seasonOf('low-fleet');
    expect(look({ ...plan, field: { ...plan.field, omPct: null } }).o).toMatch(/Organic matter/u);
    expect(look({ ...plan, season: { ...plan.season, harvestDate: null } }).o).toMatch(/dates/u);
    expect(look({ ...plan, season: { ...plan.season, cropKey: 'hazelnut' } }).o).toMatch(
      /dates first|stage table/u,
    );
  });
  it('nitrate that nobody sampled is named as assumed', () => {
    const plan = seasonOf('low-fleet');
    const { o } = look({
      ...plan,
      ground: { ...plan.ground, nitrateLayers: [], nitrateSampleDate: null },
    });
    expect(ran(o).assumed.join()).toMatch(/soil nitrate \d+ kg\/ha, the middle of what is usual/u);
  });
  it('a nitrate sample without a day is of the first day, and counts', () => {
    const plan = seasonOf('low-fleet');
    const undated = { ...plan, ground: { ...plan.ground, nitrateSampleDate: null } };
    const none = { ...undated.ground, nitrateLayers: [] };
    const o = ran(look(undated).o);
    expect(o.assumed).toContain('the nitrate sample is of the first day');
    expect(o.assumed.join()).not.toMatch(/middle of what is usual/u);
    expect(o.supply.p50[0]).toBeGreaterThan(20);
    expect(ran(look({ ...undated, ground: none }).o).assumed).not.toEqual(o.assumed);
  });
  it('what is outside the model is named, never cut to fit', () => {
    const plan = seasonOf('low-fleet');
    const [first, ...rest] = plan.passes;
    if (!first) throw new Error('no pass');
    expect(look({ ...plan, passes: [{ ...first, productKgHa: 2000 }, ...rest] }).o).toMatch(
      /^The years cannot be run: .*540 kg\/ha is outside 0 to 400/u,
    );
  });
  it('whatever was entered, it is run or refused by name, and never breaks', () =>
    fc.assert(
      fc.property(WILD, (plan) => {
        const { o } = look(plan, { years: 2 });
        if (typeof o !== 'string') expect(JSON.stringify(o)).not.toMatch(/NaN|Infinity|null,null/u);
      }),
      { numRuns: 120 },
    ));
});
