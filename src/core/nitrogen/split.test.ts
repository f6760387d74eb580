import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { templateOf, templatesFor } from '../book/splitTemplates';
import { numberOfPasses, splitAllocate, stopCheck } from './split';

const ids = [
  ...new Set(
    ['winter_wheat', 'sugar_beet', 'maize', 'potato', 'winter_barley', 'winter_canola'].flatMap(
      (c) => {
        try {
          return templatesFor(c).map((t) => t.templateId);
        } catch {
          return [];
        }
      },
    ),
  ),
];
const num = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const supply = (id: string) =>
  fc.array(num(-20, 80), {
    minLength: templateOf(id).length + 1,
    maxLength: templateOf(id).length + 1,
  });
const anySplit = fc.constantFrom(...ids).chain((templateId) =>
  fc.record({
    templateId: fc.constant(templateId),
    nTotalKgHa: fc.integer({ min: 0, max: 300 }),
    uTotalKgHa: num(60, 350),
    soilSupplyKgHa: supply(templateId),
  }),
);

describe('the split of the N', () => {
  it('there are templates to try', () => expect(ids.length).toBeGreaterThan(4));
  it('shares add up to the whole, each within the bounds of its pass', () =>
    fc.assert(
      fc.property(anySplit, (i) => {
        const s = splitAllocate(i);
        expect(s.shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        templateOf(i.templateId).forEach((p, k) => {
          expect(s.shares[k]).toBeGreaterThanOrEqual(p.shareMinPct / 100 - 1e-9);
          expect(s.shares[k]).toBeLessThanOrEqual(p.shareMaxPct / 100 + 1e-9);
        });
      }),
    ));
  it('doses are steps of 5 kg, and with what stayed out they are the budget’s total', () =>
    fc.assert(
      fc.property(anySplit, fc.array(num(20, 150), { minLength: 6, maxLength: 6 }), (i, caps) => {
        const s = splitAllocate({ ...i, maxDoseKgHa: caps });
        s.dosesKgHa.forEach((d, k) => {
          expect(d % 5).toBe(0);
          expect(d).toBeGreaterThanOrEqual(0);
          expect(d).toBeLessThanOrEqual((caps[k] ?? Infinity) + 1e-9);
        });
        const placed = s.dosesKgHa.reduce((a, b) => a + b, 0);
        // Rounding of each pass to its step leaves at most half a step a pass.
        expect(Math.abs(placed + s.unplacedKgHa - i.nTotalKgHa)).toBeLessThanOrEqual(
          5 * s.dosesKgHa.length,
        );
      }),
    ));
  it('soil that brings more before a pass makes that pass no larger', () => {
    const base = { templateId: 'winter_wheat_3', nTotalKgHa: 200, uTotalKgHa: 240 };
    const first = (soil: number[]) =>
      splitAllocate({ ...base, soilSupplyKgHa: soil }).rawNeedKgHa[1] ?? 0;
    expect(first([45, 12, 60, 25])).toBeLessThan(first([45, 12, 15, 25]));
  });
  it('wants one interval more than passes, and names the field', () =>
    expect(() =>
      splitAllocate({
        templateId: 'winter_wheat_3',
        nTotalKgHa: 200,
        uTotalKgHa: 240,
        soilSupplyKgHa: [1, 2],
      }),
    ).toThrow('expected 4 intervals'));
});

describe('how many passes', () => {
  const wheat = {
    cropId: 'winter_wheat',
    nTotalKgHa: 160,
    expectedDrainageMm: 20,
    splitClass: 'heavy',
  };
  it('light land and wet weather ask for more, a coated product for one less', () => {
    expect(numberOfPasses({ ...wheat, splitClass: 'light' }).raw).toBe(
      numberOfPasses(wheat).raw + 2,
    );
    expect(numberOfPasses({ ...wheat, expectedDrainageMm: 101 }).raw).toBe(
      numberOfPasses(wheat).raw + 2,
    );
    expect(numberOfPasses({ ...wheat, splitClass: 'light', coatedOrInhibited: true }).raw).toBe(
      numberOfPasses({ ...wheat, splitClass: 'light' }).raw - 1,
    );
    expect(numberOfPasses({ ...wheat, coatedOrInhibited: true }).raw).toBe(1);
  });
  it('a large dose is parted whatever the soil', () =>
    expect(numberOfPasses({ ...wheat, nTotalKgHa: 480 }).byDose).toBeGreaterThan(
      numberOfPasses(wheat).byDose,
    ));
  it.each([
    [{ cropId: 'dragonfruit' }],
    [{ splitClass: 'stony' }],
    [{ nTotalKgHa: -1 }],
    [{ expectedDrainageMm: Number.NaN }],
  ])('refuses %j', (bad) => expect(() => numberOfPasses({ ...wheat, ...bad })).toThrow(Refusal));
});

describe('whether it is still in time', () => {
  it('a stage past the last one is late, the last one itself is not', () => {
    const last = stopCheck({ cropId: 'sugar_beet', use: 'any', bbch: '12' }).lastBbch ?? '';
    expect(stopCheck({ cropId: 'sugar_beet', use: 'any', bbch: last }).level).toBe('ok');
    expect(stopCheck({ cropId: 'sugar_beet', use: 'any', bbch: '39' })).toMatchObject({
      level: 'stop',
    });
  });
  it('a crop without a rule is never late', () =>
    expect(stopCheck({ cropId: 'no_such_rule', bbch: '31' })).toEqual({
      lastBbch: null,
      level: 'ok',
      harm: '',
    }));
});
