import { describe, expect, it } from 'vitest';
import { pass } from '../../demo/build';
import { assessSeason } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { whatIfsOf, type PassWhatIfs, type WhatIf } from './whatIf';

const look = (given: Plan): PassWhatIfs[] => {
  const book = bookOf(given.farm.library);
  const { plan, calendar, assessment } = assessSeason(book, given);
  const found = whatIfsOf(book, plan, assessment, calendar, { years: 10 });
  if (typeof found === 'string') throw new Error(found);
  return found;
};
const plan = (DEMO_PLANS.find(([n]) => n.startsWith('low-fleet')) as [string, Plan])[1];
const of = (list: PassWhatIfs[], id: string, change: WhatIf['change'], placement = '') =>
  list
    .find((x) => x.id === id)
    ?.changes.find((c) => c.change === change && (c.placement ?? '') === placement);

describe('what a pass is worth', () => {
  const list = look(plan);
  const [first, second] = plan.passes.map((p) => `pass.${p.id}`) as [string, string];
  it('leaving a pass out costs N in the crop and saves its money; half of it costs less', () => {
    const [skip, halve] = [of(list, second, 'skip'), of(list, second, 'halve')];
    expect(skip?.inCrop.p50).toBeLessThan(-30);
    expect(skip).toMatchObject({ clear: true });
    expect(halve?.inCrop.p50).toBeGreaterThan(skip?.inCrop.p50 ?? 0);
    expect(skip?.savedHa).toBeCloseTo((240 * 330) / 1000, 6);
    expect(halve?.savedHa).toBeCloseTo((skip?.savedHa ?? 0) / 2, 9);
    expect(skip?.shortShare).toBeGreaterThanOrEqual(halve?.shortShare ?? 1);
  });
  it('each planned pass and dressing stands there, with what suits its product', () => {
    expect(list.map((x) => x.id)).toEqual(
      expect.arrayContaining([
        first,
        second,
        ...plan.organics
          .filter((o) => o.cropYear === 1 && o.status === 'planned')
          .map((o) => `organic.${o.id}`),
      ]),
    );
    const ways = list.find((x) => x.id === second)?.changes.map((c) => c.placement);
    expect(ways).toContain('surface_band');
    expect(ways).not.toContain('coulter_injection_shallow');
  });
  it('urea worked in loses less to the air than urea on top', () => {
    const urea = {
      ...plan,
      passes: [pass('u', '2027-05-10', 'urea_46', 200, 'broadcast_surface')],
    };
    const worked = of(look(urea), 'pass.u', 'placement', 'broadcast_incorporated');
    expect(worked?.lost.p50).toBeLessThan(0);
  });
  it('a price of the crop makes yield at risk money', () => {
    expect(of(list, second, 'skip')?.riskHa).toEqual(
      plan.season.cropPricePerT === null ? null : expect.any(Number),
    );
    const priced = look({ ...plan, season: { ...plan.season, cropPricePerT: 40 } });
    expect(of(priced, second, 'skip')?.riskHa).toBeGreaterThan(0);
  });
  it('what is done is no longer asked about', () =>
    expect(
      look({ ...plan, passes: plan.passes.map((p) => ({ ...p, status: 'done' })) }).filter((x) =>
        x.id.startsWith('pass.'),
      ),
    ).toEqual([]));
});
