import { expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import { inSeasonReadings } from './inSeason';

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
