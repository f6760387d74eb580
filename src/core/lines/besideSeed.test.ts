import { expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { PRINTED } from '../book/book';
import type { Plan } from '../document/document';

const [, beet] = DEMO_PLANS.find(([n]) => n.startsWith('kiln-field 2026')) as [string, Plan];
const rules = (passes: [string, number, string?][], season: Partial<Plan['season']> = {}) =>
  assess(PRINTED, {
    ...beet,
    season: { ...beet.season, ...season },
    passes: passes.map(([productId, productKgHa, placementId = 'seed_row'], k) => ({
      id: `p${k}`,
      date: beet.season.plantingDate ?? beet.season.startDate,
      productId,
      productKgHa,
      placementId,
      status: 'planned' as const,
      pricePerT: null,
    })),
  })
    .supply.passes.flatMap((p) => p.warnings)
    .map((w) => w.id)
    .filter((id) => id.startsWith('S0'));

it('what lies beside the seed is judged together, by rows and opener', () => {
  expect(rules([['map_11_52', 20]])).toEqual([]);
  expect(rules([['map_11_52', 150]])).toContain('S01');
  // Two that are borne alone are too much together.
  const half = 30;
  expect(rules([['map_11_52', half]])).toEqual([]);
  expect(
    rules([
      ['map_11_52', half],
      ['map_11_52', half],
    ]),
  ).toContain('S01');
  expect(
    rules(
      [
        ['map_11_52', half],
        ['map_11_52', half],
      ],
      { rowCm: 15, openerId: 'sweep_wide_air' },
    ),
  ).toEqual([]);
});
it('what never lies there stops, and a band beside it does not', () => {
  expect(rules([['ammonium_thiosulphate_12_26s', 20]])).toContain('S04');
  expect(rules([['ammonium_thiosulphate_12_26s', 20, 'starter_5x5']])).toEqual([]);
});
