import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { soilTestLevels } from '../book/soilTests';
import { classify } from './classify';
import { convertExtractant, ppmToKgHa } from './extractants';
import { phGate, planningPh } from './ph';
import { relativeYield } from './relativeYield';

const ORDER = ['very_low', 'low', 'medium', 'high', 'very_high'];
const calibrated = [
  ...new Map(
    soilTestLevels()
      .filter((r) => r.unit === 'mg_kg' && r.nutrient !== 'fe')
      .map((r) => [`${r.nutrient} ${r.extractant}`, r]),
  ).values(),
];

describe('the class of a soil test', () => {
  it.each(calibrated.map((r) => [`${r.nutrient} by ${r.extractant}`, r] as const))(
    '%s never falls as the test rises, and takes its limits into the upper class',
    (_, row) => {
      const at = (value: number) => {
        try {
          return ORDER.indexOf(
            classify({
              nutrient: row.nutrient,
              extractant: row.extractant,
              value,
              unit: 'mg_kg',
              ph: 6.5,
            }).cls,
          );
        } catch (e) {
          if (!(e instanceof Refusal)) throw e;
          return null;
        }
      };
      const values = [
        0,
        row.lowFrom / 2,
        row.lowFrom,
        row.mediumFrom,
        row.highFrom,
        row.veryHighFrom,
        row.veryHighFrom * 1.5,
      ];
      const classes = values.map(at).filter((c) => c !== null);
      expect([...classes].sort((a, b) => a - b)).toEqual(classes);
    },
  );
  it('is not given without a calibration, for a wrong unit or an impossible figure', () => {
    expect(() => classify({ nutrient: 'p', extractant: 'tea', value: 10, unit: 'mg_kg' })).toThrow(
      /tea/,
    );
    expect(() =>
      classify({ nutrient: 'p', extractant: 'olsen', value: 10, unit: 'spoons' }),
    ).toThrow(/spoons/);
    expect(() =>
      classify({ nutrient: 'p', extractant: 'olsen', value: -1, unit: 'mg_kg' }),
    ).toThrow(/-1/);
    expect(() =>
      classify({ nutrient: 'p', extractant: 'bray_1', value: 16, unit: 'mg_kg', ph: 7.6 }),
    ).toThrow(/Bray|7\.3/i);
  });
  it('reads the same soil alike in lb/ac and mg/kg', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 120, noNaN: true }), (value) => {
        const metric = classify({ nutrient: 'p', extractant: 'olsen', value, unit: 'mg_kg' }).cls;
        const lb = classify({
          nutrient: 'p',
          extractant: 'olsen',
          value: value * 2,
          unit: 'lb_ac',
        });
        expect(lb.value).toBeCloseTo(value, 6);
        expect(Math.abs(ORDER.indexOf(lb.cls) - ORDER.indexOf(metric))).toBeLessThanOrEqual(1);
      }),
    );
    expect(relativeYield({ test: 20, crit95: 20, ry0: 60 }).value).toBeCloseTo(95, 9);
  });
});

describe('another extractant', () => {
  it('is an estimate with a span around it', () => {
    const c = convertExtractant({ key: 'bray1_to_m3icp', value: 20 });
    expect(c.lo).toBeLessThan(c.value);
    expect(c.hi).toBeGreaterThan(c.value);
    expect(() => convertExtractant({ key: 'tea_to_coffee', value: 20 })).toThrow(/tea_to_coffee/);
  });
  it('mg/kg in a layer weighs as the layer does', () =>
    expect(ppmToKgHa({ mgKg: 10, bulkDensityGCm3: 1.3, depthCm: 20 }).value).toBeCloseTo(26, 9));
});

describe('the pH gate', () => {
  it('never gets stricter as pH rises towards the target', () => {
    const rank = { ok: 0, info: 1, caution: 2, stop: 3 } as const;
    for (const crop of ['sugar_beet', 'maize', 'potato']) {
      let last = 3;
      for (let ph = 4; ph <= 6.9; ph += 0.1) {
        let level: number;
        try {
          level = rank[phGate({ ph: Number(ph.toFixed(1)), crop }).level];
        } catch (e) {
          if (e instanceof Refusal) break;
          throw e;
        }
        expect(level, `${crop} at ${ph.toFixed(1)}`).toBeLessThanOrEqual(last);
        last = level;
      }
    }
  });
  it('plans with water pH, and with CaCl2 pH where that is all there is, showing the span', () => {
    expect(planningPh({ phWater: 6.2 }).ph).toBe(6.2);
    const salt = planningPh({ phCacl2: 5.6 });
    expect(salt.ph).toBeCloseTo(6.2, 9);
    expect(salt.low).toBeLessThan(salt.high);
    expect(() => planningPh({})).toThrow(/pH/);
  });
  it('refuses a pH that cannot be', () =>
    expect(() => planningPh({ phWater: 65 })).toThrow(/65 is outside 2\.5 to 11/));
});

describe('relative yield', () => {
  it('rises with the test, is 95 % at the critical level and never passes 100 %', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 200, noNaN: true }),
        fc.double({ min: 0, max: 50, noNaN: true }),
        (test, more) => {
          const at = (x: number) => relativeYield({ test: x, crit95: 20, ry0: 60 }).value;
          expect(at(test + more)).toBeGreaterThanOrEqual(at(test) - 1e-9);
          expect(at(test + more)).toBeLessThanOrEqual(100);
        },
      ),
    );
    expect(relativeYield({ test: 20, crit95: 20, ry0: 60 }).value).toBeCloseTo(95, 9);
  });
});
