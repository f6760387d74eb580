import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { ProductPrice } from '../document/farmTerms';
import { listed, passPrice, pricePerT } from './prices';

const price = (part: Partial<ProductPrice>): ProductPrice => ({
  product: 'urea_46',
  price: 400,
  per: 't',
  bagKg: null,
  from: '2027-01-01',
  ...part,
});

describe('the farm’s price list', () => {
  it('says a price per tonne whatever it is asked in', () => {
    expect(pricePerT(price({}), null)).toBe(400);
    expect(pricePerT(price({ per: 'kg', price: 0.4 }), null)).toBeCloseTo(400, 9);
    expect(pricePerT(price({ per: 'bag', price: 10, bagKg: 25 }), null)).toBeCloseTo(400, 9);
    expect(pricePerT(price({ per: 'l', price: 0.52 }), 1.3)).toBeCloseTo(400, 9);
    expect(pricePerT(price({ per: 'short_ton', price: 362.873896 }), null)).toBeCloseTo(400, 6);
    expect(() => pricePerT(price({ per: 'bag' }), null)).toThrow(/weight/u);
    expect(() => pricePerT(price({ per: 'l' }), null)).toThrow(/density/u);
  });
  it('takes the newest that holds on the day, else the first there is', () => {
    const list = [
      price({ from: '2027-03-01', price: 450 }),
      price({}),
      price({ product: 'uan_30' }),
    ];
    expect(listed(list, 'urea_46', '2027-02-10')?.price).toBe(400);
    expect(listed(list, 'urea_46', '2027-03-01')?.price).toBe(450);
    expect(listed(list, 'urea_46', '2026-05-01')?.price).toBe(400);
    expect(listed(list, 'map', '2027-05-01')).toBeNull();
  });
  it('stands behind the pass’s own price and before the placeholder', () => {
    const product = { productId: 'urea_46', pricePerTDemo: 300, densityKgL: null };
    const at = (own: number | null, prices: ProductPrice[]) =>
      passPrice({ prices }, { date: '2027-04-01', pricePerT: own }, product);
    expect(at(500, [price({})])).toMatchObject({ perT: 500, from: 'pass' });
    expect(at(null, [price({})])).toMatchObject({ perT: 400, from: 'list', since: '2027-01-01' });
    expect(at(null, [])).toMatchObject({ perT: 300, from: 'placeholder' });
  });
  it('makes the sum of a plan, to the cent', () => {
    const plan = terraceShortWorked();
    const [first] = plan.passes;
    const productId = first?.productId ?? '';
    const priced = assess(PRINTED, {
      ...plan,
      farm: { ...plan.farm, prices: [price({ product: productId, price: 1000 })] },
      passes: plan.passes.map((p) => ({ ...p, pricePerT: null })),
    });
    const own = priced.supply.passes.filter((p) => p.pass.productId === productId);
    expect(own.length).toBeGreaterThan(0);
    for (const p of own) expect(p.cost).toBeCloseTo(p.pass.productKgHa, 9);
  });
});
