import { bookOf } from '@/core/book/book';
import { fertilisers } from '@/core/book/fertilisers';
import { limeMaterials } from '@/core/book/limes';
import type { FarmTerms } from '@/core/document/farmTerms';
import type { PricedProduct } from '@/core/farm/priceFile';
import { pricePerT } from '@/core/lines/prices';
import { refuse } from '@/core/quantity/refusal';

/** Products of a farm's library that may have a price: fertilisers and limes. */
export function pricedProducts(library: FarmTerms['library']): PricedProduct[] {
  const book = bookOf(library);
  return [
    ...fertilisers(book).map((f) => ({ id: f.productId, name: f.name, densityKgL: f.densityKgL })),
    ...limeMaterials(book).map((l) => ({ id: l.key, name: l.name, densityKgL: null })),
  ].toSorted((a, b) => a.name.localeCompare(b.name));
}
/** Prices of products that the library knows, told so that a tonne of each costs something. */
export function checkPrices(prices: FarmTerms['prices'], library: FarmTerms['library']): void {
  const known = new Map(pricedProducts(library).map((p) => [p.id, p]));
  for (const p of prices) {
    const product =
      known.get(p.product) ??
      refuse('unknown_id', 'prices', `Price list: ${p.product} is not in the library.`, {
        value: p.product,
      });
    pricePerT(p, product.densityKgL);
  }
}
