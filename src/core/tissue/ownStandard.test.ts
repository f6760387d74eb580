import { describe, expect, it } from 'vitest';
import { randomStream } from '../quantity/random';
import { balanceSays, drisBy } from './dris';
import { feedRatio } from './feedRatio';
import { besideOwn, normsOf, ownFigures } from './ownStandard';

const leaves = (n: number, of: (k: number) => Record<string, number>) =>
  Array.from({ length: n }, (_, k) => of(k));

describe('a standard out of good blocks', () => {
  it('says how many, mean and spread, nutrient by nutrient', () => {
    const [n, k] = ownFigures([{ N: 2.8, K: 1.2 }, { N: 3 }, { N: 3.2, K: 1.6 }]);
    expect(n).toMatchObject({ nutrient: 'N', n: 3, lower: null, upper: null });
    expect(n?.mean).toBeCloseTo(3, 10);
    expect(n?.sd).toBeCloseTo(0.2, 10);
    expect(k).toMatchObject({ nutrient: 'K', n: 2 });
    expect(ownFigures([{ N: 3 }])[0]).toMatchObject({ n: 1, mean: 3, sd: null });
  });
  it('tells a span from 30 samples on, and none before', () => {
    const of = (k: number) => ({ N: 2 + k / 100 });
    expect(ownFigures(leaves(29, of))[0]?.lower).toBeNull();
    const [figure] = ownFigures(leaves(30, of));
    expect(figure?.lower).toBeGreaterThan(2);
    expect(figure?.upper).toBeLessThan(2.3);
  });
  it('calls no leaf short: it is like them, or so far from them', () => {
    const good = { n: 12, mean: 3, sd: 0.2 };
    expect([2.5, 2.7, 3.1, 3.3, 3.5].map((v) => besideOwn(v, good, 6))).toEqual([
      'far_below',
      'below',
      'alike',
      'above',
      'far_above',
    ]);
    expect(besideOwn(1, { n: 2, mean: 3, sd: 0.2 }, 6)).toBe('too_few');
    expect(besideOwn(1, { n: 9, mean: 3, sd: null }, 6)).toBe('too_few');
  });
  it('takes no spread narrower than one sample is sure', () => {
    const close = { n: 3, mean: 0.3, sd: 0.006 };
    expect([0.31, 0.32, 0.34].map((v) => besideOwn(v, close, 9.5))).toEqual([
      'alike',
      'alike',
      'above',
    ]);
    expect(besideOwn(0.3, { n: 9, mean: 0.3, sd: 0 }, 9.5)).toBe('alike');
  });
  it('refuses none, and a value that is not above 0', () => {
    expect(() => ownFigures([])).toThrow(/one good block or more/u);
    expect(() => ownFigures([{ N: 0 }])).toThrow(/samples\.N/u);
    expect(() => ownFigures([{ N: Number.NaN }])).toThrow();
  });
});

describe('norms of a balance', () => {
  const random = randomStream(7);
  const good = leaves(60, () => ({
    N: 3 + random() * 0.3,
    P: 0.3 + random() * 0.03,
    K: 2 + random() * 0.3,
  }));
  it('want 50 samples of good crops', () =>
    expect(() => normsOf(good.slice(0, 49))).toThrow(/49 are too few for norms: at least 50/u));
  it('are mean and variation of each pair, each pair once', () => {
    const norms = normsOf(good);
    expect(norms.map((n) => n.ratio)).toEqual(['N/P', 'N/K', 'P/K']);
    expect(norms.every((n) => n.cvPct > 0 && n.cvPct < 100)).toBe(true);
  });
  it('leave out a pair that some sample does not hold, or that never varies', () => {
    expect(normsOf([...good.slice(0, 59), { N: 3, P: 0.3 }]).map((n) => n.ratio)).toEqual(['N/P']);
    expect(() => normsOf(leaves(50, () => ({ N: 3, P: 0.3 })))).toThrow(/no two nutrients/u);
  });
  it('put a leaf like the mean in balance, and a poor one below it', () => {
    const norms = normsOf(good);
    const like = drisBy(norms, { normSet: 'own', values: { N: 3.15, P: 0.315, K: 2.15 } });
    expect(like.nbiMean).toBeLessThan(5);
    const poor = drisBy(norms, { normSet: 'own', values: { N: 3.15, P: 0.315, K: 1.2 } });
    expect(poor.index.K).toBeLessThan(-poor.nbiMean);
    expect(Object.values(poor.index).reduce((s, v) => s + v, 0)).toBeCloseTo(0, 8);
  });
  it('act only where the range calls the leaf low as well', () => {
    const far = { index: -20, nbiMean: 12 };
    expect(balanceSays({ ...far, score: -1.2 })).toBe('short_by_both');
    expect(balanceSays({ ...far, score: 0.2 })).toBe('relatively_lowest');
    expect(balanceSays({ ...far, score: null })).toBe('relatively_lowest');
    expect(balanceSays({ index: -8, nbiMean: 12, score: -2 })).toBe('in_balance');
    expect(balanceSays({ index: 30, nbiMean: 12, score: -2 })).toBe('in_balance');
  });
});

describe('a feed against the crop', () => {
  const wanted = { N: 4, P: 0.5, K: 4, Ca: 1.5, Mg: 0.4 };
  const of = (product: Record<string, number>) =>
    Object.fromEntries(feedRatio({ wanted, product }).map((r) => [r.nutrient, r]));
  it('is set beside it per 100 of N', () => {
    const rows = of({ N: 20, P: 8, K: 16 });
    expect(rows.N).toMatchObject({ wanted: 100, product: 100, times: null, says: 'basis' });
    expect(rows.P).toMatchObject({ wanted: 12.5, product: 40, says: 'far_too_much' });
    expect(rows.K).toMatchObject({ wanted: 100, product: 80, says: 'fits' });
    expect(rows.Ca).toMatchObject({ product: 0, times: 0, says: 'far_too_little' });
  });
  it('says where the limits of its words lie', () => {
    const at = (k: number) => of({ N: 10, K: 10 * k }).K?.says;
    expect([0.49, 0.6, 0.8, 1.25, 1.3, 2.01].map(at)).toEqual([
      'far_too_little',
      'too_little',
      'fits',
      'fits',
      'too_much',
      'far_too_much',
    ]);
  });
  it('refuses a product without N, and a crop without a range of it', () => {
    expect(() => of({ N: 0, K: 50 })).toThrow(/without N there is no ratio/u);
    expect(() => feedRatio({ wanted: { K: 3 }, product: { N: 20 } })).toThrow(/wanted\.N/u);
  });
});
