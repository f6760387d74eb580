import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { materialOf, materials } from '../book/organicMaterials';
import { mineralisationOf } from '../book/organicTables';
import { releaseByCToN } from './compost';
import {
  analysisOf,
  firstYearFraction,
  nitrogenPools,
  notYetNitrate,
  nPctDmRelease,
  overwinterKept,
  pCredit,
  plantAvailableN,
  releasedBetween,
  releaseFraction,
  residualCredit,
} from './release';

const keys = fc.constantFrom(...materials(PRINTED).map((m) => m.key));
const giving = fc.constantFrom(
  ...materials(PRINTED)
    .filter((m) => mineralisationOf(m.mineralisationClass).y1Frac > 0)
    .map((m) => m.key),
);
const share = fc.double({ min: 0, max: 1, noNaN: true });
const degrees = fc.double({ min: 0, max: 3000, noNaN: true });

describe('mineral N over winter', () => {
  it('wetter winters keep less, lighter land keeps less', () => {
    const kept = (soil: 'sand' | 'loam' | 'clay', mm: number) =>
      overwinterKept(soil, mm)?.retainedMineralNFrac ?? NaN;
    for (const soil of ['sand', 'loam', 'clay'] as const)
      expect([kept(soil, 99), kept(soil, 100), kept(soil, 250)]).toEqual(
        [...[kept(soil, 99), kept(soil, 100), kept(soil, 250)]].toSorted((a, b) => b - a),
      );
    expect(kept('sand', 200)).toBeLessThan(kept('loam', 200));
  });
  it('under a cover crop the next drier class counts; the driest stays', () => {
    expect(overwinterKept('loam', 200, true)?.drainageClass).toBe('low');
    expect(overwinterKept('sand', 400, true)?.retainedMineralNFrac).toBe(0.35);
    expect(overwinterKept('clay', 20, true)).toEqual(overwinterKept('clay', 20));
  });
  it('organic ground reads as loam', () =>
    expect(overwinterKept('organic', 150)?.textureGroup).toBe('loam'));
});

describe('a nitrate test after a dressing (chapter 2, 4.2)', () => {
  it('sees no ammonium on the day, all of it after 350 °C d, after 700 with an inhibitor', () => {
    expect([
      notYetNitrate(0, false),
      notYetNitrate(175, false),
      notYetNitrate(350, false),
      notYetNitrate(2000, false),
    ]).toEqual([1, 0.5, 0, 0]);
    expect([notYetNitrate(350, true), notYetNitrate(700, true)]).toEqual([0.5, 0]);
    expect(() => notYetNitrate(-1, false)).toThrow(Refusal);
  });
  const slurry = { mat: 'dairy_slurry_medium', retainedFrac: 0.7 };
  it('what it saw and what is left are the whole, in spring', () =>
    fc.assert(
      fc.property(giving, share, degrees, (mat, retainedFrac, tt) => {
        const [all, left] = [
          plantAvailableN(PRINTED, { mat, retainedFrac }),
          plantAvailableN(PRINTED, { mat, retainedFrac, sampleTt: tt }),
        ];
        const seen = releaseFraction({ klass: materialOf(PRINTED, mat).mineralisationClass, tt });
        expect(left.y1Eff + Math.min(seen, all.y1Eff)).toBeCloseTo(all.y1Eff, 9);
        expect(left.panKgT).toBeLessThanOrEqual(all.panKgT + 1e-9);
        expect(left.panKgT).toBeGreaterThanOrEqual(-1e-9);
      }),
    ));
  it('the later it was taken, the less is left to credit', () =>
    fc.assert(
      fc.property(giving, degrees, degrees, (mat, a, b) => {
        const left = (sampleTt: number) =>
          plantAvailableN(PRINTED, { mat, retainedFrac: 0.8, sampleTt }).panKgT;
        expect(left(Math.max(a, b))).toBeLessThanOrEqual(left(Math.min(a, b)) + 1e-9);
      }),
    ));
  it('on an autumn dressing it holds the ammonium and what came before the winter, not what spring will bring', () => {
    const autumn = { ...slurry, season: 'autumn', ow: 0.6, ttPre: 500 } as const;
    const tested = plantAvailableN(PRINTED, { ...autumn, sampleTt: 900 });
    // g(500)/g(3000) of y1 = 0.25 came before the winter.
    expect(tested.mineralKeptKgT).toBe(0);
    expect(tested.y1Eff).toBeCloseTo(
      0.25 - releaseFraction({ klass: 'cattle_slurry', tt: 500 }),
      12,
    );
    expect(plantAvailableN(PRINTED, { ...autumn, ttEnd: 2800, sampleTt: 900 }).y1Eff).toBeCloseTo(
      releaseFraction({ klass: 'cattle_slurry', tt: 2800 }) -
        releaseFraction({ klass: 'cattle_slurry', tt: 500 }),
      12,
    );
  });
  it('nitrate in the material is all in the test', () =>
    expect(
      plantAvailableN(PRINTED, { mat: 'dairy_manure_composted', retainedFrac: 1, sampleTt: 0 })
        .mineralKeptKgT,
    ).toBeCloseTo(0.3, 9));
  it('says so, and is less sure', () =>
    expect(plantAvailableN(PRINTED, { ...slurry, sampleTt: 140 }).why).toMatchObject({
      confidence: 'low',
      note: expect.stringContaining('what it holds is not counted once more'),
    }));
  it('of a material that ties N up it has seen part of the tie-up', () => {
    const [all, left] = [
      plantAvailableN(PRINTED, { mat: 'straw_cereal', retainedFrac: 1 }),
      plantAvailableN(PRINTED, { mat: 'straw_cereal', retainedFrac: 1, sampleTt: 600 }),
    ];
    expect(left.y1Eff).toBeGreaterThan(all.y1Eff);
    expect(left.y1Eff).toBeLessThan(0);
  });
});

describe('a material that ties N up', () => {
  const straw = (lab: { cToN: number } | null, onSurface = false) =>
    plantAvailableN(PRINTED, {
      mat: 'straw_cereal',
      retainedFrac: 1,
      lab: lab && { ...lab, totalNKgT: 5.5, nh4NKgT: 0, no3NKgT: 0 },
      onSurface,
    });
  it('with a measured C:N is reckoned by its carbon, the class value stands aside', () => {
    expect(straw({ cToN: 68 }).panKgT).toBeCloseTo(-4.62, 9);
    expect(straw({ cToN: 68 }).orgNKgT * straw({ cToN: 68 }).y1Eff).toBeCloseTo(-4.62, 9);
    expect(straw({ cToN: 20 }).panKgT).toBeCloseTo(0, 9);
  });
  it('without one its class stands', () => expect(straw(null).y1Eff).toBe(-0.6));
  it('a measured C:N above 28 makes any material one', () => {
    const fresh = plantAvailableN(PRINTED, {
      mat: 'horse_bedded_straw',
      retainedFrac: 0.8,
      lab: { cToN: 35, totalNKgT: 5, nh4NKgT: 0.5, dmPct: 35 },
    });
    expect(fresh.panKgT).toBeCloseTo(
      0.4 + releaseByCToN({ totalN: 5, cToN: 35, kind: 'fresh_strawy_manure', nh4N: 0.5 }),
      9,
    );
  });
  it('left on top takes N from its contact layer only', () => {
    expect(straw(null, true).panKgT / straw(null).panKgT).toBeCloseTo(0.1, 9);
    expect(straw({ cToN: 68 }, true).panKgT).toBeCloseTo(-0.462, 9);
  });
  it('a material that gives N gives the same on top', () =>
    expect(
      plantAvailableN(PRINTED, { mat: 'sheep_bedded', retainedFrac: 0.5, onSurface: true }).panKgT,
    ).toBe(plantAvailableN(PRINTED, { mat: 'sheep_bedded', retainedFrac: 0.5 }).panKgT));
});

describe('plant-available N', () => {
  it('never exceeds total N, and is a number for every material of the book', () =>
    fc.assert(
      fc.property(keys, share, (mat, retainedFrac) => {
        const r = plantAvailableN(PRINTED, { mat, retainedFrac });
        expect(Number.isFinite(r.panKgT)).toBe(true);
        expect(r.panKgT).toBeLessThanOrEqual(materialOf(PRINTED, mat).totalNKgT + 1e-9);
        expect(r.tanKgT + r.orgNKgT).toBeLessThanOrEqual(materialOf(PRINTED, mat).totalNKgT + 1e-9);
      }),
    ));
  it('autumn never gives more than spring', () =>
    fc.assert(
      fc.property(keys, share, degrees, (mat, ow, ttPre) => {
        const at = (season: string) =>
          plantAvailableN(PRINTED, { mat, retainedFrac: 0.7, season, ow, ttPre }).panKgT;
        expect(at('autumn')).toBeLessThanOrEqual(at('spring') + 1e-9);
      }),
    ));
  it('a warm summer before drainage loses more than a cold November', () => {
    const autumn = (ttPre: number) =>
      plantAvailableN(PRINTED, {
        mat: 'sheep_bedded',
        retainedFrac: 0.5,
        season: 'autumn',
        ow: 0.3,
        ttPre,
      }).y1Eff;
    expect(autumn(900)).toBeLessThan(autumn(500));
    expect(autumn(500)).toBeLessThan(autumn(150));
  });
  it('a laboratory C:N below the book gives more, within the class', () =>
    fc.assert(
      fc.property(fc.double({ min: 4, max: 60, noNaN: true }), (cnLab) => {
        const y1 = firstYearFraction({ klass: 'cattle_solid', cnBook: 16, cnLab });
        expect(y1).toBeGreaterThanOrEqual(0.05);
        expect(y1).toBeLessThanOrEqual(0.35);
        if (cnLab < 16) expect(y1).toBeGreaterThanOrEqual(0.22);
      }),
    ));
});

describe('pools and analysis', () => {
  it('parts above total N by more than 2 % are refused by their rule', () => {
    const refused = (i: Parameters<typeof nitrogenPools>[0]) => {
      try {
        nitrogenPools(i);
      } catch (e) {
        return (e as Refusal).detail.rule;
      }
      return null;
    };
    expect(refused({ totalN: 2, nh4: 2.1, klass: 'cattle_slurry' })).toBe('M03');
    expect(refused({ totalN: 2, nh4: 1.9, no3: 0.3, klass: 'cattle_slurry' })).toBe('M04');
    expect(refused({ totalN: 2, nh4: 2.03, klass: 'cattle_slurry' })).toBeNull();
  });
  it('struvite holds its N in the crystal', () =>
    expect(nitrogenPools({ totalN: 57, nh4: 57, klass: 'struvite' })).toEqual({
      tan: 0,
      uric: 0,
      org: 57,
    }));
  it('blank ammonium takes the book’s share of the laboratory’s total; total N alone blank keeps the book’s organic N', () => {
    const book = materialOf(PRINTED, 'finishing_pig_slurry');
    expect(analysisOf(book, { totalNKgT: book.totalNKgT / 2 }).nh4NKgT).toBeCloseTo(
      book.nh4NKgT / 2,
      9,
    );
    expect(analysisOf(book, { nh4NKgT: 3 }).totalNKgT).toBeCloseTo(
      book.totalNKgT - book.nh4NKgT + 3,
      9,
    );
    expect(analysisOf(book, null).fromBook).toEqual(['N', 'ammonium', 'P', 'K', 'S', 'dry matter']);
  });
  it('the dry-matter school stays between 0 and 75 %', () =>
    expect([
      nPctDmRelease({ totalN: 5, dmPct: 60 }),
      nPctDmRelease({ totalN: 120, dmPct: 92 }),
    ]).toEqual([0, 75]));
});

describe('later years', () => {
  const last = { mat: 'beef_bedded_pack_fresh', rateTHa: 40, yearK: 2 };
  it('cool ground gives less of it, long memory gives a tail to year 10', () => {
    expect(residualCredit(PRINTED, { apps: [last], climateFactor: 0.8 }).creditKgHa).toBeCloseTo(
      0.8 * 19.2,
      9,
    );
    const tail = (yearK: number) =>
      residualCredit(PRINTED, { apps: [{ ...last, yearK }], tail: 0.02 }).creditKgHa;
    expect([tail(5), tail(10), tail(11)].map((x) => Number(x.toFixed(6)))).toEqual([3.84, 3.84, 0]);
  });
  it('what comes between two points of a season adds up', () =>
    fc.assert(
      fc.property(
        keys,
        fc.integer({ min: 1, max: 4 }),
        degrees,
        degrees,
        degrees,
        (mat, yearK, a, b, c) => {
          const klass = materialOf(PRINTED, mat).mineralisationClass;
          const [x, y, z] = [a, b, c].toSorted((p, q) => p - q) as [number, number, number];
          const between = (ttFrom: number, ttTo: number) =>
            releasedBetween({ klass, yearK, ttFrom, ttTo });
          expect(between(x, y) + between(y, z)).toBeCloseTo(between(x, z), 9);
        },
      ),
    ));
});

describe('P and K of a dressing', () => {
  const p = (klass: string, soilPh: number | null, belowCritical = true) =>
    pCredit({ rate: 1, pT: 100, klass, belowCritical, soilPh }).creditKgHa;
  it('bone dissolves in acid ground only, struvite less in limy ground', () => {
    expect([5.9, 6, 7, 7.1].map((ph) => p('meal_meat_bone', ph))).toEqual([50, 35, 35, 10]);
    expect([6.4, 6.5, 7.5, 7.6].map((ph) => p('struvite', ph))).toEqual([80, 70, 70, 50]);
    expect(p('meal_meat_bone', null)).toBe(35);
  });
  it('where nothing is asked for quickly the whole counts; of biosolids 90 %', () =>
    expect([p('cattle_solid', 6.5, false), p('biosolids_digested', 6.5, false)]).toEqual([
      100, 90,
    ]));
});
