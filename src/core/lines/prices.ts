import type { Fertiliser } from '../book/fertilisers';
import type { FarmTerms, ProductPrice } from '../document/farmTerms';
import { refuse } from '../quantity/refusal';

// What a product costs: the pass's own price, else the farm's price list, else the placeholder of
// the book.

const KG_PER_SHORT_TON = 907.184_74;

/**
 * A price of the list per tonne.
 *
 * @param densityKgL of a liquid priced by the litre
 * @throws Refusal naming the weight of a bag or the density that is missing
 * @example pricePerT({ product: 'urea_46', price: 21, per: 'bag', bagKg: 50, from: '2027-01-01' },
 * null) // 420
 */
export function pricePerT(p: ProductPrice, densityKgL: number | null): number {
  switch (p.per) {
    case 't':
      return p.price;
    case 'short_ton':
      return (p.price * 1000) / KG_PER_SHORT_TON;
    case 'kg':
      return p.price * 1000;
    case 'bag':
      return p.bagKg === null
        ? refuse('missing', 'bag_kg', `A price per bag of ${p.product} needs the bag’s weight.`, {
            allowed: '0.5 to 2000 kg',
          })
        : (p.price * 1000) / p.bagKg;
    case 'l':
      return densityKgL === null
        ? refuse(
            'inconsistent',
            'per',
            `${p.product} has no density in the library: it is priced per t, kg or bag, not per L.`,
            { value: 'l', allowed: 't, short_ton, kg, bag' },
          )
        : (p.price * 1000) / densityKgL;
  }
}

/** The list's price of a product for a day: the newest that holds then, else the first there is. */
export function listed(
  prices: readonly ProductPrice[],
  product: string,
  day: string,
): ProductPrice | null {
  const own = prices
    .filter((p) => p.product === product)
    .toSorted((a, b) => a.from.localeCompare(b.from));
  return own.findLast((p) => p.from <= day) ?? own[0] ?? null;
}

/** Where a price of a pass comes from. */
export interface PassPrice {
  perT: number;
  from: 'pass' | 'list' | 'placeholder';
  /** Since when the list says it. */
  since: string | null;
}

/** What a pass's product costs per tonne. @throws Refusal where the list's price cannot be read */
export function passPrice(
  { prices }: Pick<FarmTerms, 'prices'>,
  pass: { date: string; pricePerT: number | null },
  product: Pick<Fertiliser, 'productId' | 'pricePerTDemo' | 'densityKgL'>,
): PassPrice {
  if (pass.pricePerT !== null) return { perT: pass.pricePerT, from: 'pass', since: null };
  const found = listed(prices, product.productId, pass.date);
  return found
    ? { perT: pricePerT(found, product.densityKgL), from: 'list', since: found.from }
    : { perT: product.pricePerTDemo, from: 'placeholder', since: null };
}
