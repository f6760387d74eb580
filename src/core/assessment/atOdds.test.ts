import { describe, expect, it } from 'vitest';
import { spread } from '../../demo/build';
import { PRINTED } from '../book/book';
import type { Plan } from '../document/document';
import { NUTRIENT_KEYS } from '../lines/line';
import { assess } from './assess';
import { leaf, plan } from './scenario.testkit';

const beet = (more: Partial<Plan> = {}): Plan =>
  plan({
    season: {
      cropKey: 'sugar_beet',
      yieldGoalTHa: 60,
      plantingDate: '2027-03-28',
      harvestDate: '2027-10-20',
    },
    more,
  });
const told = (p: Plan) => assess(PRINTED, p).problems.map((x) => x.message);
const sheep = (id: string, areaFrac: number, date = '2027-03-05') =>
  spread(id, {
    date,
    materialKey: 'sheep_bedded',
    rate: 12,
    methodKey: 'solid_broadcast',
    areaFrac,
  });

describe('parts that contradict', () => {
  it('shares of one dressing above the whole field are told once, with each', () => {
    const both = beet({ organics: [sheep('a', 0.6), sheep('b', 0.7)] });
    expect(told(both)).toEqual([
      expect.stringMatching(/5 Mar 2027 covers 60 % and 70 % of the field, together more/u),
    ]);
    // The rest goes on: both count as they were entered.
    expect(assess(PRINTED, both).organics).toHaveLength(2);
    expect(told(beet({ organics: [sheep('a', 0.6), sheep('b', 0.4)] }))).toEqual([]);
    expect(told(beet({ organics: [sheep('a', 0.6), sheep('b', 0.7, '2027-03-20')] }))).toEqual([]);
  });
  it('a leaf of another crop is named with both crops, and changes nothing', () => {
    const apple = leaf('apple', 'leaf_midshoot', 77, '2027-07-28', { N: 2.1 });
    const p = beet({ leaves: [apple] });
    expect(told(p)).toEqual([
      'The leaf of 28 Jul 2027 is of Apple, while Sugar beet (roots) grows here: it is not read.',
    ]);
    const [a, b] = [assess(PRINTED, p), assess(PRINTED, beet())];
    for (const x of NUTRIENT_KEYS) expect(a.sums[x]).toEqual(b.sums[x]);
    expect(told(beet({ leaves: [{ ...apple, date: '2025-07-28' }] }))).toEqual([]);
  });
  it('a harvest before planting, or before the season, is told with both days', () => {
    const p = beet();
    expect(told({ ...p, season: { ...p.season, harvestDate: '2027-03-01' } }).join()).toMatch(
      /2027-03-01 is not after planting on 2027-03-28|1 Mar 2027/u,
    );
  });
});
