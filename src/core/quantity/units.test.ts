import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dateAfter, dateInWords, daysBetween } from './calendar';
import { interpolate } from './curve';
import { toCamel, toSnake } from './names';
import { closest, rangeProblem, RANGES, within } from './range';
import { Refusal } from './refusal';
import { halfAwayFromZero, toHundredths } from './rounding';
import { fromCore, readFigure, type Dimension, type Unit } from './units';

const EACH_UNIT: [Unit, Dimension][] = [
  ['kg/ha', 'nutrient_rate'],
  ['lb/ac', 'nutrient_rate'],
  ['t/ha', 'mass_rate'],
  ['ton/ac', 'mass_rate'],
  ['m3/ha', 'volume_rate'],
  ['gal/ac', 'volume_rate'],
  ['L/ha', 'liquid_rate'],
  ['US gal/ac', 'liquid_rate'],
  ['ha', 'area'],
  ['ac', 'area'],
];

const refused = (f: () => unknown) => {
  try {
    f();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  return null;
};

describe('typed figures', () => {
  it.each([
    ['45', 45],
    ['45 lb/ac', 50.43825],
    [' 3,5 ', 3.5],
    ['12 kg/ha', 12],
  ])('%s as kg/ha', (typed, core) =>
    expect(readFigure('rate', typed, 'nutrient_rate', 'kg/ha').core).toBeCloseTo(core, 9),
  );
  it('a bare number is in the unit shown', () =>
    expect(readFigure('rate', '45', 'nutrient_rate', 'lb/ac').core).toBeCloseTo(50.43825, 9));
  it('gallons per acre, tons per acre, acres', () => {
    expect(readFigure('r', '3000 gal/ac', 'volume_rate', 'm3/ha').core).toBeCloseTo(28.06, 2);
    expect(readFigure('r', '20 gal/ac', 'liquid_rate', 'L/ha').core).toBeCloseTo(187.1, 1);
    expect(readFigure('r', '10 ton/ac', 'mass_rate', 't/ha').core).toBeCloseTo(22.42, 2);
    expect(readFigure('a', '10 ac', 'area', 'ha').core).toBeCloseTo(4.047, 3);
  });
  it('keeps the typed value with its unit', () =>
    expect(readFigure('r', '45 lb/ac', 'nutrient_rate', 'kg/ha')).toMatchObject({
      value: 45,
      unit: 'lb/ac',
    }));
  it.each(['', 'abc', '1.200,5', '3 t/ha'])('refuses "%s" for a nutrient rate', (typed) =>
    expect(refused(() => readFigure('rate', typed, 'nutrient_rate', 'kg/ha'))?.field).toBe('rate'),
  );
  it('units round-trip', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1e5, noNaN: true }),
        fc.constantFrom(...EACH_UNIT),
        (v, [unit, dimension]) =>
          Math.abs(
            fromCore(readFigure('x', `${v.toFixed(6)} ${unit}`, dimension, unit).core, unit) -
              Number(v.toFixed(6)),
          ) <
          1e-6 * Math.max(1, v),
      ),
    ));
});

describe('ranges', () => {
  it('names field, value and range', () =>
    expect(refused(() => within('ph_water', 65, RANGES.phWater))).toMatchObject({
      code: 'out_of_range',
      field: 'ph_water',
      value: 65,
      allowed: '2.5 to 11',
      message: 'pH in water (ph_water) = 65 is outside 2.5 to 11.',
    }));
  it.each([NaN, Infinity, 'x', true])('%s is not a number', (v) =>
    expect(refused(() => within('a', v, RANGES.phWater))?.code).toBe('not_a_number'),
  );
  it('missing is missing, not zero', () =>
    expect(refused(() => within('a', null, RANGES.phWater))?.code).toBe('missing'));
  it('an open lower end does not take the end', () => {
    expect(rangeProblem('area', 0, RANGES.areaHa)).not.toBeNull();
    expect(rangeProblem('area', 0.01, RANGES.areaHa)).toBeNull();
  });
  it('offers the nearest keys', () =>
    expect(closest('winter_wheet', ['spring_wheat', 'winter_wheat', 'maize'])[0]).toBe(
      'winter_wheat',
    ));
});

describe('small arithmetic', () => {
  it('rounds half away from zero, on the cent too', () => {
    expect([2.5, -2.5, 1.4999].map(halfAwayFromZero)).toEqual([3, -3, 1]);
    expect([12.345, -12.345, 0.005].map(toHundredths)).toEqual([1235, -1235, 1]);
  });
  it('dates go over leap days and years, and a broken one is refused', () => {
    expect(daysBetween('2028-02-28', '2028-03-01')).toBe(2);
    expect(dateAfter('2026-12-31', 1)).toBe('2027-01-01');
    expect(dateInWords('2027-03-04')).toBe('4 Mar 2027');
    expect(refused(() => daysBetween('2027-02-31', '2027-03-01'))?.value).toBe('2027-02-31');
  });
  it('interpolates flat outside its knots', () =>
    expect(
      [-1, 0, 0.5, 9].map((x) =>
        interpolate(
          [
            [0, 1],
            [1, 3],
          ],
          x,
        ),
      ),
    ).toEqual([1, 1, 2, 3]));
  it('names turn both ways, symbols stay', () => {
    expect(toSnake('yieldGoalTHa')).toBe('yield_goal_t_ha');
    expect(toCamel('yield_goal_t_ha')).toBe('yieldGoalTHa');
    expect(toSnake('NO3_N')).toBe('NO3_N');
  });
});
