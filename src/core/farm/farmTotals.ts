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
export interface FarmTotals {
  areaHa: number;
  counted: number;
  /** Left to bring over all fields that are short, kg; what one field has too much of feeds no other. */
  leftKg: Record<NutrientKey, number>;
  overKg: Record<NutrientKey, number>;
  /** What the nutrients left to bring would cost to buy, and what is planned already. */
  toBuy: number;
  fertiliserCost: number;
  haulCost: number;
  products: { id: string; name: string; kg: number; cost: number }[];
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

const grouped = <T, K>(list: readonly T[], key: (x: T) => K): Map<K, T[]> =>
  list.reduce((m, x) => m.set(key(x), [...(m.get(key(x)) ?? []), x]), new Map<K, T[]>());

/**
 * The sums of a farm: remaining need, products and money, and manure in store against manure planned.
 *
 * @param stores what lies in heaps and tanks, t; null where nobody has measured it
 * @example farmTotals([], [], farm).counted // 0
 */
export function farmTotals(
  rows: readonly FarmFieldRow[],
  stores: readonly FarmStore[],
  farm: Plan['farm'],
): FarmTotals {
  const counted = rows.filter((r) => r.left !== null);
  const kg = (sign: 1 | -1) =>
    Object.fromEntries(
      NUTRIENT_KEYS.map((x) => [
        x,
        counted.reduce((s, r) => s + Math.max(0, sign * (r.left?.[x] ?? 0)) * r.areaHa, 0),
      ]),
    ) as Record<NutrientKey, number>;
  const leftKg = kg(1);
  const products = [
    ...grouped(
      rows.flatMap((r) => r.products),
      (p) => p.id,
    ).values(),
  ]
    .map((same) => ({
      id: same[0]?.id ?? '',
      name: same[0]?.name ?? '',
      kg: same.reduce((s, p) => s + p.kg, 0),
      cost: same.reduce((s, p) => s + p.cost, 0),
    }))
    .toSorted((x, y) => y.kg - x.kg);
  const manures = rows.flatMap((r) => r.manures);
  // A dressing without a store is taken from the only store of its material, where there is just one.
  const only = (key: string): string | null => {
    const of = stores.filter((s) => s.materialKey === key);
    return of.length === 1 ? (of[0]?.id ?? null) : null;
  };
  const from = grouped(
    manures.map((m) => ({
      ...m,
      store: stores.some((s) => s.id === m.storeId) ? m.storeId : only(m.key),
    })),
    (m) => m.store ?? `none:${m.key}`,
  );
  const tonnes = (key: string) => (from.get(key) ?? []).reduce((s, m) => s + m.tonnes, 0);
  const supply = [
    ...stores.map((s) => {
      const plannedT = tonnes(s.id);
      return {
        id: s.id,
        name: s.name,
        material: s.materialName,
        inStoreT: s.amountT,
        plannedT,
        leftT: s.amountT === null ? null : s.amountT - plannedT,
      };
    }),
    ...[...from.keys()]
      .filter((k) => k.startsWith('none:'))
      .map((k) => ({
        id: null,
        name: 'no store named',
        material: from.get(k)?.[0]?.name ?? k.slice(5),
        inStoreT: null,
        plannedT: tonnes(k),
        leftT: null,
      })),
  ];
  return {
    areaHa: rows.reduce((s, r) => s + r.areaHa, 0),
    counted: counted.length,
    leftKg,
    overKg: kg(-1),
    toBuy:
      leftKg.n * farm.nPricePerKg +
      leftKg.p * farm.pPricePerKg +
      leftKg.k * farm.kPricePerKg +
      leftKg.s * farm.sPricePerKg,
    fertiliserCost: rows.reduce((s, r) => s + r.fertiliserCost, 0),
    haulCost: rows.reduce((s, r) => s + r.haulCost, 0),
    products,
    supply,
  };
}
