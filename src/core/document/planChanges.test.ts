import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { planChanges } from './planChanges';

describe('what a plan file would change', () => {
  const plan = terraceShortWorked();
  it('is nothing where it is the same plan under other ids', () => {
    const other = {
      ...plan,
      organics: plan.organics.map((o) => ({ ...o, id: `${o.id}-again` })),
      passes: plan.passes.map((p) => ({ ...p, id: `${p.id}-again` })),
      asOf: '2030-01-01',
    };
    expect(planChanges(plan, other)).toEqual([]);
  });
  it('names each place with what stands there and what would', () => {
    const other = {
      ...plan,
      season: { ...plan.season, yieldGoalTHa: 60, cropKey: null, eatenRaw: true },
      organics: [],
      field: { ...plan.field, omPct: (plan.field.omPct ?? 0) + 1 },
      lime: null,
    };
    const changes = planChanges(plan, other);
    expect(changes).toContainEqual({
      path: 'season.yield_goal_t_ha',
      before: String(plan.season.yieldGoalTHa),
      after: '60',
    });
    expect(changes).toContainEqual({
      path: 'season.crop_key',
      before: plan.season.cropKey,
      after: 'not known',
    });
    expect(changes).toContainEqual({ path: 'season.eaten_raw', before: 'no', after: 'yes' });
    expect(changes).toContainEqual({
      path: 'organics',
      before: `${plan.organics.length} lines`,
      after: 'none',
    });
  });
  it('says so where a list is as long with other figures', () => {
    const passes = plan.passes.map((p) => ({ ...p, productKgHa: p.productKgHa + 1 }));
    expect(planChanges(plan, { ...plan, passes })[0]?.after).toMatch(/other figures$/u);
  });
});
