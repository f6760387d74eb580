import { refuse } from './refusal';

/**
 * Conversion factors of the trade (chapter 1 U3, chapter 2 section 2, chapter 4 0.1). Core works in
 * kg/ha, t/ha, elemental; these serve the edges.
 */
export const KG_HA_PER_LB_AC = 1.12085;
const HA_PER_AC = 1 / 2.471054;
export const L_HA_PER_GAL_AC = 9.353958;
const T_HA_PER_TON_AC = 1 / 0.44609;
const T_PER_SHORT_TON = 0.90718474;
const KG_PER_LB = 0.45359237;
const M3_HA_PER_GAL_AC = 1 / 106.907;
export const LB_GAL_PER_KG_L = 8.345404;

export type UnitSystem = 'metric' | 'us';
export type Dimension =
  | 'nutrient_rate'
  | 'mass_rate'
  | 'volume_rate'
  | 'liquid_rate'
  | 'area'
  | 'product_rate'
  | 'temperature'
  | 'depth'
  | 'water'
  | 'length'
  | 'distance'
  | 'wind'
  | 'price_per_mass'
  | 'price_per_kg'
  | 'price_per_area';

interface UnitDefinition {
  dimension: Dimension;
  /** Multiply by this to reach the core unit of the dimension. */
  toCore: number;
  /** What it reads where the core unit reads 0; of temperatures. */
  zero?: number;
  spellings: readonly string[];
}

/** Units that a typed value may carry; the core unit of a dimension has a factor of 1. */
const UNITS = {
  'kg/ha': { dimension: 'nutrient_rate', toCore: 1, spellings: ['kg/ha', 'kg ha-1', 'kg'] },
  'lb/ac': {
    dimension: 'nutrient_rate',
    toCore: KG_HA_PER_LB_AC,
    spellings: ['lb/ac', 'lbs/ac', 'lb/acre', 'lbs/acre', 'lb'],
  },
  't/ha': { dimension: 'mass_rate', toCore: 1, spellings: ['t/ha', 't'] },
  'ton/ac': {
    dimension: 'mass_rate',
    toCore: T_HA_PER_TON_AC,
    spellings: ['ton/ac', 'tons/ac', 'ton/acre', 'tons/acre'],
  },
  'm3/ha': { dimension: 'volume_rate', toCore: 1, spellings: ['m3/ha', 'm³/ha', 'm3'] },
  'gal/ac': {
    dimension: 'volume_rate',
    toCore: M3_HA_PER_GAL_AC,
    spellings: ['gal/ac', 'gal/acre'],
  },
  'L/ha': { dimension: 'liquid_rate', toCore: 1, spellings: ['l/ha', 'l ha-1', 'l'] },
  // Slurry is counted in m³, sprays in L: the same gallons of either.
  'US gal/ac': {
    dimension: 'liquid_rate',
    toCore: L_HA_PER_GAL_AC,
    spellings: ['gal/ac', 'gal/acre', 'us gal/ac'],
  },
  ha: { dimension: 'area', toCore: 1, spellings: ['ha'] },
  ac: { dimension: 'area', toCore: HA_PER_AC, spellings: ['ac', 'acre', 'acres'] },
  '°C': { dimension: 'temperature', toCore: 1, spellings: ['°c', 'c'] },
  '°F': { dimension: 'temperature', toCore: 5 / 9, zero: 32, spellings: ['°f', 'f'] },
  cm: { dimension: 'depth', toCore: 1, spellings: ['cm'] },
  in: { dimension: 'depth', toCore: 2.54, spellings: ['in', 'inch', 'inches', '"'] },
  mm: { dimension: 'water', toCore: 1, spellings: ['mm'] },
  inches: { dimension: 'water', toCore: 25.4, spellings: ['in', 'inch', 'inches', '"'] },
  m: { dimension: 'length', toCore: 1, spellings: ['m'] },
  ft: { dimension: 'length', toCore: 0.3048, spellings: ['ft', 'feet', "'"] },
  km: { dimension: 'distance', toCore: 1, spellings: ['km'] },
  mi: { dimension: 'distance', toCore: 1.609344, spellings: ['mi', 'mile', 'miles'] },
  'm/s': { dimension: 'wind', toCore: 1, spellings: ['m/s'] },
  mph: { dimension: 'wind', toCore: 0.44704, spellings: ['mph'] },
  'per t': { dimension: 'price_per_mass', toCore: 1, spellings: ['per t', '/t'] },
  'per short ton': {
    dimension: 'price_per_mass',
    toCore: 1 / T_PER_SHORT_TON,
    spellings: ['per short ton', 'per ton', '/ton'],
  },
  'per kg': { dimension: 'price_per_kg', toCore: 1, spellings: ['per kg', '/kg'] },
  'per lb': { dimension: 'price_per_kg', toCore: 1 / KG_PER_LB, spellings: ['per lb', '/lb'] },
  'per ha': { dimension: 'price_per_area', toCore: 1, spellings: ['per ha', '/ha'] },
  'per ac': {
    dimension: 'price_per_area',
    toCore: 1 / HA_PER_AC,
    spellings: ['per ac', 'per acre', '/ac', '/acre'],
  },
} as const satisfies Record<string, UnitDefinition>;
export type Unit = keyof typeof UNITS;

const SHOWN: Record<Dimension, Record<UnitSystem, Unit>> = {
  nutrient_rate: { metric: 'kg/ha', us: 'lb/ac' },
  product_rate: { metric: 'kg/ha', us: 'lb/ac' },
  mass_rate: { metric: 't/ha', us: 'ton/ac' },
  volume_rate: { metric: 'm3/ha', us: 'gal/ac' },
  liquid_rate: { metric: 'L/ha', us: 'US gal/ac' },
  area: { metric: 'ha', us: 'ac' },
  temperature: { metric: '°C', us: '°F' },
  depth: { metric: 'cm', us: 'in' },
  water: { metric: 'mm', us: 'inches' },
  length: { metric: 'm', us: 'ft' },
  distance: { metric: 'km', us: 'mi' },
  wind: { metric: 'm/s', us: 'mph' },
  price_per_mass: { metric: 'per t', us: 'per short ton' },
  price_per_kg: { metric: 'per kg', us: 'per lb' },
  price_per_area: { metric: 'per ha', us: 'per ac' },
};

export const shownUnit = (dimension: Dimension, system: UnitSystem): Unit =>
  SHOWN[dimension][system];
const definition = (unit: Unit): UnitDefinition => UNITS[unit];
export const fromCore = (value: number, unit: Unit): number =>
  value / definition(unit).toCore + (definition(unit).zero ?? 0);
const toCore = (value: number, unit: Unit): number =>
  (value - (definition(unit).zero ?? 0)) * definition(unit).toCore;

const CORE_UNIT: readonly [string, Dimension][] = (Object.keys(SHOWN) as Dimension[])
  .filter((d) => d !== 'product_rate')
  .map((d) => [SHOWN[d].metric, d]);
const OF_WHAT = /^(t|kg) (\w+)\/ha$/;
/**
 * What a core unit measures, and of what: the boxes of a screen speak in the reader's unit for it.
 * Null for units that are the same everywhere.
 *
 * @example dimensionOf('t DM/ha') // { dimension: 'mass_rate', of: ' DM' }
 */
export function dimensionOf(coreUnit: string): { dimension: Dimension; of: string } | null {
  const named = OF_WHAT.exec(coreUnit);
  const plain = named ? `${named[1]}/ha` : coreUnit;
  const found = CORE_UNIT.find(([unit]) => unit === plain);
  return found ? { dimension: found[1], of: named ? ` ${named[2]}` : '' } : null;
}
/**
 * A converted figure as somebody would write it: what was typed in that unit reads as it was typed,
 * anything else has four digits.
 *
 * @example asWritten(9.948164) // 9.948
 */
export function asWritten(value: number): number {
  const short = Number(value.toPrecision(5));
  return Math.abs(value - short) <= 1e-7 * Math.abs(value)
    ? short
    : Number(value.toPrecision(Math.max(4, Math.trunc(Math.abs(value)).toString().length)));
}

/** A figure as it was typed, kept beside the value that core uses. */
export interface TypedFigure {
  value: number;
  unit: Unit;
  core: number;
}

/**
 * Reads what somebody typed into a rate box: "45", "45 lb/ac", "3,5 t/ha". Without a suffix the
 * unit shown beside the box counts.
 * A decimal comma is accepted; a thousands separator is not, because "1,200" would be read two
 * ways.
 *
 * @throws Refusal `not_a_number` for text without a number, `unknown_id` for a unit of another
 * dimension
 * @example readFigure('rate', '45 lb/ac', 'nutrient_rate', 'kg/ha').core // 50.43825 kg/ha
 */
export function readFigure(
  field: string,
  typed: string,
  dimension: Dimension,
  shown: Unit,
): TypedFigure {
  const m = /^\s*(-?\d+(?:[.,]\d+)?)\s*([^\d\s].*)?$/.exec(typed);
  if (!m)
    refuse(
      'not_a_number',
      field,
      `${field} = ${typed.trim() || 'nothing'} is not a number: type for example 45 or 45 ${shown}.`,
      { value: typed, allowed: `a number, or a number with ${shown}` },
    );
  const value = Number((m[1] ?? '').replace(',', '.'));
  const suffix = m[2]?.trim().toLowerCase();
  if (!suffix) return { value, unit: shown, core: toCore(value, shown) };
  const sameKind = dimension === 'product_rate' ? 'nutrient_rate' : dimension;
  const options = (Object.keys(UNITS) as Unit[]).filter((u) => UNITS[u].dimension === sameKind);
  const unit = options.find((u) => (UNITS[u].spellings as readonly string[]).includes(suffix));
  if (!unit)
    refuse(
      'unknown_id',
      field,
      `${field} = ${typed.trim()}: the unit ${m[2]?.trim()} does not fit here; use ${options.join(' or ')}.`,
      { value: typed, allowed: options.join(', ') },
    );
  return { value, unit, core: toCore(value, unit) };
}
