import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { offtake } from '../budget/offtake';
import { residueTieUp } from '../budget/residues';
import { liquidConvert } from '../nitrogen/product';
import { stopCheck } from '../nitrogen/split';
import { foliarLoad, tankMix } from '../nitrogen/tank';
import { marketMoistureYield } from '../quantity/cropYield';

// Figures that an independent calculation found to be off, each at its bound.

describe('smaller defects, put right', () => {
  it('residues worked in exactly twenty weeks ahead still tie up 0.7 of their N', () => {
    const at = (incorporationLeadWeeks: number) =>
      residueTieUp({
        residueLeftTDmHa: 6,
        residueNKgTDm: 6,
        placement: 'ploughed_in',
        incorporationLeadWeeks,
        soilTempSeasonC: 17,
      }).debitKgHa;
    expect(at(20)).toBeCloseTo(at(8), 6);
    expect(at(40)).toBeLessThan(at(20));
  });
  it('rain washes K out of straw, not out of prunings', () => {
    const peach = (rainOver25mm: boolean) =>
      offtake(PRINTED, { cropKey: 'peach', yieldTHa: 20, pruningsTDmHa: 3, rainOver25mm })
        .offtakeKKgHa;
    expect(peach(true)).toBe(peach(false));
    const wheat = (rainOver25mm: boolean) =>
      offtake(PRINTED, { cropKey: 'winter_wheat', yieldTHa: 8, strawRemovedFrac: 1, rainOver25mm })
        .offtakeKKgHa;
    expect(wheat(true)).toBeLessThan(wheat(false));
  });
  it('takes the moisture of a cucumber', () =>
    expect(
      marketMoistureYield({ yieldWetTHa: 50, moistureWetPct: 96, marketMoisturePct: 96 })
        .yieldMarketTHa,
    ).toBe(50));
  it('mixes no gas under pressure into a tank', () =>
    expect(() =>
      tankMix(PRINTED, {
        components: [
          { productId: 'anhydrous_ammonia_82', l: 100 },
          { productId: 'uan_32', l: 100 },
        ],
      }),
    ).toThrow(/gas under pressure/));
  it('counts 0.4 of a spray where no row says more', () => {
    const spray = (leafRecoveryFrac: number | null) =>
      foliarLoad(PRINTED, {
        productId: 'foliar_urea_low_biuret_46',
        productKgHa: 10,
        nutrient: 'n',
        sprayVolumeLHa: 300,
        remainingNeedKgHa: 30,
        leafRecoveryFrac,
      });
    expect(spray(null)).toEqual(spray(0.4));
  });
  it('tells the N of the label of a liquid', () =>
    expect(
      liquidConvert(PRINTED, { productId: 'kelp_extract_liquid', lHa: 100 }).nKgHa,
    ).toBeGreaterThan(0));
  it('knows no other use than those of the table', () =>
    expect(() => stopCheck({ cropId: 'winter_barley', use: 'maltng', bbch: '39' })).toThrow(
      /maltng is not known: use one of/,
    ));
});
