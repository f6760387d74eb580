import { describe, expect, it } from 'vitest';
import { tested } from '../../demo/build';
import { assess } from '../assessment/assess';
import { plan } from '../assessment/scenario.testkit';
import { PRINTED } from '../book/book';
import { offtake } from '../budget/offtake';
import { residueTieUp } from '../budget/residues';
import { PLAIN_STAND } from '../document/defaults';
import { labToKgT } from '../organics/laboratory';
import { rateByBasis } from '../organics/rates';
import { pCredit, plantAvailableN } from '../organics/release';
import { groundRules } from '../organics/site';
import { permittedSources } from '../warnings/permitted';
import { inWords } from '../why/said';
import { liquidConvert } from '../nitrogen/product';
import { stopCheck } from '../nitrogen/split';
import { foliarLoad, tankMix } from '../nitrogen/tank';
import { marketMoistureYield } from '../quantity/cropYield';

// Figures that an independent calculation found to be off, each at its bound.

describe('smaller defects, put right', () => {
  it('a tie-up gives half of it back with time', () => {
    const straw = (ttEnd: number | null) =>
      plantAvailableN(PRINTED, { mat: 'straw_cereal', retainedFrac: 1, ttEnd }).y1Eff;
    expect(straw(null)).toBeCloseTo(-0.6, 2);
    expect(straw(1000)).toBeCloseTo(-0.4537, 3);
  });
  it('several years of P at once stay below what N allows', () =>
    expect(rateByBasis({ needN: 20, pan: 5.5, pOfftake: 20, pT: 5.25, pYears: 3 })).toMatchObject({
      rateP: 20 / 5.5,
      overN: true,
    }));
  it('reads ammonium, nitrate and sulphate as their element', () => {
    const kgT = (oxideOf: string) => labToKgT({ value: 10, unit: 'kg_t', oxideOf });
    expect(kgT('NH4')).toBeCloseTo(7.765, 3);
    expect(kgT('NH3')).toBeCloseTo(8.224, 3);
    expect(kgT('NO3')).toBeCloseTo(2.259, 3);
    expect(kgT('SO4')).toBeCloseTo(3.338, 3);
  });
  it('iron or aluminium holds half of the quick P of biosolids, and none of its K', () => {
    const of = (metalDosed: boolean, nutrient: 'p' | 'k') =>
      pCredit({
        rate: 5,
        pT: 6,
        klass: 'biosolids_digested',
        belowCritical: true,
        nutrient,
        metalDosed,
      }).creditKgHa;
    expect(of(true, 'p')).toBeCloseTo(of(false, 'p') / 2, 9);
    expect(of(true, 'k')).toBe(of(false, 'k'));
  });
  it('solid manure on a slope of 30 % gets its caution', () => {
    const slope = (slopePct: number, surfaceLiquid: boolean) =>
      groundRules({ rain48hMm: 0, ground: 'ok', slopePct, surfaceLiquid }).map((w) => w.id);
    expect(slope(30, false)).toContain('S07');
    expect(slope(30, true)).not.toContain('S07');
  });
  it('names permitted sources on certified land where an action asks for P', () => {
    const poor = plan({
      field: { certification: 'organic' },
      season: {
        cropKey: 'maize_grain',
        yieldGoalTHa: 6,
        plantingDate: '2027-04-28',
        harvestDate: '2027-10-10',
        stand: { ...PLAIN_STAND, afterBareFallow: true },
      },
      ground: { readings: [tested('p', 'olsen', 5)] },
    });
    const action = (certification: 'organic' | 'none') =>
      assess(PRINTED, { ...poor, field: { ...poor.field, certification } })
        .warnings.filter((w) => w.id === 'M-01')
        .map((w) => inWords(w.action))
        .join();
    expect(action('none')).not.toMatch(/certified/u);
    expect(action('organic')).toMatch(/On certified land: [^.]*rock phosphate/iu);
    expect(permittedSources(PRINTED, 'P').map((f) => f.organicStatus)).not.toContain(
      'not_permitted',
    );
  });
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
