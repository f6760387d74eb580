import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import type { StandingToday } from '../season/outlook';
import type { Spread } from '../season/years';
import { inSeasonReadings, secondDressing, type SecondDressing } from './inSeason';

const [, beet] = DEMO_PLANS.find(([n]) => n.startsWith('low-fleet 2026')) as [string, Plan];
const read = (season: Partial<Plan['season']>, cropId: string | null = 'maize') => {
  const plan = { ...beet, season: { ...beet.season, ...season } };
  return inSeasonReadings(plan, assess(bookOf(plan.farm.library), plan), { seasonCropId: cropId });
};
const words = (r: ReturnType<typeof read>) => r.flatMap((x) => x.words.map((w) => inWords(w)));
const test = (nitrateNMgKg: number | null, plantHeightCm: number | null) => ({
  sidedressTest: { date: '2027-04-20', nitrateNMgKg, plantHeightCm },
});

it('nothing measured, nothing said; what was not read yet is asked for', () => {
  expect(read({})).toEqual([]);
  expect(words(read(test(null, 30)))).toEqual(['Nitrate and height of the plants first.']);
  expect(
    words(read({ richStrip: { date: '2027-06-01', fieldReading: 40, stripReading: null } })),
  ).toEqual(['Both readings first.']);
});
it('the test before sidedressing is set against what is planned from its day on', () => {
  const [r] = read(test(14, 28));
  expect(r?.nKgHa).toBeCloseTo(98.63, 1);
  const told = words(read(test(14, 28)));
  expect(told[0]).toMatch(/^It asks for 99 kg\/ha from now on, 34 kg\/ha more than the plan has/u);
  expect(told.join(' ')).toContain('never count both');
  expect(words(read(test(30, 28)))[0]).toContain('It asks for 0 kg/ha');
});
it('of another crop, or of plants too tall, it is no dose', () => {
  expect(read(test(14, 28), 'sugar_beet')[0]?.nKgHa).toBeNull();
  expect(words(read(test(14, 90)))[0]).toContain('15 to 35 cm');
});
it('a strip: near it nothing, far below it another cause', () => {
  const strip = (fieldReading: number) =>
    read({ richStrip: { date: '2027-06-01', fieldReading, stripReading: 50 } });
  expect(strip(49)[0]?.nKgHa).toBe(0);
  expect(strip(30)[0]?.nKgHa).toBeNull();
  expect(words(strip(30)).join(' ')).toContain('something else is short first');
  expect(words(strip(60)).join(' ')).toContain('not the best of the field');
});

describe('a second dressing, from today on', () => {
  const spread = (p50: number, by = 0): Spread => ({ p10: p50 - by, p50, p90: p50 + by });
  const today = (t: Partial<StandingToday> = {}): StandingToday => ({
    date: '2027-05-26',
    asks: 220,
    takenUp: spread(40),
    inReach: spread(70),
    toCome: spread(40),
    coated: spread(0),
    ...t,
  });
  const second = (t: StandingToday | null, part: Partial<Plan> = {}) => {
    const plan = { ...beet, ...part };
    return secondDressing(plan, assess(bookOf(plan.farm.library), plan), t);
  };
  const told = (r: SecondDressing | null) => r?.words.map((w) => inWords(w)).join(' ') ?? '';

  it('is silent without a run, before the crop grows and where it asks for nothing', () => {
    expect(second(null)).toBeNull();
    expect(second(today({ takenUp: spread(10) }))).toBeNull();
    expect(second(today({ asks: 0, takenUp: spread(0) }))).toBeNull();
  });
  it('asks for what is lacking over the recovery, and no more than one dressing', () => {
    const r = second(today());
    expect(r?.doseKgHa).toBe(100);
    expect(told(r)).toContain('More than 100 kg/ha is not told');
    expect(told(r)).toContain('the crop holds 40 kg/ha of the 220 kg/ha');
    // 180 - 0.75 x 150 - 24 = 43.5; over 0.65 is 66.9.
    expect(second(today({ inReach: spread(150) }))?.doseKgHa).toBe(70);
  });
  it('a small lack is no dressing, and what is planned already is left', () => {
    const small = second(today({ inReach: spread(195) }), { passes: [] });
    expect(small?.doseKgHa).toBe(0);
    expect(told(small)).toContain('no more');
    expect(told(second(today({ date: '2027-04-20', inReach: spread(150) })))).toContain(
      'It asks for 70 kg/ha from now on; the plan has',
    );
  });
  it('wet and dry years differ: a test is asked for, and a test that was taken stands before it', () => {
    expect(second(today({ inReach: spread(150, 40) }))?.betweenKgHa).toEqual([0, 100]);
    expect(told(second(today({ inReach: spread(150, 40) })))).toContain('a nitrate test tells');
    const sidedressTest = { date: '2027-05-20', nitrateNMgKg: 14, plantHeightCm: 28 };
    expect(told(second(today(), { season: { ...beet.season, sidedressTest } }))).toContain(
      'it stands before this figure',
    );
  });
  it('nothing after the day by which N should have run down', () => {
    const late = second(today({ date: '2027-07-20' }));
    expect(late?.doseKgHa).toBe(0);
    expect(told(late)).toContain('nothing more goes on');
  });
});
