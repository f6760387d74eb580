import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { climateOf } from '../book/stages';
import { radiation, referenceEvaporation } from '../nitrogen/evaporation';
import { fmix32, streamOf, streamSeed } from './random';
import { recordOf } from './record.testkit';
import { simulate, type DayByDay } from './run';
import tenDays from './reference/10day.json';
import edge from './reference/edge.json';
import rngWeather from './reference/rng_weather.json';
import wheat from './reference/winter_wheat.json';
import { generateWeather, type Weather } from './weather';

// What an independent program came to, run for run (chapter 4, S18, 7a and section 8).

/** Within 1e-8 of a figure, and of 1 where it is small: the files were written to nine places. */
const near = (found: number, wanted: number, what: string) =>
  expect(Math.abs(found - wanted), `${what}: ${found} and ${wanted}`).toBeLessThanOrEqual(
    1e-8 * Math.max(1, Math.abs(wanted)),
  );

/** A day of a run, by the chapter's column names. */
function dayOf({ trace, laid }: DayByDay, d: number): Record<string, number> {
  const { physical: ph, days } = laid;
  const at = (x: ArrayLike<number>) => x[d] as number;
  const demand = at(days.demand);
  return {
    g: at(days.g),
    t_soil_5cm: at(ph.tSoil),
    w_top_mm: at(ph.wTop),
    drain_mm: at(ph.drain),
    runoff_mm: at(ph.runoff),
    evap_mm: at(ph.evap),
    transp_mm: at(ph.transp),
    demand_cum: demand,
    uptake_cum: at(trace.uptakeCum),
    demand_day: at(trace.demandDay),
    uptake_day: at(trace.uptakeDay),
    fixed_day: at(trace.fixedDay),
    net_min: at(trace.netMin),
    nitrified: at(trace.nitrified),
    volatilised: at(trace.volatilised),
    denitrified: at(trace.denitrified),
    leached: at(trace.leached),
    runoff_n: at(trace.runoffN),
    urea_surf: at(trace.ureaTop),
    nh4_surf: at(trace.nh4Top),
    no3_surf: at(trace.no3Top),
    urea_soil: at(trace.urea),
    nh4_soil: at(trace.nh4),
    no3_soil: at(trace.no3),
    min_n_root_zone: at(trace.rootZoneN),
    coated_left: at(trace.coated),
    plant_n_frac: demand > 0 ? at(trace.uptakeCum) / demand : 1,
  };
}
function sameDay(run: DayByDay, d: number, wanted: Record<string, unknown>): void {
  const found = dayOf(run, d);
  for (const [key, value] of Object.entries(wanted))
    if (typeof value === 'number' && key in found)
      near(found[key] as number, value, `day ${d} ${key}`);
}
const SUMMARY: Record<string, keyof DayByDay['summary']> = {
  volatilised: 'volatilised',
  denitrified: 'denitrified',
  leached: 'leached',
  runoff_n: 'runoffN',
  net_min: 'netMin',
  drain_mm: 'drainMm',
  runoff_mm: 'runoffMm',
  evap_mm: 'evapMm',
  transp_mm: 'transpMm',
  uptake: 'uptake',
  demand: 'demand',
  plant_n_frac: 'plantNFrac',
  stress_days: 'stressDays',
  max_deficit: 'maxDeficit',
  late_excess: 'lateExcess',
  late_excess_index: 'lateExcessIndex',
  residual_no3: 'residualNo3',
};
function sameSummary(run: DayByDay, wanted: Record<string, unknown>): void {
  for (const [key, ours] of Object.entries(SUMMARY)) {
    const value = wanted[key];
    if (typeof value === 'number') near(run.summary[ours] as number, value, key);
    else if (value === null) expect(run.summary[ours], key).toBeNull();
  }
  expect(run.summary.maxBalanceError).toBeLessThan(1e-6);
}
function sameLayers(
  run: DayByDay,
  wanted: Record<'w_mm' | 't_soil_c' | 'urea' | 'nh4' | 'no3' | 'ni_activity' | 'bio', number[]>,
): void {
  const {
    laid: { physical },
    state,
  } = run;
  const found = {
    w_mm: physical.waterMm,
    t_soil_c: physical.tLayersC,
    urea: state.urea,
    nh4: state.nh4,
    no3: state.no3,
    ni_activity: state.act,
    bio: state.bio,
  };
  for (const [key, values] of Object.entries(found))
    values.forEach((v, i) =>
      near(v, wanted[key as keyof typeof found][i] as number, `${key} of layer ${i + 1}`),
    );
}

describe('random numbers and weather', () => {
  const { rng } = rngWeather;
  it('are those of the chapter, to the last place', () => {
    const stream = streamOf(12345);
    for (const x of rng.mulberry32_seed_12345) near(stream.next(), x, 'uniform');
    expect(streamOf(12345).next()).toBe(0.9797282677609473);
    const normal = streamOf(12345);
    for (const x of rng.normal_seed_12345) near(normal.normal(), x, 'normal');
    const [large, small] = [streamOf(12345), streamOf(12345)];
    for (const x of rng.gamma_2_5_seed_12345) near(large.gamma(2.5), x, 'gamma 2.5');
    for (const x of rng.gamma_0_7_seed_12345) near(small.gamma(0.7), x, 'gamma 0.7');
    for (const [x, mixed] of Object.entries(rng.fmix32)) expect(fmix32(Number(x))).toBe(mixed);
    for (const [name, seed] of Object.entries(rng.stream_seeds_seed2025)) {
      const [, year, stream] = /^year(\d+)_stream(\d)$/u.exec(name) as RegExpExecArray;
      expect(streamSeed(2025, Number(year), Number(stream)), name).toBe(seed);
    }
  });
  it('light and evaporation follow latitude and day', () => {
    near(radiation(42, 172), rng.ra_mj_m2_d.lat42_doy172, 'north');
    near(radiation(-35, 15), rng.ra_mj_m2_d['lat-35_doy15'], 'south');
    near(radiation(70, 355), rng.ra_mj_m2_d.lat70_doy355, 'polar night');
    near(
      referenceEvaporation({ latitudeDeg: 42, dayOfYear: 156, tMinC: 12, tMaxC: 24 }),
      rng.et0_hs_mm['12_24_lat42_doy156'],
      'evaporation',
    );
  });
  it('ten days of a climate come out alike', () => {
    const { climate_id: climateId, start, seed, year } = rngWeather.generator;
    const w = generateWeather({
      climate: climateOf(climateId),
      start,
      days: 10,
      latitudeDeg: 42,
      seed,
      year,
    });
    rngWeather.generated_weather_10_days_tmin_tmax_rain_et0.forEach((day, d) =>
      [w.tMinC, w.tMaxC, w.rainMm, w.et0Mm].forEach((x, k) =>
        near(x[d] as number, day[k] as number, `day ${d}`),
      ),
    );
  });
});

describe('the season, day by day', () => {
  it('ten days of maize under everything that can be spread', () => {
    const given = tenDays.weather_tmin_tmax_rain_et0;
    const column = (k: number) => Float64Array.from(given, (day) => day[k] as number);
    const weather: Weather = {
      start: tenDays.input.start_date,
      days: given.length,
      tMinC: column(0),
      tMaxC: column(1),
      rainMm: column(2),
      et0Mm: column(3),
    };
    const run = simulate(PRINTED, recordOf(tenDays.input), weather);
    tenDays.daily.forEach((wanted, d) => sameDay(run, d, wanted));
    sameSummary(run, tenDays.summary);
    sameLayers(run, tenDays.final_layers);
    expect(run.summary.harvestDay).toBeNull();
  });
  it.each(Object.entries(edge))('%s', (_, x) => {
    const weather = generateWeather({
      climate: climateOf(x.climate_id),
      start: x.input.start_date,
      days: x.n_days,
      latitudeDeg: x.input.latitude_deg,
      seed: x.seed,
      year: x.year,
    });
    const run = simulate(PRINTED, recordOf(x.input), weather);
    for (const row of x.every_10_days) sameDay(run, row.day, row);
    sameSummary(run, x.summary);
    sameLayers(run, x.final_layers);
    expect(run.summary.harvestDay).toBe(x.summary.harvest_day);
    expect(run.summary.firstStressDay ?? -1).toBe(x.summary.first_stress);
    expect(Math.abs(run.laid.physical.waterError)).toBeLessThan(1e-9);
  });
  it('winter wheat on layered clay, over the restart of its clock', () => {
    const weather = generateWeather({
      climate: climateOf(wheat.climate_id),
      start: wheat.input.start_date,
      days: wheat.n_days,
      latitudeDeg: wheat.input.latitude_deg,
      seed: wheat.seed,
      year: wheat.year,
    });
    near(
      weather.rainMm.reduce((a, b) => a + b, 0),
      wheat.rain_total_mm,
      'rain',
    );
    const run = simulate(PRINTED, recordOf(wheat.input), weather);
    wheat.every_30_days.forEach((row, k) => sameDay(run, 30 * k, row));
    sameSummary(run, wheat.summary);
    expect(run.dateOf(run.summary.harvestDay)).toBe(wheat.summary.harvest_date);
  });
});
