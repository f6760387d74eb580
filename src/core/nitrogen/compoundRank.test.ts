import { expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { orderLine } from '../farm/orders';
import { rankCompounds } from './compoundRank';

const i = { nKgHa: 120, pKgHa: 20, kKgHa: 60, nShareMax: 0.5, passCostHa: 12, straightN: 'can_27' };

it('compounds cover P and K, bring no more N than allowed, and leave the rest for its stage', () => {
  const ranked = rankCompounds(PRINTED, i);
  expect(ranked.length).toBeGreaterThan(5);
  for (const r of ranked) {
    expect(r.deliveredKgHa.p).toBeGreaterThanOrEqual(20 - 2.001);
    expect(r.deliveredKgHa.k).toBeGreaterThanOrEqual(60 - 2.001);
    expect(r.nLeftKgHa).toBeCloseTo(Math.max(0, 120 - r.deliveredKgHa.n), 9);
    expect(Object.keys(r.productsKgHa)).not.toContain('can_27');
  }
  const costs = ranked.map((r) => r.costHa);
  expect(costs).toEqual(costs.toSorted((a, b) => a - b));
});
it('a dearer pass favours fewer products; what may not be used is not looked at', () => {
  const dear = rankCompounds(PRINTED, { ...i, passCostHa: 400 });
  const cheap = rankCompounds(PRINTED, { ...i, passCostHa: 0 });
  const products = (list: typeof dear) => Object.keys(list[0]?.productsKgHa ?? {}).length;
  expect(products(dear)).toBeLessThanOrEqual(products(cheap));
  expect(rankCompounds(PRINTED, { ...i, may: () => false })).toEqual([]);
});
it('a compound is priced as the farm pays for it', () => {
  const free = rankCompounds(PRINTED, {
    ...i,
    priceOf: (f) => (f.productId === 'npk_16_16_16' ? 0 : f.pricePerTDemo),
  });
  expect(free[0]?.compound.productId).toBe('npk_16_16_16');
});
it('an order is in whole bags, a fluid in litres and gallons', () => {
  const urea = { productId: 'urea_46', name: 'Urea', densityKgL: null };
  expect(orderLine(urea, 1200, 600)).toMatchObject({ bags: 2, litres: null, tonnes: 1.2 });
  expect(orderLine(urea, 1201, 600).bags).toBe(3);
  const fluid = orderLine({ productId: 'uan_28', name: 'UAN', densityKgL: 1.28 }, 1280, 600);
  expect(fluid).toMatchObject({ bags: null, litres: 1000 });
  expect(fluid.gallons).toBeCloseTo(264.17, 2);
  expect(() => orderLine(urea, 10, 0)).toThrow(/Bag|bag_kg/u);
});
