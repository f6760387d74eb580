import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { fertiliserOf, fertilisers } from '../book/fertilisers';
import {
  acidity,
  availablePct,
  compoundFit,
  deliveredBy,
  liquidConvert,
  productRate,
} from './product';
import { additiveCheck, foliarLoad, tankMix, twoTankPlan } from './tank';

const all = fertilisers(PRINTED);
const liquids = all
  .filter((f) => f.densityKgL !== null && !f.hazards.includes('pressurised'))
  .map((f) => f.productId);
const num = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const refused = (work: () => unknown): string | null => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail.field;
    throw e;
  }
  return null;
};

describe('a product and what it brings', () => {
  it('is never more than all of it, and a number, for every product of the book', () => {
    for (const f of all) {
      const pct = availablePct(f);
      for (const [x, v] of Object.entries(pct)) {
        expect(Number.isFinite(v), `${f.productId} ${x}`).toBe(true);
        expect(v, `${f.productId} ${x}`).toBeGreaterThanOrEqual(0);
      }
      expect(pct.n, f.productId).toBeLessThanOrEqual(f.nTotalPct + 1e-9);
      expect(pct.p, f.productId).toBeLessThanOrEqual(f.pPct + 1e-9);
    }
  });
  it('the rate for a wanted amount brings that amount', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...all),
        fc.constantFrom('n', 'p', 'k', 's'),
        num(1, 300),
        (f, nutrient, targetKgHa) => {
          if (availablePct(f)[nutrient as 'n'] === 0) {
            expect(
              refused(() => productRate(PRINTED, { productId: f.productId, nutrient, targetKgHa })),
            ).toBe('product_id');
            return;
          }
          const r = productRate(PRINTED, { productId: f.productId, nutrient, targetKgHa });
          expect(deliveredBy(f, r.productKgHa)[nutrient as 'n']).toBeCloseTo(targetKgHa, 6);
        },
      ),
    ));
  it('litres, gallons and kilograms of a liquid are one rate', () =>
    fc.assert(
      fc.property(fc.constantFrom(...liquids), num(1, 500), (productId, lHa) => {
        const a = liquidConvert(PRINTED, { productId, lHa });
        const b = liquidConvert(PRINTED, { productId, galAc: lHa / 9.353957 });
        expect(a.productKgHa).toBeCloseTo(
          lHa * (fertiliserOf(PRINTED, productId).densityKgL ?? NaN),
          6,
        );
        expect(b.lHa / a.lHa).toBeCloseTo(1, 4);
      }),
    ));
  it('a solid has no litres', () =>
    expect(refused(() => liquidConvert(PRINTED, { productId: 'urea_46', lHa: 10 }))).toBe(
      'product_id',
    ));
});

describe('a compound and straights', () => {
  const fit = (i: Partial<Parameters<typeof compoundFit>[1]> = {}) =>
    compoundFit(PRINTED, { nKgHa: 120, pKgHa: 20, kKgHa: 60, compoundId: 'npk_15_15_15', ...i });
  it('bring what is wanted, to what no spreader places', () =>
    fc.assert(
      fc.property(num(0, 250), num(0, 60), num(0, 200), (nKgHa, pKgHa, kKgHa) => {
        const r = fit({ nKgHa, pKgHa, kKgHa });
        for (const x of ['n', 'p', 'k'] as const) {
          expect(r.differenceKgHa[x]).toBeGreaterThanOrEqual(-2 - 1e-9);
          expect(r.differenceKgHa[x]).toBeLessThanOrEqual(1e-6);
        }
        expect(Number.isFinite(r.costHa)).toBe(true);
      }),
    ));
  it.each([
    [{ nShareMax: 1.5 }, 'n_share_max'],
    [{ nShareMax: -1 }, 'n_share_max'],
    [{ tolerance: Number.NaN }, 'tolerance'],
    [{ straightN: 'kcl_60' }, 'straight_n'],
    [{ compoundId: 'dragon_salt' }, 'compound_id'],
  ])('refuses %j', (bad, field) => expect(refused(() => fit(bad))).toBe(field));
});

describe('acid of a plan', () => {
  it('adds up over products, and no acid has no lime interval', () => {
    const one = acidity(PRINTED, {
      products: [{ productId: 'ammonium_sulphate_21', productKgHa: 200 }],
    });
    expect(
      acidity(PRINTED, {
        products: [
          { productId: 'ammonium_sulphate_21', productKgHa: 200 },
          { productId: 'ammonium_sulphate_21', productKgHa: 100 },
        ],
      }).caco3KgHa,
    ).toBeCloseTo(1.5 * one.caco3KgHa, 9);
    expect(one.yearsPerTLime).toBeCloseTo(1000 / one.caco3KgHa, 9);
    expect(acidity(PRINTED, { products: [] })).toMatchObject({ caco3KgHa: 0, yearsPerTLime: null });
    expect(one.caco3KgHaIfAllNitrateLeaches).toBeGreaterThan(one.caco3KgHa);
  });
});

describe('tanks and sprays', () => {
  it('a mix lies between its parts, and by weight adds up to itself', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...liquids),
        fc.constantFrom(...liquids),
        num(1, 2000),
        num(1, 2000),
        (a, b, la, lb) => {
          const m = tankMix(PRINTED, {
            components: [
              { productId: a, l: la },
              { productId: b, l: lb },
            ],
          });
          const d = [a, b].map((x) => fertiliserOf(PRINTED, x).densityKgL ?? NaN);
          expect(m.densityKgL).toBeGreaterThanOrEqual(Math.min(...d) - 1e-9);
          expect(m.densityKgL).toBeLessThanOrEqual(Math.max(...d) + 1e-9);
          expect(m.gPerL.n).toBeCloseTo(m.analysisPct.n * m.densityKgL * 10, 6);
        },
      ),
    ));
  const plan = { swathM: 9, speedKmH: 9.6, outlets: 12 };
  it('the smallest tank decides how far a fill goes', () => {
    const r = twoTankPlan(PRINTED, {
      ...plan,
      tanks: [
        { productId: 'uan_28', nKgHa: 60, tankL: 3000 },
        { productId: 'ammonium_thiosulphate_12_26s', lHa: 20, tankL: 200 },
      ],
    });
    expect(r.haPerStop).toBeCloseTo(10, 9);
    expect(r.workRateHaH).toBeCloseTo(8.64, 9);
  });
  it.each([
    [{ lHa: 0 }, 'tanks[0].l_ha'],
    [{ lHa: Number.NaN }, 'tanks[0].l_ha'],
    [{ nKgHa: 0 }, 'tanks[0].n_kg_ha'],
    [{ tankL: 0, lHa: 10 }, 'tanks[0].tank_l'],
  ])('refuses a tank of %j by name, never an endless fill', (bad, field) =>
    expect(
      refused(() =>
        twoTankPlan(PRINTED, { ...plan, tanks: [{ productId: 'uan_28', tankL: 3000, ...bad }] }),
      ),
    ).toBe(field),
  );
  it('a liquid without N wants litres', () => {
    const bare = liquids.find((id) => fertiliserOf(PRINTED, id).nTotalPct === 0);
    if (bare)
      expect(
        refused(() =>
          twoTankPlan(PRINTED, { ...plan, tanks: [{ productId: bare, nKgHa: 20, tankL: 1000 }] }),
        ),
      ).toBe('tanks[0].product_id');
  });
  const spray = {
    productId: 'foliar_npk_liquid_8_8_6',
    productLHa: 3,
    nutrient: 'n',
    sprayVolumeLHa: 200,
    remainingNeedKgHa: 60,
  };
  it('twice the product is twice the load', () =>
    expect(foliarLoad(PRINTED, { ...spray, productLHa: 6 }).loadKgHa).toBeCloseTo(
      2 * foliarLoad(PRINTED, spray).loadKgHa,
      9,
    ));
  it.each([
    [{ productKgHa: -1 }, 'product_kg_ha'],
    [{ leafRecoveryFrac: 1.2 }, 'leaf_recovery_frac'],
    [{ sprayVolumeLHa: 0 }, 'spray_volume_l_ha'],
    [{ nutrient: 'au' }, 'nutrient'],
  ])('refuses a spray of %j', (bad, field) =>
    expect(refused(() => foliarLoad(PRINTED, { ...spray, ...bad }))).toBe(field),
  );
  it('an additive pays by the N that it saves; sugar below nothing is refused', () => {
    expect(additiveCheck({ costPerHa: 12, nPricePerKg: 1.2 }).breakEvenNKgHa).toBeCloseTo(10, 9);
    expect(refused(() => additiveCheck({ costPerHa: 12, nPricePerKg: 1, sugarKgHa: -5 }))).toBe(
      'sugar_kg_ha',
    );
  });
});
