import { redress, sidedressNitrateTest, sufficiencyIndex } from '../nitrogen/inSeason';
import {
  ammoniaLoss,
  denitrificationLoss,
  eventLoss,
  leachingLoss,
  nitrifiedShare,
} from '../nitrogen/losses';
import { referenceEvaporation } from '../nitrogen/evaporation';
import { seedRowLimit } from '../nitrogen/seedRow';
import { refuse } from '../quantity/refusal';
import { spreadOf } from '../season/years';
import { acidity, compoundFit, liquidConvert, productRate } from '../nitrogen/product';
import { numberOfPasses, splitAllocate, stopCheck } from '../nitrogen/split';
import { degreeDays } from '../nitrogen/stageClock';
import { additiveCheck, foliarLoad, tankMix, twoTankPlan } from '../nitrogen/tank';
import { list, may, mayList, mayRowsOf, need, rowsOf } from './fields';
import { calculation, type Method } from './method';

const airOf = {
  ph_water: need('ph'),
  cec_cmol_kg: need('cec_cmolc_kg'),
  residue_cover_frac: need(),
  mean_air_temp_c: need('t_mean_c'),
  rain_after: mayRowsOf({ days_after_pass: need('day'), rain_after_mm: need('mm') }, 'rain'),
  slot_closure: may('closure'),
};
const drainsOf = {
  drainage_mm: need(),
  field_capacity_pct: need('field_capacity_vol_pct'),
  root_depth_cm: need(),
};
const lostOf = {
  n_lost_kg_ha: need('loss_kg_ha'),
  n_lost_low_kg_ha: need('low_kg_ha'),
  n_lost_high_kg_ha: need('high_kg_ha'),
};
const nutrientsOfRate = {
  n_kg_ha: need(),
  p_kg_ha: need(),
  k_kg_ha: need(),
  s_kg_ha: need(),
};

export const nitrogenMethods: readonly Method[] = [
  calculation({
    id: 'nitrogen.product_rate',
    title: 'Product for a wanted nutrient',
    group: 'Products',
    chapter: '4, F2.1',
    takes: {
      product_id: need(),
      nutrient: may(),
      nutrient_target_kg_ha: need('target_kg_ha'),
      product_price_per_t: may('price_per_t'),
    },
    gives: {
      product_kg_ha: need(),
      product_lb_ac: need(),
      product_l_ha: may('l_ha'),
      product_gal_ac: may('gal_ac'),
      ...nutrientsOfRate,
      product_cost_per_ha: need('cost_ha'),
    },
    run: (i, book) => productRate(book, i),
  }),
  calculation({
    id: 'nitrogen.liquid_convert',
    title: 'Liquid rate in litres, gallons and kg',
    group: 'Products',
    chapter: '4, F2.2',
    takes: { product_id: need(), product_gal_ac: may('gal_ac'), product_l_ha: may('l_ha') },
    either: [['product_gal_ac', 'product_l_ha']],
    gives: {
      product_l_ha: need('l_ha'),
      product_kg_ha: need(),
      density_lb_gal: need('lb_per_gal'),
      n_lb_ac: need(),
      ...nutrientsOfRate,
    },
    run: (i, book) => liquidConvert(book, i),
  }),
  calculation({
    id: 'nitrogen.compound_fit',
    title: 'Compound and straights',
    group: 'Products',
    chapter: '4, F2.3',
    takes: {
      n_target_kg_ha: need('n_kg_ha'),
      p_target_kg_ha: need('p_kg_ha'),
      k_target_kg_ha: need('k_kg_ha'),
      compound_id: need(),
      compound_n_share_max_frac: may('n_share_max'),
      compound_mode: may('mode'),
      overshoot_tolerance_frac: may('tolerance'),
      straight_n_product_id: may('straight_n'),
      straight_p_product_id: may('straight_p'),
      straight_k_product_id: may('straight_k'),
    },
    gives: {
      products_kg_ha: need(),
      delivered_kg_ha: need(),
      difference_kg_ha: need(),
      product_cost_per_ha: need('cost_ha'),
    },
    run: (i, book) => compoundFit(book, i),
  }),
  calculation({
    id: 'nitrogen.tank_mix',
    title: 'Tank mix',
    group: 'Products',
    chapter: '4, F2.5',
    takes: {
      tank_components: rowsOf({ product_id: need(), component_l: need('l') }, 'components'),
    },
    gives: {
      density_kg_l: need(),
      density_lb_gal: need('lb_per_gal'),
      analysis_pct: need(),
      content_g_l: need('g_per_l'),
      worst_pair: need(),
      liquid_pairs: rowsOf(
        { first_product_id: need(), second_product_id: need(), pair_verdict: need() },
        'pairs',
      ),
      density_gap_kg_l: need(),
      needs_separate_tanks: need('separate_tanks'),
      salt_out_c: may('assumed_salt_out_c'),
    },
    run: (i, book) => {
      const { pairs, ...r } = tankMix(book, i);
      return {
        ...r,
        pairs: pairs.map(([firstProductId, secondProductId, pairVerdict]) => ({
          firstProductId,
          secondProductId,
          pairVerdict,
        })),
      };
    },
  }),
  calculation({
    id: 'nitrogen.foliar_load',
    title: 'Does this spray hold a meaningful amount',
    group: 'Products',
    chapter: '4, F2.6',
    either: [['product_l_ha', 'product_kg_ha']],
    takes: {
      product_id: need(),
      product_l_ha: may(),
      product_kg_ha: may(),
      nutrient: need(),
      spray_volume_l_ha: need(),
      remaining_need_kg_ha: need(),
      peak_daily_uptake_kg_ha: may(),
      leaf_recovery_frac: may(),
      foliar_crop_group: may('crop_group'),
    },
    gives: {
      product_kg_ha: need(),
      nutrient_load_kg_ha: need('load_kg_ha'),
      spray_concentration_pct: need('conc_pct_wv'),
      spray_concentration_limit_pct: may('limit_pct_wv'),
      leaf_burn: need('burn'),
      taken_up_kg_ha: need(),
      share_of_need_frac: need('share_of_need'),
      spray_verdict: need('verdict'),
      days_of_peak_uptake: may(),
      sprays_to_cover_need: may(),
    },
    run: (i, book) => foliarLoad(book, i),
  }),
  calculation({
    id: 'nitrogen.two_tank_plan',
    title: 'Two tanks on one toolbar',
    group: 'Products',
    chapter: '4, F2.7',
    takes: {
      swath_m: need(),
      speed_km_h: need(),
      outlets: need(),
      tanks: rowsOf({
        product_id: need(),
        n_kg_ha: may(),
        product_l_ha: may('l_ha'),
        tank_l: need(),
      }),
    },
    gives: {
      tank_settings: rowsOf(
        {
          product_id: need(),
          product_l_ha: need('l_ha'),
          area_per_fill_ha: need('ha_per_fill'),
          outlet_flow_l_min: need('l_min_per_outlet'),
          outlet_flow_water_l_min: need('water_equivalent_l_min'),
        },
        'tanks',
      ),
      area_per_stop_ha: need('ha_per_stop'),
      work_rate_ha_h: need(),
    },
    run: (i, book) => {
      const { tanks, ...r } = twoTankPlan(book, i);
      return {
        ...r,
        tanks: Object.entries(tanks).map(([productId, t]) => ({ productId, ...t })),
      };
    },
  }),
  calculation({
    id: 'nitrogen.acidity',
    title: 'Acid that a plan leaves',
    group: 'Products',
    chapter: '4, F2.8',
    takes: {
      planned_products: rowsOf({ product_id: need(), product_kg_ha: need() }, 'products'),
    },
    gives: {
      acidity_caco3_kg_ha: need('caco3_kg_ha'),
      acidity_if_leached_caco3_kg_ha: need('caco3_kg_ha_if_all_nitrate_leaches'),
      years_per_t_lime: may(),
    },
    run: (i, book) => acidity(book, i),
  }),
  calculation({
    id: 'nitrogen.additive_check',
    title: 'N that an additive must save',
    group: 'Products',
    chapter: '4, F2.9',
    takes: {
      additive_cost_per_ha: need('cost_per_ha'),
      n_price_per_kg: need(),
      sugar_kg_ha: may(),
    },
    gives: { break_even_n_kg_ha: need(), n_tied_up_kg_ha: need() },
    run: additiveCheck,
  }),
  calculation({
    id: 'season.degree_days',
    title: 'Degree-days',
    group: 'Split',
    chapter: '4, F5.1',
    takes: {
      season_crop_id: need('crop_id'),
      day_temperatures: rowsOf(
        { temperature_min_c: need(), temperature_max_c: need() },
        'days_tmin_tmax',
      ),
    },
    gives: { degree_days_by_day: list('gdd_by_day'), degree_days: need('gdd_sum') },
    run: (i) =>
      degreeDays({
        cropId: i.cropId,
        daysTminTmax: i.daysTminTmax.map((d) => [d.temperatureMinC, d.temperatureMaxC] as const),
      }),
  }),
  calculation({
    id: 'nitrogen.number_of_passes',
    title: 'Number of N passes',
    group: 'Split',
    chapter: '4, F5.3',
    takes: {
      season_crop_id: need('crop_id'),
      n_total_kg_ha: need(),
      expected_drainage_mm: need(),
      soil_split_class: need('split_class'),
      is_slow_release: may('coated_or_inhibited'),
    },
    gives: {
      texture_points: need(),
      wet_points: need(),
      passes_by_risk: need('raw'),
      passes_by_dose: need('by_dose'),
      passes_wanted: need('wanted'),
      passes: need('n_passes'),
      split_template_id: need('template_id'),
    },
    run: numberOfPasses,
  }),
  calculation({
    id: 'nitrogen.split_allocate',
    title: 'Size of each N pass',
    group: 'Split',
    chapter: '4, F5.4',
    takes: {
      split_template_id: need('template_id'),
      n_total_kg_ha: need(),
      crop_n_uptake_kg_ha: need('u_total_kg_ha'),
      soil_supply_kg_ha: list(),
      dose_max_kg_ha: mayList('max_dose_kg_ha'),
      recovery_frac: mayList(),
    },
    gives: {
      pass_degree_days: list('gdd_targets'),
      interval_demand_kg_ha: list(),
      balance_before_first_pass_kg_ha: need('balance_before_pass1_kg_ha'),
      raw_need_kg_ha: list(),
      raw_need_total_kg_ha: need('raw_total_kg_ha'),
      raw_share_frac: list('raw_shares'),
      pass_share_frac: list('shares'),
      pass_dose_kg_ha: list('doses_kg_ha'),
      unplaced_kg_ha: need(),
    },
    run: splitAllocate,
  }),
  calculation({
    id: 'nitrogen.stop_check',
    title: 'Is N still in time',
    group: 'Split',
    chapter: '4, F5.9',
    takes: {
      season_crop_id: need('crop_id'),
      crop_use: may('use'),
      growth_stage_code: need('bbch'),
      is_foliar: may('foliar'),
    },
    gives: { last_growth_stage_code: may('last_bbch'), level: need(), harm: need() },
    run: stopCheck,
  }),
  calculation({
    id: 'nitrogen.seed_row_limit',
    title: 'Fertiliser beside the seed',
    group: 'Placement',
    chapter: '4, F3.2',
    takes: {
      seed_row_crop_id: need(),
      row_spacing_cm: may('row_cm'),
      opener_id: may(),
      seed_row_texture: need('texture'),
      seed_row_moisture: need('moisture'),
      seed_row_products: rowsOf({ product_id: need(), product_kg_ha: need() }, 'products'),
    },
    gives: {
      seed_bed_used_frac: need('sbu_frac'),
      seed_row_allowed_kg_ha: need('allowed_kg_ha'),
      seed_row_allowed_lb_ac: need('allowed_lb_ac'),
      seed_row_load_kg_ha: need('load_kg_ha'),
      seed_row_ratio: need('ratio'),
      seed_row_forbidden: list('forbidden'),
      level: need(),
    },
    run: (i, book) => seedRowLimit(book, i),
  }),
  calculation({
    id: 'nitrogen.ammonia_loss',
    title: 'Ammonia that a pass may lose',
    group: 'Losses',
    chapter: '4, F4.1',
    takes: { product_id: need(), placement_id: need(), n_kg_ha: need(), ...airOf },
    gives: {
      factor_warmth: need('f_temp'),
      factor_cec: need('f_cec'),
      factor_residue: need('f_residue'),
      factor_rain: need('f_rain'),
      urea_lost_frac: need('urea_loss_frac'),
      ammonium_lost_frac: need('ammonium_loss_frac'),
      ...lostOf,
    },
    run: (i, book) => ammoniaLoss(book, i),
  }),
  calculation({
    id: 'nitrogen.denit_loss',
    title: 'Nitrate that wet ground may lose',
    group: 'Losses',
    chapter: '4, F4.3',
    takes: {
      nitrate_in_soil_kg_ha: need('nitrate_kg_ha'),
      saturated_days: need(),
      mean_soil_temp_c: need('t_soil_c'),
      om_pct: may(),
    },
    gives: {
      denitrified_rate_per_day: need('rate_per_day'),
      n_lost_frac: need('loss_frac'),
      ...lostOf,
    },
    run: denitrificationLoss,
  }),
  calculation({
    id: 'nitrogen.nitrified',
    title: 'Ammonium turned to nitrate',
    group: 'Losses',
    chapter: '4, F4.4',
    takes: {
      mean_soil_temp_c: need('t_soil_c'),
      days_looked_at: need('days'),
      has_nitrification_inhibitor: may('nitrification_inhibitor'),
    },
    gives: { nitrified_frac: need() },
    run: (i) => ({ nitrifiedFrac: nitrifiedShare(i) }),
  }),
  calculation({
    id: 'nitrogen.leach_loss',
    title: 'Nitrate that drains below the roots',
    group: 'Losses',
    chapter: '4, F4.5',
    takes: {
      nitrate_in_soil_kg_ha: need('nitrate_kg_ha'),
      ...drainsOf,
      nitrate_position: may('position'),
    },
    gives: { n_lost_frac: need('loss_frac'), ...lostOf },
    run: leachingLoss,
  }),
  calculation({
    id: 'nitrogen.event_loss',
    title: 'What one pass may lose in all',
    group: 'Losses',
    chapter: '4, F4.6',
    takes: {
      product_id: need(),
      placement_id: need(),
      n_kg_ha: need(),
      ...airOf,
      mean_soil_temp_c: need('t_soil_c'),
      days_looked_at: need('days'),
      saturated_days: need(),
      ...drainsOf,
      om_pct: may(),
      product_price_per_t: may('price_per_t'),
    },
    gives: {
      volatilised_kg_ha: need(),
      nitrate_by_then_kg_ha: need(),
      denitrified_kg_ha: need(),
      leached_kg_ha: need(),
      n_lost_kg_ha: need('lost_kg_ha'),
      n_lost_low_kg_ha: need('lost_low_kg_ha'),
      n_lost_high_kg_ha: need('lost_high_kg_ha'),
      n_price_per_kg: need(),
      money_lost_per_ha: need('money_lost_ha'),
      cost_per_kg_left: need(),
    },
    run: (i, book) => eventLoss(book, i),
  }),
  calculation({
    id: 'nitrogen.sidedress_nitrate_test',
    title: 'Sidedress by a nitrate test',
    group: 'In season',
    chapter: '4, F6.1',
    takes: {
      nitrate_n_mg_kg: need('no3_n_mg_kg'),
      plant_height_cm: need(),
      critical_nitrate_mg_kg: may('critical_mg_kg'),
    },
    gives: { n_kg_ha: need(), n_lb_ac: need() },
    run: sidedressNitrateTest,
  }),
  calculation({
    id: 'nitrogen.sufficiency',
    title: 'N against a strip that was fed richly',
    group: 'In season',
    chapter: '4, F6.2',
    takes: {
      reading_of_field: need('field_reading'),
      reading_of_strip: need('reference_reading'),
      best_dose_kg_ha: need('n_opt_kg_ha'),
      n_applied_kg_ha: need(),
      n_found_kg_ha: may('n_credit_kg_ha'),
    },
    gives: { sufficiency_index: need('si'), n_kg_ha: need(), strip_flag: need('flag') },
    run: sufficiencyIndex,
  }),
  calculation({
    id: 'nitrogen.redress',
    title: 'A second dressing after rain',
    group: 'In season',
    chapter: '4, F6.4',
    takes: {
      n_in_crop_full_kg_ha: need('u_total_kg_ha'),
      n_taken_so_far_kg_ha: need('uptake_so_far_kg_ha'),
      root_zone_mineral_n_kg_ha: need(),
      release_expected_kg_ha: need('expected_mineralisation_kg_ha'),
      coated_n_left_kg_ha: may('unreleased_coated_kg_ha'),
      recovery_frac: may(),
      dose_limit_kg_ha: may('max_dose_kg_ha'),
      yield_t_ha: need(),
      grain_price_per_t: need(),
      n_price_per_kg: need(),
      pass_cost_per_ha: need('pass_cost_ha'),
    },
    gives: {
      demand_left_kg_ha: need('remaining_demand_kg_ha'),
      supply_usable_kg_ha: need('usable_supply_kg_ha'),
      n_deficit_kg_ha: need('deficit_kg_ha'),
      deficit_acted_on_kg_ha: need('threshold_kg_ha'),
      second_dose_kg_ha: need('dose_kg_ha'),
      yield_before_frac: need('rel_yield_before'),
      yield_after_frac: need('rel_yield_after'),
      margin_per_ha: need('margin_ha'),
    },
    run: redress,
  }),
  calculation({
    id: 'season.percentiles',
    title: 'Low, middle and high of years',
    group: 'Season',
    chapter: '4, M2',
    takes: { values: list() },
    gives: { percentiles_10_50_90: list('p10_p50_p90') },
    run: (i) => {
      const s = spreadOf(i.values);
      if (s === null) return refuse('missing', 'values', 'values is empty: give one or more.');
      return { p10P50P90: [s.p10, s.p50, s.p90] };
    },
  }),
  calculation({
    id: 'season.reference_et',
    title: 'Reference evaporation of a day',
    group: 'Season',
    chapter: '4, W4',
    takes: {
      temperature_min_c: need('t_min_c'),
      temperature_max_c: need('t_max_c'),
      latitude_deg: need(),
      day_of_year: need('doy'),
    },
    gives: { reference_evaporation_mm: need('et0_mm') },
    run: (i) => {
      if (i.tMinC > i.tMaxC)
        refuse('inconsistent', 't_min_c', 'The lowest temperature is above the highest.', {
          value: i.tMinC,
        });
      return {
        et0Mm: referenceEvaporation({
          latitudeDeg: i.latitudeDeg,
          dayOfYear: i.doy,
          tMinC: i.tMinC,
          tMaxC: i.tMaxC,
        }),
      };
    },
  }),
];
