import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';

const TEST = { min: 0, max: 60000, unit: 'mg/kg', label: 'Soil test' };
const CRIT = { min: 0, max: 60000, unit: 'mg/kg', label: 'Critical level', above: true };
const PCT = { min: 0, max: 100, unit: '%', label: 'Relative yield' };
const POSITIVE = (label: string, unit: string) => ({ min: 0, max: 1e6, unit, label, above: true });

export interface ResponseCurve {
  test: number;
  crit95: number;
  ry0: number;
}
const checkCurve = ({ test, crit95, ry0 }: ResponseCurve) => {
  within('test', test, TEST);
  within('crit95', crit95, CRIT);
  within('ry0', ry0, PCT);
  if (ry0 >= 95)
    refuse(
      'inconsistent',
      'ry0',
      `ry0 = ${ry0} % is bad data: a soil with nothing in it must yield under 95 %.`,
      { value: ry0, allowed: '0 to under 95 %' },
    );
};

/**
 * Relative yield at a soil test by the Mitscherlich curve (chapter 3, 4.3), %.
 *
 * @example relativeYield({ test: 10, crit95: 17, ry0: 60 }).value // 88.2 %
 */
export function relativeYield(c: ResponseCurve): { value: number } {
  checkCurve(c);
  const k = Math.log((100 - c.ry0) / 5) / c.crit95;
  return { value: 100 - (100 - c.ry0) * Math.exp(-k * c.test) };
}

/**
 * The same by a straight line up to a plateau: the sufficiency school's reading.
 *
 * @example relativeYieldLinear({ test: 10, crit95: 17, ry0: 60 }).value // 83.5 %
 */
export function relativeYieldLinear(c: ResponseCurve): { value: number } {
  checkCurve(c);
  return { value: Math.min(100, c.ry0 + ((100 - c.ry0) * c.test) / c.crit95) };
}

/**
 * Dose of P or K that pays best in one season, kg/ha elemental; 0 when the first kilogram does
 * not pay.
 *
 * @example oneSeasonOptimum({ yieldPot: 11, price: 180, ry: 88.2, rmax: 45, cost: 3 }).value //
 * 24.7 kg/ha
 */
export function oneSeasonOptimum(i: {
  yieldPot: number;
  price: number;
  ry: number;
  rmax: number;
  cost: number;
}): { value: number } {
  within('yield_pot', i.yieldPot, POSITIVE('Yield', 't/ha'));
  within('price', i.price, POSITIVE('Crop price', 'per t'));
  within('ry', i.ry, PCT);
  within('rmax', i.rmax, POSITIVE('Largest rate', 'kg/ha'));
  within('cost', i.cost, POSITIVE('Nutrient price', 'per kg'));
  const g = 3 / i.rmax;
  const bracket = (i.yieldPot * i.price * ((100 - i.ry) / 100) * g) / i.cost;
  return { value: bracket > 1 ? Math.min(i.rmax, Math.log(bracket) / g) : 0 };
}
