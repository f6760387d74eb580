import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { corrections, foliarProducts } from '../book/corrections';
import { fruitCaTargets } from '../book/fruitCalcium';
import { leafStandards } from '../book/leafStandards';
import { PRINTED } from '../book/book';
import { correctionAt, correctionsOf, foliarMix, foliarProductOf, retest } from './correction';
import { calciumProgramme, coverage, fruitCaTarget, pitRisk } from './fruitCalcium';

const refusedBy = (field: string) =>
  expect.objectContaining({ detail: expect.objectContaining({ field }) as unknown }) as Error;
const crops = [...new Set(leafStandards(PRINTED).ranges.map((r) => r.crop))];
const NUTRIENTS = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'B', 'Zn', 'Mn', 'Fe', 'Cu', 'Mo'];

describe('the row of a correction', () => {
  it('every crop of the ranges has one for every nutrient that is corrected', () => {
    const without = crops.flatMap((crop) =>
      NUTRIENTS.filter((x) => correctionsOf(x, crop, false).length === 0).map(
        (x) => `${crop} ${x}`,
      ),
    );
    // Neither copper nor iron is corrected in every crop.
    expect(
      without.every((w) => /(Cu|Fe|Mn)$/u.test(w)),
      without.join(', '),
    ).toBe(true);
  });
  it('of several rows the open one, else the next to open, else what is past', () => {
    const at = (bbch: number) =>
      correctionAt({ nutrient: 'B', crop: 'apple', perennial: true, bbch });
    expect(at(60)).toMatchObject({ window: 'open', row: { correctionId: 'C_B_POME_BLOOM' } });
    expect(at(75)).toMatchObject({ window: 'to_come', row: { correctionId: 'C_B_POME' } });
    expect(at(92)).toMatchObject({ window: 'open', row: { correctionId: 'C_B_POME' } });
    expect(at(97)).toMatchObject({ window: 'past' });
  });
  it('a crop that a row names never falls to that of its kind; others do', () => {
    expect(correctionsOf('P', 'apple', true)[0]?.correctionId).toBe('C_P_PERENNIAL');
    expect(correctionsOf('P', 'wheat', false)[0]?.correctionId).toBe('C_P_ANNUAL');
    expect(correctionsOf('Ca', 'wheat', false)[0]?.correctionId).toBe('C_CA_GENERIC');
    expect(correctionsOf('Mo', 'wheat', false)[0]?.correctionId).toBe('C_MO_OTHER');
  });
  it('where the leaf does not work there is no window', () =>
    expect(correctionAt({ nutrient: 'S', crop: 'wheat', perennial: false, bbch: 31 })?.window).toBe(
      'no_use',
    ));
  it('every default product is in the table, and its default spray is not too strong', () => {
    const strong = corrections().flatMap((r) => {
      if (!r.defaultProductId || r.foliarRateDefaultKgHa === null || r.waterDefaultLHa === null)
        return [];
      const mix = foliarMix({
        rateKgHa: r.foliarRateDefaultKgHa,
        productId: r.defaultProductId,
        waterLHa: r.waterDefaultLHa,
        maxConcentrationPct: r.maxConcentrationPctWV,
      });
      return mix.ok ? [] : [r.correctionId];
    });
    expect(strong).toEqual([]);
  });
});

describe('a spray', () => {
  it('more water never makes it stronger; the least water is just safe', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(
          ...foliarProducts().filter(
            (p) => p.isPrimaryElement === 'yes' && p.maxConcentrationPctWVGeneral !== null,
          ),
        ),
        fc.double({ min: 0.05, max: 5, noNaN: true }),
        (p, rateKgHa) => {
          const { minWaterLHa } = foliarMix({ rateKgHa, productId: p.productId, waterLHa: 500 });
          const water = Math.min(5000, Math.max(10, (minWaterLHa ?? 10) * 1.0001));
          if ((minWaterLHa ?? 0) < 4999 && (minWaterLHa ?? 0) > 10)
            expect(foliarMix({ rateKgHa, productId: p.productId, waterLHa: water }).ok).toBe(true);
        },
      ),
    ));
  it('a salt is found by what it is bought for, or by another element it holds', () => {
    expect(foliarProductOf('epsom').element).toBe('Mg');
    expect(foliarProductOf('epsom', 'S').elementFraction).toBeCloseTo(0.13, 2);
    expect(() => foliarProductOf('epsom', 'Zn')).toThrow(refusedBy('product_id'));
    expect(() => foliarProductOf('magic')).toThrow(refusedBy('product_id'));
  });
  it('what the soil got is seen in the same window of the next year', () => {
    expect(retest({ nutrient: 'K', method: 'soil', sprayDate: '2027-06-01' })).toEqual({
      days: null,
      retestDate: null,
    });
    expect(() => retest({ nutrient: 'K', method: 'prayer', sprayDate: '2027-06-01' })).toThrow(
      refusedBy('method'),
    );
  });
});

describe('calcium on the fruit', () => {
  const programme = (part: Partial<Parameters<typeof calciumProgramme>[0]> = {}) =>
    calciumProgramme({
      productId: 'cacl2_flake77',
      concentrationPct: 0.6,
      volumeLHa: 1000,
      nSprays: 6,
      intervalD: 14,
      seasonDays: 100,
      riskGroup: 'bitter_pit_prone',
      crop: 'apple',
      ...part,
    });
  it('its own count of further sprays reaches the target, and one less does not', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.8, noNaN: true }),
        fc.integer({ min: 0, max: 8 }),
        (concentrationPct, nSprays) => {
          const { extraSpraysToTarget: more, target } = programme({ concentrationPct, nSprays });
          if (more === 0 || nSprays + more > 30) return;
          const all = programme({ concentrationPct, nSprays: nSprays + more });
          expect(all.caEffectiveKgHa).toBeGreaterThanOrEqual(target.seasonCaTargetKgHa - 1e-6);
          const short = programme({ concentrationPct, nSprays: nSprays + more - 1 });
          expect(short.caEffectiveKgHa).toBeLessThan(target.seasonCaTargetKgHa);
        },
      ),
    ));
  it('without the size of the trees the coverage is not told', () =>
    expect(programme().coverageIndex).toBeNull());
  it('a canopy is never covered more than wholly', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 5000, noNaN: true }),
        fc.double({ min: 0.5, max: 8, noNaN: true }),
        (volume, heightM) => {
          const c = coverage(volume, { heightM, widthM: 2, rowM: 4 });
          expect(c).toBeGreaterThan(0);
          expect(c).toBeLessThanOrEqual(1);
        },
      ),
    ));
  it('what does not hold is named', () => {
    expect(programme({ intervalD: 5 }).flags).toContain('interval_short');
    expect(programme({ seasonDays: 40 }).flags).toContain('does_not_fit');
    expect(programme({ concentrationPct: 1.2 }).flags).toEqual(
      expect.arrayContaining(['too_strong', 'burn_cap_late']),
    );
    expect(programme({ tmaxC: 28 }).flags).toContain('caution_heat');
  });
  it('a crop with one row serves every risk; another crop is refused', () => {
    expect(fruitCaTarget('pear', 'moderate').riskGroup).toBe('all');
    expect(() => fruitCaTarget('wheat', 'moderate')).toThrow(refusedBy('crop'));
    expect(() => fruitCaTarget('apple', 'huge')).toThrow(refusedBy('risk_group'));
  });
  it('least, target and most follow one another', () => {
    for (const r of fruitCaTargets()) {
      expect(r.seasonCaMinKgHa).toBeLessThan(r.seasonCaTargetKgHa);
      expect(r.seasonCaTargetKgHa).toBeLessThan(r.seasonCaMaxKgHa);
    }
  });
  it('what nobody knows of a block brings no point, and is named', () => {
    expect(pitRisk({})).toMatchObject({ points: 0, group: 'low_risk' });
    expect(pitRisk({}).unknown).toHaveLength(8);
    expect(pitRisk({ peelNCa: 11 }).points).toBe(1);
    expect(pitRisk({ leafNHigh: false }).unknown).not.toContain('leaf_n_high');
  });
});
