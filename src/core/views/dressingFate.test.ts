import { describe, expect, it } from 'vitest';
import { DEMO_FARMS } from '../../demo/scenario';
import { assess } from '../assessment/assess';
import { PRINTED } from '../book/book';
import { cropOf } from '../book/crops';
import { countedYield } from '../budget/requirement';
import { dressingFate } from './dressingFate';

const dressings = DEMO_FARMS.flatMap((f) => f.fields.flatMap((x) => x.seasons)).flatMap((plan) => {
  const a = assess(PRINTED, plan);
  const crop = plan.season.cropKey ? cropOf(PRINTED, plan.season.cropKey) : null;
  if (!crop) return [];
  const uptake = crop.uptakeNKgT * countedYield(crop, plan.season.yieldGoalTHa ?? 0);
  return a.organics
    .filter((o) => o.app.cropYear === 1)
    .map((o) => ({ o, fate: dressingFate(o, a.sums.n, uptake), sums: a.sums.n, uptake }));
});

describe('where the N of a dressing goes', () => {
  it('adds up to all of it, for every dressing of the demo', () => {
    expect(dressings.length).toBeGreaterThan(5);
    for (const { o, fate } of dressings) {
      if (!fate) continue;
      const sum = fate.reduce((s, p) => s + p.kgHa, 0);
      expect(Math.abs(sum - o.rateTHa * o.analysis.totalNKgT), o.app.id).toBeLessThan(0.3);
      for (const p of fate) expect(p.kgHa).toBeGreaterThan(0);
    }
  });
  it('gives the crop its share of what counts, never more', () => {
    for (const { o, fate, sums, uptake } of dressings) {
      const crop = fate?.find((p) => p.id === 'crop')?.kgHa ?? 0;
      expect(crop).toBeLessThanOrEqual(Math.max(0, o.nKgHa) + 1e-9);
      if (fate && uptake < sums.requirement) expect(crop).toBeLessThan(o.nKgHa + 1e-9);
    }
  });
  it('says nothing of what ties N up', () => {
    const [first] = dressings;
    if (!first) throw new Error('no dressing');
    expect(dressingFate({ ...first.o, nKgHa: -5 as never }, first.sums, first.uptake)).toBeNull();
  });
});
