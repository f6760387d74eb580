import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { materials, spreadingMethods } from '../book/organicMaterials';
import { ammoniaKeptTable, ammoniaLoss, lateIncorporationCost } from './ammonia';
import { labCheck, labToKgT, unitSuspect } from './laboratory';
import {
  analysisOf,
  firstYearFraction,
  nitrogenPools,
  plantAvailableN,
  releaseFraction,
  residualCredit,
} from './release';

const hours = fc.integer({ min: 0, max: 72 });

describe('ammonia', () => {
  it('loses a share between 0 and 1 by every method, whatever the weather', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...spreadingMethods().map((m) => m.methodKey)),
        fc.integer({ min: -5, max: 35 }),
        fc.integer({ min: 0, max: 15 }),
        hours,
        (method, tempC, windMS, h) => {
          const loss = ammoniaLoss({
            method,
            tempC,
            windMS,
            coverings: [{ kind: 'plough_inversion', hours: h }],
          });
          expect(loss.lossFrac).toBeGreaterThanOrEqual(0);
          expect(loss.lossFrac).toBeLessThan(1);
          expect(loss.lossFrac + loss.retainedFrac).toBeCloseTo(1, 12);
        },
      ),
    );
  });
  it('grows with each hour before covering, and is most when never covered', () => {
    fc.assert(
      fc.property(hours, fc.integer({ min: 1, max: 20 }), (h, later) => {
        const at = (x: number) =>
          ammoniaLoss({
            method: 'solid_broadcast',
            coverings: [{ kind: 'plough_inversion', hours: x }],
          }).lossFrac;
        expect(at(h + later)).toBeGreaterThan(at(h));
        expect(ammoniaLoss({ method: 'solid_broadcast' }).lossFrac).toBeGreaterThanOrEqual(
          at(h + later),
        );
      }),
    );
  });
  it('is more in warmth and wind', () => {
    const at = (tempC: number, windMS: number) =>
      ammoniaLoss({
        method: 'splash_low',
        tempC,
        windMS,
        coverings: [{ kind: 'plough_inversion', hours: 6 }],
      }).lossFrac;
    expect(at(25, 3)).toBeGreaterThan(at(10, 3));
    expect(at(15, 6)).toBeGreaterThan(at(15, 1));
  });
  it('says when the weather was assumed', () => {
    expect(ammoniaLoss({ method: 'solid_broadcast' }).why.note).toContain('15 °C, 3 m/s');
    expect(ammoniaLoss({ method: 'solid_broadcast', tempC: 12, windMS: 2 }).defaultWeather).toBe(
      false,
    );
  });
  it('refuses what cannot be', () => {
    expect(() => ammoniaLoss({ method: 'catapult' })).toThrow(/catapult/);
    expect(() =>
      ammoniaLoss({
        method: 'solid_broadcast',
        coverings: [{ kind: 'plough_inversion', hours: -1 }],
      }),
    ).toThrow(/-1/);
    expect(() => ammoniaKeptTable({ group: 'liquid', placement: 'in_the_pond' })).toThrow(
      /in_the_pond/,
    );
  });
  it('prices lateness by the N that it cost', () => {
    const c = lateIncorporationCost({
      tan: 1.6,
      rate: 14,
      lossPlanned: 0.144,
      lossActual: 0.6,
      priceN: 1.2,
    });
    expect(c.lostKgHa).toBeCloseTo(10.2144, 4);
    expect(c.lostMoneyHa).toBeCloseTo(12.257, 3);
  });
});

describe('nitrogen of a material', () => {
  it('is parted without loss for every material of the book', () => {
    for (const m of materials(PRINTED)) {
      const p = nitrogenPools({
        totalN: m.totalNKgT,
        nh4: m.nh4NKgT,
        no3: m.no3NKgT,
        klass: m.mineralisationClass,
      });
      expect(p.tan + p.org, m.key).toBeLessThanOrEqual(m.totalNKgT * 1.02 + 1e-9);
      expect(Math.min(p.tan, p.org, p.uric), m.key).toBeGreaterThanOrEqual(0);
    }
  });
  it('is refused where the parts exceed the whole, naming the rule', () => {
    expect(() => nitrogenPools({ totalN: 3, nh4: 4, klass: 'cattle_solid' })).toThrow(/M03/);
    expect(() => nitrogenPools({ totalN: 3, nh4: 2, no3: 2, klass: 'cattle_solid' })).toThrow(
      /M04/,
    );
  });
  it('gives each first year a share within its own bounds, moved by C:N', () => {
    for (const m of materials(PRINTED)) {
      const base = firstYearFraction({ klass: m.mineralisationClass });
      expect(
        firstYearFraction({ klass: m.mineralisationClass, cnBook: 20, cnLab: 10 }),
        m.key,
      ).toBeGreaterThanOrEqual(
        Math.min(base, firstYearFraction({ klass: m.mineralisationClass, cnBook: 20, cnLab: 40 })),
      );
    }
  });
  it('is released ever more with warmth, never more than its year', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2900 }),
        fc.integer({ min: 1, max: 100 }),
        (tt, more) => {
          expect(releaseFraction({ klass: 'cattle_solid', tt: tt + more })).toBeGreaterThan(
            releaseFraction({ klass: 'cattle_solid', tt }),
          );
        },
      ),
    );
    expect(releaseFraction({ klass: 'cattle_solid', tt: 0 })).toBe(0);
    expect(releaseFraction({ klass: 'cattle_solid', tt: 3000 })).toBeCloseTo(
      firstYearFraction({ klass: 'cattle_solid' }),
      9,
    );
  });
  it('is worth more the more ammonia is kept, by just that ammonia', () => {
    const pan = (retainedFrac: number) =>
      plantAvailableN(PRINTED, {
        mat: 'sheep_bedded',
        lab: { totalNKgT: 8, nh4NKgT: 1.6 },
        retainedFrac,
      }).panKgT;
    expect(pan(0.9) - pan(0.4)).toBeCloseTo(1.6 * 0.5, 9);
    expect(pan(0.856)).toBeCloseTo(2.7776, 9);
  });
  it('leaves less each later year', () => {
    const year = (yearK: number, rateTHa = 20) =>
      residualCredit(PRINTED, { apps: [{ mat: 'sheep_bedded', rateTHa, yearK }] }).creditKgHa;
    expect(year(2)).toBeCloseTo(14.3, 9);
    expect(year(2)).toBeGreaterThan(year(3));
    expect(year(3)).toBeGreaterThanOrEqual(year(4));
    expect(year(5)).toBe(0);
    expect(year(2, 40)).toBeCloseTo(2 * year(2), 9);
    expect(residualCredit(PRINTED, { apps: [] }).creditKgHa).toBe(0);
  });
});

describe('the analysis to reckon with', () => {
  const sheep = materials(PRINTED).find((m) => m.key === 'sheep_bedded');
  if (!sheep) throw new Error('no sheep_bedded in the book');
  it('is the book where the laboratory is silent, and says which', () => {
    expect(analysisOf(sheep, null).fromBook).toEqual(
      expect.arrayContaining(['N', 'ammonium', 'P', 'K', 'S', 'dry matter']),
    );
    expect(
      analysisOf(sheep, { totalNKgT: 8, nh4NKgT: 1.6, pKgT: 1.5, kKgT: 9, sKgT: 1, dmPct: 30 })
        .fromBook,
    ).toEqual([]);
  });
  it('keeps the book’s SHARE of ammonium when only total N was measured', () => {
    expect(analysisOf(sheep, { totalNKgT: 2 * sheep.totalNKgT }).nh4NKgT).toBeCloseTo(
      2 * sheep.nh4NKgT,
      9,
    );
  });
  it('takes a zero for a measured zero', () =>
    expect(analysisOf(sheep, { totalNKgT: 8, nh4NKgT: 0, pKgT: 0 })).toMatchObject({
      nh4NKgT: 0,
      pKgT: 0,
    }));
});

describe('the laboratory report', () => {
  const figure = { value: 5, unit: 'kg_t', basis: 'as_received', dmPct: 25 };
  it('reads per cent and g/kg as kg/t, and a dry basis by its dry matter', () => {
    expect(labToKgT({ ...figure, value: 0.5, unit: 'pct' })).toBeCloseTo(5, 9);
    expect(labToKgT({ ...figure, value: 5, unit: 'g_kg' })).toBeCloseTo(5, 9);
    expect(labToKgT({ ...figure, value: 20, basis: 'dry' })).toBeCloseTo(5, 9);
  });
  it('refuses a unit that it does not know', () =>
    expect(() => labToKgT({ ...figure, unit: 'spoons' })).toThrow(/spoons/));
  it('finds nothing wrong in a sound sheet, and ammonium above total N in a wrong one', () => {
    const sound = { form: 'solid', dmPct: 25, totalN: 5, nh4: 1, no3: 0, p: 1, k: 5 };
    expect(labCheck(sound)).toEqual([]);
    expect(labCheck({ ...sound, nh4: 6 })).toContain('M03');
  });
  it('suspects no unit where the figures lie near the book', () =>
    expect(
      unitSuspect({ rMed: 1.1, dmPct: 25, unit: 'kg_t', basis: 'as_received', form: 'solid' }),
    ).toBeNull());
});
