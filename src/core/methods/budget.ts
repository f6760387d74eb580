import {
  forageMining,
  grainLegumeBalance,
  nitrogenUse,
  sidedressNitrateTest,
} from '../budget/accounts';
import { creditGreenManure, creditGreenManureFixed } from '../budget/greenManure';
import { requirementIndex } from '../budget/indexSchool';
import { balance, caps, roundedLedger, uncertainty } from '../budget/ledger';
import { creditLegumeTable, overlapCredit } from '../budget/legumeTable';
import { limitingFactor, lowerNToAttainable, type LimitingInput } from '../budget/limiting';
import { creditAllowed } from '../budget/matrix';
import { offtake, pkReplacement } from '../budget/offtake';
import { creditOrganicMatter, creditOrganicMatterSimple } from '../budget/organicMatter';
import {
  creditCropN,
  creditDelta,
  creditIrrigationWater,
  sulphurBudget,
} from '../budget/otherCredits';
import { realisticYield, requirementYieldGoal } from '../budget/requirement';
import { greenManureTurn, residueTieUp } from '../budget/residues';
import {
  eonrManySiteYears,
  eonrQuadratic,
  fitQuadraticPlateau,
  flatOptimum,
} from '../budget/response';
import { creditSoilNitrate, nitrateAfterWinter } from '../budget/soilNitrate';
import { lateN, uptakeFraction } from '../budget/uptake';
import { cropOf } from '../book/crops';
import { group, list, may, mayGroup, mayRowsOf, need, rowsOf, type Taken } from './fields';
import { calculation, type Method } from './method';

const removal = {
  crop_key: need(),
  yield_t_ha: need(),
  straw_removed_frac: may(),
  is_rain_on_straw: may('rain_over_25mm'),
  prunings_t_dm_ha: may(),
};
const stand = {
  legume_key: need(),
  stand_class: may(),
  plants_m2: may(),
  stems_m2: may(),
  legume_cover_pct: may(),
};
const modifiers = {
  kill_timing: may(),
  tillage: may(),
  climate_class: may('climate'),
  stand_age: may(),
};
const greenManure = {
  green_manure_t_dm_ha: may('gm_total_t_dm_ha'),
  fresh_mass_g_m2: may('fresh_g_m2'),
  dry_matter_pct: may('dm_pct'),
  green_manure_species: rowsOf(
    {
      species_key: need(),
      share_frac: need('share'),
      species_stage: may('stage'),
      n_pct_dm: may('n_pct'),
    },
    'gm_species',
  ),
  removed_tops_frac: may('removed_frac_tops'),
  removed_t_dm_ha: may(),
  removed_n_pct_dm: may('removed_n_pct'),
  residue_placement: may('placement'),
  kill_timing: may(),
  weeks_to_80pct_uptake: may(),
  soil_temp_season_c: may(),
  perennial_stand: mayGroup({ ...stand, legume_texture: may('texture'), ...modifiers }),
  mix_reading: may('reading'),
};
const greenManureEither = [
  ['green_manure_t_dm_ha', 'fresh_mass_g_m2'],
  ['removed_tops_frac', 'removed_t_dm_ha'],
] as const;
const limits = {
  crop_key: need(),
  yield_goal_t_ha: need(),
  n_supply_kg_ha: need(),
  n_need_kg_ha: need(),
  soil_classes: group(
    {
      soil_class_p: may('P'),
      soil_class_k: may('K'),
      soil_class_s: may('S'),
      soil_class_mg: may('Mg'),
    },
    'classes',
  ),
  ph_water: may(),
  planned_repairs: mayRowsOf(
    {
      limiting_nutrient: need('nutrient'),
      planned_kg_ha: need(),
      needed_kg_ha: need(),
      is_banded: may('banded'),
    },
    'planned',
  ),
  other_limits: mayRowsOf({
    limit_name: need('name'),
    relative_yield_frac: need('relative_yield'),
  }),
  repair: mayGroup({ repair_factor: need('factor') }),
};
/** Limits as the calculation takes them: classes that are given, and what is planned by nutrient. */
const limitsOf = (i: Taken<typeof limits>): LimitingInput => {
  const { planned, classes, ...rest } = i;
  return {
    ...rest,
    classes: Object.fromEntries(Object.entries(classes).filter(([, v]) => v != null)),
    planned:
      planned &&
      Object.fromEntries(
        planned.map(({ nutrient, banded, ...p }) => [nutrient, { ...p, banded: banded ?? false }]),
      ),
  };
};

export const budgetMethods: readonly Method[] = [
  calculation({
    id: 'budget.realistic_yield',
    title: 'Realistic yield from the field’s own years',
    group: 'Requirement',
    chapter: '1, R0',
    takes: { crop_key: need(), yield_history_t_ha: list(), yield_goal_t_ha: may() },
    gives: {
      realistic_yield_t_ha: need(),
      mean_yield_t_ha: may('mean_t_ha'),
      is_book_yield: need('book_yield'),
      is_goal_too_high: need('caution_Y01'),
    },
    run: (i, book) => {
      const { tooHigh, ...r } = realisticYield(book, i);
      return { ...r, caution_Y01: tooHigh };
    },
  }),
  calculation({
    id: 'budget.requirement_yield_goal',
    title: 'N requirement by yield goal',
    group: 'Requirement',
    chapter: '1, R1',
    gives: {
      n_requirement_kg_ha: need('n_req_kg_ha'),
      protein_n_kg_ha: need('extra_protein_n_kg_ha'),
      requirement_kind: need(),
    },
    takes: {
      crop_key: need(),
      yield_goal_t_ha: need(),
      protein_target_pct: may('protein_target_market_pct'),
      legume_share_frac: may('legume_share'),
      planting_year: may(),
    },
    run: (i, book) => requirementYieldGoal(book, i),
  }),
  calculation({
    id: 'budget.offtake',
    title: 'Nutrients that leave with the harvest',
    group: 'Requirement',
    chapter: '1, U5',
    takes: removal,
    gives: {
      offtake_n_kg_ha: need(),
      offtake_p_kg_ha: need(),
      offtake_k_kg_ha: need(),
      offtake_s_kg_ha: need(),
    },
    run: (i, book) => offtake(book, i),
  }),
  calculation({
    id: 'budget.pk_replacement',
    title: 'P or K that replaces off-take',
    group: 'Requirement',
    chapter: '1, R8',
    takes: { ...removal, p_or_k: need('nutrient'), soil_class: need() },
    gives: { offtake_kg_ha: need(), requirement_kg_ha: need('req_kg_ha') },
    run: (i, book) => pkReplacement(book, i),
  }),
  calculation({
    id: 'budget.sulphur',
    title: 'Sulphur requirement and credits',
    group: 'Requirement',
    chapter: '1, S1',
    gives: {
      s_requirement_kg_ha: need('s_req_kg_ha'),
      s_credit_kg_ha: need(),
      om_s_kg_ha: need(),
      deposition_s_in_season_kg_ha: need('deposition_s_kg_ha'),
      s_to_bring_kg_ha: need(),
    },
    takes: {
      crop_key: need(),
      yield_t_ha: need(),
      om_credit_n_kg_ha: may(),
      deposition_s_kg_ha: may(),
      manure_s_kg_ha: may(),
    },
    run: (i, book) => sulphurBudget(book, i),
  }),
  calculation({
    id: 'budget.uptake_fraction',
    title: 'Share of N taken up by a date',
    group: 'Requirement',
    chapter: '1, T1',
    takes: {
      crop_key: need(),
      season_frac: may(),
      thermal_frac: may(),
      growth_stage_bbch: may('bbch'),
    },
    gives: { n_uptake_frac: need() },
    run: (i, book) => uptakeFraction(book, i),
  }),
  calculation({
    id: 'budget.late_n',
    title: 'Late N against quality',
    group: 'Requirement',
    chapter: '1, T2',
    gives: { late_n_kg_ha: need(), late_n_share_frac: need('share'), level: need(), harm: may() },
    takes: {
      crop_key: need(),
      n_released_after_run_down_kg_ha: need('released_after_kg_ha'),
      root_zone_nitrate_n_kg_ha: need('root_zone_nitrate_kg_ha'),
      n_uptake_still_due_kg_ha: need('uptake_still_due_kg_ha'),
      requirement_kg_ha: need(),
    },
    run: (i, book) => lateN(book, i),
  }),
  calculation({
    id: 'budget.eonr_quadratic',
    title: 'Economic optimum of a quadratic',
    group: 'Requirement',
    chapter: '1, R3',
    takes: {
      response_intercept_t_ha: need('a'),
      response_linear_t_kg: need('b'),
      response_quadratic_t_ha_kg2: need('c'),
      n_price_per_kg: need('price_n_per_kg'),
      crop_price_per_t: need('price_crop_per_t'),
      n_highest_trial_kg_ha: need(),
    },
    gives: {
      eonr_kg_ha: need(),
      n_at_top_kg_ha: need('n_max_kg_ha'),
      price_ratio_kg_kg: need(),
      yield_gain_t_ha: need('gain_t_ha'),
      net_gain_per_ha: need(),
      is_clamped: need('clamped'),
      is_beyond_trial: need('caution_n22'),
    },
    run: eonrQuadratic,
  }),
  calculation({
    id: 'budget.fit_quadratic_plateau',
    title: 'Response curve of own trials',
    group: 'Requirement',
    chapter: '1, R4 R5',
    takes: {
      trial_points: rowsOf({ n_kg_ha: need(), yield_t_ha: need() }, 'points'),
      n_price_per_kg: need('price_n_per_kg'),
      crop_price_per_t: need('price_crop_per_t'),
      site_years: may(),
    },
    gives: {
      n_at_plateau_kg_ha: need('n_join_kg_ha'),
      plateau_yield_t_ha: need('y_max_t_ha'),
      response_curvature: need('g'),
      r_squared: need('r2'),
      eonr_kg_ha: need(),
      is_weak_fit: need('weak'),
    },
    run: (i) =>
      fitQuadraticPlateau({ ...i, points: i.points.map((p) => [p.nKgHa, p.yieldTHa] as const) }),
  }),
  calculation({
    id: 'budget.flat_optimum',
    title: 'How flat the optimum is',
    group: 'Requirement',
    chapter: '1, R6',
    takes: {
      response_curvature: need('g'),
      crop_price_per_t: need('price_crop_per_t'),
      loss_borne_per_ha: may('loss_per_ha'),
    },
    gives: { half_width_kg_ha: need() },
    run: flatOptimum,
  }),
  calculation({
    id: 'budget.eonr_many_site_years',
    title: 'Optimum over several site-years',
    group: 'Requirement',
    chapter: '1, R5b',
    takes: {
      site_year_fits: rowsOf(
        {
          plateau_yield_t_ha: need('y_max'),
          response_curvature: need('g'),
          n_at_plateau_kg_ha: need('n_join'),
        },
        'fits',
      ),
      n_price_per_kg: need('price_n_per_kg'),
      crop_price_per_t: need('price_crop_per_t'),
    },
    gives: { n_best_kg_ha: need(), eonr_min_kg_ha: need(), eonr_max_kg_ha: need() },
    run: eonrManySiteYears,
  }),
  calculation({
    id: 'budget.requirement_index',
    title: 'N dose by index and ceiling',
    group: 'Requirement',
    chapter: '1, R7',
    gives: {
      n_index: need(),
      index_rate_kg_ha: need('rate0_kg_ha'),
      index_adjustment_kg_ha: need('adj_kg_ha'),
      n_dose_kg_ha: need(),
      requirement_kind: need(),
    },
    takes: {
      crop_key: need(),
      yield_goal_t_ha: need(),
      soil_mineral_n_kg_ha: may('smn_kg_ha'),
      crop_n_kg_ha: may(),
      om_pct: may(),
      is_soil_warmed: may('soil_warmed'),
      previous_crop_group: may(),
      index_soil_group: may('soil_group'),
      winter_drainage_class: may('winter_drainage_mm_class'),
      is_regular_manure: may('regular_manure'),
      legal_n_ceiling_kg_ha: may('legal_cap_kg_ha'),
    },
    run: (i, book) => requirementIndex(book, i),
  }),
  calculation({
    id: 'budget.credit_green_manure',
    title: 'Green manure by measured biomass',
    group: 'Credits',
    chapter: '1, C6',
    takes: greenManure,
    either: greenManureEither,
    run: creditGreenManure,
    gives: {
      shoot_n_kg_ha: need(),
      n_left_kg_ha: need(),
      c_to_n: need('cn_ratio'),
      effective_weeks: need(),
      available_n_shoot_kg_ha: need('pan_shoot_kg_ha'),
      available_n_root_kg_ha: need('pan_root_kg_ha'),
      credit_kg_ha: need(),
      debit_kg_ha: need(),
      second_year_kg_ha: need(),
      legume_share_frac: need('legume_share'),
    },
  }),
  calculation({
    id: 'budget.credit_green_manure_fixed',
    title: 'Green manure by what legumes fix',
    group: 'Credits',
    chapter: '1, C6b',
    takes: greenManure,
    either: greenManureEither,
    gives: {
      fixed_shoot_kg_ha: need(),
      fixed_total_kg_ha: need(),
      credit_kg_ha: need(),
      debit_kg_ha: need(),
    },
    run: creditGreenManureFixed,
  }),
  calculation({
    id: 'budget.green_manure_turn',
    title: 'When tied-up N comes back',
    group: 'Credits',
    chapter: '1, C6d',
    takes: { c_to_n: need('cn_ratio'), n_left_kg_ha: need() },
    gives: { greatest_tie_up_kg_ha: need(), at_week: may(), turn_week: may() },
    run: greenManureTurn,
  }),
  calculation({
    id: 'budget.residue_tie_up',
    title: 'Residues that tie up N or give it',
    group: 'Credits',
    chapter: '1, C9',
    gives: { c_to_n: need('cn_ratio'), debit_kg_ha: need(), credit_kg_ha: need() },
    takes: {
      residue_left_t_dm_ha: need(),
      residue_n_kg_t_dm: need(),
      residue_placement: may('placement'),
      incorporation_lead_weeks: may(),
      soil_temp_season_c: may(),
      kill_timing: may(),
    },
    run: residueTieUp,
  }),
  calculation({
    id: 'budget.grain_legume_balance',
    title: 'N balance of a grain legume',
    group: 'Credits',
    chapter: '1, C7',
    takes: { crop_key: need(), yield_t_ha: need(), from_air_pct: may('ndfa_pct') },
    gives: { fixed_total_kg_ha: need(), grain_n_kg_ha: need(), net_kg_ha: need() },
    run: (i, book) => grainLegumeBalance(book, i),
  }),
  calculation({
    id: 'budget.sidedress_nitrate_test',
    title: 'Sidedress by nitrate test',
    group: 'Requirement',
    chapter: '1, C11',
    takes: { nitrate_n_mg_kg: need('no3n_mg_kg'), critical_nitrate_n_mg_kg: may('critical_mg_kg') },
    gives: { sidedress_n_kg_ha: need('sidedress_kg_ha') },
    run: sidedressNitrateTest,
  }),
  calculation({
    id: 'budget.forage_mining',
    title: 'P and K that hay took away',
    group: 'Budget',
    chapter: '1, X1',
    takes: {
      crop_key: need(),
      yields_taken_t_ha: list('yields_t_ha'),
      returned_p_kg_ha: may(),
      returned_k_kg_ha: may(),
    },
    gives: {
      export_p_kg_ha: need(),
      net_p_kg_ha: need(),
      export_k_kg_ha: need(),
      net_k_kg_ha: need(),
      drop_p_classes: need(),
      drop_k_classes: need(),
      is_mined: need('caution_X01'),
    },
    run: (i, book) => {
      const { cautionX01, ...r } = forageMining(book, i);
      return { ...r, caution_X01: cautionX01 };
    },
  }),
  calculation({
    id: 'budget.nitrogen_use',
    title: 'N in, N out',
    group: 'Budget',
    chapter: '1, E1',
    takes: { n_inputs_kg_ha: need('inputs'), n_out_kg_ha: need() },
    gives: {
      n_in_kg_ha: need(),
      nitrogen_use_pct: may('nue_pct'),
      n_surplus_kg_ha: need(),
      nitrogen_use_reading: need('reading'),
    },
    run: nitrogenUse,
  }),
  calculation({
    id: 'budget.credit_soil_nitrate',
    title: 'Soil nitrate by layers',
    group: 'Credits',
    chapter: '1, C1',
    gives: {
      soil_nitrate_n_kg_ha: need('soil_n_kg_ha'),
      below_roots_n_kg_ha: need('below_roots_kg_ha'),
      is_extrapolated: need('extrapolated'),
      sampled_to_cm: need(),
      note: may(),
    },
    takes: {
      root_depth_cm: need(),
      texture_group: may('texture'),
      is_extrapolated_below: may('extrapolate'),
      crop_key: may(),
      nitrate_layers: rowsOf(
        {
          layer_top_cm: need('top_cm'),
          layer_bottom_cm: need('bottom_cm'),
          nitrate_n_mg_kg: need('no3n_mg_kg'),
          bulk_density_g_cm3: may(),
          stones_volume_frac: may('stones_vol_frac'),
        },
        'layers',
      ),
    },
    run: ({ cropKey, ...i }, book) =>
      creditSoilNitrate({
        ...i,
        usableFrac: cropKey == null ? null : cropOf(book, cropKey).nitrateUsableFrac,
      }),
  }),
  calculation({
    id: 'budget.nitrate_after_winter',
    title: 'Autumn nitrate left in spring',
    group: 'Credits',
    chapter: '1, C2',
    takes: {
      winter_drainage_mm: need('drainage_mm'),
      field_capacity_frac: need('theta'),
      loss_depth_cm: need(),
      sampled_depth_cm: need(),
      nitrate_n_autumn_kg_ha: need('soil_n_autumn_kg_ha'),
    },
    gives: { leached_frac: need(), nitrate_n_spring_kg_ha: need('soil_n_spring_kg_ha') },
    run: (i) => nitrateAfterWinter({ ...i, soilNAutumnKgHa: i.soilNAutumnKgHa }),
  }),
  calculation({
    id: 'budget.credit_organic_matter',
    title: 'N from soil organic matter',
    group: 'Credits',
    chapter: '1, C3',
    gives: {
      om_n_kg_ha: need(),
      n_mineralised_kg_ha: need('n_min_kg_ha'),
      credit_kg_ha: need(),
      is_capped: need('capped'),
    },
    takes: {
      om_pct: need(),
      texture_group: need('texture'),
      release_days: need('season_days'),
      soil_temp_season_c: may(),
      moisture_class: may(),
      bulk_density_g_cm3: may(),
      layer_depth_cm: may('depth_cm'),
    },
    run: creditOrganicMatter,
  }),
  calculation({
    id: 'budget.credit_organic_matter_simple',
    title: 'N from organic matter, simple method',
    group: 'Credits',
    chapter: '1, C4',
    takes: { om_pct_mineral_soil: need('om_pct') },
    gives: { credit_kg_ha: need() },
    run: creditOrganicMatterSimple,
  }),
  calculation({
    id: 'budget.credit_legume_table',
    title: 'Previous legume by table',
    group: 'Credits',
    chapter: '1, C5',
    gives: {
      stand_class: need(),
      stand_class_derived: may('derived_class'),
      tops_left_frac: need('tops_left'),
      credit_kg_ha: need(),
      year1_kg_ha: need(),
      assumed: list(),
    },
    takes: {
      ...stand,
      regrowth: may(),
      removed_tops_frac: may('removed_frac_tops'),
      legume_texture: may('texture'),
      ...modifiers,
      years_since_kill: may(),
    },
    run: creditLegumeTable,
  }),
  calculation({
    id: 'budget.overlap',
    title: 'Legume credit less what the nitrate sample holds',
    group: 'Credits',
    chapter: '1, C12',
    takes: { credit_kg_ha: need(), sample_overlap: need('overlap') },
    gives: { credit_kg_ha: need(), sample_share_frac: need('s') },
    run: overlapCredit,
  }),
  calculation({
    id: 'budget.credit_irrigation_water',
    title: 'N in irrigation water',
    group: 'Credits',
    chapter: '1, C8',
    takes: {
      irrigation_mm: need(),
      nitrate_n_mg_l: need('water_no3n_mg_l'),
      share_before_run_down_frac: may('share_before_run_down'),
    },
    gives: { n_brought_kg_ha: need(), credit_kg_ha: need(), late_n_kg_ha: need() },
    run: creditIrrigationWater,
  }),
  calculation({
    id: 'budget.credit_crop_n',
    title: 'N already in a winter crop',
    group: 'Credits',
    chapter: '1, C13',
    takes: {
      crop_key: need(),
      crop_n_kg_ha: may(),
      green_area_index: may('gai'),
      shoots_m2: may(),
    },
    gives: { credit_kg_ha: need() },
    run: (i, book) => creditCropN(book, i),
  }),
  calculation({
    id: 'budget.credit_delta',
    title: 'Credit beyond what the trials held',
    group: 'Credits',
    chapter: '1, D1',
    takes: {
      nitrate_n_measured_kg_ha: need('measured_kg_ha'),
      nitrate_n_of_trials_kg_ha: need('cal_no3_kg_ha'),
    },
    gives: { credit_kg_ha: need() },
    run: (i) => creditDelta({ measuredKgHa: i.measuredKgHa, calNo3KgHa: i.calNo3KgHa }),
  }),
  calculation({
    id: 'budget.credit_allowed',
    title: 'Whether a credit belongs to a system',
    group: 'Credits',
    chapter: '1, M1',
    takes: { credit_line: need('line'), n_school: need('school'), credit_flags: may('flags') },
    gives: { credit_cell: need('cell'), credit_state: need('state') },
    // Flag names are the chapter's own: put back what the renaming of keys did to them.
    run: creditAllowed,
  }),
  calculation({
    id: 'budget.balance',
    title: 'The sum of the sheet',
    group: 'Budget',
    chapter: '1, B1',
    gives: {
      net_kg_ha: need(),
      to_bring_kg_ha: need(),
      surplus_kg_ha: need(),
      fixation_kg_ha: need(),
    },
    takes: {
      requirement_kg_ha: need('requirement'),
      debits_kg_ha: may('debits'),
      credits_kg_ha: may('credits'),
      applied_lines_kg_ha: may('applied'),
      is_fixing_crop: may('fixing_crop'),
    },
    run: balance,
  }),
  calculation({
    id: 'budget.rounded_ledger',
    title: 'Whole kilograms that still add up',
    group: 'Budget',
    chapter: '1, B2',
    takes: { signed_lines_kg_ha: list('signed_lines') },
    gives: { rounded_lines_kg_ha: list('rounded_lines'), rounded_net_kg_ha: need('rounded_net') },
    run: roundedLedger,
  }),
  calculation({
    id: 'budget.uncertainty',
    title: 'How sure the sum is',
    group: 'Budget',
    chapter: '1, B3',
    takes: {
      uncertain_lines: rowsOf(
        { line_name: need('name'), line_kg_ha: need('kg_ha'), relative_error_frac: need('se') },
        'lines',
      ),
    },
    gives: { net_sd_kg_ha: need('sd_net_kg_ha'), line_to_test_first: may('test_first') },
    run: uncertainty,
  }),
  calculation({
    id: 'budget.caps',
    title: 'Ceilings of crop and law',
    group: 'Budget',
    chapter: '1, B4',
    takes: {
      n_to_bring_kg_ha: need('to_bring_kg_ha'),
      crop_n_ceiling_kg_ha: need('n_cap_kg_ha'),
      n_applied_kg_ha: may('applied_kg_ha'),
      legal_n_ceiling_kg_ha: may('legal_cap_kg_ha'),
      n_counted_by_law_kg_ha: may('counted_for_legal_kg_ha'),
    },
    gives: { n_allowed_kg_ha: need(), shortfall_kg_ha: need(), binding_ceiling: may('binding') },
    run: caps,
  }),
  calculation({
    id: 'budget.limiting_factor',
    title: 'What limits the crop',
    group: 'Budget',
    chapter: '1, L1',
    takes: limits,
    gives: {
      limiting_factor: need('limiting'),
      relative_yields: rowsOf({ limiting_factor: need('factor'), relative_yield_frac: need('ry') }),
      yield_liebig_t_ha: need('y_liebig_t_ha'),
      yield_product_t_ha: need('y_product_t_ha'),
      co_limiting_factors: list('co_limiting'),
      gain_liebig_t_ha: may('dy_liebig_t_ha'),
      gain_product_t_ha: may('dy_product_t_ha'),
    },
    run: (i, book) => limitingFactor(book, limitsOf(i)),
  }),
  calculation({
    id: 'budget.lower_n_to_attainable',
    title: 'N for the yield that the other limits allow',
    group: 'Budget',
    chapter: '1, L2',
    takes: limits,
    gives: {
      attainable_yield_t_ha: need('attainable_t_ha'),
      n_requirement_kg_ha: need('n_req_kg_ha'),
      n_saved_kg_ha: need(),
    },
    run: (i, book) => lowerNToAttainable(book, limitsOf(i)),
  }),
];
