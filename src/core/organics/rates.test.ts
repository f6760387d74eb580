import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import {
  breakevenKm,
  dilutionEconomics,
  haul,
  machineRate,
  pBuildup,
  rateBalance,
  rateByBasis,
  replacementValue,
} from './rates';

const num = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('the rate that binds', () => {
  const slurry = {
    needN: 120,
    pan: 1.8,
    pOfftake: 22,
    pT: 0.52,
    annualNLimit: 170,
    totalNT: 2.6,
    maxRate: 60,
  };
  it('is never above any basis that counts, and is one of them', () =>
    fc.assert(
      fc.property(
        num(-50, 300),
        num(-3, 20),
        num(1, 60),
        num(0.1, 12),
        num(50, 400),
        num(0.5, 30),
        num(1, 100),
        (needN, pan, pOfftake, pT, annualNLimit, totalNT, maxRate) => {
          const r = rateByBasis({ needN, pan, pOfftake, pT, annualNLimit, totalNT, maxRate });
          const others = [r.rateP, r.rateK, r.rateLaw, r.rateMax].filter((x) => x !== null);
          for (const x of others) expect(r.rate).toBeLessThanOrEqual(x + 1e-9);
          if (pan > 0) expect(r.rate).toBeLessThanOrEqual(r.rateN + 1e-9);
          expect([r.rateN, ...others]).toContain(r.rate);
          expect(r.rate).toBeGreaterThanOrEqual(0);
        },
      ),
    ));
  it('nothing needed binds at 0; a soil builder is dosed by P, without P at 0', () => {
    expect(rateByBasis({ ...slurry, needN: 0 })).toMatchObject({ rate: 0, mostLimiting: 'rate_n' });
    expect(rateByBasis({ ...slurry, pan: -0.5 })).toMatchObject({
      rateN: 0,
      mostLimiting: 'rate_p',
    });
    expect(rateByBasis({ needN: 120, pan: -0.5 })).toMatchObject({ rate: 0 });
    expect(rateByBasis({ ...slurry, pT: 0 }).rateP).toBeNull();
  });
  it('years of P paid ahead multiply its rate, and stop where N is passed (R16)', () => {
    const one = rateByBasis({ ...slurry, needN: 400 }).rateP ?? 0;
    expect(rateByBasis({ ...slurry, needN: 400, pYears: 3 }).rateP).toBeCloseTo(3 * one, 9);
    expect([
      rateByBasis({ ...slurry, pYears: 1 }).overN,
      rateByBasis({ ...slurry, pYears: 3 }).overN,
    ]).toEqual([false, true]);
    expect(() => rateByBasis({ ...slurry, pYears: 6 })).toThrow(Refusal);
  });
});

describe('what the machine can do', () => {
  it('passes put on the rate between them, none above its most', () =>
    fc.assert(
      fc.property(num(1, 400), num(1, 100), (rate, mx) => {
        const m = machineRate({ rate, mn: 0.1, mx });
        expect(m.passes * m.rateSet).toBeCloseTo(rate, 6);
        expect(m.rateSet).toBeLessThanOrEqual(mx + 1e-6);
        expect(m.rule).toBe(rate > mx ? 'R06' : null);
      }),
    ));
  it('too little for it asks for years of P, at most five and within the N need', () => {
    expect(machineRate({ rate: 3, mn: 8, mx: 40 })).toMatchObject({
      rule: 'R05',
      pYearsNeeded: 3,
      multiYearPossible: true,
    });
    expect(machineRate({ rate: 1.5, mn: 8, mx: 40 })).toMatchObject({
      pYearsNeeded: 6,
      multiYearPossible: false,
    });
    expect(machineRate({ rate: 3, mn: 8, mx: 40, rateN: 7 }).multiYearPossible).toBe(false);
    expect(() => machineRate({ rate: 3, mn: 50, mx: 40 })).toThrow('lies above its most');
  });
});

describe('over and under', () => {
  it.each([
    [89.9, 'grey'],
    [90, 'green'],
    [110, 'green'],
    [110.1, 'yellow'],
    [125, 'yellow'],
    [125.1, 'red'],
  ] as const)('%d of 100 is %s', (supplied, colour) =>
    expect(rateBalance({ supplied, need: 100 }).colour).toBe(colour),
  );
  it('of no need only kilograms are told', () =>
    expect(rateBalance({ supplied: 5, need: 0 })).toEqual({
      balanceKgHa: 5,
      overPct: null,
      colour: 'kg_only',
    }));
  it('P above off-take lifts the test, below it there is no year to tell', () => {
    const p = { pT: 0.52, offtake: 22, perMgKg: 9, stp: 38, screen: 100 };
    expect(pBuildup({ ...p, rate: 80 }).yearsToScreen).toBeGreaterThan(0);
    expect(pBuildup({ ...p, rate: 30 }).yearsToScreen).toBeNull();
    expect(pBuildup({ ...p, rate: 80, stp: 120 }).yearsToScreen).toBe(0);
    expect(pBuildup({ ...p, rate: 80, perMgKg: 18 }).riseMgKgYr).toBeCloseTo(
      pBuildup({ ...p, rate: 80 }).riseMgKgYr / 2,
      9,
    );
  });
});

describe('the trip', () => {
  const trip = { rate: 40, area: 12, capacity: 14, dist: 3, hourCost: 90, pan: 1.5 };
  it('further costs more, and more tractors take less time until the loader decides', () => {
    // There and back: 6 km at 25 km/h are 14.4 minutes, on top of 27 for loading, spreading and
    // waiting.
    expect(haul(trip).minPerLoad).toBeCloseTo(41.4, 9);
    expect(haul({ ...trip, dist: 12 }).costPerT).toBeGreaterThan(haul(trip).costPerT);
    const two = haul({ ...trip, units: 2 });
    expect(two.hours).toBeCloseTo(haul(trip).hours / 2, 9);
    expect([two.loaderBound, haul({ ...trip, units: 6 }).loaderBound]).toEqual([false, true]);
    expect(haul({ ...trip, units: 8 }).hours).toBe(haul({ ...trip, units: 6 }).hours);
  });
  it('loads carry all of it and no load more than fits', () =>
    fc.assert(
      fc.property(num(1, 100), num(0.1, 200), num(1, 30), (rate, area, capacity) => {
        const h = haul({ rate, area, capacity, dist: 2 });
        expect(h.loads * capacity * 0.95).toBeGreaterThanOrEqual(h.total - 1e-6);
        expect((h.loads - 1) * capacity * 0.95).toBeLessThan(h.total + 1e-6);
      }),
    ));
  it('being paid to take it lowers the cost; a kilogram of N has no price where none comes', () => {
    expect(haul({ ...trip, pricePerT: -2 }).cost).toBeCloseTo(haul(trip).cost - 2 * 480, 9);
    expect(haul({ ...trip, pan: -1 }).costPerKgAvailableN).toBeNull();
  });
  it('at the break-even distance the trip costs what the load is worth', () =>
    fc.assert(
      fc.property(num(4, 40), num(5, 25), num(40, 150), (valueT, loadT, hourCost) => {
        const km = breakevenKm({ valueT, loadT, hourCost, speed: 25, fixedMin: 27 });
        if (km === 0) return;
        const minutes = 27 + ((2 * km) / 25) * 60;
        expect((minutes / 60) * hourCost).toBeCloseTo(valueT * loadT, 6);
      }),
    ));
  it('water costs haulage and saves ammonia: twice the water, not twice the cost of a kilogram', () => {
    const d = dilutionEconomics({ nh4C: 1.2, dm: 8, water: 1, baseCostM3: 4 });
    expect(d.costPerKgAfter).toBeGreaterThan(d.costPerKgBefore);
    expect(d.costPerKgAfter).toBeLessThan(2 * d.costPerKgBefore);
  });
});

describe('worth', () => {
  it('is never more than everything at full price, and nothing where nothing is needed', () =>
    fc.assert(
      fc.property(num(1, 80), num(-2, 10), num(-20, 300), (rate, n, need) => {
        const v = replacementValue({
          rate,
          supplyPerT: { N: n, P: 0.5 },
          need: { N: need, P: 0 },
          price: { N: 1.2, P: 2.8 },
        });
        expect(v.valueHa).toBeLessThanOrEqual(v.boughtOutright + 1e-9);
        expect(v.used.P).toBe(0);
        expect(v.used.N).toBeLessThanOrEqual(Math.max(0, need) + 1e-9);
        expect(v.valuePerT * rate).toBeCloseTo(v.valueHa, 9);
      }),
    ));
});
