import type { Book } from '../book/book';
import { blendLp } from '../nitrogen/blend';
import { alternativesOf, type Alternative } from '../nitrogen/losses';
import { placedRate } from '../nitrogen/placedRate';
import { proteinDressing, stageCorrect, workWindow } from '../nitrogen/timing';
import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { dailyWeather } from '../season/dailyWeather';
import { streamOf } from '../season/random';
import type { SeasonEvent } from '../season/record';
import { simulate } from '../season/run';
import { nutritionIndex } from '../tissue/dilution';
import { group, list, may, mayGroupOf, mayRowsOf, need, rowsOf, type Taken } from './fields';
import { calculation, type Method } from './method';

const wayOf = {
  product_id: need(),
  placement_id: need(),
  n_lost_kg_ha: need(),
  cost_per_kg_left: need(),
};
const told = ({ productId, placementId, lostKgHa, costPerKgLeft }: Alternative) => ({
  productId,
  placementId,
  nLostKgHa: lostKgHa,
  costPerKgLeft,
});
const layersOf = {
  layer_from_cm: need('from_cm'),
  layer_to_cm: need('to_cm'),
  layer_mineral_n_kg_ha: need('kg_ha'),
};
const eventOf = {
  season_event_type: need('type'),
  event_date: need('date'),
  product_id: may(),
  placement_id: may(),
  n_kg_ha: may(),
  closure_loss_frac: may(),
  organic_pool_id: may('pool_id'),
  organic_n_kg_ha: may('n_org_kg_ha'),
  c_to_n: may(),
  ammonium_n_kg_ha: may('nh4_n_kg_ha'),
  nitrate_n_kg_ha: may('no3_n_kg_ha'),
  is_ammonium_retained: may('nh4_retained'),
  tillage_depth_cm: may('depth_cm'),
  day_irrigation_mm: may('mm'),
  irrigation_n_mg_l: may('n_mg_l'),
};
const seasonOf = {
  run_start_date: need('start_date'),
  latitude_deg: need(),
  soil_temp_at_start_c: may('t_soil_init_c'),
  soil_record: group(
    {
      soil_texture_id: need('texture_id'),
      subsoil_texture_id: may(),
      om_pct: need(),
      ph_water: may('ph'),
      cec_cmol_kg: may('cec_cmolc_kg'),
      soil_drainage_class: may('drainage_class'),
      residue_cover_frac: may(),
      water_at_start_frac: may('init_water_frac'),
      has_runoff: may('runoff'),
      curve_number: may(),
      nitrate_at_start: mayRowsOf(layersOf, 'no3_init_kg_ha'),
      ammonium_at_start: mayRowsOf(layersOf, 'nh4_init_kg_ha'),
    },
    'soil',
  ),
  crop_record: mayGroupOf(
    {
      season_crop_id: need('crop_id'),
      sowing_date: need('sow_date'),
      harvest_date: may(),
      n_in_crop_full_kg_ha: may('u_total_kg_ha'),
      degree_days_at_start: may('g_init'),
      is_spring_clock: may('spring_clock'),
      root_depth_max_cm: may('root_zmax_cm'),
      observed_stages: mayRowsOf({ observed_on: need('date'), growth_stage_code: need('bbch') }),
    },
    'crop',
  ),
  season_events: mayRowsOf(eventOf, 'events'),
};

/** A row of what is done, with all that its kind needs. */
function eventOfRow(e: Taken<typeof eventOf>, k: number): SeasonEvent {
  const given = <T>(name: string, v: T | null | undefined): T =>
    v ?? refuse('missing', `events[${k}].${name}`, `events[${k}].${name}: give it for ${e.type}.`);
  const { date } = e;
  if (e.type === 'till') return { type: 'till', date, depthCm: given('depth_cm', e.depthCm) };
  if (e.type === 'irrigate')
    return { type: 'irrigate', date, mm: given('mm', e.mm), nMgL: e.nMgL ?? null };
  const placementId = given('placement_id', e.placementId);
  if (e.type === 'fertilise')
    return {
      type: 'fertilise',
      date,
      placementId,
      productId: given('product_id', e.productId),
      nKgHa: given('n_kg_ha', e.nKgHa),
      closureLossFrac: e.closureLossFrac ?? null,
    };
  return {
    type: 'organic',
    date,
    placementId,
    poolId: given('pool_id', e.poolId),
    nOrgKgHa: given('n_org_kg_ha', e.nOrgKgHa),
    cToN: given('c_to_n', e.cToN),
    nh4NKgHa: e.nh4NKgHa ?? null,
    no3NKgHa: e.no3NKgHa ?? null,
    nh4Retained: e.nh4Retained ?? null,
  };
}
const weatherOf = {
  temperature_min_c: need('t_min'),
  temperature_max_c: need('t_max'),
  day_rain_mm: need('rain_mm'),
  day_evaporation_mm: may('et0_mm'),
};

function simulated(
  book: Book,
  i: { season: Taken<typeof seasonOf>; weather: Taken<typeof weatherOf>[] },
) {
  const { season, weather } = i;
  const { summary, dateOf } = simulate(
    book,
    { ...season, events: (season.events ?? []).map(eventOfRow) },
    dailyWeather(season.startDate, weather, season.latitudeDeg),
  );
  const { uptake, demand, plantNFrac, stressDays, lateExcessIndex, residualNo3 } = summary;
  const { volatilised, denitrified, leached, runoffN, netMin, drainMm } = summary;
  return {
    uptake,
    demand,
    plantNFrac,
    stressDays,
    volatilised,
    denitrified,
    leached,
    runoffN,
    netMin,
    drainMm,
    residualNo3,
    lateExcessIndex,
    harvestDate: dateOf(summary.harvestDay),
    harvestReached: summary.harvestDay !== null,
  };
}

export const seasonMethods: readonly Method[] = [
  calculation({
    id: 'nitrogen.blend_lp',
    title: 'Cheapest blend',
    group: 'Products',
    chapter: '4, F2.4',
    takes: {
      blend_candidates: list('candidates'),
      nutrient_at_least_kg_ha: may('min_kg_ha'),
      nutrient_at_most_kg_ha: may('max_kg_ha'),
      max_products: may(),
      max_n_per_pass_kg_ha: may(),
      seed_row_limit_kg_ha: may(),
      is_chloride_sensitive: may('chloride_sensitive'),
      handling_per_product_ha: may(),
      min_rate_kg_ha: may(),
      max_rate_kg_ha: may(),
      own_prices_per_t: may('prices_per_t'),
      stock_kg_ha: may(),
    },
    gives: {
      products_kg_ha: need(),
      delivered_kg_ha: need(),
      product_cost_per_ha: need('cost_ha'),
      left_out_products: list(),
    },
    run: (i, book) => blendLp(book, i),
  }),
  calculation({
    id: 'nitrogen.placed_rate',
    title: 'Rate in a band',
    group: 'Placement',
    chapter: '4, F3.1',
    takes: {
      broadcast_rate_kg_ha: need(),
      placement_id: need(),
      placed_nutrient: need('nutrient'),
      soil_test_level: need('test_class'),
      removal_kg_ha: may(),
    },
    gives: {
      relative_efficiency: need('rel_eff'),
      placed_rate_kg_ha: need('rate_kg_ha'),
      store_change_kg_ha: may('soil_balance_kg_ha'),
    },
    run: placedRate,
  }),
  calculation({
    id: 'nitrogen.rank_alternatives',
    title: 'The same N by other ways',
    group: 'Losses',
    chapter: '4, F4.7',
    takes: {
      ph_water: need('ph'),
      cec_cmol_kg: need('cec_cmolc_kg'),
      residue_cover_frac: need(),
      mean_air_temp_c: need('t_mean_c'),
      n_kg_ha: need(),
      mean_soil_temp_c: need('t_soil_c'),
      days_looked_at: need('days'),
      saturated_days: need(),
      drainage_mm: need(),
      field_capacity_pct: need('field_capacity_vol_pct'),
      root_depth_cm: need(),
      om_pct: may(),
      rain_after: mayRowsOf({ days_after_pass: need('day'), rain_after_mm: need('mm') }, 'rain'),
      slot_closure: may('closure'),
    },
    gives: {
      least_loss: group(wayOf, 'least_loss'),
      cheapest_per_kg_left: group(wayOf, 'cheapest_per_kg_left'),
      most_loss: group(wayOf, 'most_loss'),
    },
    run: (i, book) => {
      const ranked = alternativesOf(book, i);
      const [least, most] = [ranked[0] as Alternative, ranked.at(-1) as Alternative];
      const cheapest = ranked.reduce((a, b) => (b.costPerKgLeft < a.costPerKgLeft ? b : a));
      return { leastLoss: told(least), cheapestPerKgLeft: told(cheapest), mostLoss: told(most) };
    },
  }),
  calculation({
    id: 'season.stage_correct',
    title: 'Clock put right by a stage',
    group: 'In season',
    chapter: '4, F5.2',
    takes: {
      season_crop_id: need('crop_id'),
      observed_growth_stage_code: need('observed_bbch'),
      clock_degree_days: need('clock_gdd'),
      target_growth_stage_code: may('target_bbch'),
    },
    gives: {
      clock_after_degree_days: need('clock_after'),
      clock_pace: need('rate'),
      clock_shift_degree_days: need('shift_gdd'),
      degree_days_to_target: may('raw_gdd_to_target'),
      is_far_from_clock: need(),
    },
    run: stageCorrect,
  }),
  calculation({
    id: 'nitrogen.protein_dressing',
    title: 'Late N for protein',
    group: 'Split',
    chapter: '4, F5.8',
    takes: {
      yield_t_ha: need(),
      protein_dose_kg_ha: need('dose_kg_ha'),
      protein_gain_wanted_pct_point: may('target_gain_pct_point'),
      grain_n_recovery_frac: may('recovery_frac'),
      protein_premium_per_t: may('premium_per_t'),
      n_price_per_kg: may(),
      pass_cost_per_ha: may('pass_cost_ha'),
    },
    gives: {
      protein_gain_pct_point: need(),
      protein_dose_needed_kg_ha: may('dose_needed_kg_ha'),
      margin_per_ha: may('margin_ha'),
    },
    run: proteinDressing,
  }),
  calculation({
    id: 'nitrogen.work_window',
    title: 'Days that bear a machine',
    group: 'Split',
    chapter: '4, F5.6',
    takes: {
      window_years: rowsOf(
        {
          window_days: rowsOf({
            day_rain_mm: need('rain_mm'),
            top_water_of_capacity: need('w_top_frac_fc'),
            day_soil_temp_c: need('t_soil_c'),
          }),
        },
        'years',
      ),
      bears_up_to: need('traffic_fc_frac'),
      window_days_needed: need('need_days'),
    },
    gives: { good_days: list(), window_share: need('p_window') },
    run: ({ years, ...i }) => workWindow({ ...i, years: years.map((y) => y.windowDays) }),
  }),
  calculation({
    id: 'nitrogen.nni',
    title: 'N nutrition index',
    group: 'In season',
    chapter: '4, F6.3; 5, section 7',
    takes: {
      dilution_curve: need('curve'),
      biomass_dry_t_ha: need('biomass_t_ha'),
      crop_n_pct: need('n_pct'),
    },
    gives: {
      critical_n_pct: need(),
      nitrogen_nutrition_index: need('nni'),
      crop_n_gap_kg_ha: need('deficit_kg_ha'),
      curve_validity: need('validity'),
    },
    run: (i) => {
      const { criticalNPct, nni, deficitKgHa, validity } = nutritionIndex(i);
      return { criticalNPct, nni, deficitKgHa, validity };
    },
  }),
  calculation({
    id: 'season.random_draws',
    title: 'Random numbers from a seed',
    group: 'Season',
    chapter: '4, W1',
    takes: {
      random_seed: need('seed'),
      random_kind: need('kind'),
      gamma_shape: may('shape'),
      random_count: need('count'),
    },
    gives: { values: list() },
    run: ({ seed, kind, shape, count }) => {
      const stream = streamOf(seed);
      const draw = {
        uniform: stream.next,
        normal: stream.normal,
        gamma: () =>
          stream.gamma(within('shape', shape, { label: 'Shape', unit: '', min: 0.01, max: 1000 })),
      }[kind];
      return { values: Array.from({ length: count }, draw) };
    },
  }),
  calculation({
    id: 'season.simulate',
    title: 'A season, day by day',
    group: 'Season',
    chapter: '4, section 7',
    takes: {
      season_record: group(seasonOf, 'season'),
      daily_weather: rowsOf(weatherOf, 'weather'),
    },
    gives: {
      season_uptake_kg_ha: need('uptake'),
      season_demand_kg_ha: need('demand'),
      plant_n_frac: may(),
      stress_days: need(),
      volatilised_kg_ha: need('volatilised'),
      denitrified_kg_ha: need('denitrified'),
      leached_kg_ha: need('leached'),
      runoff_n_kg_ha: need('runoff_n'),
      net_mineralised_kg_ha: need('net_min'),
      drained_mm: need('drain_mm'),
      residual_nitrate_kg_ha: need('residual_no3'),
      late_excess_index: may(),
      harvest_date: may(),
      is_harvest_reached: need('harvest_reached'),
    },
    run: (i, book) => simulated(book, i),
  }),
];
