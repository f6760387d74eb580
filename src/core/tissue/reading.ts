import { elementShare } from '../quantity/forms';
import { refuse } from '../quantity/refusal';
import { tissueNutrientOf } from '../book/tissueNutrients';
import { logMiddle, type LeafLimits } from './limits';

/** mg/kg per unit, dry basis. */
const MG_KG: Record<string, number> = {
  '%': 10000,
  'g/kg': 1000,
  'mg/g': 1000,
  'mg/kg': 1,
  ppm: 1,
};
/** Named forms are converted only when the report names them (chapter 5, F4.1). */
const FORM: Record<string, { of: string; factor: number }> = {
  P2O5: { of: 'P', factor: elementShare('p2o5') },
  K2O: { of: 'K', factor: elementShare('k2o') },
  CaO: { of: 'Ca', factor: elementShare('cao') },
  MgO: { of: 'Mg', factor: elementShare('mgo') },
  SO3: { of: 'S', factor: elementShare('so3') },
  SO4: { of: 'S', factor: elementShare('so4') },
  NO3: { of: 'NO3_N', factor: elementShare('no3') },
};

/**
 * A leaf figure in the unit that its range uses: % for N P K S Ca Mg Cl Na, mg/kg for the rest
 * (F4.1).
 *
 * @throws Refusal for a unit that is not a concentration in dry matter
 * @example toCoreUnit({ nutrient: 'K', value: 18500, unit: 'mg/kg' }).value // 1.85 %
 */
export function toCoreUnit(i: {
  nutrient: string;
  value: number;
  unit: string;
  form?: string | null;
}): { value: number; unit: '%' | 'mg/kg' } {
  const core = tissueNutrientOf(i.nutrient).coreUnit;
  const factor = MG_KG[i.unit];
  if (factor === undefined)
    refuse(
      'unknown_id',
      'unit',
      `unit ${i.unit} not known for ${i.nutrient}: use one of ${Object.keys(MG_KG).join(', ')}.`,
      { value: i.unit, allowed: Object.keys(MG_KG).join(', ') },
    );
  if (typeof i.value !== 'number' || !Number.isFinite(i.value) || i.value < 0)
    refuse(
      'out_of_range',
      'value',
      `${i.nutrient} = ${i.value} ${i.unit} is below 0 or not a number.`,
      { value: i.value, allowed: '0 and above' },
    );
  const form = i.form ? FORM[i.form] : undefined;
  if (i.form && i.form !== i.nutrient && form?.of !== i.nutrient)
    refuse('unknown_id', 'form', `form ${i.form} is not known for ${i.nutrient}.`, {
      value: i.form,
    });
  return { value: ((i.value * factor) / (MG_KG[core] ?? 1)) * (form?.factor ?? 1), unit: core };
}

export interface UnitCheck {
  valueCore: number;
  result: 'ok' | 'caution' | 'stop';
  suggest: string | null;
  suggestValue: number | null;
}

/**
 * Whether a value looks like another unit (F4.2). Proposes, never converts by itself.
 *
 * @example unitCheck({ nutrient: 'N', value: 30, unit: '%', limits }) // { result: 'stop',
 * suggest: 'g/kg', suggestValue: 3.0 }
 */
export function unitCheck(i: {
  nutrient: string;
  value: number;
  unit: string;
  limits: LeafLimits;
}): UnitCheck {
  const row = tissueNutrientOf(i.nutrient);
  const { value } = toCoreUnit(i);
  const middle = logMiddle(i.limits);
  const off = (x: number) => Math.abs(Math.log(x / middle));
  const plausible = (x: number) => x >= row.plausibleMin && x <= row.plausibleMax;
  const others = ['%', 'g/kg', 'mg/kg']
    .filter((u) => u !== i.unit && MG_KG[u] !== MG_KG[i.unit])
    .map((u) => ({ unit: u, value: toCoreUnit({ ...i, unit: u }).value }));
  const best = others
    .filter((o) => plausible(o.value))
    .sort((a, b) => off(a.value) - off(b.value))[0];
  if (!plausible(value))
    return {
      valueCore: value,
      result: 'stop',
      suggest: best?.unit ?? null,
      suggestValue: best?.value ?? null,
    };
  if (off(value) > Math.log(8) && best && off(best.value) <= Math.log(2.5))
    return { valueCore: value, result: 'caution', suggest: best.unit, suggestValue: best.value };
  return { valueCore: value, result: 'ok', suggest: null, suggestValue: null };
}

/**
 * A slipped decimal point in a macronutrient (F4.2b): the value that would fit, or null.
 *
 * @example decimalCheck({ nutrient: 'N', value: 0.31, limits }).suggested // 3.1
 */
export function decimalCheck(i: { nutrient: string; value: number; limits: LeafLimits }): {
  suggested: number | null;
} {
  const middle = logMiddle(i.limits);
  if (
    !['N', 'P', 'K', 'S', 'Ca', 'Mg'].includes(i.nutrient) ||
    i.value <= 0 ||
    Math.max(i.value / middle, middle / i.value) <= 5
  )
    return { suggested: null };
  const fits = [i.value * 10, i.value / 10].find((x) => Math.max(x / middle, middle / x) <= 1.6);
  return { suggested: fits ?? null };
}

export type CensoredClass =
  'deficient' | 'low_or_deficient' | 'below_sufficient' | 'not_classifiable';

/**
 * A result reported under the method's limit is an interval from 0, never a number (F4.3).
 *
 * @example lessThan({ nutrient: 'N', reported: '<2.0', unit: '%', limits }) // { boundCore: 2,
 * cls: 'deficient' }
 */
export function lessThan(i: {
  nutrient: string;
  reported: string;
  unit: string;
  limits: LeafLimits;
}): { cls: CensoredClass; boundCore: number } {
  const m = /^\s*<\s*(\d+(?:[.,]\d+)?)\s*$/.exec(i.reported);
  if (!m)
    refuse(
      'not_a_number',
      'reported',
      `reported = ${i.reported} is not a value under a limit: write it as <0.5.`,
      { value: i.reported },
    );
  const bound = toCoreUnit({
    nutrient: i.nutrient,
    value: Number((m[1] ?? '').replace(',', '.')),
    unit: i.unit,
  }).value;
  const { d, l, sl } = i.limits;
  return {
    boundCore: bound,
    cls:
      d !== null && bound <= d
        ? 'deficient'
        : bound <= l
          ? 'low_or_deficient'
          : bound <= sl
            ? 'below_sufficient'
            : 'not_classifiable',
  };
}

export interface Contamination {
  Al?: number | null;
  Ti?: number | null;
  Fe?: number | null;
  Mn?: number | null;
  Zn?: number | null;
  Cu?: number | null;
  washed?: string | null;
  sprayElements?: readonly string[] | null;
  /** Upper limits of sufficiency of this standard. */
  upper: Partial<Record<'Fe' | 'Mn' | 'Zn' | 'Cu', number>>;
}
export type Flag = [kind: string, level: 'stop' | 'caution' | 'info', what: string];

function dust(i: Contamination): Flag[] {
  const fe = i.Fe ?? 0;
  const sh = i.upper.Fe ?? Infinity;
  if (i.Ti != null && i.Ti > 10) return [['soil_dust', i.Ti > 30 ? 'stop' : 'caution', 'Ti']];
  if (i.Al == null) return fe > 2 * sh ? [['soil_dust', 'caution', 'Fe, ask for Al']] : [];
  if (i.Al > 1000) return [['soil_dust', 'stop', fe > sh ? 'Al+Fe' : 'Al']];
  if (i.Al > 300) return [['soil_dust', fe > sh ? 'caution' : 'info', fe > sh ? 'Al+Fe' : 'Al']];
  return [];
}

/**
 * Soil dust, spray residue and tap water on the leaves (chapter 5, F3.1). A `stop` blocks iron and
 * aluminium; N, P, K, S, Ca, Mg, B stay usable.
 *
 * @example contamination({ Al: 1200, Fe: 600, upper: { Fe: 250 } }) // [['soil_dust', 'stop',
 * 'Al+Fe']]
 */
export function contamination(i: Contamination): Flag[] {
  const sprayed = i.sprayElements ?? [];
  const declared = sprayed.map((el): Flag => ['spray_residue_declared', 'caution', el]);
  const suspected = (['Mn', 'Zn', 'Cu'] as const)
    .filter((el) => !sprayed.includes(el) && (i[el] ?? 0) > 2 * (i.upper[el] ?? Infinity))
    .map((el): Flag => ['spray_residue_suspected', 'caution', el]);
  return [
    ...dust(i),
    ...declared,
    ...suspected,
    ...(i.washed === 'tap' ? [['tap_water', 'caution', 'Ca Mg Na Cl'] as Flag] : []),
  ];
}
