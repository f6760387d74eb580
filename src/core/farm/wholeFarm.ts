import { openCautions, openStops } from '../assessment/triage';
import { fertiliserOf } from '../book/fertilisers';
import type { Book } from '../book/book';
import { assessSeason, type Assessment } from '../assessment/assess';
import { chosenSchools } from '../lines/chosenSchools';
import type { Plan } from '../document/document';
import { NUTRIENT_KEYS, type NutrientKey } from '../lines/line';
import { doseValue } from '../lines/organicValue';

export interface FarmField {
  fieldId: string;
  plan: Plan;
}
/**
 * One field in the table of the whole farm. Amounts a hectare, and in all where the name says so.
 */
export interface FarmFieldRow {
  fieldId: string;
  name: string;
  areaHa: number;
  cropName: string | null;
  school: string;
  /**
   * Still to apply after manure and the planned passes, kg/ha; below zero: over-supplied. Null
   * without a crop and a goal.
   */
  left: Record<NutrientKey, number> | null;
  products: { id: string; name: string; kg: number; cost: number }[];
  manures: {
    key: string;
    name: string;
    storeId: string | null;
    tonnes: number;
    haulCost: number | null;
  }[];
  fertiliserCost: number;
  haulCost: number;
  stops: number;
  cautions: number;
  /** What keeps the field out of the sums, or nothing. */
  missing: string | null;
}

/** The figures of one field for the table of the farm. */
export function farmFieldRow(book: Book, { fieldId, plan: given }: FarmField): FarmFieldRow {
  const { plan, assessment } = assessSeason(book, given);
  return fieldRow(book, fieldId, plan, assessment);
}

/** The same from a plan that is assessed already. */
export function fieldRow(book: Book, fieldId: string, plan: Plan, a: Assessment): FarmFieldRow {
  const area = plan.field.areaHa;
  const ready = a.lines.some((l) => l.id === 'requirement');
  return {
    fieldId,
    name: plan.field.name,
    areaHa: area,
    cropName: a.cropName,
    school: chosenSchools(plan).n,
    left: ready
      ? (Object.fromEntries(
          NUTRIENT_KEYS.map((x) => [x, a.sums[x].stillToApply - a.sums[x].over]),
        ) as Record<NutrientKey, number>)
      : null,
    products: a.supply.passes
      .filter((p) => p.pass.status === 'planned')
      .map((p) => ({
        id: p.pass.productId,
        name: fertiliserOf(book, p.pass.productId).name,
        kg: p.pass.productKgHa * area,
        cost: p.cost * area,
      })),
    manures: a.organics
      .filter((o) => o.app.status === 'planned')
      .map((o) => ({
        key: o.material.key,
        name: o.material.name,
        storeId: o.app.storeId,
        tonnes: o.onField.rateTHa * area,
        haulCost: doseValue(plan, a, o)?.trip?.cost ?? null,
      })),
    fertiliserCost: a.supply.passes.reduce(
      (s, p) => s + (p.pass.status === 'planned' ? p.cost * area : 0),
      0,
    ),
    haulCost: a.organics.reduce(
      (s, o) => s + (o.app.status === 'planned' ? (doseValue(plan, a, o)?.trip?.cost ?? 0) : 0),
      0,
    ),
    stops: openStops(a.cautions).length,
    cautions: openCautions(a.cautions).length,
    missing: ready ? null : (a.problems[0]?.message ?? 'crop and yield goal'),
  };
}
