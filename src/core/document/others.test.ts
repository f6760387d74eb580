import { expect, it } from 'vitest';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { PRINTED } from '../book/book';
import type { Plan } from './document';
import { withoutUnknown, withRowReplaced } from './keys';
import { exchanged, heldAside, withOther } from './others';
import { readPlanFile, writePlanFile } from './seasonFile';

const plan = terraceShortWorked();
const held = (p: Plan): Plan => ({ ...p, others: [heldAside(p, 'b', 'plan B')] });

it('holding aside changes nothing of the plan', () => {
  const { others, ...rest } = held(plan);
  expect(others).toHaveLength(1);
  expect({ ...rest, others: [] }).toEqual({ ...plan, others: [] });
});
it('taking the other and taking it back is where one began: nothing is lost', () => {
  const changed: Plan = { ...held(plan), passes: [], organics: [] };
  const taken = exchanged(changed, 'b', 'before');
  expect(taken.passes.map((p) => p.id).toSorted()).toEqual(plan.passes.map((p) => p.id).toSorted());
  expect(taken.others[0]).toMatchObject({ name: 'before', passes: [] });
  const back = exchanged(taken, 'b', 'plan B');
  expect(back.passes.filter((p) => p.status === 'planned')).toEqual([]);
  expect(exchanged(plan, 'nobody', 'x')).toBe(plan);
});
it('what was spread stands in every plan, and a dressing comes out of its store again', () => {
  const [, farm] = DEMO_PLANS.find(([n]) => n.startsWith('low-fleet')) as [string, Plan];
  const other = heldAside(farm, 'b', 'B');
  expect(other.organics.every((o) => o.status === 'planned' && o.storeId === null)).toBe(true);
  const taken = withOther({ ...farm, passes: farm.passes.slice(0, 1) }, other);
  expect(taken.organics.map((o) => o.storeId).toSorted()).toEqual(
    farm.organics.map((o) => o.storeId).toSorted(),
  );
  expect(taken.organics.filter((o) => o.status === 'done')).toEqual(
    farm.organics.filter((o) => o.status === 'done'),
  );
});
it('goes into the season file and comes back', () => {
  const p = held(plan);
  expect(readPlanFile(JSON.parse(writePlanFile(p))).others).toEqual(p.others);
});

it('an unknown product or material of another supply, or an unknown opener, breaks nothing', () => {
  const p = held(plan);
  const [other] = p.others as [Plan['others'][0]];
  const odd: Plan = {
    ...p,
    field: { ...p.field, drainageClass: 'swamp' },
    season: { ...p.season, openerId: 'spoon' },
    others: [{ ...other, passes: other.passes.map((x) => ({ ...x, productId: 'gold_dust' })) }],
  };
  const { plan: known, unknown } = withoutUnknown(PRINTED, odd);
  expect(unknown.map((u) => u.field)).toContain('others[0].passes[0].product_id');
  expect(known).toMatchObject({
    field: { drainageClass: null },
    season: { openerId: null },
    others: [{ passes: [] }],
  });
  expect(known.passes).toEqual(p.passes);
  const renamed = withRowReplaced(p, 'fertilisers', other.passes[0]?.productId ?? '', 'urea_46');
  expect(renamed.others[0]?.passes[0]?.productId).toBe('urea_46');
});
