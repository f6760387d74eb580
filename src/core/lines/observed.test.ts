import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { PRINTED } from '../book/book';
import type { Plan } from '../document/document';
import { stageDate } from '../nitrogen/stageClock';
import { dateAfter } from '../quantity/calendar';
import { seasonCalendar, type SeasonCalendar } from './calendar';

const [, rye] = DEMO_PLANS.find(([n]) => n.startsWith('terrace-long 2026')) as [string, Plan];
const seen = (...stages: [string, string][]): Plan => ({
  ...rye,
  season: {
    ...rye.season,
    observedStages: stages.map(([date, stage], k) => ({ id: String(k), date, stage })),
  },
});
const calendarOf = (p: Plan): SeasonCalendar => seasonCalendar(PRINTED, p) as SeasonCalendar;
const dateOf31 = (p: Plan): string => {
  const c = calendarOf(p);
  return stageDate(c.clock, c.seasonCropId as string, '31') as string;
};
const said = (p: Plan): string[] => assess(PRINTED, p).problems.map((x) => x.message);

describe('a stage that was seen', () => {
  const normal = dateOf31(rye);
  it.each([-10, -4, 6, 12])('%i days off puts the clock right from that day on', (by) => {
    const day = dateAfter(normal, by);
    expect(dateOf31(seen([day, '31']))).toBe(day);
  });
  it('an early spring brings later stages forward, a late one back', () => {
    const at39 = (p: Plan) => {
      const c = calendarOf(p);
      return stageDate(c.clock, c.seasonCropId as string, '39') as string;
    };
    expect(at39(seen([dateAfter(normal, -10), '31'])) < at39(rye)).toBe(true);
    expect(at39(seen([dateAfter(normal, 10), '31'])) > at39(rye)).toBe(true);
  });
  it('leaves the clock rising, and takes no N back', () => {
    for (const by of [-20, -5, 5, 20]) {
      const { clock, uptake } = calendarOf(seen([dateAfter(normal, by), '31']));
      for (let d = 1; d < clock.degrees.length; d++) {
        expect(clock.degrees[d]).toBeGreaterThanOrEqual((clock.degrees[d - 1] as number) - 1e-9);
        expect(uptake[d]).toBeGreaterThanOrEqual((uptake[d - 1] as number) - 1e-9);
      }
    }
  });
  it('before sowing, or back against an earlier look, does not count and says so', () => {
    const early = seen(['2026-09-01', '31']);
    expect(said(early).join()).toContain('lies outside the crop’s days: it does not count');
    expect(dateOf31(early)).toBe(normal);
    const back = seen([normal, '31'], [dateAfter(normal, 9), '25']);
    expect(said(back).join()).toContain('lies before a stage that was seen earlier');
    expect(dateOf31(back)).toBe(normal);
  });
  it('of a crop without a table of stages says so', () => {
    const [, hazel] = DEMO_PLANS.find(([n]) => n.startsWith('hazel-bank')) as [string, Plan];
    const looked = {
      ...hazel,
      season: {
        ...hazel.season,
        observedStages: [{ id: 'a', date: '2027-05-01', stage: '31' }],
      },
    };
    expect(said(looked).join()).toContain('There is no table of stages for');
  });
});
