import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { forageMining, grainLegumeBalance, nitrogenUse, sidedressNitrateTest } from './accounts';
import { creditGreenManure, creditGreenManureFixed, type GreenManureInput } from './greenManure';
import { requirementIndex } from './indexSchool';
import { effectiveWeeks, greenManureTurn, releaseFraction, residueTieUp } from './residues';
import { eonrManySiteYears, eonrQuadratic, fitQuadraticPlateau, flatOptimum } from './response';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  throw new Error('was not refused');
};

describe('economic optimum', () => {
  const curve = {
    a: 5,
    b: 0.03,
    c: -7e-5,
    priceNPerKg: 1,
    priceCropPerT: 200,
    nHighestTrialKgHa: 240,
  };
  it('never goes beyond the highest rate tried, and says so', () =>
    expect(eonrQuadratic({ ...curve, nHighestTrialKgHa: 150 })).toMatchObject({
      eonrKgHa: 150,
      clamped: true,
      cautionN22: true,
    }));
  it('is nothing where N costs more than it brings', () =>
    expect(eonrQuadratic({ ...curve, priceNPerKg: 10 }).eonrKgHa).toBe(0));
  it('falls as N gets dearer', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 5, noNaN: true }), (price) => {
        expect(eonrQuadratic({ ...curve, priceNPerKg: price * 1.1 }).eonrKgHa).toBeLessThanOrEqual(
          eonrQuadratic({ ...curve, priceNPerKg: price }).eonrKgHa + 1e-9,
        );
      }),
    ));
  it('finds the plateau that made the points, whatever it is', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 80, max: 220 }),
        fc.double({ min: 5e-5, max: 2e-4, noNaN: true }),
        (join, g) => {
          const fit = fitQuadraticPlateau({
            points: [0, 40, 80, 120, 160, 200, 240].map((n): [number, number] => [
              n,
              12 - g * Math.max(0, join - n) ** 2,
            ]),
            priceNPerKg: 1,
            priceCropPerT: 200,
          });
          expect(Math.abs(fit.nJoinKgHa - join)).toBeLessThanOrEqual(1);
          expect(fit.yMaxTHa).toBeCloseTo(12, 2);
          expect(fit.r2).toBeGreaterThan(0.99);
        },
      ),
      { numRuns: 25 },
    ));
  it('calls few or scattered points weak', () => {
    const points: [number, number][] = [
      [0, 5],
      [60, 7.4],
      [120, 6.1],
      [180, 8.6],
      [240, 7],
    ];
    expect(fitQuadraticPlateau({ points, priceNPerKg: 1, priceCropPerT: 200 }).weak).toBe(true);
  });
  it('refuses falling yields, too few rates, and no zero plot', () => {
    expect(
      refused(() =>
        fitQuadraticPlateau({
          points: [
            [0, 8],
            [60, 7],
            [120, 6],
            [180, 5],
            [240, 4],
          ],
          priceNPerKg: 1,
          priceCropPerT: 200,
        }),
      ).message,
    ).toMatch(/no response/);
    expect(
      refused(() =>
        fitQuadraticPlateau({
          points: [
            [60, 6],
            [80, 7],
            [120, 7],
            [180, 8],
            [240, 8],
          ],
          priceNPerKg: 1,
          priceCropPerT: 200,
        }),
      ).field,
    ).toBe('points');
    expect(
      refused(() => eonrManySiteYears({ fits: [], priceNPerKg: 1, priceCropPerT: 200 })).field,
    ).toBe('fits');
  });
  it('is flat: a dear crop narrows it', () =>
    expect(flatOptimum({ g: 1e-4, priceCropPerT: 800 }).halfWidthKgHa).toBeLessThan(
      flatOptimum({ g: 1e-4, priceCropPerT: 200 }).halfWidthKgHa,
    ));
});

describe('index and ceiling', () => {
  const after = {
    cropKey: 'winter_wheat',
    previousCropGroup: 'cereal_or_forage_maize',
    soilGroup: 'medium',
    winterDrainageMmClass: '150_250',
    yieldGoalTHa: 8,
  };
  it('asks for less on a richer field, and manure moves it one index', () => {
    const [plain, manured] = [
      requirementIndex(PRINTED, after),
      requirementIndex(PRINTED, { ...after, regularManure: true }),
    ];
    expect(manured.nIndex).toBe(plain.nIndex + 1);
    expect(manured.nDoseKgHa).toBeLessThan(plain.nDoseKgHa);
  });
  it('moves with the goal, within the limits of the table and of the law', () => {
    const dose = (yieldGoalTHa: number, legalCapKgHa?: number) =>
      requirementIndex(PRINTED, { ...after, yieldGoalTHa, legalCapKgHa }).nDoseKgHa;
    expect(dose(9)).toBeGreaterThan(dose(8));
    expect(dose(17)).toBe(dose(16));
    expect(dose(12, 170)).toBe(170);
  });
  it('gives no more for yield at the highest indexes', () =>
    expect(
      requirementIndex(PRINTED, { cropKey: 'winter_wheat', smnKgHa: 220, yieldGoalTHa: 12 }),
    ).toMatchObject({ adjKgHa: 0 }));
  it('places organic soils by what they are', () =>
    expect(
      [12, 25].map(
        (omPct) =>
          requirementIndex(PRINTED, {
            cropKey: 'winter_wheat',
            smnKgHa: 50,
            omPct,
            yieldGoalTHa: 8,
          }).nIndex,
      ),
    ).toEqual([5, 6]));
  it('names what places the field, and its levels', () => {
    expect(
      refused(() => requirementIndex(PRINTED, { cropKey: 'winter_wheat', yieldGoalTHa: 8 })).field,
    ).toBe('smn_kg_ha');
    expect(refused(() => requirementIndex(PRINTED, { ...after, soilGroup: 'moon' }))).toMatchObject(
      {
        field: 'soil_group',
        message: expect.stringContaining('light_sand'),
      },
    );
  });
});

describe('green manures', () => {
  const vetch: GreenManureInput = {
    gmTotalTDmHa: 4,
    gmSpecies: [{ speciesKey: 'hairy_vetch', share: 1, stage: 'early_flower' }],
  };
  it('what is carried off is not credited: the more that leaves, the less is left', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 0.9, noNaN: true }), (removedFracTops) => {
        expect(
          creditGreenManure({ ...vetch, removedFracTops: removedFracTops + 0.1 }).creditKgHa,
        ).toBeLessThan(creditGreenManure({ ...vetch, removedFracTops }).creditKgHa + 1e-9);
      }),
    ));
  it('is a credit or a debit, never both', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('vegetative', 'early_flower', 'full_flower', 'seed_fill'),
        (rye, stage) => {
          const r = creditGreenManure({
            gmTotalTDmHa: 5,
            gmSpecies: [
              { speciesKey: 'cereal_rye', share: rye, stage },
              { speciesKey: 'hairy_vetch', share: 1 - rye, stage },
            ],
          });
          expect(r.creditKgHa * r.debitKgHa).toBe(0);
          expect(Number.isFinite(r.creditKgHa + r.debitKgHa)).toBe(true);
        },
      ),
    ));
  it('the same mixture gives when young and takes when ripe', () => {
    const rye = (stage: string) =>
      creditGreenManure({
        gmTotalTDmHa: 5,
        gmSpecies: [{ speciesKey: 'cereal_rye', share: 1, stage }],
      });
    expect(rye('vegetative').creditKgHa).toBeGreaterThan(0);
    expect(rye('seed_fill').debitKgHa).toBeGreaterThan(0);
  });
  it('weighs a quadrat as well as tonnes, and a weighed bale as well as a share', () => {
    expect(
      creditGreenManure({ ...vetch, gmTotalTDmHa: null, freshGM2: 2000, dmPct: 20 }).shootNKgHa,
    ).toBeCloseTo(156, 6);
    expect(
      creditGreenManure({ ...vetch, removedTDmHa: 2, removedNPct: 3.9 }).nLeftKgHa,
    ).toBeCloseTo(78, 6);
  });
  it('winter takes from a credit, never from a debit', () => {
    const killed = (speciesKey: string, stage: string, killTiming: string | null) =>
      creditGreenManure({
        gmTotalTDmHa: 5,
        gmSpecies: [{ speciesKey, share: 1, stage }],
        killTiming,
      });
    expect(killed('hairy_vetch', 'early_flower', 'autumn_early_wet').creditKgHa).toBeCloseTo(
      0.6 * killed('hairy_vetch', 'early_flower', null).creditKgHa,
      9,
    );
    expect(killed('cereal_rye', 'seed_fill', 'autumn_early_wet').debitKgHa).toBe(
      killed('cereal_rye', 'seed_fill', null).debitKgHa,
    );
  });
  it('reads each species by itself when it is asked to', () => {
    const mix: GreenManureInput = {
      gmTotalTDmHa: 5,
      gmSpecies: [
        { speciesKey: 'cereal_rye', share: 0.7, stage: 'full_flower' },
        { speciesKey: 'hairy_vetch', share: 0.3, stage: 'early_flower' },
      ],
    };
    expect(creditGreenManure({ ...mix, reading: 'per_species' }).panShootKgHa).not.toBeCloseTo(
      creditGreenManure(mix).panShootKgHa,
      1,
    );
    expect(creditGreenManure(mix).legumeShare).toBeCloseTo(0.3, 9);
  });
  it('what was fixed is more than what is credited', () => {
    const r = creditGreenManureFixed(vetch);
    expect(r.fixedTotalKgHa).toBeGreaterThan(r.fixedShootKgHa);
  });
  it.each<[string, Partial<GreenManureInput>]>([
    ['gm_total_t_dm_ha', { gmTotalTDmHa: 26 }],
    ['gm_species.share', { gmSpecies: [] }],
    ['gm_species.stage', { gmSpecies: [{ speciesKey: 'hairy_vetch', share: 1, stage: 'ripe' }] }],
    ['species_key', { gmSpecies: [{ speciesKey: 'hairy_vetsch', share: 1 }] }],
    ['placement', { placement: 'on_the_roof' }],
    ['removed_frac_tops', { removedFracTops: 1.2 }],
  ])('a bad %s is refused by its name', (field, part) =>
    expect(refused(() => creditGreenManure({ ...vetch, ...part })).field).toBe(field),
  );
});

describe('residues', () => {
  it('tie up at most forty kilograms, and less the earlier they are worked in', () => {
    const straw = (weeks: number) =>
      residueTieUp({ residueLeftTDmHa: 20, residueNKgTDm: 5, incorporationLeadWeeks: weeks })
        .debitKgHa;
    expect([straw(0), straw(8) <= straw(0), straw(20) <= straw(8)]).toEqual([40, true, true]);
  });
  it('leaves give, and lose some of it over winter', () => {
    const leaves = { residueLeftTDmHa: 4, residueNKgTDm: 38 };
    expect(residueTieUp({ ...leaves, killTiming: 'autumn_early_wet' }).creditKgHa).toBeCloseTo(
      0.6 * residueTieUp(leaves).creditKgHa,
      9,
    );
  });
  it('release is flat beyond the ends of the table and nothing at the start', () => {
    expect(releaseFraction(5, 10)).toBe(releaseFraction(8, 10));
    expect(releaseFraction(200, 40)).toBe(releaseFraction(100, 20));
    expect(releaseFraction(30, 0)).toBe(0);
  });
  it('cold weeks count half at ten degrees less', () =>
    expect([effectiveWeeks(10, 7), effectiveWeeks(10, null), effectiveWeeks(40, null)]).toEqual([
      5, 10, 20,
    ]));
  it('a rich mixture ties nothing up', () =>
    expect(greenManureTurn({ cnRatio: 12, nLeftKgHa: 100 })).toEqual({
      greatestTieUpKgHa: 0,
      atWeek: null,
      turnWeek: null,
    }));
});

describe('accounts', () => {
  it('only grain legumes have a balance of fixation', () =>
    expect(
      refused(() => grainLegumeBalance(PRINTED, { cropKey: 'winter_wheat', yieldTHa: 8 })).field,
    ).toBe('crop_key'));
  it('the nitrate test never asks for less than nothing nor for more than 180', () =>
    expect([60, 25, 0].map((no3nMgKg) => sidedressNitrateTest({ no3nMgKg }).sidedressKgHa)).toEqual(
      [0, 0, 180],
    ));
  it('old hay drops a class by what left and did not come back', () => {
    const hay = (years: number, more = {}) =>
      forageMining(PRINTED, {
        cropKey: 'alfalfa',
        yieldsTHa: Array.from({ length: years }, () => 9),
        ...more,
      });
    expect(hay(2)).toMatchObject({ cautionX01: false });
    expect(hay(8)).toMatchObject({ dropPClasses: 2, dropKClasses: 2, cautionX01: true });
    expect(hay(4, { returnedPKgHa: 90, returnedKKgHa: 700 })).toMatchObject({
      dropPClasses: 0,
      dropKClasses: 0,
      cautionX01: false,
    });
  });
  it('without input there is no efficiency to tell', () =>
    expect(nitrogenUse({ inputs: {}, nOutKgHa: 40 })).toMatchObject({
      nuePct: null,
      reading: 'undefined',
      nSurplusKgHa: -40,
    }));
});
