import type { Book } from '../book/book';
import { fertiliserOf, fertilisers, type Fertiliser } from '../book/fertilisers';
import { within } from '../quantity/range';
import { availablePct, compoundFit } from './product';

export interface RankedCompound {
  compound: Fertiliser;
  productsKgHa: Record<string, number>;
  deliveredKgHa: Record<'n' | 'p' | 'k', number>;
  /** N that is left for passes of its own, kg/ha. */
  nLeftKgHa: number;
  /** Products and the passes that they take, money/ha. */
  costHa: number;
}
/** Two nutrients or more of N, P and K make a compound worth looking at. */
const isCompound = (book: Fertiliser): boolean => {
  const pct = availablePct(book);
  return (
    book.densityKgL === null &&
    book.slowType !== 'organic' &&
    [pct.n, pct.p, pct.k].filter((x) => x > 0).length >= 2
  );
};

/**
 * Compounds of the library for P and K with so much of the N, straights for the rest of P and K; the
 * rest of the N is left for passes of its own. Cheapest first, with the straight N and a pass for
 * each product in the sum (chapter 4, F2.3).
 *
 * @param i.nShareMax share of the N that the compound may bring, 0 to 1
 * @param i.passCostHa cost of one pass, money/ha
 * @param i.priceOf price of a product per t; the placeholder of the library where nobody says one
 * @param i.may which compounds may be used here
 * @example rankCompounds(PRINTED, { nKgHa: 120, pKgHa: 20, kKgHa: 60, nShareMax: 0.5, passCostHa: 12,
 * straightN: 'urea_46' })[0].compound.productId // 'dap_18_46'
 */
export function rankCompounds(
  book: Book,
  i: {
    nKgHa: number;
    pKgHa: number;
    kKgHa: number;
    nShareMax: number;
    passCostHa: number;
    straightN: string;
    priceOf?: (f: Fertiliser) => number;
    may?: (f: Fertiliser) => boolean;
  },
): RankedCompound[] {
  const passCost = within('pass_cost_ha', i.passCostHa, {
    label: 'Cost of a pass',
    unit: 'money/ha',
    min: 0,
    max: 1000,
  });
  const straight = fertiliserOf(book, i.straightN, 'straight_n');
  const priceOf = i.priceOf ?? ((f: Fertiliser) => f.pricePerTDemo);
  const wanted = { nKgHa: i.nKgHa * i.nShareMax, pKgHa: i.pKgHa, kKgHa: i.kKgHa };
  return fertilisers(book)
    .filter((f) => isCompound(f) && (i.may?.(f) ?? true))
    .flatMap((compound): RankedCompound[] => {
      const fit = compoundFit(book, {
        ...wanted,
        compoundId: compound.productId,
        straightN: straight.productId,
      });
      const { [straight.productId]: nAtOnce = 0, ...productsKgHa } = fit.productsKgHa;
      if ((productsKgHa[compound.productId] ?? 0) <= 0) return [];
      // N by a straight is a pass of its own, at its stage.
      const perKg = availablePct(straight).n / 100;
      const n = fit.deliveredKgHa.n - nAtOnce * perKg;
      const nLeftKgHa = Math.max(0, i.nKgHa - n);
      const products = Object.entries(productsKgHa);
      const kgOfN = nLeftKgHa / perKg;
      return [
        {
          compound,
          productsKgHa,
          deliveredKgHa: { n, p: fit.deliveredKgHa.p, k: fit.deliveredKgHa.k },
          nLeftKgHa,
          costHa:
            products.reduce((s, [id, kg]) => s + (kg * priceOf(fertiliserOf(book, id))) / 1000, 0) +
            (kgOfN * priceOf(straight)) / 1000 +
            passCost * (products.length + (kgOfN > 0 ? 1 : 0)),
        },
      ];
    })
    .toSorted(
      (a, b) =>
        a.costHa - b.costHa ||
        Object.keys(a.productsKgHa).length - Object.keys(b.productsKgHa).length ||
        a.compound.productId.localeCompare(b.compound.productId),
    );
}
