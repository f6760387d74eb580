import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { fertilisers, placements } from '../book/fertilisers';
import { soils } from '../book/soils';
import { climateIds, climateOf } from '../book/stages';
import { seasonCrops } from './cropDays';
import { waterOf } from './events';
import { newState, type SeasonSummary } from './nitrogen';
import { organicPools } from './params';
import { recordOf } from './record.testkit';
import least from './reference/least_n.json';
import thirty from './reference/30year.json';
import type { SeasonEvent, SeasonRecord } from './record';
import { fieldOf, planOf, simulate } from './run';
import { generateWeather, type Weather } from './weather';
import {
  layOutYears,
  leastN,
  pairedLoss,
  percentile,
  runYears,
  scaled,
  shortShare,
  spreadsOf,
} from './years';

const near = (found: number, wanted: number, what: string) =>
  expect(Math.abs(found - wanted), `${what}: ${found} and ${wanted}`).toBeLessThanOrEqual(
    1e-8 * Math.max(1, Math.abs(wanted)),
  );
const weatherOf = (
  s: { climate_id: string; seed: number; n_years: number; n_days: number },
  base: { start_date: string; latitude_deg: number },
): Weather[] =>
  Array.from({ length: s.n_years }, (_, year) =>
    generateWeather({
      climate: climateOf(s.climate_id),
      start: base.start_date,
      days: s.n_days,
      latitudeDeg: base.latitude_deg,
      seed: s.seed,
      year,
    }),
  );
const SPREADS = {
  plant_n_frac: 'plantNFrac',
  stress_days: 'stressDays',
  uptake: 'uptake',
  volatilised: 'volatilised',
  denitrified: 'denitrified',
  leached: 'leached',
  runoff_n: 'runoffN',
  net_min: 'netMin',
  drain_mm: 'drainMm',
  late_excess_index: 'lateExcessIndex',
  residual_no3: 'residualNo3',
} as const;

describe('thirty years of three plans', () => {
  const field = fieldOf(recordOf(thirty.base));
  const weather = weatherOf(thirty.settings, thirty.base);
  const years = layOutYears(field, weather, new Float64Array(thirty.settings.n_days));
  const state = newState(field.site.layers);
  const runs = Object.entries(thirty.plans).map(([name, plan]) => ({
    name,
    plan,
    years: runYears(
      field,
      planOf(PRINTED, field, recordOf({ ...thirty.base, events: plan.events }).events),
      years,
      state,
    ),
  }));
  it.each(runs)('$name', ({ plan, years: found }) => {
    near(shortShare(found, field.params.shortFrac), plan.shortfall_probability, 'short');
    const spreads = spreadsOf(found);
    for (const [theirs, ours] of Object.entries(SPREADS)) {
      const wanted = plan.percentiles[theirs as keyof typeof plan.percentiles] as number[];
      const s = spreads[ours];
      [s?.p10, s?.p50, s?.p90].forEach((v, k) =>
        near(v ?? NaN, wanted[k] as number, `${theirs} ${k}`),
      );
    }
    const first = found[0] as SeasonSummary;
    near(first.denitrified, plan.year0.denitrified, 'denitrified');
    near(first.uptake, plan.year0.uptake, 'uptake');
    near(first.maxDeficit, plan.year0.max_deficit, 'deficit');
  });
  it('in the same years one loses more than the other', () => {
    const [a, b] = runs as [(typeof runs)[0], (typeof runs)[0]];
    const { spread, shareALosesMore } = pairedLoss(a.years, b.years);
    const wanted = thirty.paired_total_loss_A_minus_B;
    [spread.p10, spread.p50, spread.p90].forEach((v, k) =>
      near(v, wanted.p10_p50_p90[k] as number, `difference ${k}`),
    );
    near(shareALosesMore, wanted.share_of_years_A_loses_more, 'share');
  });
});

describe('the least N for a risk', () => {
  const least_ = (texture: string, om: number) => {
    const base = { ...least.base, soil: { ...least.base.soil, texture_id: texture, om_pct: om } };
    const field = fieldOf(recordOf(base));
    const weather = weatherOf(least.settings, base);
    const years = layOutYears(field, weather, new Float64Array(least.settings.n_days));
    const state = newState(field.site.layers);
    return (shares: (typeof least.shares)[keyof typeof least.shares]) => {
      const events = planOf(
        PRINTED,
        field,
        recordOf({ ...base, events: shares.map((e) => ({ ...e, n_kg_ha: 100 * e.share })) }).events,
      );
      return leastN(
        (kg) =>
          shortShare(
            runYears(field, scaled(events, kg / 100), years, state),
            field.params.shortFrac,
          ),
        { risk: least.risk, nMax: 500 },
      );
    };
  };
  it('on loamy sand a split is worth much, and its passes decide', () => {
    const of = least_('loamy_sand', 1.5);
    for (const [name, kg] of Object.entries(least.least_n_kg_ha))
      expect(of(least.shares[name as keyof typeof least.shares]), name).toBe(kg);
  });
  it('a plan that cannot do it says so', () => {
    expect(leastN(() => 1)).toBeNull();
    expect(leastN(() => 0)).toBe(0);
    expect(leastN((kg) => (kg >= 142 ? 0 : 1))).toBe(145);
    // A dip below the step that halving found.
    expect(leastN((kg) => (kg >= 150 || kg === 140 ? 0 : 1))).toBeLessThanOrEqual(150);
  });
  it('a percentile lies between its neighbours', () => {
    expect(percentile([1, 2, 3, 4], 0.5)).toBe(2.5);
    expect(percentile([7], 0.9)).toBe(7);
  });
});

describe('whatever the field, the plan and the weather', () => {
  const START = '2025-03-10';
  const DAYS = 220;
  const num = (min: number, max: number) =>
    fc.double({ min, max, noNaN: true, noDefaultInfinity: true });
  const day = fc.integer({ min: 0, max: DAYS - 1 });
  const dateOf = (d: number) =>
    new Date(Date.parse(START) + d * 86_400_000).toISOString().slice(0, 10);
  const products = fertilisers(PRINTED)
    .filter((f) => f.nTotalPct > 0)
    .map((f) => f.productId);
  const places = placements().map((p) => p.placementId);
  const event: fc.Arbitrary<SeasonEvent> = fc.oneof(
    fc.record({
      type: fc.constant('fertilise' as const),
      date: day.map(dateOf),
      productId: fc.constantFrom(...products),
      placementId: fc.constantFrom(...places),
      nKgHa: num(0, 200),
    }),
    fc.record({
      type: fc.constant('organic' as const),
      date: day.map(dateOf),
      poolId: fc.constantFrom(...organicPools().map((p) => p.poolId)),
      placementId: fc.constantFrom(...places),
      nOrgKgHa: num(0, 200),
      cToN: num(4, 120),
      nh4NKgHa: num(0, 120),
      no3NKgHa: num(0, 20),
      nh4Retained: fc.boolean(),
    }),
    fc.record({ type: fc.constant('till' as const), date: day.map(dateOf), depthCm: num(1, 60) }),
    fc.record({
      type: fc.constant('irrigate' as const),
      date: day.map(dateOf),
      mm: num(0, 80),
      nMgL: num(0, 20),
    }),
  );
  const RECORD: fc.Arbitrary<SeasonRecord> = fc
    .record({
      texture: fc.constantFrom(...soils().map((s) => s.textureId)),
      subsoil: fc.option(fc.constantFrom(...soils().map((s) => s.textureId))),
      om: num(0, 12),
      ph: num(4, 9),
      drainage: fc.constantFrom('well', 'moderate', 'imperfect', 'poor', 'tile'),
      residue: num(0, 1),
      water: num(0, 1.2),
      crop: fc.option(fc.constantFrom(...seasonCrops())),
      sow: fc.integer({ min: 0, max: 120 }),
      no3: num(0, 200),
      events: fc.array(event, { maxLength: 8 }),
    })
    .map((x) => ({
      startDate: START,
      latitudeDeg: 42,
      soil: {
        textureId: x.texture,
        subsoilTextureId: x.subsoil,
        omPct: x.om,
        ph: x.ph,
        drainageClass: x.drainage,
        residueCoverFrac: x.residue,
        initWaterFrac: x.water,
        no3InitKgHa: [{ fromCm: 0, toCm: 60, kgHa: x.no3 }],
      },
      crop: x.crop === null ? null : { cropId: x.crop, sowDate: dateOf(x.sow) },
      events: x.events,
    }));
  const climate = fc.constantFrom(...climateIds());
  const weather = (climateId: string, seed: number): Weather =>
    generateWeather({
      climate: climateOf(climateId),
      start: START,
      days: DAYS,
      latitudeDeg: 42,
      seed,
      year: 0,
    });
  it('N and water close every day, and nothing falls below nothing', () =>
    fc.assert(
      fc.property(RECORD, climate, fc.integer({ min: 0, max: 1e6 }), (record, id, seed) => {
        const run = simulate(PRINTED, record, weather(id, seed));
        expect(run.summary.maxBalanceError).toBeLessThan(1e-6);
        expect(Math.abs(run.laid.physical.waterError)).toBeLessThan(1e-6);
        const { state, trace } = run;
        for (const stock of [state.urea, state.nh4, state.no3, state.bio, state.som, state.act])
          for (const v of stock) expect(v).toBeGreaterThanOrEqual(-1e-9);
        for (const daily of Object.values(trace) as Float64Array[])
          for (const v of daily) expect(Number.isFinite(v)).toBe(true);
      }),
      { numRuns: 60 },
    ));
  it('without rain and irrigation nothing is leached', () =>
    fc.assert(
      fc.property(RECORD, climate, (record, id) => {
        const w = weather(id, 1);
        w.rainMm.fill(0);
        const dry = {
          ...record,
          soil: { ...record.soil, initWaterFrac: 1 },
          events: record.events.filter((e) => e.type !== 'irrigate'),
        };
        expect(simulate(PRINTED, dry, w).summary.leached).toBeLessThan(1e-9);
      }),
      { numRuns: 25 },
    ));
  it('more rain never leaches less, over the mean of years', () =>
    fc.assert(
      fc.property(RECORD, climate, (record, id) => {
        const field = fieldOf(record);
        const events = planOf(PRINTED, field, record.events);
        const state = newState(field.site.layers);
        const leached = (factor: number) => {
          const years = Array.from({ length: 5 }, (_, k) => {
            const w = weather(id, 100 + k);
            w.rainMm.forEach((mm, d) => (w.rainMm[d] = mm * factor));
            return w;
          });
          const runs = runYears(
            field,
            events,
            layOutYears(field, years, waterOf(events, DAYS)),
            state,
          );
          return runs.reduce((s, y) => s + y.leached, 0);
        };
        expect(leached(1.4)).toBeGreaterThanOrEqual(leached(1) - 0.05);
      }),
      { numRuns: 15 },
    ));
  it('the same seed gives the same result, run after run', () => {
    const record = fc.sample(RECORD, { numRuns: 1, seed: 3 })[0] as SeasonRecord;
    const once = simulate(PRINTED, record, weather('maritime_cool_52n', 9)).summary;
    expect(simulate(PRINTED, record, weather('maritime_cool_52n', 9)).summary).toEqual(once);
  });
});
