import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import { bandedRates } from './banded';

const banded = (plan: Plan) => {
  const book = bookOf(plan.farm.library);
  const a = assess(book, plan);
  return { a, rates: bandedRates(book, plan, a) };
};

describe('P and K in a band', () => {
  it.each(DEMO_PLANS)(
    '%s: never more than half is saved, and no rate without a class',
    (_, plan) => {
      const { a, rates } = banded(plan);
      for (const r of rates) {
        expect(a.ground.classes[r.nutrient === 'p' ? 'P' : 'K'] ?? 'unknown').not.toBe('unknown');
        expect(r.broadcastKgHa).toBe(a.sums[r.nutrient].stillToApply);
        for (const b of r.bands) {
          expect(b.rateKgHa).toBeGreaterThanOrEqual(0.5 * r.broadcastKgHa - 1e-9);
          expect(b.savesKgHa).toBeCloseTo(r.broadcastKgHa - b.rateKgHa, 9);
        }
        expect(inWords(r.words, 'us')).not.toMatch(/kg\/ha|NaN/u);
      }
    },
  );
  it('some of the demo saves by a band, and is told what the ground loses', () => {
    const all = DEMO_PLANS.flatMap(([, plan]) => banded(plan).rates);
    expect(all.length).toBeGreaterThan(0);
    expect(all.some((r) => r.bands.some((b) => b.savesKgHa > 1))).toBe(true);
  });
  it('a plan without a crop, or one that asks for nothing, has none', () => {
    const [, plan] = DEMO_PLANS[0] as [string, Plan];
    expect(banded({ ...plan, season: { ...plan.season, cropKey: null } }).rates).toEqual([]);
  });
});
