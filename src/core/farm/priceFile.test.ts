import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { readPriceList } from './priceFile';

const PRODUCTS = [
  { id: 'urea_46', name: 'Urea', densityKgL: null },
  { id: 'uan_30', name: 'UAN solution 30 %', densityKgL: 1.3 },
];
const read = (text: string) =>
  readPriceList(new TextEncoder().encode(text), PRODUCTS, '2027-02-26');

describe('a price list', () => {
  it('comes in by name or key, per t, bag or litre, with its day', async () =>
    expect(
      (
        await read(
          'Product,Price,Per,Bag (kg),From\nUrea,21.50,bag,50,2027-01-10\nuan-30,410,t,,\nUAN solution 30 %,0.53,L,,2027-02-01',
        )
      ).prices,
    ).toEqual([
      { product: 'urea_46', price: 21.5, per: 'bag', bagKg: 50, from: '2027-01-10' },
      { product: 'uan_30', price: 410, per: 't', bagKg: null, from: '2027-02-26' },
      { product: 'uan_30', price: 0.53, per: 'l', bagKg: null, from: '2027-02-01' },
    ]));
  it('reads marks and days of another country by the whole list', async () =>
    expect(
      (
        await read(
          'Produkt;Preis (€/t);gültig ab\nurea 46;1.215,50;05.02.2027\nUrea;398,00;13.02.2027',
        )
      ).prices,
    ).toMatchObject([
      { price: 1215.5, per: 't', from: '2027-02-05' },
      { price: 398, from: '2027-02-13' },
    ]));
  it.each([
    ['a product nobody knows', 'Product,Price,Per\nSuper Grow,400,t', /no product of the library/u],
    ['a price that reads two ways', 'Product;Price;Per\nUrea;1.215;t', /two ways/u],
    ['a ton of either kind', 'Product,Price,Per\nUrea,400,ton', /metric or short/u],
    ['a bag of no weight', 'Product,Price,Per\nUrea,20,bag', /bag weighs/u],
    ['a solid by the litre', 'Product,Price,Per\nUrea,2,L', /no density/u],
    ['no unit', 'Product,Price\nUrea,400', /per what/u],
    ['a day that reads two ways', 'Product,Price,Per,From\nUrea,400,t,03/02/2027', /two ways/u],
    ['words', 'Product,Price,Per\nUrea,on request,t', /no figure/u],
  ])('%s stays out and says why', async (_, text, reason) => {
    const { prices, left } = await read(text);
    expect(prices).toEqual([]);
    expect(left.map((l) => l.reason).join()).toMatch(reason);
  });
  it('a table without product and price is refused', async () =>
    expect(await read('a,b\n1,2').catch((e: unknown) => (e as Refusal).detail.code)).toBe(
      'missing',
    ));
});
