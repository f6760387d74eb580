import { fertiliserOf } from '../reference/fertilisers';
import { withLibrary } from '../reference/library';
import { materialOf } from '../reference/organicMaterials';
import { assess } from './assess';
import { chosenSchools, type Plan } from './document';
import { NUTRIENT_KEYS, type NutrientKey } from './line';
import { doseValue } from './organicValue';

export interface FarmField { fieldId: string; plan: Plan }
/** One field in the table of the whole farm. Amounts a hectare, and in all where the name says so. */
export interface FarmFieldRow {
  fieldId: string;
  name: string;
  areaHa: number;
  cropName: string | null;
  school: string;
  /** Left to bring after manure and the planned passes, kg/ha; below zero: over-supplied. Null without a crop and a goal. */
  left: Record<NutrientKey, number> | null;
  products: { id: string; name: string; kg: number; cost: number }[];
  manures: { key: string; name: string; storeId: string | null; tonnes: number; haulCost: number | null }[];
  fertiliserCost: number;
  haulCost: number;
  stops: number;
  cautions: number;
  /** What keeps the field out of the sums, or nothing. */
  missing: string | null;
}

/** The figures of one field for the table of the farm. */
export function farmFieldRow({ fieldId, plan }: FarmField): FarmFieldRow {
  const a = assess(plan);
  const area = plan.field.areaHa;
  const ready = a.lines.some((l) => l.id === 'requirement');
  return withLibrary(plan.farm.library, () => ({
    fieldId, name: plan.field.name, areaHa: area, cropName: a.cropName, school: chosenSchools(plan).n, left: ready ? (Object.fromEntries(NUTRIENT_KEYS.map((x) => [x, a.sums[x].afterPlan])) as Record<NutrientKey, number>) : null,
    products: a.supply.passes.filter((p) => p.pass.status === 'planned').map((p) => ({ id: p.pass.productId, name: fertiliserOf(p.pass.productId).name, kg: p.pass.productKgHa * area, cost: p.cost * area })),
    manures: a.organics.filter((o) => o.app.status === 'planned').map((o) => ({ key: o.material.key, name: o.material.name, storeId: o.app.storeId, tonnes: o.rateTHa * area, haulCost: doseValue(plan, a.sums, o)?.trip?.cost ?? null })),
    fertiliserCost: a.supply.passes.reduce((s, p) => s + (p.pass.status === 'planned' ? p.cost * area : 0), 0), haulCost: a.organics.reduce((s, o) => s + (o.app.status === 'planned' ? (doseValue(plan, a.sums, o)?.trip?.cost ?? 0) : 0), 0),
    stops: a.warnings.filter((w) => w.level === 'stop').length, cautions: a.warnings.filter((w) => w.level === 'caution').length, missing: ready ? null : (a.problems[0]?.message ?? 'crop and yield goal'),
  }));
}

export interface FarmStore { id: string; name: string; materialKey: string; amountT: number | null }
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
  supply: { id: string | null; name: string; material: string; inStoreT: number | null; plannedT: number; leftT: number | null }[];
}

const grouped = <T, K>(list: readonly T[], key: (x: T) => K): Map<K, T[]> => list.reduce((m, x) => m.set(key(x), [...(m.get(key(x)) ?? []), x]), new Map<K, T[]>());

/**
 * The sums of a farm: remaining need, products and money, and manure in store against manure planned.
 *
 * @param stores what lies in heaps and tanks, t; null where nobody has measured it
 * @example farmTotals([], [], farm).counted // 0
 */
export function farmTotals(rows: readonly FarmFieldRow[], stores: readonly FarmStore[], farm: Plan['farm']): FarmTotals {
  const counted = rows.filter((r) => r.left !== null);
  const kg = (sign: 1 | -1) => Object.fromEntries(NUTRIENT_KEYS.map((x) => [x, counted.reduce((s, r) => s + Math.max(0, sign * (r.left?.[x] ?? 0)) * r.areaHa, 0)])) as Record<NutrientKey, number>;
  const leftKg = kg(1);
  const products = [...grouped(rows.flatMap((r) => r.products), (p) => p.id).values()].map((same) => ({ id: same[0]?.id ?? '', name: same[0]?.name ?? '', kg: same.reduce((s, p) => s + p.kg, 0), cost: same.reduce((s, p) => s + p.cost, 0) })).toSorted((x, y) => y.kg - x.kg);
  const manures = rows.flatMap((r) => r.manures);
  // A dressing without a store is taken from the only store of its material, where there is just one.
  const only = (key: string): string | null => { const of = stores.filter((s) => s.materialKey === key); return of.length === 1 ? (of[0]?.id ?? null) : null; };
  const from = grouped(manures.map((m) => ({ ...m, store: stores.some((s) => s.id === m.storeId) ? m.storeId : only(m.key) })), (m) => m.store ?? `none:${m.key}`);
  const tonnes = (key: string) => (from.get(key) ?? []).reduce((s, m) => s + m.tonnes, 0);
  const supply = withLibrary(farm.library, () => [
    ...stores.map((s) => { const plannedT = tonnes(s.id); return { id: s.id, name: s.name, material: materialOf(s.materialKey).name, inStoreT: s.amountT, plannedT, leftT: s.amountT === null ? null : s.amountT - plannedT }; }),
    ...[...from.keys()].filter((k) => k.startsWith('none:')).map((k) => ({ id: null, name: 'no store named', material: materialOf(k.slice(5)).name, inStoreT: null, plannedT: tonnes(k), leftT: null })),
  ]);
  return {
    areaHa: rows.reduce((s, r) => s + r.areaHa, 0), counted: counted.length, leftKg, overKg: kg(-1), toBuy: leftKg.n * farm.nPricePerKg + leftKg.p * farm.pPricePerKg + leftKg.k * farm.kPricePerKg + leftKg.s * farm.sPricePerKg,
    fertiliserCost: rows.reduce((s, r) => s + r.fertiliserCost, 0), haulCost: rows.reduce((s, r) => s + r.haulCost, 0), products, supply,
  };
}
