import { describe, expect, it } from 'vitest';
import { legume, pass, spread } from '../../demo/build';
import { assess, assessSeason } from '../assessment/assess';
import { leaf, plan, type Given } from '../assessment/scenario.testkit';
import { PRINTED } from '../book/book';
import { climateOf } from '../book/stages';
import type { Plan } from '../document/document';
import { drainageBegins } from '../nitrogen/evaporation';
import { dateAfter } from '../quantity/calendar';
import { inWords } from '../why/said';
import { furrowSection } from '../views/furrow';
import { seasonCalendar, stageAt, type SeasonCalendar } from './calendar';
import { dateOf, dayOf } from './days';
import { killTimingOf } from './killTiming';

const calendarOf = (p: Plan): SeasonCalendar => {
  const found = seasonCalendar(PRINTED, p);
  if (!found) throw new Error('no calendar');
  return found;
};
const share = (c: SeasonCalendar, date: string): number =>
  (c.uptake[dayOf(c, date)] ?? 0) / (c.uptake.at(-1) ?? 1);
const stand = (cropKey: string, season: Partial<Given['season']> = {}, more: Given['more'] = {}) =>
  plan({
    season: {
      cropKey,
      yieldGoalTHa: 8,
      startDate: '2026-11-15',
      plantingDate: '2015-03-01',
      harvestDate: '2027-07-20',
      ...season,
    },
    more,
  });
const currant = () => stand('blackcurrant', { plantingYear: 12 });

describe('the clock of a crop that drops its leaves', () => {
  it('takes N up from bud burst to leaf fall, not by days before harvest', () => {
    const c = calendarOf(currant());
    expect(dateOf(c, c.planting)).toMatch(/^2027-04-/);
    expect(c.end).toMatch(/^2027-1[01]-/);
    expect(c.harvest).toBe(dayOf(c, '2027-07-20'));
    expect(share(c, '2027-03-31')).toBe(0);
    expect(share(c, '2027-07-20')).toBeGreaterThan(0.4);
    expect(share(c, '2027-07-20')).toBeLessThan(0.95);
  });
  it('goes by the days that somebody said', () => {
    const c = calendarOf(
      stand('blackcurrant', { plantingYear: 12, budBurst: '2027-03-10', leafFall: '2027-10-20' }),
    );
    expect([dateOf(c, c.planting), c.end]).toEqual(['2027-03-10', '2027-10-20']);
  });
  it('is half a year later south of the line', () => {
    const south = (o: Partial<Given['season']>) =>
      plan({
        field: { latitudeDeg: -38, climateId: 'maritime_cool_52n' },
        season: {
          cropKey: 'apple',
          yieldGoalTHa: 40,
          plantingYear: 12,
          startDate: '2026-06-15',
          harvestDate: '2027-03-10',
          ...o,
        },
      });
    const p = south({});
    const cool = climateOf('maritime_cool_52n');
    const months = cool.map((_, m) => {
      const north = cool[(m + 6) % 12] as (typeof cool)[number];
      return { tMeanC: north.tMeanC, tRangeC: north.tRangeC, rainMm: north.rainMm, et0Mm: null };
    });
    const c = calendarOf({ ...p, farm: { ...p.farm, climate: { name: 'South', months } } });
    expect(dateOf(c, c.planting)).toMatch(/^2026-10-/);
    expect(c.end).toMatch(/^2027-0[45]-/);
  });
  it('is not late in dormancy, and organic matter counts from bud burst', () => {
    const p = currant();
    const known = { ...p, field: { ...p.field, omPct: 3 } };
    const { plan: read, calendar, assessment } = assessSeason(PRINTED, known);
    const section = furrowSection(PRINTED, read, assessment, calendar);
    expect(section?.late?.date ?? '2027-05').toMatch(/^2027-(0[5-9]|1)/);
    const om = section?.strata.find((s) => s.kind === 'organic_matter');
    const burst = section?.days.findIndex((d) => d >= (calendar?.planting ?? 0)) ?? 0;
    expect(om?.given[burst - 1]).toBe(0);
    expect(om?.given.at(-1)).toBeGreaterThan(0);
  });
  it('may be fed after harvest while its leaves are green', () => {
    const fed = (date: string, leaves: Plan['leaves'] = []) =>
      assess(
        PRINTED,
        stand(
          'almond',
          { yieldGoalTHa: 2.8, plantingYear: 9, harvestDate: '2027-08-25' },
          {
            passes: [pass('a', date, 'uan_32', 90, 'fertigation_drip')],
            leaves,
          },
        ),
      );
    const good = fed('2027-09-10');
    expect(good.problems).toEqual([]);
    expect(good.sums.n.planned).toBeGreaterThan(20);
    expect(good.warnings.map((w) => w.id)).not.toContain('N16');
    const late = fed('2027-10-25');
    expect(late.warnings.find((w) => w.id === 'N16')?.level).toBe('caution');
    expect(fed('2027-12-20').problems[0]?.message).toMatch(/lies after leaf fall on/);
  });
  it('gets no N on a leaf above its range: a caution early, a stop in the last six weeks', () => {
    const high = leaf('pear', 'leaf_midshoot', 77, '2026-08-07', {
      N: 3,
      K: 1.4,
      Ca: 1.4,
      Mg: 0.3,
    });
    const at = (date: string) =>
      assess(
        PRINTED,
        stand(
          'pear',
          { yieldGoalTHa: 40, plantingYear: 12, harvestDate: '2027-09-10' },
          { passes: [pass('a', date, 'can_27', 100, 'broadcast_surface')], leaves: [high] },
        ),
      );
    const says = (date: string) => at(date).warnings.filter((w) => /N1[78]/.test(w.id));
    expect(at('2027-04-10').leafSays?.n).toBe('above');
    expect(says('2027-04-10').map((w) => w.level)).toEqual(['caution']);
    expect(says('2027-08-10').map((w) => w.level)).toEqual(['stop']);
    expect(at('2027-08-10').sums.n.planned).toBe(0);
  });
});

describe('the clock of a crop that is cut', () => {
  const cut = (cuts: Plan['season']['cuts'], more: Given['more'] = {}) =>
    stand('grass_hay', { harvestDate: '2027-08-20', plantingDate: '2024-09-01', cuts }, more);
  const CUTS = [
    { date: '2027-05-25', yieldTHa: 4 },
    { date: '2027-07-05', yieldTHa: 2.5 },
    { date: '2027-08-20', yieldTHa: 1.5 },
  ];
  it('starts anew at each cut, with the share of each by its yield', () => {
    const c = calendarOf(cut(CUTS));
    expect(share(c, '2027-05-25')).toBeCloseTo(0.5, 1);
    expect(share(c, '2027-07-05')).toBeCloseTo(6.5 / 8, 2);
    expect(stageAt(c, '2027-05-25')).toEqual({ cropId: 'grass_regrowth', bbch: '00' });
    expect(stageAt(c, '2027-05-20')?.cropId).toBe('grass_first_cut');
  });
  it('a dressing for the second cut is not late for the first', () => {
    const silage = (date: string) => {
      const p = cut(CUTS, { passes: [pass('a', date, 'can_27', 200, 'broadcast_surface')] });
      return assess(PRINTED, { ...p, season: { ...p.season, use: 'silage' } }).warnings.map(
        (w) => w.id,
      );
    };
    expect(silage('2027-05-28')).not.toContain('N07');
    expect(silage('2027-05-20')).toContain('N07');
  });
  it('says no stage of a growth whose cut nobody dated', () =>
    expect(stageAt(calendarOf(cut([])), '2027-07-25')).toBeNull());
});

describe('kill date and kill timing', () => {
  const killed = (killDate: string | null, killTiming: string | null, mm = 150) => {
    const previous = legume({
      legumeKey: 'red_clover_hay',
      standClass: 'good',
      killDate,
      killTiming,
    });
    const p = plan({
      season: {
        cropKey: 'sugar_beet',
        yieldGoalTHa: 70,
        plantingDate: '2027-04-05',
        harvestDate: '2027-10-20',
        winterDrainageMm: mm,
      },
      more: { previous },
    });
    return { p, timing: () => killTimingOf(p, previous) };
  };
  it.each([
    ['2026-08-20', 150, 'autumn_early_moderate'],
    ['2026-08-20', 260, 'autumn_early_wet'],
    ['2026-08-20', 80, 'autumn_early_dry'],
    ['2026-11-20', 150, 'autumn_late'],
    ['2026-11-20', 300, 'autumn_late_wet'],
    ['2027-02-20', 150, 'spring_early'],
    ['2027-03-25', 150, 'spring_at_planting'],
  ])('killed on %s with %i mm of drainage is %s', (on, mm, timing) =>
    expect(killed(on, null, mm).timing()).toBe(timing),
  );
  it('a timing that the date rules out is refused with both values; a near one stands', () => {
    expect(killed('2027-03-12', 'spring_at_planting').timing()).toBe('spring_at_planting');
    const found = assess(PRINTED, killed('2026-09-05', 'spring_early').p).problems.map(
      (x) => x.message,
    );
    expect(found[0]).toMatch(/spring_early does not go with previous.kill_date = 2026-09-05/);
    expect(assess(PRINTED, killed('2027-04-10', null).p).problems[0]?.message).toBe(
      'previous.kill_date = 2027-04-10 lies after planting on 2027-04-05.',
    );
  });
  it('a crop sown in autumn has the winter behind its kill too', () => {
    const previous = legume({ legumeKey: 'red_clover_hay', killDate: '2026-09-10' });
    const wheat = plan({
      season: {
        cropKey: 'winter_wheat',
        yieldGoalTHa: 8,
        plantingDate: '2026-10-05',
        harvestDate: '2027-08-05',
        winterDrainageMm: 200,
      },
      more: { previous },
    });
    expect(killTimingOf(wheat, previous)).toMatch(/^autumn_/);
    expect(killTimingOf(wheat, { ...previous, killTiming: 'autumn_early_wet' })).toBe(
      'autumn_early_wet',
    );
  });
  it('killed before winter never earns more than in spring', () => {
    const credit = (previous: Plan['previous']) => {
      const { p } = killed(null, null);
      return (
        assess(PRINTED, { ...p, previous }).lines.find((l) => l.kind === 'credit' && l.n)?.n ?? NaN
      );
    };
    const vetch = (killDate: string): Plan['previous'] => ({
      kind: 'green_manure',
      weighed: null,
      dmTHa: 4,
      species: [{ speciesKey: 'hairy_vetch', share: 1, stage: 'early_flower', nPct: null }],
      removedFracTops: 0,
      placement: 'ploughed_in',
      killDate,
      killTiming: null,
      weeksTo80pctUptake: null,
    });
    for (const on of ['2026-08-20', '2026-09-20', '2026-10-20', '2026-11-20'])
      expect(credit(vetch(on)), on).toBeLessThanOrEqual(credit(vetch('2027-03-15')) + 1e-9);
    const clover = (killDate: string) =>
      legume({ legumeKey: 'red_clover_hay', standClass: 'good', killDate });
    expect(credit(clover('2026-09-20'))).toBeLessThan(credit(clover('2027-03-01')));
  });
});

describe('smaller clocks', () => {
  it('store onions run down by the days of the table', () => {
    const p = plan({
      season: {
        cropKey: 'onion',
        use: 'stored',
        yieldGoalTHa: 50,
        plantingDate: '2027-03-20',
        harvestDate: '2027-08-25',
      },
    });
    expect(assess(PRINTED, p).runDownDate).toBe(dateAfter('2027-08-25', -42));
  });
  it('drainage begins in the first month with more rain than evaporation; never in a desert', () => {
    const cool = climateOf('maritime_cool_52n');
    expect(drainageBegins(cool, 52, '2026-07-15')).toMatch(/^2026-(09|10|11)-01$/);
    expect(
      drainageBegins(
        cool.map((m) => ({ ...m, rainMm: 2 })),
        52,
        '2026-07-15',
      ),
    ).toBeNull();
  });
  it('a dressing after harvest still belongs to the next crop', () => {
    const p = stand(
      'apple',
      { plantingYear: 9, harvestDate: '2027-09-10' },
      {
        organics: [
          spread('d', {
            date: '2027-10-05',
            materialKey: 'compost_green_waste',
            rate: 10,
            methodKey: 'compost_broadcast',
          }),
        ],
      },
    );
    expect(assess(PRINTED, p).problems.map((x) => inWords(x.message))[0]).toMatch(/next crop/);
  });
});
