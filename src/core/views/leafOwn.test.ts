import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { fertilisers } from '../book/fertilisers';
import type { Plan } from '../document/document';
import type { OwnLeaf } from '../document/leafDocument';
import type { LeafSampleFact } from '../facts/leafSample';
import { inWords } from '../why/said';
import { feedAgainst, feedWanted } from './feedBeside';
import { fruitDropOf } from './fruitDrop';
import { beetLeaf, beetsWith, FED, lookAt, seasonOf } from './leafBeside.testkit';

const own = (more: Partial<OwnLeaf>): OwnLeaf => ({
  standards: [],
  norms: [],
  similar: [],
  ...more,
});
const withOwn = (plan: Plan, more: Partial<OwnLeaf>): Plan => ({
  ...plan,
  farm: { ...plan.farm, ownLeaf: own(more) },
});
const SET = lookAt(beetsWith(beetLeaf(FED))).beside.leaf?.assessment.standard?.setId ?? null;
const whose = { by: 'Ines', on: '2027-06-01' };
const standard = (more: Partial<OwnLeaf['standards'][number]> = {}) => ({
  id: 's1',
  cropKey: 'sugar_beet',
  setId: SET,
  part: 'blade',
  bbchFrom: 36,
  bbchTo: 39,
  blocks: [{ field: 'Terrace Long', date: '2026-06-20' }],
  figures: [
    { nutrient: 'N', n: 12, mean: 5.4, sd: 0.3, lower: null, upper: null },
    { nutrient: 'Mo', n: 12, mean: 1, sd: 0.2, lower: null, upper: null },
  ],
  why: 'best sugar',
  ...whose,
  ...more,
});
const norm = (ratio: string, normMean: number, more: object = {}) => ({
  normSet: 'trial',
  cropKey: 'sugar_beet',
  setId: SET,
  part: 'blade',
  bbchFrom: 36,
  bbchTo: 39,
  ratio,
  normMean,
  cvPct: 15,
  nSamples: 200,
  source: 'a journal',
  confidence: 'medium' as const,
  ...whose,
  ...more,
});
const spinach = (values: Record<string, number>, more: Partial<LeafSampleFact> = {}): Plan => {
  const plan = beetsWith(
    beetLeaf(values, { cropKey: 'spinach', part: 'wrapper_leaf', bbch: 45, ...more }),
  );
  return { ...plan, season: { ...plan.season, cropKey: 'spinach', use: null } };
};

describe('good blocks of the farm beside a leaf', () => {
  const beets = beetsWith(beetLeaf(FED));
  it('say how far it lies from them, and class nothing', () => {
    const plain = lookAt(beets).beside;
    const { beside } = lookAt(withOwn(beets, { standards: [standard()] }));
    expect(beside.own).toMatchObject([
      { provisional: true, rows: [{ nutrient: 'N', value: 4.6, says: 'far_below' }] },
    ]);
    expect(beside.leaf?.assessment).toEqual(plain.leaf?.assessment);
    expect(beside.warnings).toEqual(plain.warnings);
  });
  it('of another crop, part or stage are not there', () => {
    for (const more of [
      { cropKey: 'maize_grain' },
      { part: 'petiole' },
      { setId: 'apple_low_k_group_leaf' },
      { setId: null },
    ])
      expect(lookAt(withOwn(beets, { standards: [standard(more)] })).beside.own).toEqual([]);
  });
});

describe('balance by norms of the farm', () => {
  const rows = (values: Record<string, number>) =>
    lookAt(
      withOwn(beetsWith(beetLeaf(values)), {
        norms: [norm('N/P', 11.5), norm('N/K', 1.35), norm('K/P', 8.5)],
      }),
    ).beside.balance[0]?.rows;
  it('names a nutrient short only where its range agrees', () => {
    const short = rows({ ...FED, K: 1.2 });
    expect(short?.[0]).toMatchObject({ nutrient: 'K', says: 'short_by_both' });
    const lowest = rows({ ...FED, N: 6, P: 0.55 });
    expect(lowest?.[0]).toMatchObject({ nutrient: 'K', says: 'relatively_lowest' });
  });
  it('is none without norms, of another stage, or where no pair was measured', () => {
    const beets = beetsWith(beetLeaf({ N: 4.6 }));
    expect(lookAt(beets).beside.balance).toEqual([]);
    const early = [norm('N/P', 11.5, { bbchFrom: 12, bbchTo: 16 })];
    expect(lookAt(withOwn(beets, { norms: early })).beside.balance).toEqual([]);
    const [none] = lookAt(withOwn(beets, { norms: [norm('N/P', 11.5)] })).beside.balance;
    expect(none).toMatchObject({ reading: null, rows: [] });
    expect(none?.refused).toMatch(/no pair of trial was measured/u);
  });
});

describe('a crop without ranges', () => {
  it('is read beside a crop that the farm named, and calls nothing short', () => {
    const leaf = spinach({ N: 2, K: 6 });
    expect(lookAt(leaf).beside.similar).toBeNull();
    const named = withOwn(leaf, { similar: [{ cropKey: 'spinach', like: 'lettuce', ...whose }] });
    const { beside, a } = lookAt(named);
    expect(beside.similar).toMatchObject({ like: 'lettuce', refused: null });
    expect(beside.similar?.rows.find((r) => r.nutrient === 'N')?.says).toBe('below');
    expect(a.leaf.short).toEqual([]);
    expect(beside.leaf?.assessment.results.every((r) => r.cls === null)).toBe(true);
  });
  it('of another part the similar crop has nothing to say', () => {
    const leaf = spinach({ N: 2 }, { part: 'ear_leaf' });
    const named = withOwn(leaf, { similar: [{ cropKey: 'spinach', like: 'lettuce', ...whose }] });
    expect(lookAt(named).beside.similar?.refused).toMatch(/no range of this part/u);
  });
  it('a crop that has ranges is never read by another’s', () =>
    expect(
      lookAt(
        withOwn(beetsWith(beetLeaf(FED)), {
          similar: [{ cropKey: 'sugar_beet', like: 'lettuce', ...whose }],
        }),
      ).beside.similar,
    ).toBeNull());
  it('still makes a pair, and a line over the years at the same stage', () => {
    const plan = spinach({ N: 4, K: 6 });
    const at = (year: number, bbch = 45): LeafSampleFact => ({
      ...(plan.leaves[0] as LeafSampleFact),
      id: `y${year}`,
      date: `${year}-06-20`,
      bbch,
      values: [{ nutrient: 'N', reported: String(4 - (2027 - year) / 10), unit: '%' }],
    });
    const { beside } = lookAt({
      ...plan,
      leaves: [...plan.leaves, at(2026), at(2025), at(2024, 20)],
    });
    expect(beside.years).toMatchObject([{ nutrient: 'N', limits: null }]);
    expect(beside.years[0]?.points.map((p) => p.year)).toEqual([2025, 2026, 2027]);
    const half = (role: 'affected' | 'unaffected', k: number): LeafSampleFact => ({
      ...at(2027),
      id: role,
      date: '2027-06-24',
      role,
      values: [{ nutrient: 'K', reported: String(k), unit: '%' }],
    });
    const pair = lookAt({ ...plan, leaves: [half('affected', 2), half('unaffected', 6)] }).beside
      .pair;
    expect(pair?.refused).toBeNull();
    expect(pair?.rows[0]).toMatchObject({ nutrient: 'K', affected: 2, unaffected: 6 });
  });
});

describe('more N in a crop that makes leaf of it', () => {
  const pumpkin = (n: number) => {
    const plan = beetsWith(
      beetLeaf({ N: n }, { cropKey: 'winter_squash', part: 'youngest_mature_leaf', bbch: 61 }),
    );
    return lookAt({ ...plan, season: { ...plan.season, cropKey: 'winter_squash' } }).beside;
  };
  it('is said above its range, and not within it', () => {
    const told = (n: number) => pumpkin(n).warnings.some((w) => w.id === 'L01');
    expect([told(4.5), told(7)]).toEqual([false, true]);
  });
});

describe('fruit that drops', () => {
  const pear = (fruitDrop: Plan['season']['fruitDrop'], leaves: LeafSampleFact[] = []) => {
    const plan = seasonOf('pear-wall 2026');
    const look = lookAt({ ...plan, leaves, season: { ...plan.season, fruitDrop } });
    const read = fruitDropOf(look.book, look.plan, look.beside);
    return {
      open: read?.open,
      told: (read?.words ?? []).map((w) => inWords(w, 'metric')).join(' '),
    };
  };
  it('is asked of what stands for years alone', () => {
    const { book, plan, beside } = lookAt(beetsWith());
    expect(fruitDropOf(book, plan, beside)).toBeNull();
  });
  it('says nothing before somebody said it, and one year is weather', () => {
    expect(pear(null)).toEqual({ open: ['years', 'drought', 'waterlogged'], told: '' });
    expect(pear({ years: 1, drought: null, waterlogged: null }).told).toMatch(
      /One year is weather/u,
    );
  });
  it('asks for water first: neither calcium nor potassium before both are answered no', () => {
    expect(pear({ years: 3, drought: false, waterlogged: null })).toEqual({
      open: ['waterlogged'],
      told: '',
    });
    expect(pear({ years: 3, drought: true, waterlogged: false }).told).toMatch(
      /see to the water first/u,
    );
    expect(pear({ years: 3, drought: false, waterlogged: true }).told).toMatch(
      /drainage and roots/u,
    );
  });
  it('then of calcium and potassium, measured or to be measured', () => {
    const answered = { years: 3, drought: false, waterlogged: false };
    expect(pear(answered).told).toBe(
      'Ca and K were not measured: take a leaf at its window, and fruit with it, before anything is given.',
    );
    const leaf = beetLeaf(
      { Ca: 0.4, K: 1.2 },
      { cropKey: 'pear', part: 'leaf_midshoot', bbch: 76, date: '2027-02-01' },
    );
    const { told } = pear(answered, [{ ...leaf, date: seasonOf('pear-wall 2026').asOf }]);
    expect(told).toMatch(/low in Ca, and neither drought nor standing water/u);
    expect(told).toMatch(/K of the leaf is not low/u);
  });
});

describe('a feed', () => {
  it('is weighed against the middle of the crop’s own ranges', () => {
    const feed = feedWanted(lookAt(beetsWith(beetLeaf(FED))).beside.leaf);
    expect(feed?.wanted.N).toBeGreaterThan(3);
    expect(Object.keys(feed?.wanted ?? {})).toEqual(['N', 'P', 'K', 'Ca', 'Mg']);
    for (const f of fertilisers(PRINTED)) {
      const rows = feed && feedAgainst(PRINTED, feed, f.productId);
      if (f.nTotalPct > 0) expect(rows).toHaveLength(5);
      else expect(rows).toMatch(/without N/u);
    }
  });
  it('is not weighed without a leaf, or without a range of N', () => {
    expect(feedWanted(null)).toBeNull();
    expect(feedWanted(lookAt(beetsWith(beetLeaf({ K: 3 }))).beside.leaf)).toBeNull();
    expect(feedWanted(lookAt(spinach({ N: 4 })).beside.leaf)).toBeNull();
  });
});
