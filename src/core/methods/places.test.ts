import { describe, expect, it } from 'vitest';
import { planSchema } from '../document/document';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { run, METHODS } from './registry';
import { placeLines, placesFor, usedIn, type PlacedFigures } from './places';
import { workedExamples } from './workedExample';

const LINE = { id: 'new-line', date: '2027-03-04' };
const plan = terraceShortWorked();
const figuresOf = async (id: string, input: Record<string, unknown>): Promise<PlacedFigures> => ({
  ...input,
  ...(await run(id, input)),
});

describe('figures of a calculation in a plan', () => {
  it('puts what was worked out before what was put in', () => {
    const figures = { yield_goal_t_ha: 12, realistic_yield_t_ha: 9.5 };
    expect(placesFor(figures).map((p) => p.holds)).toEqual([['realistic_yield_t_ha']]);
    expect(
      usedIn(
        plan,
        figures,
        placesFor(figures).map((p) => p.id),
        LINE,
      ).season.yieldGoalTHa,
    ).toBe(9.5);
  });
  it('offers nothing where a figure of the place is not known', () => {
    expect(placesFor({ irrigation_mm: 120, nitrate_n_mg_l: 6 })).toEqual([]);
    expect(placesFor({ om_pct: null })).toEqual([]);
  });
  it('says what stands there, what would, and that it was reckoned for another crop', () => {
    const [goal] = placeLines(plan, { crop_key: 'pear', yield_goal_t_ha: 30 });
    expect(goal).toMatchObject({
      label: 'Yield goal',
      now: { yield_goal_t_ha: plan.season.yieldGoalTHa },
      then: { yield_goal_t_ha: 30 },
      same: false,
      otherCrop: true,
    });
    const same = placeLines(plan, {
      crop_key: plan.season.cropKey,
      yield_goal_t_ha: plan.season.yieldGoalTHa,
    });
    expect(same[0]).toMatchObject({ same: true, otherCrop: false });
  });
  it('adds a pass on its day, and leaves the others', async () => {
    const figures = await figuresOf('nitrogen.product_rate', {
      product_id: 'urea_46',
      nutrient: 'n',
      nutrient_target_kg_ha: 46,
    });
    const after = usedIn(plan, figures, ['passes'], LINE);
    expect(after.passes.slice(0, -1)).toEqual(plan.passes);
    expect(after.passes.at(-1)).toMatchObject({
      ...LINE,
      productId: 'urea_46',
      productKgHa: 100,
      pricePerT: null,
    });
  });
});

it('every example of every method leaves a plan that still is one', async () => {
  const seen = new Set<string>();
  for (const { method, input, expected } of await workedExamples()) {
    if ('refuse' in expected || !METHODS.some((m) => m.id === method)) continue;
    const figures = await figuresOf(method, input as Record<string, unknown>);
    for (const { id, read, dated } of placesFor(figures)) {
      seen.add(id);
      const after = usedIn(plan, figures, [id], LINE);
      const parsed = planSchema.safeParse(after);
      // The plan's own span may be narrower than the calculation's: then it is refused by name.
      if (!parsed.success) {
        expect(parsed.error.issues[0]?.path.join('.')).not.toBe('');
        continue;
      }
      if (read(after) !== null && !dated)
        expect(placeLines(after, figures).find((l) => l.id === id)?.same).toBe(true);
    }
  }
  expect(seen.size).toBeGreaterThan(20);
}, 120_000);
