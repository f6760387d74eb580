import type { Book } from '../book/book';
import { fertiliserOf, LABEL_PCT, type Fertiliser } from '../book/fertilisers';
import { within, type Range } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { availablePct } from './product';
import { solver, type Programme, type Row, type Solve } from './solver';

// The cheapest blend of products that meets every limit (chapter 4, F2.4). A spreader cannot meter
// a handful: a product that is in it at all has a least rate, which makes it a choice of yes or no.

/** What of a product counts: of N, P and S what is available this season. */
const CONTENT = {
  ...LABEL_PCT,
  n: (f: Fertiliser) => availablePct(f).n,
  p: (f: Fertiliser) => availablePct(f).p,
  s: (f: Fertiliser) => availablePct(f).s,
  cl: (f: Fertiliser) => f.clPct,
} as const;
export type BlendNutrient = keyof typeof CONTENT;
const BLEND_NUTRIENTS = Object.keys(CONTENT) as BlendNutrient[];
const K2O_PER_K = 1.2046;
/** Products with more chloride than this are left out for a crop that suffers from it. */
const CHLORIDE_CUT_PCT = 2;
/** Of many products, the most that may be set before the solver. */
const MOST_CANDIDATES = 60;

const range = (label: string, unit: string, min: number, max: number): Range => ({
  label,
  unit,
  min,
  max,
});
const NUTRIENT = range('Nutrient', 'kg/ha', 0, 1000);
const RATE = range('Rate of one product', 'kg/ha', 0, 2000);

export interface BlendInput {
  candidates: readonly string[];
  minKgHa?: Readonly<Record<string, number>> | null;
  maxKgHa?: Readonly<Record<string, number>> | null;
  /** Most products in it. */
  maxProducts?: number | null;
  /** Most N at once. */
  maxNPerPassKgHa?: number | null;
  /** Most N + K2O beside the seed; only for a blend that goes there. */
  seedRowLimitKgHa?: number | null;
  chlorideSensitive?: boolean | null;
  /** Handling of each product, money/ha. */
  handlingPerProductHa?: number | null;
  minRateKgHa?: number | null;
  maxRateKgHa?: number | null;
  /** The farm's own prices by product, money/t; else those of the library. */
  pricesPerT?: Readonly<Record<string, number>> | null;
  /** What is in store of a product for this ground; no entry, no limit. */
  stockKgHa?: Readonly<Record<string, number>> | null;
}
export interface Blend {
  productsKgHa: Record<string, number>;
  costHa: number;
  deliveredKgHa: Record<string, number>;
  /** Candidates that may not be used: chloride, or never beside the seed. */
  leftOutProducts: string[];
}

interface Candidate {
  f: Fertiliser;
  x: string;
  y: string;
  price: number;
  most: number;
}
interface Ready {
  candidates: Candidate[];
  limits: Row[];
  least: number;
  maxProducts: number;
  handling: number;
  leftOut: string[];
}

function amounts(
  field: string,
  given: Readonly<Record<string, number>> | null | undefined,
): Map<BlendNutrient, number> {
  return new Map(
    Object.entries(given ?? {}).map(([nutrient, kg]) => {
      if (!(nutrient in CONTENT))
        refuse(
          'unknown_id',
          `${field}.${nutrient}`,
          `${field}.${nutrient}: use one of ${BLEND_NUTRIENTS.join(', ')}.`,
          { value: nutrient, allowed: BLEND_NUTRIENTS.join(', ') },
        );
      return [nutrient as BlendNutrient, within(`${field}.${nutrient}`, kg, NUTRIENT)];
    }),
  );
}

/** Products that may be in it at all, each with the most that may be had of it. */
function candidatesOf(book: Book, i: BlendInput, mostKgHa: number) {
  if (i.candidates.length === 0)
    refuse('missing', 'candidates', 'candidates: name at least one product.');
  if (i.candidates.length > MOST_CANDIDATES)
    refuse('out_of_range', 'candidates', `candidates: at most ${MOST_CANDIDATES} products.`, {
      value: i.candidates.length,
      allowed: `1 to ${MOST_CANDIDATES}`,
    });
  const leftOut: string[] = [];
  const ids = [...new Set(i.candidates)].toSorted();
  const candidates = ids.flatMap((id, k): Candidate[] => {
    const f = fertiliserOf(book, id, 'candidates');
    const withSeed = i.seedRowLimitKgHa != null && f.seedRowClass === 'forbidden';
    const chloride = i.chlorideSensitive === true && f.clPct > CHLORIDE_CUT_PCT;
    if (withSeed || chloride) {
      leftOut.push(id);
      return [];
    }
    const price = i.pricesPerT?.[id];
    const stock = i.stockKgHa?.[id];
    return [
      {
        f,
        x: `x${k}`,
        y: `y${k}`,
        price:
          price === undefined
            ? f.pricePerTDemo
            : within(`prices_per_t.${id}`, price, range('Price', 'per t', 0, 100_000)),
        most: Math.min(
          mostKgHa,
          stock === undefined
            ? Infinity
            : within(`stock_kg_ha.${id}`, stock, range('In store', 'kg/ha', 0, 1e6)),
        ),
      },
    ];
  });
  return { candidates, leftOut };
}

function readied(book: Book, i: BlendInput): Ready {
  const least = within('min_rate_kg_ha', i.minRateKgHa ?? 40, { ...RATE, max: 200 });
  const most = within('max_rate_kg_ha', i.maxRateKgHa ?? 1000, { ...RATE, min: 1 });
  if (least > most)
    refuse('inconsistent', 'min_rate_kg_ha', 'The least rate of a product is above the largest.', {
      value: least,
      allowed: `0 to ${most}`,
    });
  const maxProducts = within('max_products', i.maxProducts ?? 3, range('Products', '', 1, 10));
  const min = amounts('min_kg_ha', i.minKgHa);
  const max = amounts('max_kg_ha', i.maxKgHa);
  for (const [nutrient, kg] of min)
    if (kg > (max.get(nutrient) ?? Infinity))
      refuse(
        'inconsistent',
        `max_kg_ha.${nutrient}`,
        `At least ${kg} and at most ${max.get(nutrient)} kg ${nutrient.toUpperCase()}/ha contradict each other.`,
        { value: max.get(nutrient), allowed: `${kg} or more` },
      );
  const { candidates, leftOut } = candidatesOf(book, i, most);
  const sum = (of: (f: Fertiliser) => number) =>
    Object.fromEntries(candidates.map((c) => [c.x, of(c.f)]));
  const asked = BLEND_NUTRIENTS.filter((n) => min.has(n) || max.has(n));
  const limits: Row[] = asked.map((n) => ({
    name: n,
    of: sum((f) => CONTENT[n](f) / 100),
    min: min.get(n) ?? null,
    max: max.get(n) ?? null,
  }));
  if (i.maxNPerPassKgHa != null)
    limits.push({
      name: 'n_per_pass',
      of: sum((f) => f.nTotalPct / 100),
      max: within('max_n_per_pass_kg_ha', i.maxNPerPassKgHa, NUTRIENT),
    });
  if (i.seedRowLimitKgHa != null)
    limits.push({
      name: 'seed_row',
      of: sum(
        (f) => (f.seedRowWeightN * f.nTotalPct + f.seedRowWeightK2o * f.kPct * K2O_PER_K) / 100,
      ),
      max: within('seed_row_limit_kg_ha', i.seedRowLimitKgHa, NUTRIENT),
    });
  const handling = within(
    'handling_per_product_ha',
    i.handlingPerProductHa ?? 0,
    range('Handling', 'money/ha', 0, 1000),
  );
  return { candidates, limits, least, maxProducts, handling, leftOut };
}

const byVariable = (
  candidates: readonly Candidate[],
  of: (c: Candidate) => readonly (readonly [string, number])[],
): Record<string, number> => Object.fromEntries(candidates.flatMap(of));

/** Which products are in it, and between which rates. */
const choiceRows = (r: Ready): Row[] => [
  ...r.candidates.flatMap((c): Row[] => [
    { name: `${c.x}_most`, of: { [c.x]: 1, [c.y]: -c.most }, max: 0 },
    { name: `${c.x}_least`, of: { [c.x]: 1, [c.y]: -r.least }, min: 0 },
  ]),
  { name: 'count', of: byVariable(r.candidates, (c) => [[c.y, 1]]), max: r.maxProducts },
];
/** No more of a product than the limits leave room for: it keeps the solver's search short. */
const tightened = (r: Ready): Ready => ({
  ...r,
  candidates: r.candidates.map((c) => ({
    ...c,
    most: Math.min(
      c.most,
      ...r.limits.flatMap(({ of, max }) => {
        const per = of[c.x] ?? 0;
        return max != null && per > 0 ? [max / per] : [];
      }),
    ),
  })),
});

/** How near two blends cost alike, money/ha: of these the one with fewer products comes first. */
const ALIKE = 1e-5;
/** And of blends with as many products the lighter one, money/kg. */
const LIGHTER = 1e-9;

/**
 * The products of the cheapest blend. Without least rates and without a count the rates alone are a
 * plain programme, and quick: where its one answer keeps both, no cheaper blend can be. Else the
 * choice of products is searched.
 */
function cheapest(solve: Solve, r: Ready): Candidate[] | null {
  const plain = solve({
    minimise: byVariable(r.candidates, (c) => [[c.x, c.price / 1000 + LIGHTER]]),
    rows: r.limits,
    bounds: Object.fromEntries(r.candidates.map((c) => [c.x, { max: c.most }])),
  });
  if (!plain) return null;
  const taken = r.candidates.filter((c) => (plain.values[c.x] ?? 0) > ALIKE);
  const fits =
    plain.only &&
    r.handling === 0 &&
    taken.length <= r.maxProducts &&
    taken.every((c) => (plain.values[c.x] ?? 0) >= r.least);
  if (fits) return taken;
  const found = solve({
    minimise: byVariable(r.candidates, (c) => [
      [c.x, c.price / 1000 + LIGHTER],
      [c.y, r.handling + ALIKE],
    ]),
    rows: [...r.limits, ...choiceRows(r)],
    choices: r.candidates.map((c) => c.y),
  });
  return found && r.candidates.filter((c) => (found.values[c.y] ?? 0) > 0.5);
}

/** The limits that no rates of these products can meet together, told one by one. */
function conflicts(solve: Solve, r: Ready): string[] {
  const slacks = r.limits.flatMap((row) => [
    ...(row.min == null ? [] : [{ row, side: 'min' as const, name: `s_${row.name}_min` }]),
    ...(row.max == null ? [] : [{ row, side: 'max' as const, name: `s_${row.name}_max` }]),
  ]);
  const programme: Programme = {
    minimise: Object.fromEntries(
      slacks.map(({ row, side, name }) => [name, 1 / Math.max(row[side] ?? 0, 1)]),
    ),
    rows: slacks.map(({ row, side, name }) => ({
      name,
      of: { ...row.of, [name]: side === 'min' ? 1 : -1 },
      [side]: row[side],
    })),
    bounds: Object.fromEntries(r.candidates.map((c) => [c.x, { max: c.most }])),
  };
  const found = solve(programme);
  return slacks.flatMap(({ row, side, name }) => {
    const slack = found?.values[name] ?? 0;
    if (slack <= ALIKE) return [];
    const asked = row[side] ?? 0;
    const what =
      row.name === 'n_per_pass'
        ? 'N in one pass'
        : row.name === 'seed_row'
          ? 'N + K2O beside the seed'
          : row.name === 'cl'
            ? 'chloride'
            : row.name.length > 1
              ? `${row.name[0]?.toUpperCase()}${row.name.slice(1)}`
              : row.name.toUpperCase();
    const shown = (kg: number) => String(Math.round(kg * 10) / 10);
    return [
      side === 'min'
        ? `${what}: at least ${shown(asked)} kg/ha wanted, these products reach ${shown(asked - slack)} kg/ha`
        : `${what}: at most ${shown(asked)} kg/ha allowed, these products bring ${shown(asked + slack)} kg/ha`,
    ];
  });
}

/** Why there is no blend: which limits conflict, how many products it takes, or the least rate. */
function whyNone(solve: Solve, r: Ready): string {
  if (r.candidates.length === 0)
    return `none of these products may be used here (${r.leftOut.join(', ')} are left out)`;
  const found = conflicts(solve, r);
  if (found.length > 0) return found.join('; ');
  for (let maxProducts = r.maxProducts + 1; maxProducts <= r.candidates.length; maxProducts++)
    if (cheapest(solve, tightened({ ...r, maxProducts })))
      return `it takes ${maxProducts} products to meet them all`;
  return `each product would have to go on at less than ${r.least} kg/ha, or at more than may be had of it`;
}

/**
 * The least-cost blend (F2.4): exact, by a solver of mixed programmes.
 *
 * @param i.candidates 1 to 60 products of the library
 * @param i.minKgHa, i.maxKgHa available kg/ha of n, p, k, s, ca, mg, cl or a micronutrient
 * @throws Refusal `infeasible` that says which limits conflict
 * @example (await blendLp(PRINTED, { candidates: ['tsp_0_46', 'dap_18_46'], minKgHa: { p: 15 },
 * maxProducts: 2, seedRowLimitKgHa: 11.4358 })).productsKgHa.tsp_0_46 // 74.701 kg/ha
 */
export async function blendLp(book: Book, i: BlendInput): Promise<Blend> {
  const ready = readied(book, i);
  const solve = await solver();
  const chosen = ready.candidates.length > 0 ? cheapest(solve, tightened(ready)) : null;
  // With the products known the rates are a plain programme, exact to the last place.
  const rates =
    chosen &&
    solve({
      minimise: byVariable(chosen, (c) => [[c.x, c.price / 1000]]),
      rows: ready.limits.map((row) => ({
        ...row,
        of: Object.fromEntries(chosen.map((c) => [c.x, row.of[c.x] ?? 0])),
      })),
      bounds: Object.fromEntries(chosen.map((c) => [c.x, { min: ready.least, max: c.most }])),
    });
  if (!chosen || !rates)
    return refuse(
      'infeasible',
      'candidates',
      `No blend of at most ${ready.maxProducts} of these products meets all limits: ${whyNone(solve, ready)}.`,
    );
  const kgOf = (c: Candidate) => rates.values[c.x] ?? 0;
  const asked = new Set([
    ...Object.keys(i.minKgHa ?? {}),
    ...Object.keys(i.maxKgHa ?? {}),
    ...['n', 'p', 'k', 's', 'cl'],
  ]);
  return {
    productsKgHa: Object.fromEntries(chosen.map((c) => [c.f.productId, kgOf(c)])),
    costHa: chosen.reduce((s, c) => s + (kgOf(c) * c.price) / 1000 + ready.handling, 0),
    deliveredKgHa: Object.fromEntries(
      BLEND_NUTRIENTS.filter((n) => asked.has(n)).map((n) => [
        n,
        chosen.reduce((s, c) => s + (kgOf(c) * CONTENT[n](c.f)) / 100, 0),
      ]),
    ),
    leftOutProducts: ready.leftOut,
  };
}
