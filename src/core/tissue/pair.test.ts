import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tissueNutrients } from '../book/tissueNutrients';
import { pairReading, type PairVector } from './pair';

const value = fc.double({ min: 0.01, max: 1000, noNaN: true });
const nutrient = fc.constantFrom(...tissueNutrients());

describe('affected beside unaffected plants', () => {
  it('the exchange of both turns the sign and nothing else of the comparison', () =>
    fc.assert(
      fc.property(nutrient, value, value, (x, a, b) => {
        const one = pairReading({ nutrient: x, affected: a, unaffected: b });
        const other = pairReading({ nutrient: x, affected: b, unaffected: a });
        expect(one.logRatio).toBeCloseTo(-other.logRatio, 9);
        expect(one.z).toBeCloseTo(-other.z, 6);
        expect(one.u).toBe(other.u);
      }),
    ));
  it('the same in both is never a difference', () =>
    fc.assert(
      fc.property(nutrient, value, (x, a) => {
        const r = pairReading({ nutrient: x, affected: a, unaffected: a, biomassRatio: 1 });
        expect(r.strength).toBe('no_difference');
        expect(r.vector).toBe('no_difference');
      }),
    ));
  it('more pairs never make it less sure', () =>
    fc.assert(
      fc.property(nutrient, value, value, fc.integer({ min: 1, max: 20 }), (x, a, b, n) => {
        const few = pairReading({ nutrient: x, affected: a, unaffected: b, nPairs: n });
        const more = pairReading({ nutrient: x, affected: a, unaffected: b, nPairs: n + 1 });
        expect(Math.abs(more.z)).toBeGreaterThanOrEqual(Math.abs(few.z) - 1e-9);
      }),
    ));
  it('pairs that scatter more than the laboratory does count by their own scatter', () => {
    const pair = { nutrient: 'Mn', affected: 12, unaffected: 25, nPairs: 4 };
    expect(pairReading({ ...pair, logRatioSd: 1 }).u).toBeCloseTo(0.5, 9);
    expect(pairReading({ ...pair, logRatioSd: 0.01 }).u).toBe(pairReading(pair).u);
    // Of two pairs a scatter says nothing yet.
    expect(pairReading({ ...pair, nPairs: 2, logRatioSd: 1 }).u).toBe(
      pairReading({ ...pair, nPairs: 2 }).u,
    );
  });
  it.each<[number, number, PairVector]>([
    [8, 0.6, 'deficient_in_affected'],
    [10, 0.6, 'not_limiting'],
    [12, 0.6, 'accumulates'],
    [8, 1.4, 'dilution_by_growth'],
    [12, 1, 'luxury'],
    [8, 1, 'early_or_hidden'],
    [10, 1, 'no_difference'],
    [10, 1.4, 'uptake_kept_pace'],
    [12, 1.4, 'larger_and_richer'],
  ])('%d against 10 with a mass of %d is %s', (affected, biomassRatio, vector) =>
    expect(pairReading({ nutrient: 'N', affected, unaffected: 10, biomassRatio }).vector).toBe(
      vector,
    ),
  );
  it('without the mass there is no vector, and nothing is taken for it', () =>
    expect(pairReading({ nutrient: 'N', affected: 2, unaffected: 3 }).vector).toBeNull());
  it.each([
    [{ affected: 0, unaffected: 1 }, 'affected'],
    [{ affected: 1, unaffected: -1 }, 'unaffected'],
    [{ affected: 1, unaffected: 1, biomassRatio: 0 }, 'biomass_ratio'],
    [{ affected: 1, unaffected: 1, nPairs: 0 }, 'n_pairs'],
  ])('%j is refused by its name', (i, field) =>
    expect(() => pairReading({ nutrient: 'N', ...i })).toThrow(
      expect.objectContaining({ detail: expect.objectContaining({ field }) as unknown }) as Error,
    ),
  );
});
