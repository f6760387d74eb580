import { acidity, compoundFit, liquidConvert, productRate } from '../nitrogen/product';
import { numberOfPasses, splitAllocate, stopCheck } from '../nitrogen/split';
import { degreeDays } from '../nitrogen/stageClock';
import { additiveCheck, foliarLoad, tankMix, twoTankPlan } from '../nitrogen/tank';
import { list, may, mayList, need, rowsOf } from './fields';
import { calculation, type Method } from './method';

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
];
