import { fromCore, shownUnit, type Dimension, type UnitSystem } from '../quantity/units';

/** A figure with its unit, as the reader of a sheet has both. */
export interface Shown {
  value: number;
  unit: string;
}
/** What the rate of a job is told in. */
export type RateUnit = 'kg_ha' | 't_ha' | 'm3_ha';
const RATES: Record<RateUnit, Dimension> = {
  kg_ha: 'product_rate',
  t_ha: 'mass_rate',
  m3_ha: 'volume_rate',
};
const TOTAL: Record<UnitSystem, Record<RateUnit, string>> = {
  metric: { kg_ha: 'kg', t_ha: 't', m3_ha: 'm3' },
  us: { kg_ha: 'lb', t_ha: 'short ton', m3_ha: 'gal' },
};

/** Whole from ten on, one decimal below: as somebody would write it down. */
export const plainly = (v: number): number => {
  const size = Math.abs(v);
  return Number(v.toFixed(size >= 10 ? 0 : size >= 1 ? 1 : 2));
};
export const shownArea = (areaHa: number, system: UnitSystem): Shown => ({
  value: Number(fromCore(areaHa, shownUnit('area', system)).toFixed(2)),
  unit: shownUnit('area', system),
});
/**
 * A rate per hectare as the reader has it.
 *
 * @example shownRate(110, 'kg_ha', 'us') // { value: 98, unit: 'lb/ac' }
 */
export function shownRate(perHa: number, rate: RateUnit, system: UnitSystem): Shown {
  const unit = shownUnit(RATES[rate], system);
  return {
    value: system === 'metric' ? Number(perHa.toPrecision(6)) : plainly(fromCore(perHa, unit)),
    unit,
  };
}
/**
 * What a rate comes to on so many hectares, rounded up to whole units of kg or lb: it has to be
 * loaded.
 *
 * @example shownTotal(110, 11, 'kg_ha', 'metric') // { value: 1210, unit: 'kg' }
 */
export function shownTotal(
  perHa: number,
  areaHa: number,
  rate: RateUnit,
  system: UnitSystem,
): Shown {
  const value =
    fromCore(perHa, shownUnit(RATES[rate], system)) * fromCore(areaHa, shownUnit('area', system));
  // A crumb of arithmetic is no kilogram more.
  return {
    value: rate === 'kg_ha' ? Math.ceil(value - 1e-6) : plainly(value),
    unit: TOTAL[system][rate],
  };
}
/** "1,210 kg": thousands are parted by a thin gap that no reader takes for a decimal point. */
export const inFigures = ({ value, unit }: Shown): string =>
  `${String(value).replace(/\B(?=(\d{3})+(?!\d))/g, value >= 10_000 ? '\u202f' : '')} ${unit}`;
