import { describe, expect, it } from 'vitest';
import { seasonClock, stageDate, stageDegrees, stageOn, uptakeByClock } from './stageClock';
import { climateOf } from '../book/stages';
import { numberOfPasses, splitAllocate, stopCheck } from './split';

const rye = seasonClock({
  cropId: 'winter_rye_triticale',
  climate: climateOf('maritime_cool_52n'),
  start: '2026-10-01',
  end: '2027-08-08',
  clockDate: '2026-10-06',
  southern: false,
});

describe('stage clock on monthly normals', () => {
  it('a winter cereal waits at its autumn cap and starts afresh in the new year', () => {
    const newYear = 92;
    expect(rye.degrees[newYear - 1]).toBeLessThanOrEqual(600);
    expect(rye.degrees.every((g, i) => i === 0 || g >= (rye.degrees[i - 1] ?? 0))).toBe(true);
  });
  it('brings rye to first node in April and to ripeness by August', () => {
    expect(stageDate(rye, 'winter_rye_triticale', '31')).toMatch(/^2027-0[34]/);
    expect(stageDate(rye, 'winter_rye_triticale', '89')).toMatch(/^2027-0[78]/);
    expect(stageOn(rye, 'winter_rye_triticale', 0)).toBe('00');
  });
  it('takes up all its N by then', () =>
    expect(uptakeByClock(rye, 'winter_rye_triticale').at(-1)).toBeCloseTo(1, 2));
  it('compares potato stages by warmth, not by code: tuber stage 40 comes before canopy stage 39', () =>
    expect(stageDegrees('potato', '40')).toBeLessThan(stageDegrees('potato', '39')));
  it('a stage that is not reached has no date', () => {
    const short = seasonClock({
      cropId: 'maize',
      climate: climateOf('maritime_cool_52n'),
      start: '2027-05-01',
      end: '2027-06-01',
      clockDate: '2027-05-01',
      southern: false,
    });
    expect(stageDate(short, 'maize', '89')).toBeNull();
  });
  it('apple counts from the new year whatever the start', () => {
    const apple = seasonClock({
      cropId: 'apple',
      climate: climateOf('maritime_cool_52n'),
      start: '2026-11-01',
      end: '2027-09-10',
      clockDate: '2026-11-01',
      southern: false,
    });
    expect(apple.degrees[50]).toBe(0);
  });
});

describe('split', () => {
  it('falls back to template shares when the soil gives all', () =>
    expect(
      splitAllocate({
        templateId: 'winter_wheat_2',
        nTotalKgHa: 100,
        uTotalKgHa: 100,
        soilSupplyKgHa: [200, 200, 200],
      }).shares,
    ).toEqual([0.35, 0.65]));
  it('what does not fit flows on, then back, then is said', () =>
    expect(
      splitAllocate({
        templateId: 'winter_wheat_2',
        nTotalKgHa: 200,
        uTotalKgHa: 240,
        soilSupplyKgHa: [40, 20, 20],
        maxDoseKgHa: [60, 120],
      }),
    ).toMatchObject({ dosesKgHa: [60, 120], unplacedKgHa: expect.closeTo(20, 9) }));
  it('light, wet land wants more passes; an inhibitor one less', () => {
    const at = (splitClass: string, inhibited = false) =>
      numberOfPasses({
        cropId: 'winter_wheat',
        nTotalKgHa: 100,
        expectedDrainageMm: 120,
        splitClass,
        coatedOrInhibited: inhibited,
      }).raw;
    expect([at('heavy'), at('light'), at('light', true)]).toEqual([3, 5, 4]);
  });
  it.each([
    ['tomato', 'processing', '81', 'caution'],
    ['winter_wheat', 'milling', '61', 'info'],
    ['maize', 'grain', '16', 'ok'],
    ['cabbage', 'storage', '49', 'caution'],
  ])('%s %s at %s: %s', (cropId, use, bbch, level) =>
    expect(stopCheck({ cropId, use, bbch }).level).toBe(level),
  );
});
