import { refuse } from './refusal';

/**
 * Conversion factors of the trade (chapter 1 U3, chapter 2 section 2, chapter 4 0.1). Core works in
 * kg/ha, t/ha, elemental; these serve the edges.
 */
export const KG_HA_PER_LB_AC = 1.12085;
const HA_PER_AC = 1 / 2.471054;
export const L_HA_PER_GAL_AC = 9.353958;
const T_HA_PER_TON_AC = 1 / 0.44609;
const M3_HA_PER_GAL_AC = 1 / 106.907;
export const LB_GAL_PER_KG_L = 8.345404;

export type UnitSystem = 'metric' | 'us';
export type Dimension = 'nutrient_rate' | 'mass_rate' | 'volume_rate' | 'area' | 'product_rate';

interface UnitDefinition {
  dimension: Dimension;
  /** Multiply by this to reach the core unit of the dimension. */
  toCore: number;
  spellings: readonly string[];
}

/** Units that a typed value may carry. Core units: kg/ha, t/ha, m3/ha, ha, kg/ha of product. */
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
  ha: { dimension: 'area', toCore: 1, spellings: ['ha'] },
  ac: { dimension: 'area', toCore: HA_PER_AC, spellings: ['ac', 'acre', 'acres'] },
} as const satisfies Record<string, UnitDefinition>;
export type Unit = keyof typeof UNITS;

const SHOWN: Record<Dimension, Record<UnitSystem, Unit>> = {
  nutrient_rate: { metric: 'kg/ha', us: 'lb/ac' },
  product_rate: { metric: 'kg/ha', us: 'lb/ac' },
  mass_rate: { metric: 't/ha', us: 'ton/ac' },
  volume_rate: { metric: 'm3/ha', us: 'gal/ac' },
  area: { metric: 'ha', us: 'ac' },
};

export const shownUnit = (dimension: Dimension, system: UnitSystem): Unit =>
  SHOWN[dimension][system];
export const fromCore = (value: number, unit: Unit): number => value / UNITS[unit].toCore;

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
  if (!suffix) return { value, unit: shown, core: value * UNITS[shown].toCore };
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
  return { value, unit, core: value * UNITS[unit].toCore };
}
