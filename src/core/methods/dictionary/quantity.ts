import type { Dimension } from '../../quantity/units';

/**
 * What every quantity of the open edge has. A quantity means one thing wherever its name stands:
 * the same unit, the same range, the same choices.
 */
interface Told {
  /** What a person calls it, with a capital and without its unit. */
  label: string;
  /** What it is, in a sentence. */
  about: string;
  /** The letter that textbooks use for it, where they have one. */
  symbol?: string;
}
export interface NumberQuantity extends Told {
  kind: 'number';
  /** As the house writes it: kg/ha, mg/kg, %, or nothing. */
  unit: string;
  /** What is taken at all; `min` itself is not where `above` says so. */
  min: number;
  max: number;
  above?: true;
  whole?: true;
  /** Between what most values lie, where that is much narrower than what is taken. */
  usual?: readonly [number, number];
}
/** One of a short list that never changes with a farm. */
export interface ChoiceQuantity<V extends string = string> extends Told {
  kind: 'choice';
  choices: Readonly<Record<V, string>>;
}
/** A key of the book, or a word of a table; the method knows them and names the nearest. */
export interface KeyQuantity extends Told {
  kind: 'key';
}
export interface TextQuantity extends Told {
  kind: 'text';
}
export interface DateQuantity extends Told {
  kind: 'date';
}
export interface YesQuantity extends Told {
  kind: 'yes';
}
/** Figures by a name that the caller chooses, such as the lines of a sheet; all in one unit. */
export interface FiguresQuantity extends Omit<NumberQuantity, 'kind'> {
  kind: 'figures';
  /** A figure may be missing: null stands in its place. */
  gaps?: true;
}
/** Yes or no by name. */
export interface FlagsQuantity extends Told {
  kind: 'flags';
}
/** A text by name. */
export interface TextsQuantity extends Told {
  kind: 'texts';
}
/** Rows, or a group, of other quantities: the method says which. */
export interface RowsQuantity extends Told {
  kind: 'rows';
}
export type Quantity =
  | NumberQuantity
  | ChoiceQuantity
  | KeyQuantity
  | TextQuantity
  | DateQuantity
  | YesQuantity
  | FiguresQuantity
  | FlagsQuantity
  | TextsQuantity
  | RowsQuantity;

type Limits = Pick<NumberQuantity, 'above' | 'whole' | 'usual' | 'symbol'>;
/**
 * A number with its unit and what is taken.
 *
 * @example number('Wind', 'm/s', [0, 25], 'Mean wind at 2 m height.').max // 25
 */
export const number = (
  label: string,
  unit: string,
  [min, max]: readonly [number, number],
  about: string,
  more: Limits = {},
): NumberQuantity => ({ kind: 'number', label, unit, min, max, about, ...more });
/** Figures by name, in one unit. */
export const figures = (
  label: string,
  unit: string,
  [min, max]: readonly [number, number],
  about: string,
  more: Pick<FiguresQuantity, 'gaps'> = {},
): FiguresQuantity => ({ kind: 'figures', label, unit, min, max, about, ...more });
/** One of a list; the words beside each are what a person chooses from. */
export const choice = <V extends string>(
  label: string,
  about: string,
  choices: Readonly<Record<V, string>>,
): ChoiceQuantity<V> => ({ kind: 'choice', label, about, choices });
export const key = (label: string, about: string): KeyQuantity => ({ kind: 'key', label, about });
export const text = (label: string, about: string): TextQuantity => ({
  kind: 'text',
  label,
  about,
});
export const date = (label: string, about: string): DateQuantity => ({
  kind: 'date',
  label,
  about,
});
export const yes = (label: string, about: string): YesQuantity => ({ kind: 'yes', label, about });
export const flags = (label: string, about: string): FlagsQuantity => ({
  kind: 'flags',
  label,
  about,
});
export const texts = (label: string, about: string): TextsQuantity => ({
  kind: 'texts',
  label,
  about,
});
export const rows = (label: string, about: string): RowsQuantity => ({
  kind: 'rows',
  label,
  about,
});

const DIMENSIONS: Readonly<Record<string, Dimension>> = {
  'kg/ha': 'nutrient_rate',
  't/ha': 'mass_rate',
  'm3/ha': 'volume_rate',
  ha: 'area',
};
/**
 * What a rate or an area may be converted by; the rest is what it is.
 *
 * @example dimensionOf('t/ha') // 'mass_rate'
 */
export const dimensionOf = (unit: string): Dimension | undefined =>
  Object.hasOwn(DIMENSIONS, unit) ? DIMENSIONS[unit] : undefined;

/** Units of the house as the Unified Code for Units of Measure writes them. */
const UCUM: Readonly<Record<string, string>> = {
  '': '1',
  '%': '%',
  'kg/ha': 'kg/har',
  't/ha': 't/har',
  't DM/ha': 't{DM}/har',
  'm3/ha': 'm3/har',
  'L/ha': 'L/har',
  'kg/t': 'kg/t',
  'kg/t DM': 'kg/t{DM}',
  'kg/m3': 'kg/m3',
  'kg/L': 'kg/L',
  'mg/kg': 'mg/kg',
  'mg/kg DM': 'mg/kg{DM}',
  'mg/L': 'mg/L',
  'cmol/kg': 'cmol/kg',
  'g/cm3': 'g/cm3',
  'g/m2': 'g/m2',
  'dS/m': 'dS/m',
  ha: 'har',
  'ha/h': 'har/h',
  m: 'm',
  m2: 'm2',
  m3: 'm3',
  'm3/h': 'm3/h',
  cm: 'cm',
  mm: 'mm',
  km: 'km',
  'km/h': 'km/h',
  'm/s': 'm/s',
  kg: 'kg',
  t: 't',
  g: 'g',
  L: 'L',
  '°C': 'Cel',
  '°C d': 'Cel.d',
  '1/d': '/d',
  '°': 'deg',
  d: 'd',
  h: 'h',
  min: 'min',
  weeks: 'wk',
  months: 'mo',
  years: 'a',
  'per m2': '/m2',
  'per ha': '/har',
  'gal/ac': '[gal_us]/[acr_us]',
  'per ac': '/[acr_us]',
  'per kg': '{money}/kg',
  'per t': '{money}/t',
  money: '{money}',
  'money/ha': '{money}/har',
  'money/t': '{money}/t',
  't/kg': 't/kg',
  't/(kg2/ha)': 't.har/kg2',
  'kg/kg': 'kg/kg',
  'm3/m3': 'm3/m3',
  'lb/ac': '[lb_av]/[acr_us]',
  'lb/gal': '[lb_av]/[gal_us]',
  'g/L': 'g/L',
  'L/min': 'L/min',
  'kg/ha per mg/kg': '(kg/har)/(mg/kg)',
  't/ha per pH': '(t/har)/[pH]',
  'mmol/kg/h': 'mmol/kg/h',
  'mg/g/d': 'mg/g/d',
};
/**
 * A unit as programs read it.
 *
 * @example ucum('kg/ha') // 'kg/har'
 */
export const ucum = (unit: string): string | undefined =>
  Object.hasOwn(UCUM, unit) ? UCUM[unit] : undefined;
