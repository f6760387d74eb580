import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import { fertilisers } from '../book/fertilisers';
import type { FertiliserPass, Plan } from '../document/document';
import { inWords } from '../why/said';
import { leafSprays, liquidDays } from './liquids';

const [, beet] = DEMO_PLANS.find(([n]) => n.startsWith('low-fleet 2026')) as [string, Plan];
const book = bookOf(beet.farm.library);
const pass = (
  productId: string,
  productKgHa: number,
  more: Partial<FertiliserPass> = {},
): FertiliserPass => ({
  id: `${productId} ${more.date ?? ''}`,
  date: '2027-05-04',
  productId,
  productKgHa,
  placementId: 'surface_band',
  status: 'planned',
  pricePerT: null,
  ...more,
});
const withPasses = (...passes: FertiliserPass[]) => assess(book, { ...beet, passes });
const told = (list: { level: string; words: Parameters<typeof inWords>[0] }[]) =>
  list.map((w) => `${w.level}: ${inWords(w.words)}`).join('\n');

describe('liquids of one day', () => {
  it('solids, and what is spread already, are none', () => {
    expect(liquidDays(book, withPasses(pass('can_27', 200)))).toEqual([]);
    expect(liquidDays(book, withPasses(pass('uan_30', 200, { status: 'done' })))).toEqual([]);
  });
  it('one liquid: its litres, and no word of mixing', () => {
    const [day] = liquidDays(book, withPasses(pass('uan_32', 132)));
    expect(day?.parts[0]?.lHa).toBeCloseTo(100, 6);
    expect(told(day?.words ?? [])).toBe(
      'info: Crystals may form from about -2 °C downwards; only the chilled jar test counts.',
    );
  });
  it('two that must not meet are stopped, with the reason', () => {
    const [day] = liquidDays(
      book,
      withPasses(pass('calcium_nitrate_solution_9', 200), pass('app_10_34_0', 100)),
    );
    expect(told(day?.words ?? [])).toMatch(
      /^stop: .* must not share a tank: calcium phosphate sets like cement/u,
    );
    // Where nothing is mixed no crystals of the mixture are told.
    expect(told(day?.words ?? [])).not.toContain('Crystals');
  });
  it('ammonium goes in first, then light before heavy', () => {
    const [day] = liquidDays(
      book,
      withPasses(pass('potassium_thiosulphate_25_17s', 60), pass('uan_32', 200)),
    );
    expect(day?.parts.map((p) => p.productId)).toEqual(['uan_32', 'potassium_thiosulphate_25_17s']);
    expect(told(day?.words ?? [])).toContain('the light one first, agitate while filling');
    expect(told(day?.words ?? [])).toContain('caution:');
  });
  it('each day is its own tank', () =>
    expect(
      liquidDays(
        book,
        withPasses(pass('uan_32', 132), pass('uan_32', 100, { date: '2027-05-24' })),
      ).map((d) => d.parts.length),
    ).toEqual([1, 1]));
  it('ammonia under pressure goes into no open tank', () =>
    expect(
      liquidDays(
        book,
        withPasses(pass('anhydrous_ammonia_82', 80, { placementId: 'knife_injection_deep' })),
      ),
    ).toEqual([]));
  it('any liquids of the library: a finite mix, each pair told or known to be safe', () => {
    const liquid = fertilisers(book).filter(
      (f) => f.densityKgL !== null && f.physicalForm !== 'pressurised_gas',
    );
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...liquid), { minLength: 2, maxLength: 4 }),
        fc.double({ min: 1, max: 400, noNaN: true }),
        (list, kg) => {
          for (const d of liquidDays(book, withPasses(...list.map((f) => pass(f.productId, kg))))) {
            expect(Number.isFinite(d.mix.densityKgL)).toBe(true);
            const densities = d.parts.map((p) => p.densityKgL);
            expect(d.mix.densityKgL).toBeGreaterThanOrEqual(Math.min(...densities) - 1e-9);
            expect(d.mix.densityKgL).toBeLessThanOrEqual(Math.max(...densities) + 1e-9);
            const stops = d.words.filter((w) => w.level === 'stop').length;
            expect(stops > 0).toBe(d.mix.worstPair === 'no');
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('sprays on the leaf', () => {
  const spray = (productId: string, kg: number) =>
    withPasses(pass(productId, kg, { placementId: 'foliar_spray' }));
  it('nothing is told before the water is said', () =>
    expect(
      leafSprays(book, spray('foliar_npk_liquid_8_8_6', 3.6), { waterLHa: null, leaves: null }),
    ).toEqual([]));
  it('three litres of a weak liquid count as no supply, and have no burn limit', () => {
    const [s] = leafSprays(book, spray('foliar_npk_liquid_8_8_6', 3.6), {
      waterLHa: 200,
      leaves: null,
    });
    expect(s?.load.verdict).toBe('not_meaningful');
    expect(told(s?.words ?? [])).toContain('it does not count');
    expect(told(s?.words ?? [])).toContain('The label’s limit counts');
  });
  it('too strong for the leaves is a stop; the same in more water is near, or well below', () => {
    const burn = (waterLHa: number) =>
      leafSprays(book, spray('foliar_urea_low_biuret_46', 20), { waterLHa, leaves: 'potato' })[0]
        ?.load.burn;
    expect([burn(250), burn(400), burn(500)]).toEqual(['stop', 'caution', 'ok']);
  });
  it('in pounds to the acre for a reader of pounds', () => {
    const [s] = leafSprays(book, spray('foliar_urea_low_biuret_46', 20), {
      waterLHa: 500,
      leaves: 'potato',
    });
    expect(s?.words.map((w) => inWords(w.words, 'us')).join(' ')).toContain('lb/ac N');
  });
});
