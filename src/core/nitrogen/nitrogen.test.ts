import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fertiliserOf, fertilisers } from '../book/fertilisers';
import { templateOf } from '../book/splitTemplates';
import { availablePct, deliveredBy, productRate } from './product';
import { numberOfPasses, splitAllocate, stopCheck } from './split';
import { additiveCheck, tankMix } from './tank';

describe('a product', () => {
  it('holds no more available than its label, for every product of the library', () => {
    for (const f of fertilisers(PRINTED)) {
      const pct = availablePct(f);
      expect(pct.n, f.productId).toBeLessThanOrEqual(f.nTotalPct + 1e-9);
      expect(pct.p, f.productId).toBeLessThanOrEqual(f.pPct + 1e-9);
      expect(pct.k, f.productId).toBeLessThanOrEqual(f.kPct + 1e-9);
      expect(Math.min(pct.n, pct.p, pct.k, pct.s), f.productId).toBeGreaterThanOrEqual(0);
    }
  });
  it('brings the wanted nutrient at the rate that is computed for it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(
          ...fertilisers(PRINTED)
            .filter((f) => availablePct(f).n > 0)
            .map((f) => f.productId),
        ),
        fc.integer({ min: 1, max: 250 }),
        (productId, targetKgHa) => {
          const r = productRate(PRINTED, { productId, targetKgHa });
          expect(deliveredBy(fertiliserOf(PRINTED, productId), r.productKgHa).n).toBeCloseTo(
            targetKgHa,
            6,
          );
        },
      ),
    );
  });
  it('is priced by the farm’s price, else by the demo price', () => {
    expect(productRate(PRINTED, { productId: 'urea_46', targetKgHa: 92 }).costHa).toBeCloseTo(
      90,
      9,
    );
    expect(
      productRate(PRINTED, { productId: 'urea_46', targetKgHa: 92, pricePerT: 600 }).costHa,
    ).toBeCloseTo(120, 9);
  });
  it('that holds none of the nutrient is refused by name', () =>
    expect(() =>
      productRate(PRINTED, { productId: 'urea_46', nutrient: 'k', targetKgHa: 50 }),
    ).toThrow(/urea_46 contains no k/));
  it('that is unknown is refused with its nearest names', () =>
    expect(() => fertiliserOf(PRINTED, 'urea_64')).toThrow(/urea_46/));
});

describe('the number of passes', () => {
  const at = (
    expectedDrainageMm: number,
    splitClass: 'light' | 'medium' | 'heavy',
    nTotalKgHa = 160,
    coatedOrInhibited = false,
  ) =>
    numberOfPasses({
      cropId: 'winter_wheat',
      nTotalKgHa,
      expectedDrainageMm,
      splitClass,
      coatedOrInhibited,
    }).wanted;
  it('rises with drainage, and falls with a coated product', () => {
    expect(at(10, 'medium')).toBeLessThanOrEqual(at(60, 'medium'));
    expect(at(60, 'medium')).toBeLessThanOrEqual(at(150, 'medium'));
    expect(at(150, 'medium', 100, true)).toBeLessThan(at(150, 'medium', 100));
  });
  it('is never so low that one pass breaks the largest dose', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), (n) => {
        const r = numberOfPasses({
          cropId: 'winter_wheat',
          nTotalKgHa: n,
          expectedDrainageMm: 0,
          splitClass: 'light',
        });
        expect(r.wanted).toBeGreaterThanOrEqual(r.byDose);
      }),
    );
  });
  it('says when the largest template is too small', () =>
    expect(
      numberOfPasses({
        cropId: 'winter_wheat',
        nTotalKgHa: 400,
        expectedDrainageMm: 300,
        splitClass: 'light',
      }).why.note,
    ).toMatch(/would be wanted/));
  it('names a crop without a template', () =>
    expect(() =>
      numberOfPasses({
        cropId: 'moon_wheat',
        nTotalKgHa: 100,
        expectedDrainageMm: 10,
        splitClass: 'light',
      }),
    ).toThrow(/moon_wheat/));
});

describe('the split', () => {
  const split = (nTotalKgHa: number, soil: number[], maxDoseKgHa?: number[]) =>
    splitAllocate({
      templateId: 'winter_wheat_3',
      nTotalKgHa,
      uTotalKgHa: 240,
      soilSupplyKgHa: soil,
      maxDoseKgHa,
    });
  it('keeps the budget’s total, in steps of 5 kg, within the template’s bounds', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 60 }),
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 4, maxLength: 4 }),
        (fives, soil) => {
          const r = split(fives * 5, soil);
          expect(r.dosesKgHa.reduce((a, b) => a + b, 0)).toBe(fives * 5);
          r.dosesKgHa.forEach((d) => expect(d % 5).toBe(0));
          expect(r.shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
          templateOf('winter_wheat_3').forEach((p, k) => {
            expect(r.shares[k]).toBeGreaterThanOrEqual(p.shareMinPct / 100 - 1e-9);
            expect(r.shares[k]).toBeLessThanOrEqual(p.shareMaxPct / 100 + 1e-9);
          });
        },
      ),
    );
  });
  it('breaks no cap, and says what could not be placed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 300 }), (total) => {
        const r = split(total, [40, 10, 10, 20], [50, 50, 50]);
        r.dosesKgHa.forEach((d) => expect(d).toBeLessThanOrEqual(50));
        expect(r.unplacedKgHa).toBeCloseTo(Math.max(0, total - 150), 6);
      }),
    );
  });
  it('says when the crop goes short before the first pass', () =>
    expect(split(200, [0, 10, 10, 20]).why.note).toMatch(/short before the first pass/));
  it('wants one interval more than passes', () =>
    expect(() => split(200, [10, 10])).toThrow(/expected 4 intervals/));
});

describe('is N still in time', () => {
  it('is a stop for beet at row closure and fine at four leaves', () => {
    expect(stopCheck({ cropId: 'sugar_beet', use: 'any', bbch: '31' }).level).toBe('stop');
    expect(stopCheck({ cropId: 'sugar_beet', use: 'any', bbch: '14' }).level).toBe('ok');
  });
  it('never gets better as the crop grows', () => {
    const rank = { ok: 0, info: 1, caution: 2, stop: 3 };
    for (const cropId of ['winter_wheat', 'sugar_beet', 'potato']) {
      let worst = 0;
      for (const p of ['13', '21', '30', '31', '37', '39', '51', '61', '65']) {
        let level: number;
        try {
          level = rank[stopCheck({ cropId, use: null, bbch: p }).level];
        } catch {
          continue;
        }
        expect(level, `${cropId} at ${p}`).toBeGreaterThanOrEqual(worst);
        worst = level;
      }
    }
  });
});

describe('tank', () => {
  const liquids = fertilisers(PRINTED)
    .filter((f) => f.densityKgL !== null && !f.hazards.includes('pressurised'))
    .map((f) => ({ productId: f.productId, l: 50 }));
  it('is the same mix in either order', () => {
    fc.assert(
      fc.property(fc.constantFrom(...liquids), fc.constantFrom(...liquids), (a, b) => {
        const [one, other] = [
          tankMix(PRINTED, { components: [a, b] }),
          tankMix(PRINTED, { components: [b, a] }),
        ];
        expect(one.worstPair).toBe(other.worstPair);
        expect(one.densityKgL).toBeCloseTo(other.densityKgL, 9);
      }),
    );
  });
  it('lies between its parts in density, and loses no N', () => {
    const mix = tankMix(PRINTED, {
      components: [
        { productId: 'uan_32', l: 100 },
        { productId: 'uan_28', l: 100 },
      ],
    });
    expect(mix.gPerL.n).toBeCloseTo(
      (tankMix(PRINTED, { components: [{ productId: 'uan_32', l: 100 }] }).gPerL.n +
        tankMix(PRINTED, { components: [{ productId: 'uan_28', l: 100 }] }).gPerL.n) /
        2,
      9,
    );
  });
  it('wants liquids, and at least one', () => {
    expect(() => tankMix(PRINTED, { components: [] })).toThrow(/components/);
    expect(() => tankMix(PRINTED, { components: [{ productId: 'urea_46', l: 10 }] })).toThrow(
      /urea_46|liquid/,
    );
  });
  it('asks how much N an additive must save, and what sugar ties up', () => {
    expect(additiveCheck({ costPerHa: 12, nPricePerKg: 1.2 })).toEqual({
      breakEvenNKgHa: 10,
      nTiedUpKgHa: 0,
    });
    expect(additiveCheck({ costPerHa: 12, nPricePerKg: 1, sugarKgHa: 5 }).nTiedUpKgHa).toBeCloseTo(
      0.084,
      9,
    );
    expect(() => additiveCheck({ costPerHa: 12, nPricePerKg: 0 })).toThrow(/n_price_per_kg/);
  });
});
