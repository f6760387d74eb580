import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { pkOutlook } from '../ground/pkSimulation';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from '../document/document';
import { pkSimulationOf } from './pkYears';

const plan: Plan = {
  ...terraceShortWorked(),
  season: { ...terraceShortWorked().season, cropPricePerT: 38 },
};
describe('P and K over the years, from the field’s own figures', () => {
  it('takes price, test, off-take and tenure of the plan', () => {
    const i = pkSimulationOf(PRINTED, plan, assess(PRINTED, plan), 'p');
    if (typeof i === 'string') throw new Error(i);
    expect(i).toMatchObject({
      yieldPot: 65,
      price: 38,
      cost: 2.8,
      start: 13,
      horizon: 15,
      tenure: 1,
    });
    const let8 = { ...plan, field: { ...plan.field, tenure: 'yearly_lease' as const } };
    expect(pkSimulationOf(PRINTED, let8, assess(PRINTED, let8), 'p')).toMatchObject({
      horizon: 1,
      tenure: 0,
    });
    const told: number[] = [];
    const o = pkOutlook({ ...i, runs: 40 }, (r) => told.push(r));
    expect(told.length).toBe(40);
    // Doing nothing draws the soil down; building it up does what its name says.
    expect(o.calm.none.sEnd).toBeLessThan(o.calm.sufficiency.sEnd);
    expect(o.calm.build_maintain.sEnd).toBeGreaterThan(o.calm.sufficiency.sEnd);
  });
  it('says what it lacks', () => {
    const without = (part: Partial<Plan['season']>) => {
      const p = { ...plan, season: { ...plan.season, ...part } };
      return pkSimulationOf(PRINTED, p, assess(PRINTED, p), 'p');
    };
    expect(without({ cropPricePerT: null })).toContain('price of the crop');
    expect(without({ cropKey: null })).toContain('Crop and goal');
    const blind = { ...plan, ground: { ...plan.ground, readings: [] } };
    expect(pkSimulationOf(PRINTED, blind, assess(PRINTED, blind), 'k')).toBe(
      'No readable test of K.',
    );
  });
});
