import type { ProductPrice } from '../document/farmTerms';
import { dayOrders, readDay } from '../quantity/writtenDay';
import { markOf, readFigure } from '../laboratory/figures';
import { readGrid } from '../laboratory/grid';
import { refuse } from '../quantity/refusal';

// A merchant's price list: product, price, per what, since when.

/** A product of the library that may have a price. */
export interface PricedProduct {
  id: string;
  name: string;
  /** Of a liquid: without it nothing is priced by the litre. */
  densityKgL: number | null;
}
export interface PriceList {
  prices: ProductPrice[];
  /** Rows that do not come in, and why. */
  left: { row: number; text: string; reason: string }[];
}
type Column = 'product' | 'price' | 'per' | 'bagKg' | 'from';
/** What a heading says; the first that fits is meant, so the narrower ones stand first. */
const HEADINGS: readonly [Column, RegExp][] = [
  ['bagKg', /\b(bag|sack|saco|sac|big ?bag)\b|gebinde|bag_kg/u],
  ['per', /^(per|unit|je|einheit|unite|unidad|basis|pro)\b/u],
  ['from', /from|since|date|valid|datum|\bab\b|\bdes\b|fecha|data/u],
  ['price', /price|preis|prix|precio|prezzo|cost|pris\b|prijs/u],
  ['product', /product|produkt|produit|producto|fertili|dunger|engrais|name|artikel|article|item/u],
];
const PER: readonly [ProductPrice['per'], RegExp][] = [
  ['bag', /^(bag|sack|saco|sac|big ?bag)s?$/u],
  ['short_ton', /^(short ton|us ton|ton us)s?$/u],
  ['t', /^(t|tonne|to|tonnen|metric ton|tonelada)s?$/u],
  ['kg', /^(kg|kilo|kilogram)s?$/u],
  ['l', /^(l|litre|liter|litro)s?$/u],
];
const plain = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .replaceAll(/[\s_-]+/gu, ' ');
const perOf = (text: string): ProductPrice['per'] | 'ton' | null => {
  const words = plain(text).replaceAll(/^.*[/(]|^(per|je|pro|par|por)\s|[)\].]$/gu, '');
  if (/^tons?$/u.test(words)) return 'ton';
  return PER.find(([, word]) => word.test(words))?.[0] ?? null;
};

/**
 * Reads a price list of any usual make. A row comes in whole or stays out with its reason: a
 * product that the library does not know, a price that can be read two ways, a ton that may be
 * metric or short.
 *
 * @param products of the farm's library, by key or name
 * @param today the day of prices without one
 * @throws Refusal for a file that is no table or names neither product nor price
 */
export async function readPriceList(
  bytes: Uint8Array,
  products: readonly PricedProduct[],
  today: string,
): Promise<PriceList> {
  const { rows } = await readGrid(bytes);
  const columnsOf = (cells: readonly string[]) => {
    const found = new Map<Column, number>();
    cells.forEach((cell, i) => {
      const hit = HEADINGS.find(([, words]) => words.test(plain(cell)));
      if (hit && !found.has(hit[0])) found.set(hit[0], i);
    });
    return found;
  };
  const texts = rows.map((r) => r.cells.map((c) => c.text));
  const head = texts.findIndex((cells) => {
    const c = columnsOf(cells);
    return c.has('product') && c.has('price');
  });
  if (head < 0)
    refuse(
      'missing',
      'file',
      'No row names product and price. A price list has a row a product: product, price, per (t, kg, bag, L), what a bag weighs, and the day from which it holds.',
      { allowed: 'product, price, per, bag kg, from' },
    );
  const columns = columnsOf(texts[head] ?? []);
  const body = rows.slice(head + 1).map((r) => ({ row: r.row, cells: r.cells.map((c) => c.text) }));
  const at = (cells: readonly string[], column: Column) => {
    const k = columns.get(column);
    return k === undefined ? '' : (cells[k] ?? '').trim();
  };
  // Marks and days are decided by the whole list.
  const { mark } = markOf(body.flatMap((r) => [at(r.cells, 'price'), at(r.cells, 'bagKg')]));
  const orders = dayOrders(body.map((r) => at(r.cells, 'from')).filter((t) => t !== ''));
  const headPer = perOf(texts[head]?.[columns.get('price') ?? -1] ?? '');
  const named = new Map(
    products.flatMap((p) => [
      [plain(p.id), p],
      [plain(p.name), p],
    ]),
  );
  const figureOf = (text: string): number | string => {
    if (!/\d/u.test(text)) return `${text || 'nothing'} is no figure`;
    const whole = /^\D*(\d+)\D*$/u.exec(text)?.[1];
    const f = readFigure(text.replaceAll(/[^\d.,'’ +-]/gu, ''), mark ?? '.');
    if (mark === null && whole === undefined)
      return `${text} can be read two ways: write it without groups, with a point`;
    return f.kind === 'value' && f.value >= 0 ? f.value : `${text || 'nothing'} is no figure`;
  };
  const readRow = (cells: readonly string[]): ProductPrice | string => {
    const product = named.get(plain(at(cells, 'product')));
    if (!product) return 'no product of the library has this name: write its name or key there';
    const price = figureOf(at(cells, 'price'));
    if (typeof price === 'string') return `price ${price}`;
    const said = at(cells, 'per');
    const per = said === '' ? headPer : perOf(said);
    if (per === null)
      return said === ''
        ? 'it does not say per what: t, short ton, kg, bag or L'
        : `${said} is none of t, short ton, kg, bag, L`;
    if (per === 'ton') return 'a ton may be metric or short: write t or short ton';
    const bag = at(cells, 'bagKg');
    const bagKg = per === 'bag' ? figureOf(bag) : null;
    if (typeof bagKg === 'string') return `what a bag weighs: ${bagKg}`;
    if (per === 'l' && product.densityKgL === null)
      return 'it has no density in the library: price it per t, kg or bag';
    const day = at(cells, 'from');
    if (day !== '' && orders.length > 1)
      return `the day ${day} can be read two ways: write it as YYYY-MM-DD`;
    const from = day === '' ? today : readDay(day, orders[0] ?? 'ymd');
    if (from === null) return `${day} is no day of a calendar`;
    return { product: product.id, price, per, bagKg, from };
  };
  const list: PriceList = { prices: [], left: [] };
  for (const { row, cells } of body) {
    const text = at(cells, 'product');
    if (text === '' && at(cells, 'price') === '') continue;
    const read = readRow(cells);
    if (typeof read === 'string') list.left.push({ row, text, reason: read });
    else list.prices.push(read);
  }
  return list;
}
