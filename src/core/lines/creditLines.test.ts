import { inWords } from '../why/said';
import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { climateOf } from '../book/stages';
import { nitrateAfterWinter } from '../budget/soilNitrate';
import { assess } from '../assessment/assess';
import { normalDegrees, seasonCalendar } from './calendar';
import { layers } from '../../demo/build';
import { tansyHollow } from '../../demo/tansyHollow';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { dateOf } from './days';
import type { Plan } from '../document/document';
import type { GreenManurePlan } from '../document/previousDocument';
import { greenManureInput, sampledShare } from './greenManureTiming';

const worked = terraceShortWorked();
const sampled = (on: string | null, plan: Plan = worked): Plan => ({
  ...plan,
  ground: {
    ...plan.ground,
    nitrateSampleDate: on,
    nitrateLayers: on === null ? [] : layers(10, 6),
  },
});
const drained = (mm: number, plan: Plan): Plan => ({
  ...plan,
  season: { ...plan.season, winterDrainageMm: mm },
});
const line = (plan: Plan, id: string) => assess(PRINTED, plan).lines.find((l) => l.id === id);

describe('nitrate sampled before the winter (chapter 1, C2)', () => {
  const n = (plan: Plan) => line(plan, 'soil_nitrate')?.n ?? NaN;
  it('counts what the winter leaves of it; a spring sample counts whole', () => {
    const spring = n(drained(200, sampled('2027-02-12')));
    const autumn = n(drained(200, sampled('2026-11-05')));
    // 0-60 cm on loam, beet roots to the table's depth.
    const depth = 120;
    expect(autumn).toBeLessThan(spring);
    const left = nitrateAfterWinter({
      drainageMm: 200,
      theta: 0.27,
      lossDepthCm: depth,
      sampledDepthCm: 60,
      soilNAutumnKgHa: spring,
    }).soilNSpringKgHa;
    expect(autumn / left).toBeGreaterThan(0.5);
    expect(line(drained(200, sampled('2026-11-05')), 'soil_nitrate')).toMatchObject({
      evidence: 'table',
    });
    expect(
      inWords(line(drained(200, sampled('2026-11-05')), 'soil_nitrate')?.detail ?? ''),
    ).toMatch(/^\d+ kg sampled; \d+ mm drained since, in a normal year$/);
  });
  it('counts drainage since a sample of any month, above 50 mm, by the gauge where there is one', () => {
    const inJanuary = sampled('2027-01-01');
    const lastDay = sampled('2026-12-31');
    // A day earlier is a day's drainage more, no more.
    expect(n(drained(250, lastDay)) / n(drained(250, inJanuary))).toBeGreaterThan(0.97);
    const rain = (mm: number) => {
      const p = { ...inJanuary, asOf: '2027-03-20' };
      return n({ ...p, season: { ...p.season, winterDrainageMm: 0, rainSinceSampleMm: mm } });
    };
    expect(rain(60)).toBeCloseTo(n(drained(0, inJanuary)), 9);
    expect(rain(200)).toBeLessThan(rain(150));
    expect(rain(150)).toBeLessThan(rain(60));
  });
  it('a dry winter leaves all, a wetter one less and less', () => {
    const at = (mm: number) => n(drained(mm, sampled('2026-11-05')));
    expect(at(0)).toBeCloseTo(n(drained(0, sampled('2027-02-12'))), 9);
    expect(at(100)).toBeLessThan(at(0));
    expect(at(300)).toBeLessThan(at(100));
  });
  it('sand loses more than clay', () => {
    const on = (soilTextureId: string) => {
      const p = drained(150, sampled('2026-11-05'));
      return (
        n({ ...p, field: { ...p.field, soilTextureId } }) /
        n(sampled('2027-02-12', { ...p, field: { ...p.field, soilTextureId } }))
      );
    };
    expect(on('sand')).toBeLessThan(on('clay'));
  });
});

const vetch = (part: Partial<GreenManurePlan> = {}): GreenManurePlan => ({
  kind: 'green_manure',
  weighed: null,
  dmTHa: 4,
  species: [{ speciesKey: 'hairy_vetch', share: 1, stage: 'early_flower', nPct: null }],
  removedFracTops: 0,
  placement: 'ploughed_in',
  killDate: '2027-03-01',
  killTiming: null,
  weeksTo80pctUptake: null,
  ...part,
});
const after = (gm: GreenManurePlan, plan: Plan = sampled(null)): Plan => ({
  ...plan,
  previous: gm,
});

describe('degree-days of a normal year', () => {
  const dd = (from: string, to: string) => normalDegrees(climateOf('maritime_cool_52n'), from, to);
  it('add up, are none backwards, and go on over years', () => {
    expect(dd('2026-09-01', '2027-02-12')).toBeCloseTo(
      dd('2026-09-01', '2026-11-20') + dd('2026-11-20', '2027-02-12'),
      6,
    );
    expect(dd('2027-02-12', '2026-09-01')).toBe(0);
    expect(dd('2017-03-01', '2027-03-01') / dd('2026-03-01', '2027-03-01')).toBeCloseTo(10, 1);
  });
});

describe('when a green manure gives its N', () => {
  it('weeks run from the kill to 80 % of the next crop’s uptake, by its clock', () => {
    const plan = after(vetch());
    const calendar = seasonCalendar(PRINTED, plan);
    if (!calendar) throw new Error('no season');
    const top = calendar.uptake.at(-1) ?? 1;
    const date = dateOf(
      calendar,
      calendar.uptake.findIndex((u) => u >= 0.8 * top),
    );
    const days = (Date.parse(date) - Date.parse('2027-03-01')) / 864e5;
    expect(greenManureInput(PRINTED, plan, vetch()).weeksTo80pctUptake).toBeCloseTo(days / 7, 6);
    expect(greenManureInput(PRINTED, plan, vetch()).soilTempSeasonC).toBeGreaterThan(5);
  });
  it('what was typed goes before the clock; no kill date leaves the book’s weeks', () => {
    expect(
      greenManureInput(PRINTED, after(vetch()), vetch({ weeksTo80pctUptake: 8 }))
        .weeksTo80pctUptake,
    ).toBe(8);
    expect(
      greenManureInput(PRINTED, after(vetch()), vetch({ killDate: null })).weeksTo80pctUptake,
    ).toBeNull();
  });
  it('a colder season releases less by then', () => {
    const credit = (soilTempSeasonC: number) =>
      line(
        after(vetch(), { ...sampled(null), season: { ...worked.season, soilTempSeasonC } }),
        'green_manure_measured',
      )?.n ?? 0;
    expect(credit(8)).toBeLessThan(credit(17));
  });
});

describe('a green manure before the nitrate sample (chapter 1, C12)', () => {
  const killed = (on: string, sample: string | null) =>
    sampledShare(PRINTED, sampled(sample), vetch({ killDate: on }), 12);
  it('the sample holds what was released by then, at most 0.6', () => {
    expect(killed('2026-09-01', '2027-02-12')).toBeGreaterThan(0);
    expect(killed('2026-09-01', '2027-02-12')).toBeLessThanOrEqual(0.6);
    expect(killed('2026-11-01', '2027-02-12')).toBeLessThanOrEqual(
      killed('2026-09-01', '2027-02-12'),
    );
  });
  it('nothing of a kill within four weeks, after the sample, or without one', () => {
    expect(killed('2026-09-20', '2026-10-10')).toBe(0);
    expect(killed('2026-09-10', '2026-10-10')).toBeGreaterThan(0);
    // Asleep in the cold.
    expect(killed('2027-01-01', '2027-02-12')).toBe(0);
    expect(killed('2027-03-01', '2027-02-12')).toBe(0);
    expect(killed('2026-09-01', null)).toBe(0);
  });
  it('the line says so, and a struck sample gives the credit back', () => {
    const plan = after(vetch({ killDate: '2026-09-01' }), sampled('2027-02-12'));
    const [less, whole] = [
      line(plan, 'green_manure_measured'),
      line(
        { ...plan, struck: [{ line: 'soil_nitrate', reason: 'wrong field' }] },
        'green_manure_measured',
      ),
    ];
    expect(inWords(less?.detail ?? '')).toMatch(/the nitrate sample holds \d+ %/);
    expect(less?.n ?? 0).toBeLessThan(whole?.n ?? 0);
    expect(inWords(whole?.detail ?? '')).not.toContain('sample holds');
  });
});

describe('N in a winter crop and the index', () => {
  const rye = tansyHollow.fields.find((f) => f.key === 'terrace-long')?.seasons[0] as Plan;
  const indexed = (cropN: Plan['cropN'], cropKey = 'winter_canola'): Plan => ({
    ...rye,
    cropN,
    season: { ...rye.season, cropKey, yieldGoalTHa: 3.5 },
    schools: { ...rye.schools, n: 'index_ceiling', smnKgHa: 40 },
  });
  it('green canola places the field higher: its N is in the leaf', () => {
    const dose = (gai: number) =>
      assess(PRINTED, indexed({ cropNKgHa: null, shootsM2: null, gai })).sums.n.requirement;
    expect(dose(2)).toBeLessThan(dose(0));
  });
  it('a crop that holds none in spring is named, and the index stands', () => {
    const a = assess(PRINTED, indexed({ cropNKgHa: 30, shootsM2: null, gai: null }, 'sugar_beet'));
    expect(
      a.problems.some((p) => p.message.includes('only winter cereals and winter canola')),
    ).toBe(true);
    expect(a.sums.n.requirement).toBeGreaterThan(0);
  });
});
