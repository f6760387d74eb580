import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { crops } from '../book/crops';
import { legumes } from '../book/legumes';
import { creditLegumeTable, overlapCredit } from './legumeTable';
import { limitingFactor } from './limiting';
import { offtake, pkReplacement } from './offtake';
import { creditOrganicMatter } from './organicMatter';
import { creditCropN, creditIrrigationWater, waterBrings } from './otherCredits';
import { realisticYield, requirementYieldGoal } from './requirement';
import { creditSoilNitrate, nitrateAfterWinter } from './soilNitrate';

const layer = (topCm: number, bottomCm: number, no3nMgKg = 8) => ({
  topCm,
  bottomCm,
  no3nMgKg,
  bulkDensityGCm3: 1.35,
});

describe('soil nitrate', () => {
  it('counts what the roots reach and shows what lies below', () => {
    const deep = creditSoilNitrate({ rootDepthCm: 45, layers: [layer(0, 30), layer(30, 60)] });
    expect(deep.soilNKgHa).toBeCloseTo(32.4 + 16.2, 9);
    expect(deep.belowRootsKgHa).toBeCloseTo(16.2, 9);
  });
  it('gives nothing for a shallow sample and says why', () =>
    expect(creditSoilNitrate({ rootDepthCm: 90, layers: [layer(0, 20)] })).toMatchObject({
      soilNKgHa: 0,
      note: expect.stringContaining('shallow'),
    }));
  it('marks an estimate as one, of low confidence', () => {
    const guess = creditSoilNitrate({ rootDepthCm: 90, layers: [layer(0, 30)] });
    expect(guess).toMatchObject({ extrapolated: true, why: { confidence: 'low' } });
    expect(guess.soilNKgHa).toBeCloseTo(32.4 * 1.6, 9);
    expect(
      creditSoilNitrate({ rootDepthCm: 90, extrapolate: false, layers: [layer(0, 30)] }).soilNKgHa,
    ).toBeCloseTo(32.4, 9);
  });
  it('takes stones out of the soil', () =>
    expect(
      creditSoilNitrate({ rootDepthCm: 60, layers: [{ ...layer(0, 60), stonesVolFrac: 0.25 }] })
        .soilNKgHa,
    ).toBeCloseTo(8 * 1.35 * 60 * 0.1 * 0.75, 9));
  it.each([
    ['a gap', [layer(0, 30), layer(40, 60)]],
    ['an overlap', [layer(0, 30), layer(20, 60)]],
    ['a start below the surface', [layer(10, 30)]],
    ['an upside-down layer', [layer(30, 0)]],
    ['no layer at all', []],
  ])('refuses %s', (_, layers) =>
    expect(() => creditSoilNitrate({ rootDepthCm: 60, layers })).toThrow(/layers/),
  );
  it('names the layer and field of a wrong figure', () =>
    expect(() =>
      creditSoilNitrate({ rootDepthCm: 60, layers: [layer(0, 30), layer(30, 60, 900)] }),
    ).toThrow(/layers\[1\]\.no3n_mg_kg\) = 900/));
  it('leaves less in spring the wetter the winter', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 700 }),
        fc.integer({ min: 1, max: 200 }),
        (drainageMm, more) => {
          const left = (mm: number) =>
            nitrateAfterWinter({
              drainageMm: mm,
              theta: 0.27,
              lossDepthCm: 90,
              sampledDepthCm: 60,
              soilNAutumnKgHa: 100,
            }).soilNSpringKgHa;
          expect(left(drainageMm + more)).toBeLessThanOrEqual(left(drainageMm));
          expect(left(drainageMm)).toBeLessThanOrEqual(100);
        },
      ),
    );
    expect(
      nitrateAfterWinter({
        drainageMm: 0,
        theta: 0.27,
        lossDepthCm: 90,
        sampledDepthCm: 60,
        soilNAutumnKgHa: 100,
      }).soilNSpringKgHa,
    ).toBe(100);
  });
});

describe('organic matter', () => {
  const credit = (omPct: number, seasonDays = 150, soilTempSeasonC = 15) =>
    creditOrganicMatter({ omPct, texture: 'loam', seasonDays, soilTempSeasonC });
  it('doubles with ten degrees and grows with days', () => {
    expect(credit(2, 150, 25).creditKgHa / credit(2, 150, 15).creditKgHa).toBeCloseTo(2, 6);
    expect(credit(2, 120).creditKgHa / credit(2, 60).creditKgHa).toBeCloseTo(2, 6);
  });
  it('is refused on organic soil instead of growing without end', () =>
    expect(() => credit(15.1)).toThrow(/organic soil/));
  it('is capped, and says so', () =>
    expect(credit(9, 200, 20)).toMatchObject({
      capped: true,
      why: { note: expect.stringContaining('no extra credit') },
    }));
});

describe('previous legume by table', () => {
  it('has a finite credit of 0 or more for every legume and class of the table', () => {
    for (const row of legumes()) {
      const c = creditLegumeTable({
        legumeKey: row.legumeKey,
        standClass: row.standClass,
        regrowth: 'none',
        killTiming: 'spring_early',
        tillage: 'inversion',
      });
      expect(c.creditKgHa, row.legumeKey).toBeGreaterThanOrEqual(0);
      expect(c.creditKgHa, row.legumeKey).toBeLessThan(300);
    }
  });
  it('gives a thin stand no more than a good one, and old kills no more than young ones', () => {
    const at = (standClass: string, yearsSinceKill = 1) =>
      creditLegumeTable({
        legumeKey: 'red_clover_hay',
        standClass,
        regrowth: 'none',
        killTiming: 'spring_early',
        tillage: 'inversion',
        yearsSinceKill,
      }).creditKgHa;
    expect(at('poor')).toBeLessThan(at('fair'));
    expect(at('fair')).toBeLessThan(at('good'));
    expect(at('good', 2)).toBeLessThan(at('good', 1));
    expect(at('good', 3)).toBeLessThanOrEqual(at('good', 2));
  });
  it('loses what the nitrate sample holds already, once', () => {
    expect(overlapCredit({ creditKgHa: 50, overlap: 'none' }).creditKgHa).toBe(50);
    expect(overlapCredit({ creditKgHa: 50, overlap: 'autumn_kill_spring_sample' }).creditKgHa).toBe(
      35,
    );
    expect(() => overlapCredit({ creditKgHa: 50, overlap: 'perhaps' })).toThrow(/overlap/);
  });
});

describe('requirement and off-take', () => {
  it('is finite and grows with the goal for every crop of the book', () => {
    for (const c of crops(PRINTED)) {
      const at = (y: number) =>
        requirementYieldGoal(PRINTED, { cropKey: c.key, yieldGoalTHa: y }).nReqKgHa;
      expect(Number.isFinite(at(c.yieldTypicalTHa)), c.key).toBe(true);
      expect(at(c.yieldMaxTHa), c.key).toBeGreaterThanOrEqual(at(c.yieldTypicalTHa));
      expect(
        offtake(PRINTED, { cropKey: c.key, yieldTHa: c.yieldTypicalTHa }).offtakePKgHa,
        c.key,
      ).toBeGreaterThan(0);
    }
  });
  it.each([0, -1, 500, NaN])('refuses a goal of %s t/ha', (y) =>
    expect(() =>
      requirementYieldGoal(PRINTED, { cropKey: 'winter_wheat', yieldGoalTHa: y }),
    ).toThrow(/yield_goal_t_ha/),
  );
  it('names the nearest crops for a wrong key', () =>
    expect(() =>
      requirementYieldGoal(PRINTED, { cropKey: 'winter_wheet', yieldGoalTHa: 8 }),
    ).toThrow(/winter_wheat/));
  it('brings no P to a very high soil and no less to a lower one', () => {
    const at = (soilClass: 'very_low' | 'low' | 'medium' | 'high' | 'very_high') =>
      pkReplacement(PRINTED, { cropKey: 'winter_wheat', yieldTHa: 8, nutrient: 'p', soilClass })
        .reqKgHa;
    const [vl, l, m, h, vh] = (['very_low', 'low', 'medium', 'high', 'very_high'] as const).map(
      at,
    ) as [number, number, number, number, number];
    expect(vl).toBeGreaterThanOrEqual(l);
    expect(l).toBeGreaterThanOrEqual(m);
    expect(m).toBeGreaterThanOrEqual(h);
    expect(h).toBeGreaterThanOrEqual(vh);
    expect(vh).toBe(0);
  });
  it('leaves the worst of five years out, and not of four', () => {
    const at = (yieldHistoryTHa: number[]) =>
      realisticYield(PRINTED, { cropKey: 'rye', yieldHistoryTHa }).realisticYieldTHa;
    expect(at([6, 6, 6, 6, 1])).toBeCloseTo(6.3, 6);
    expect(at([6, 6, 6, 2])).toBeCloseTo(5.25, 6);
  });
});

describe('other credits', () => {
  it('count irrigation water by its nitrate', () =>
    expect(creditIrrigationWater({ irrigationMm: 100, waterNo3nMgL: 10 }).nBroughtKgHa).toBeCloseTo(
      10,
      9,
    ));
  it('are never below zero for a winter crop', () =>
    expect(
      creditCropN(PRINTED, { cropKey: 'winter_canola', cropNKgHa: 0 }).creditKgHa,
    ).toBeGreaterThanOrEqual(0));
});

describe('what limits the crop', () => {
  const limit = (phWater: number | null, n = 200) =>
    limitingFactor(PRINTED, {
      cropKey: 'sugar_beet',
      yieldGoalTHa: 60,
      nSupplyKgHa: n,
      nNeedKgHa: 200,
      classes: { P: 'medium', K: 'medium' },
      phWater,
    });
  it('is pH on sour ground, whatever N is brought', () => {
    expect(limit(5.0).limiting).toBe('pH');
    expect(limit(5.0, 400).yLiebigTHa).toBe(limit(5.0).yLiebigTHa);
  });
  it('is N where N is short', () => expect(limit(6.9, 60).limiting).toBe('N'));
  it('never promises more than the goal', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 400 }),
        fc.double({ min: 4, max: 8, noNaN: true }),
        (n, ph) => {
          const r = limit(ph, n);
          expect(r.yLiebigTHa).toBeLessThanOrEqual(60 + 1e-9);
          expect(r.yProductTHa).toBeLessThanOrEqual(r.yLiebigTHa + 1e-9);
        },
      ),
    );
  });
  it('leaves out what is not known instead of taking it as fine', () =>
    expect(limit(null).relativeYields.map((f) => f.factor)).not.toContain('pH'));
});

describe('S and K of irrigation water', () => {
  it('come in whole: 200 mm of 12 mg/L is 24 kg/ha', () => {
    expect(waterBrings({ irrigationMm: 200, mgL: 12 })).toBe(24);
    expect(() => waterBrings({ irrigationMm: 200, mgL: 600 })).toThrow('outside 0 to 500');
  });
});

describe('a nitrate test of just 25 cm', () => {
  const to = (bottomCm: number) =>
    creditSoilNitrate({ rootDepthCm: 90, layers: [{ topCm: 0, bottomCm, no3nMgKg: 8 }] });
  it('is deep enough to count, one of 24 cm is not', () => {
    expect(to(25).soilNKgHa).toBeGreaterThan(20);
    expect(to(24).soilNKgHa).toBe(0);
  });
});
