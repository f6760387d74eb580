import type { Plan } from '../document/document';
import { NUTRIENT_KEYS, type NutrientKey } from '../lines/line';
import type { FarmFieldRow } from './wholeFarm';

/** A heap or tank, with the name of what lies in it. */
export interface FarmStore {
  id: string;
  name: string;
  materialKey: string;
  materialName: string;
  amountT: number | null;
}
export interface FarmTotals extends Omit<RowSums, 'manures'> {
  /** What the nutrients still to apply would cost to buy. */
  toBuy: number;
  /** Manure in store against manure planned, by store, and planned without one. */
  supply: {
    id: string | null;
    name: string;
    material: string;
    inStoreT: number | null;
    plannedT: number;
    leftT: number | null;
  }[];
}

/** Sums over the fields of a farm alone: no store and no price of the farm is in them. */
export interface RowSums {
  areaHa: number;
  fields: number;
  counted: number;
  stops: number;
  /**
   * Still to apply over all fields that are short, kg; what one field has too much of feeds no
   * other.
   */
  leftKg: Record<NutrientKey, number>;
  overKg: Record<NutrientKey, number>;
  fertiliserCost: number;
  haulCost: number;
  products: { id: string; name: string; kg: number; cost: number }[];
  /** Planned, by material and the store that was named. */
  manures: { key: string; name: string; storeId: string | null; tonnes: number }[];
}

/**
 * Adds up the rows of a farm; a surplus of one field feeds no other.
 *
 * @example sumRows([]).counted // 0
 */
export function sumRows(rows: readonly FarmFieldRow[]): RowSums {
  const counted = rows.filter((r) => r.left !== null);
  const sum = (of: (r: FarmFieldRow) => number): number => rows.reduce((s, r) => s + of(r), 0);
  const kg = (sign: 1 | -1) =>
    Object.fromEntries(
      NUTRIENT_KEYS.map((x) => [x, sum((r) => Math.max(0, sign * (r.left?.[x] ?? 0)) * r.areaHa)]),
    ) as Record<NutrientKey, number>;
  const products = new Map<string, RowSums['products'][number]>();
  const manures = new Map<string, RowSums['manures'][number]>();
  for (const r of rows) {
    for (const p of r.products) {
      const had = products.get(p.id);
      products.set(p.id, {
        ...p,
        kg: (had?.kg ?? 0) + p.kg,
        cost: (had?.cost ?? 0) + p.cost,
      });
    }
    for (const { key, name, storeId, tonnes } of r.manures) {
      const of = JSON.stringify([key, storeId]);
      manures.set(of, { key, name, storeId, tonnes: (manures.get(of)?.tonnes ?? 0) + tonnes });
    }
  }
  return {
    areaHa: sum((r) => r.areaHa),
    fields: rows.length,
    counted: counted.length,
    stops: sum((r) => r.stops),
    leftKg: kg(1),
    overKg: kg(-1),
    fertiliserCost: sum((r) => r.fertiliserCost),
    haulCost: sum((r) => r.haulCost),
    products: [...products.values()].toSorted((x, y) => y.kg - x.kg),
    manures: [...manures.values()],
  };
}

/** Manure in store against manure planned, store by store, and what is planned out of none. */
function supplyOf(manures: RowSums['manures'], stores: readonly FarmStore[]): FarmTotals['supply'] {
  // A dressing without a store is taken from the only store of its material, where there is just
  // one.
  const only = (key: string): string | null => {
    const of = stores.filter((s) => s.materialKey === key);
    return of.length === 1 ? (of[0]?.id ?? null) : null;
  };
  const from = manures.map((m) => ({
    ...m,
    store: stores.some((s) => s.id === m.storeId) ? m.storeId : only(m.key),
  }));
  const planned = (of: (m: (typeof from)[number]) => boolean) =>
    from.filter(of).reduce((s, m) => s + m.tonnes, 0);
  const homeless = new Map(from.filter((m) => m.store === null).map((m) => [m.key, m.name]));
  return [
    ...stores.map((s) => {
      const plannedT = planned((m) => m.store === s.id);
      return {
        id: s.id,
        name: s.name,
        material: s.materialName,
        inStoreT: s.amountT,
        plannedT,
        leftT: s.amountT === null ? null : s.amountT - plannedT,
      };
    }),
    ...[...homeless].map(([key, material]) => ({
      id: null,
      name: 'no store named',
      material,
      inStoreT: null,
      plannedT: planned((m) => m.store === null && m.key === key),
      leftT: null,
    })),
  ];
}

/**
 * The sums of a farm: remaining need, products and money, and manure in store against manure
 * planned.
 *
 * @param stores what lies in heaps and tanks, t; null where nobody has measured it
 * @example farmTotals(sumRows([]), [], farm).counted // 0
 */
export function farmTotals(
  sums: RowSums,
  stores: readonly FarmStore[],
  farm: Pick<Plan['farm'], 'nPricePerKg' | 'pPricePerKg' | 'kPricePerKg' | 'sPricePerKg'>,
): FarmTotals {
  const { leftKg, manures, ...rest } = sums;
  return {
    ...rest,
    leftKg,
    toBuy:
      leftKg.n * farm.nPricePerKg +
      leftKg.p * farm.pPricePerKg +
      leftKg.k * farm.kPricePerKg +
      leftKg.s * farm.sPricePerKg,
    supply: supplyOf(manures, stores),
  };
}
