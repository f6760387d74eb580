import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { balance, caps, roundedLedger, uncertainty } from './ledger';

const kg = fc.integer({ min: 0, max: 60_000 }).map((h) => h / 100);
const lines = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd', 'e'), kg);

describe('the sum of the sheet', () => {
  it('closes to the hundredth for any lines', () => {
    fc.assert(
      fc.property(kg, lines, lines, lines, (requirement, debits, credits, applied) => {
        const b = balance({ requirement, debits, credits, applied });
        const sum = (l: Record<string, number>) =>
          Object.values(l).reduce((s, x) => s + Math.round(x * 100), 0);
        expect(Math.round(b.netKgHa * 100)).toBe(
          Math.round(requirement * 100) + sum(debits) - sum(credits) - sum(applied),
        );
        expect(b.toBringKgHa - b.surplusKgHa).toBeCloseTo(b.netKgHa, 9);
        expect(Math.min(b.toBringKgHa, b.surplusKgHa)).toBe(0);
      }),
    );
  });
  it('lets a fixing crop meet its gap from the air, never a surplus', () => {
    expect(
      balance({
        requirement: 0,
        fixingCrop: true,
        debits: { residue_tie_up: 25 },
        credits: { soil_nitrate: 10 },
      }),
    ).toMatchObject({ fixationKgHa: 15, toBringKgHa: 0 });
    expect(
      balance({ requirement: 0, fixingCrop: true, credits: { soil_nitrate: 10 } }),
    ).toMatchObject({ fixationKgHa: 0, surplusKgHa: 10 });
  });
  it.each([-0.01, 2000.01, NaN, Infinity])('refuses the line %s by name', (x) =>
    expect(() => balance({ requirement: 100, credits: { legume: x } })).toThrow(/credits\.legume/),
  );
});

describe('whole kilograms', () => {
  it('add up to the rounded sum and move no line by a whole kilogram', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.integer({ min: -40_000, max: 40_000 }).map((h) => h / 100),
          { minLength: 1, maxLength: 12 },
        ),
        (signedLines) => {
          const r = roundedLedger({ signedLines });
          expect(r.roundedLines.reduce((a, b) => a + b, 0)).toBe(r.roundedNet);
          r.roundedLines.forEach((x, k) => {
            expect(Number.isInteger(x)).toBe(true);
            expect(Math.abs(x - (signedLines[k] ?? 0))).toBeLessThanOrEqual(1);
          });
        },
      ),
    );
  });
  it('know no minus zero', () =>
    expect(Object.is(roundedLedger({ signedLines: [-0.2, 0.2] }).roundedLines[0], 0)).toBe(true));
});

describe('how sure the sum is', () => {
  it('grows with every line and names the largest doubt', () => {
    const one = uncertainty({ lines: [{ name: 'requirement', kgHa: 200, se: 0.12 }] });
    const two = uncertainty({
      lines: [
        { name: 'requirement', kgHa: 200, se: 0.12 },
        { name: 'legume', kgHa: 80, se: 0.4 },
      ],
    });
    expect(one).toEqual({ sdNetKgHa: 24, testFirst: 'requirement' });
    expect(two.sdNetKgHa).toBeCloseTo(Math.hypot(24, 32), 9);
    expect(two.testFirst).toBe('legume');
  });
  it('has no doubt without lines', () =>
    expect(uncertainty({ lines: [] })).toEqual({ sdNetKgHa: 0, testFirst: null }));
});

describe('ceilings', () => {
  it('never raise a dose, and what is cut is the shortfall', () => {
    fc.assert(
      fc.property(kg, kg, kg, fc.option(kg), (toBringKgHa, nCapKgHa, appliedKgHa, legalCapKgHa) => {
        const c = caps({ toBringKgHa, nCapKgHa, appliedKgHa, legalCapKgHa });
        expect(c.nAllowedKgHa).toBeGreaterThanOrEqual(0);
        expect(c.nAllowedKgHa + c.shortfallKgHa).toBeCloseTo(toBringKgHa, 9);
        expect(c.binding === null).toBe(c.shortfallKgHa === 0);
      }),
    );
  });
});
