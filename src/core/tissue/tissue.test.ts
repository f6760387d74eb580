import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leafStandards, type LeafStandards } from '../book/leafStandards';
import { classConfidence, classifyLeaf, mostLimiting } from './classify';
import { limitsOf, logMiddle } from './limits';
import { contamination, decimalCheck, lessThan, toCoreUnit, unitCheck } from './reading';
import { findStandard, standardsFor } from './standard';

const book: LeafStandards = leafStandards(PRINTED);
const nitrogen = { d: 2.4, l: 2.7, sl: 2.7, sh: 4, hh: 4, t: null };

describe('the class of a leaf value', () => {
  it.each([
    [2.39, 'deficient'],
    [2.4, 'low'],
    [2.69, 'low'],
    [2.7, 'sufficient'],
    [4, 'sufficient'],
    [4.01, 'high'],
  ] as const)('%s %% N is %s', (x, cls) => expect(classifyLeaf(x, nitrogen).cls).toBe(cls));
  it('knows the level where injury has been seen', () =>
    expect(classifyLeaf(210, { d: null, l: 20, sl: 25, sh: 60, hh: 100, t: 200 }).cls).toBe(
      'toxic_risk',
    ));
  it('has a score that only rises with the value, from -3 to 3, for every row of the book', () => {
    for (const row of book.ranges) {
      const limits = limitsOf(row);
      let last = -3;
      for (const x of [0.1, 0.5, 0.9, 1, 1.5, 3, 10].map((f) => f * Math.max(limits.sh, 0.01))) {
        const { score } = classifyLeaf(x, limits);
        if (score === null) continue;
        expect(score, `${row.setId} ${row.nutrient} ${x}`).toBeGreaterThanOrEqual(last - 1e-9);
        expect(Math.abs(score)).toBeLessThanOrEqual(3);
        last = score;
      }
    }
  });
  it('has limits in order for every row of the book', () => {
    for (const row of book.ranges) {
      const { d, l, sl, sh, hh, t } = limitsOf(row);
      const order = [d ?? 0, l, sl, sh, hh, t ?? Infinity];
      expect(
        [...order].sort((a, b) => a - b),
        `${row.setId} ${row.nutrient}`,
      ).toEqual(order);
    }
  });
});

describe('how sure a class is', () => {
  it('is a coin toss on the limit and surer with more samples', () => {
    expect(classConfidence({ value: 2.7, limit: 2.7, combinedCvPct: 6 })).toMatchObject({
      pBelowLimit: expect.closeTo(0.5, 6) as number,
      wording: 'on the borderline',
    });
    const one = classConfidence({ value: 2.6, limit: 2.7, combinedCvPct: 6 }).pBelowLimit;
    expect(
      classConfidence({ value: 2.6, limit: 2.7, combinedCvPct: 6, nSamples: 4 }).pBelowLimit,
    ).toBeGreaterThan(one);
  });
  it('is never outside 0 to 1', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        (value, limit) => {
          const { pBelowLimit } = classConfidence({ value, limit, combinedCvPct: 10 });
          expect(pBelowLimit).toBeGreaterThanOrEqual(0);
          expect(pBelowLimit).toBeLessThanOrEqual(1);
        },
      ),
    ));
});

describe('the standard', () => {
  it('offers only windows of the crop itself', () => {
    const beet = standardsFor(book.ranges, 'sugar_beet');
    expect(beet.length).toBeGreaterThan(0);
    for (const s of beet)
      expect(book.ranges.some((r) => r.setId === s.setId && r.crop === 'sugar_beet')).toBe(true);
  });
  it('is found inside each of its own windows, for every row of the book', () => {
    for (const r of book.ranges)
      expect(
        findStandard(book.ranges, {
          crop: r.crop,
          part: r.part,
          bbch: r.bbchFrom,
          nutrient: r.nutrient,
          system: r.system,
        }).how,
        r.setId,
      ).toBe('inside');
  });
  it('is refused for another part, another stage and another crop', () => {
    const first = book.ranges.find((r) => r.crop === 'sugar_beet' && r.nutrient === 'N');
    if (!first) throw new Error('no beet standard for N');
    const q = { crop: 'sugar_beet', part: first.part, bbch: first.bbchFrom, nutrient: 'N' };
    expect(() => findStandard(book.ranges, { ...q, part: 'ear_leaf' })).toThrow(
      /no standard for sugar_beet \/ ear_leaf/,
    );
    expect(() => findStandard(book.ranges, { ...q, bbch: 99 })).toThrow(/outside every window/);
    expect(() => findStandard(book.ranges, { ...q, crop: 'moon_beet' })).toThrow(/moon_beet/);
    expect(() => findStandard(book.ranges, { ...q, bbch: 120 })).toThrow(/bbch/i);
  });
  it('names the shortest first and leaves iron to the eye', () => {
    const order = mostLimiting({
      ranges: book.ranges,
      setId: 'maize_ear_leaf',
      values: { K: 1.2, P: 0.24, Fe: 5 },
    }).order;
    expect(order).toEqual(['K', 'P']);
    expect(
      mostLimiting({
        ranges: book.ranges,
        setId: 'maize_ear_leaf',
        values: { K: 1.2, P: 0.24 },
        blocked: ['K'],
      }).order,
    ).toEqual(['P']);
  });
});

describe('reading a figure', () => {
  it.each([
    ['%', 1.85],
    ['g/kg', 18.5],
    ['mg/kg', 18500],
  ] as const)('1.85 %% K written in %s', (unit, value) =>
    expect(toCoreUnit({ nutrient: 'K', value, unit }).value).toBeCloseTo(1.85, 9),
  );
  it('refuses a unit that is no concentration, and a negative figure', () => {
    expect(() => toCoreUnit({ nutrient: 'K', value: 1, unit: 'kg/ha' })).toThrow(/kg\/ha/);
    expect(() => toCoreUnit({ nutrient: 'K', value: -1, unit: '%' })).toThrow(/below 0/);
  });
  it('proposes another unit and never converts by itself', () => {
    expect(unitCheck({ nutrient: 'N', value: 30, unit: '%', limits: nitrogen })).toMatchObject({
      result: 'stop',
      suggest: 'g/kg',
      valueCore: 30,
    });
    expect(unitCheck({ nutrient: 'N', value: 3, unit: '%', limits: nitrogen }).result).toBe('ok');
  });
  it('sees a slipped decimal point in a macronutrient only', () => {
    expect(decimalCheck({ nutrient: 'N', value: 0.31, limits: nitrogen }).suggested).toBeCloseTo(
      3.1,
      9,
    );
    expect(decimalCheck({ nutrient: 'N', value: 3.1, limits: nitrogen }).suggested).toBeNull();
    expect(decimalCheck({ nutrient: 'B', value: 0.31, limits: nitrogen }).suggested).toBeNull();
  });
  it('treats a result under the limit as an interval', () => {
    expect(lessThan({ nutrient: 'N', reported: '<2,4', unit: '%', limits: nitrogen }).cls).toBe(
      'deficient',
    );
    expect(lessThan({ nutrient: 'N', reported: '<3.5', unit: '%', limits: nitrogen }).cls).toBe(
      'not_classifiable',
    );
    expect(() =>
      lessThan({ nutrient: 'N', reported: 'trace', unit: '%', limits: nitrogen }),
    ).toThrow(/trace/);
  });
  it('has a middle that lies inside the range', () =>
    expect(logMiddle(nitrogen)).toBeCloseTo(Math.sqrt(2.7 * 4), 9));
});

describe('what else is on the leaf', () => {
  it.each<[string, Parameters<typeof contamination>[0], string[]]>([
    ['a clean leaf', { Al: 40, Fe: 90, upper: { Fe: 250 } }, []],
    ['soil', { Al: 1200, Fe: 600, upper: { Fe: 250 } }, ['soil_dust stop']],
    ['dust', { Al: 400, Fe: 300, upper: { Fe: 250 } }, ['soil_dust caution']],
    ['iron alone, far too high', { Fe: 600, upper: { Fe: 250 } }, ['soil_dust caution']],
    [
      'a declared spray',
      { sprayElements: ['Mn'], Mn: 900, upper: { Mn: 100 } },
      ['spray_residue_declared caution'],
    ],
    ['a spray nobody declared', { Cu: 60, upper: { Cu: 20 } }, ['spray_residue_suspected caution']],
    ['tap water', { washed: 'tap', upper: {} }, ['tap_water caution']],
  ])('%s', (_, input, flags) =>
    expect(contamination(input).map((f) => `${f[0]} ${f[1]}`)).toEqual(flags),
  );
});

describe('limits and forms to the digit', () => {
  it('a toxic limit met exactly is not passed; a hair above it is', () => {
    const limits = { d: 10, l: 15, sl: 20, sh: 60, hh: 100, t: 100 };
    expect(classifyLeaf(100, limits)).toMatchObject({ cls: 'ample', score: 2 });
    expect(classifyLeaf(100.01, limits).cls).toBe('toxic_risk');
  });
  it.each([
    ['S', 'SO4', 1, 32.06 / 96.06],
    ['S', 'SO3', 1, 32.06 / 80.06],
    ['P', 'P2O5', 1, 61.948 / 141.945],
    ['K', 'K2O', 1, 78.197 / 94.196],
    ['Ca', 'CaO', 1, 40.078 / 56.077],
    ['Mg', 'MgO', 1, 24.305 / 40.304],
  ])('%s reported as %s is its share by mass', (nutrient, form, value, share) =>
    expect(toCoreUnit({ nutrient, value, unit: '%', form }).value).toBeCloseTo(share, 3),
  );
});
