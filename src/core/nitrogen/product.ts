import type { Book } from '../book/book';
import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { oneOf, RANGES, within } from '../quantity/range';
import { KG_HA_PER_LB_AC, L_HA_PER_GAL_AC, LB_GAL_PER_KG_L } from '../quantity/units';
import { fertiliserOf, type Fertiliser } from '../book/fertilisers';
import { entered, fromTable, step, type Step } from '../why/step';

const NUTRIENTS = ['n', 'p', 'k', 's'] as const;
export type Nutrient = (typeof NUTRIENTS)[number];
export type PerNutrient = Record<Nutrient, number>;

/** First-season share of elemental S, and availability of organic N by its C:N (chapter 4, 1.3). */
const ELEMENTAL_S_AVAILABLE = 0.4;
const organicNAvailable = (cToN: number): number => clip(0.9 - 0.035 * cToN, 0.1, 0.85);

/**
 * Plant-available nutrients of a product in the year of use, % by weight (chapter 4, 1.3). Label
 * figures serve tank, seed row and price;
 * these serve the budget.
 *
 * @example availablePct(fertiliserOf(PRINTED, 'rock_phosphate_30')).p // 1.309 of 13.09 %
 */
export function availablePct(f: Fertiliser): PerNutrient {
  const organic = f.slowType === 'organic';
  return {
    n: f.nTotalPct - (organic ? f.nSlowPct * (1 - organicNAvailable(f.orgCToN ?? 10)) : 0),
    p: f.pPct * (f.pAvailableFrac ?? 1),
    k: f.kPct,
    s: f.sSulphatePct + f.sThiosulphatePct + ELEMENTAL_S_AVAILABLE * f.sElementalPct,
  };
}

/** Available kg/ha of each nutrient in a rate of product. */
export function deliveredBy(f: Fertiliser, productKgHa: number): PerNutrient {
  const pct = availablePct(f);
  return {
    n: (productKgHa * pct.n) / 100,
    p: (productKgHa * pct.p) / 100,
    k: (productKgHa * pct.k) / 100,
    s: (productKgHa * pct.s) / 100,
  };
}

const TARGET = { label: 'Nutrient wanted', unit: 'kg/ha', min: 0, max: 1000 };

/**
 * Product that brings a wanted amount of nutrient, and what else comes along (F2.1).
 *
 * @param i.targetKgHa 0 to 1000 kg/ha elemental
 * @throws Refusal `inconsistent` when the product holds none of the nutrient
 * @example productRate(PRINTED, { productId: 'urea_46', targetKgHa: 92 }).productKgHa // 200 kg/ha
 */
export function productRate(
  book: Book,
  i: {
    productId: string;
    nutrient?: string | null;
    targetKgHa: number;
    pricePerT?: number | null;
  },
) {
  const f = fertiliserOf(book, i.productId);
  const nutrient = oneOf('nutrient', i.nutrient ?? 'n', NUTRIENTS);
  const target = within('target_kg_ha', i.targetKgHa, TARGET);
  const pct = availablePct(f)[nutrient];
  if (pct === 0)
    refuse('inconsistent', 'product_id', `${i.productId} contains no ${nutrient}.`, {
      value: i.productId,
    });
  const productKgHa = (target * 100) / pct;
  const d = deliveredBy(f, productKgHa);
  const price = i.pricePerT ?? f.pricePerTDemo;
  const liquid =
    f.densityKgL === null
      ? {}
      : { lHa: productKgHa / f.densityKgL, galAc: productKgHa / f.densityKgL / L_HA_PER_GAL_AC };
  const why: Step = step('supply.product', f.name, productKgHa, 'kg/ha', {
    formula: `${nutrient.toUpperCase()} wanted / available content`,
    inputs: [
      entered('supply.product.target', `${nutrient.toUpperCase()} wanted`, target, 'kg/ha'),
      fromTable(
        'supply.product.content',
        `${nutrient.toUpperCase()} available`,
        pct,
        '% by weight',
        f,
      ),
    ],
  });
  return {
    productKgHa,
    productLbAc: productKgHa / KG_HA_PER_LB_AC,
    ...liquid,
    nKgHa: d.n,
    pKgHa: d.p,
    kKgHa: d.k,
    sKgHa: d.s,
    costHa: (productKgHa * price) / 1000,
    why,
  };
}

const densityOf = (f: Fertiliser): number =>
  f.densityKgL ??
  refuse('inconsistent', 'product_id', 'product has no density: it is not a liquid.', {
    value: f.productId,
  });

/**
 * A liquid rate in litres, gallons, kilograms of product and of nutrient (F2.2). Label content is
 * by weight, never by volume.
 *
 * @example liquidConvert(PRINTED, { productId: 'uan_32', galAc: 10 }).nKgHa // 39.5 kg N/ha
 */
export function liquidConvert(
  book: Book,
  i: {
    productId: string;
    galAc?: number | null;
    lHa?: number | null;
  },
) {
  const f = fertiliserOf(book, i.productId);
  const density = densityOf(f);
  const RATE = { label: 'Liquid rate', unit: 'L/ha', min: 0, max: 20000 };
  const lHa =
    i.lHa != null
      ? within('l_ha', i.lHa, RATE)
      : within('gal_ac', i.galAc, { ...RATE, unit: 'gal/ac' }) * L_HA_PER_GAL_AC;
  const productKgHa = lHa * density;
  const d = deliveredBy(f, productKgHa);
  return {
    lHa,
    productKgHa,
    lbPerGal: density * LB_GAL_PER_KG_L,
    // What the label says: how much of it a crop gets is another question.
    nKgHa: (productKgHa * f.nTotalPct) / 100,
    nLbAc: (productKgHa * f.nTotalPct) / 100 / KG_HA_PER_LB_AC,
    pKgHa: d.p,
    kKgHa: d.k,
    sKgHa: d.s,
  };
}

export interface CompoundFitInput {
  nKgHa: number;
  pKgHa: number;
  kKgHa: number;
  compoundId: string;
  nShareMax?: number | null;
  mode?: 'limit' | 'cover' | null;
  tolerance?: number | null;
  straightN?: string | null;
  straightP?: string | null;
  straightK?: string | null;
}
/** A gap this small is left: no spreader places it. */
const WORTH_A_PASS_KG = 2;

/**
 * A compound as far as it fits, and straights for the rest (F2.3).
 *
 * @example compoundFit(PRINTED, { nKgHa: 120, pKgHa: 20, kKgHa: 60, compoundId: 'npk_15_15_15'
 * }).productsKgHa.npk_15_15_15 // 305.3
 */
export function compoundFit(book: Book, i: CompoundFitInput) {
  const want = {
    n: within('n_kg_ha', i.nKgHa, TARGET),
    p: within('p_kg_ha', i.pKgHa, TARGET),
    k: within('k_kg_ha', i.kKgHa, TARGET),
  };
  const compound = fertiliserOf(book, i.compoundId, 'compound_id');
  const content = availablePct(compound);
  const nShare = within('n_share_max', i.nShareMax ?? 1, {
    ...RANGES.share,
    label: 'Share of N by the compound',
  });
  const rateFor = (x: 'n' | 'p' | 'k') =>
    content[x] === 0 ? Infinity : ((x === 'n' ? nShare : 1) * want[x] * 100) / content[x];
  const [rN, rP, rK] = [rateFor('n'), rateFor('p'), rateFor('k')];
  const tolerance =
    1 + within('tolerance', i.tolerance ?? 0.1, { label: 'Tolerance', unit: '', min: 0, max: 1 });
  const cover = Math.max(...[rP, rK].filter(Number.isFinite), 0);
  const rate =
    i.mode === 'cover' ? Math.min(rN, cover, tolerance * rP, tolerance * rK) : Math.min(rN, rP, rK);
  const products: Record<string, number> = {};
  const delivered = { n: 0, p: 0, k: 0 };
  const add = (f: Fertiliser, kg: number) => {
    if (kg <= 0) return;
    products[f.productId] = (products[f.productId] ?? 0) + kg;
    const d = deliveredBy(f, kg);
    for (const x of ['n', 'p', 'k'] as const) delivered[x] += d[x];
  };
  add(compound, Number.isFinite(rate) ? rate : 0);
  const straights = {
    p: fertiliserOf(book, i.straightP ?? 'tsp_0_46'),
    k: fertiliserOf(book, i.straightK ?? 'kcl_60'),
    n: fertiliserOf(book, i.straightN ?? 'urea_46'),
  };
  for (const x of ['p', 'k', 'n'] as const) {
    const gap = want[x] - delivered[x];
    if (gap <= WORTH_A_PASS_KG) continue;
    const pct = availablePct(straights[x])[x];
    if (pct === 0)
      refuse(
        'inconsistent',
        `straight_${x}`,
        `${straights[x].productId} contains no ${x}: choose another straight.`,
        { value: straights[x].productId },
      );
    add(straights[x], (gap * 100) / pct);
  }
  const costHa = Object.entries(products).reduce(
    (sum, [id, kg]) => sum + (kg * fertiliserOf(book, id).pricePerTDemo) / 1000,
    0,
  );
  return {
    productsKgHa: products,
    deliveredKgHa: delivered,
    differenceKgHa: { n: delivered.n - want.n, p: delivered.p - want.p, k: delivered.k - want.k },
    costHa,
  };
}

/**
 * Acid that a plan's products leave, as kg CaCO3/ha by the Pierre convention, and the worst case
 * (F2.8).
 *
 * @example acidity(PRINTED, { products: [{ productId: 'ammonium_sulphate_21', productKgHa: 200 }]
 * }).caco3KgHa // 225
 */
export function acidity(
  book: Book,
  {
    products,
  }: {
    products: readonly { productId: string; productKgHa: number }[];
  },
) {
  const rows = products.map((p, k) => ({
    f: fertiliserOf(book, p.productId, `products[${k}].product_id`),
    kg: within(`products[${k}].product_kg_ha`, p.productKgHa, RANGES.productKgHa),
  }));
  const caco3KgHa = rows.reduce((sum, r) => sum + (r.kg * r.f.acidityKgCaco3Per100kg) / 100, 0);
  const n = rows.reduce((sum, r) => sum + (r.kg * r.f.nTotalPct) / 100, 0);
  return {
    caco3KgHa,
    caco3KgHaIfAllNitrateLeaches: caco3KgHa + 1.785 * n,
    yearsPerTLime: caco3KgHa > 0 ? 1000 / caco3KgHa : null,
  };
}
