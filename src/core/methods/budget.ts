import { z } from 'zod';
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
import { limitingFactor, lowerNToAttainable } from '../budget/limiting';
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
import { RANGES } from '../quantity/range';
import { num } from '../quantity/input';
import { method, type Method } from './method';

const n = z.number();
const maybe = n.nullish();
const text = z.string();
const soilClass = z.enum(['very_low', 'low', 'medium', 'high', 'very_high', 'unknown']);
const lines = z
  .record(z.string(), num({ label: 'Line', unit: 'kg/ha', min: 0, max: 2000 }))
  .nullish();
const classes = z.strictObject({
  P: soilClass.optional(),
  K: soilClass.optional(),
  S: soilClass.optional(),
  Mg: soilClass.optional(),
});
const planned = z
  .strictObject({ planned_kg_ha: n, needed_kg_ha: n, banded: z.boolean().optional() })
  .optional();
const limitingInput = z.strictObject({
  crop_key: text,
  yield_goal_t_ha: n,
  n_supply_kg_ha: n,
  n_need_kg_ha: n,
  classes,
  ph_water: maybe,
  planned: z.strictObject({ P: planned, K: planned, S: planned, Mg: planned }).nullish(),
  other_limits: z.array(z.strictObject({ name: text, relative_yield: n })).nullish(),
  repair: z.strictObject({ factor: text }).nullish(),
});
const standInput = z.strictObject({
  legume_key: text,
  stand_class: text.nullish(),
  plants_m2: maybe,
  stems_m2: maybe,
  legume_cover_pct: maybe,
  texture: text.nullish(),
  kill_timing: text.nullish(),
  tillage: text.nullish(),
  climate: text.nullish(),
  stand_age: text.nullish(),
});
const greenManure = {
  gm_total_t_dm_ha: maybe,
  fresh_g_m2: maybe,
  dm_pct: maybe,
  gm_species: z.array(
    z.strictObject({ species_key: text, share: n, stage: text.nullish(), n_pct: maybe }),
  ),
  removed_frac_tops: maybe,
  removed_t_dm_ha: maybe,
  removed_n_pct: maybe,
  placement: text.nullish(),
  kill_timing: text.nullish(),
  weeks_to_80pct_uptake: maybe,
  soil_temp_season_c: num(RANGES.soilTempC).nullish(),
  perennial_stand: standInput.nullish(),
  reading: z.enum(['mix', 'per_species']).nullish(),
};
const removal = {
  crop_key: text,
  yield_t_ha: n,
  straw_removed_frac: num({ ...RANGES.share, label: 'Straw removed' }).nullish(),
  rain_over_25mm: z.boolean().nullish(),
  prunings_t_dm_ha: maybe,
};

export const budgetMethods: readonly Method[] = [
  method({
    id: 'budget.realistic_yield',
    title: 'Realistic yield from the field’s own years',
    group: 'Requirement',
    chapter: '1, R0',
    input: z.strictObject({
      crop_key: text,
      yield_history_t_ha: z.array(n),
      yield_goal_t_ha: maybe,
    }),
    output: { realistic_yield_t_ha: n },
    run: (i, book) => {
      const r = realisticYield(book, i);
      return { ...r, caution_Y01: r.tooHigh };
    },
  }),
  method({
    id: 'budget.requirement_yield_goal',
    title: 'N requirement by yield goal',
    group: 'Requirement',
    chapter: '1, R1',
    output: { n_req_kg_ha: n, extra_protein_n_kg_ha: n, requirement_kind: text },
    input: z.strictObject({
      crop_key: text,
      yield_goal_t_ha: n,
      protein_target_market_pct: maybe,
      legume_share: maybe,
      planting_year: maybe,
    }),
    run: (i, book) => requirementYieldGoal(book, i),
  }),
  method({
    id: 'budget.offtake',
    title: 'Nutrients that leave with the harvest',
    group: 'Requirement',
    chapter: '1, U5',
    input: z.strictObject(removal),
    output: { offtake_n_kg_ha: n, offtake_p_kg_ha: n, offtake_k_kg_ha: n, offtake_s_kg_ha: n },
    run: (i, book) => offtake(book, i),
  }),
  method({
    id: 'budget.pk_replacement',
    title: 'P or K that replaces off-take',
    group: 'Requirement',
    chapter: '1, R8',
    input: z.strictObject({ ...removal, nutrient: z.enum(['p', 'k']), soil_class: soilClass }),
    output: { offtake_kg_ha: n, req_kg_ha: n },
    run: (i, book) => pkReplacement(book, i),
  }),
  method({
    id: 'budget.sulphur',
    title: 'Sulphur requirement and credits',
    group: 'Requirement',
    chapter: '1, S1',
    output: { s_req_kg_ha: n, s_credit_kg_ha: n, s_to_bring_kg_ha: n },
    input: z.strictObject({
      crop_key: text,
      yield_t_ha: n,
      om_credit_n_kg_ha: maybe,
      deposition_s_kg_ha: maybe,
      manure_s_kg_ha: maybe,
    }),
    run: (i, book) => sulphurBudget(book, i),
  }),
  method({
    id: 'budget.uptake_fraction',
    title: 'Share of N taken up by a date',
    group: 'Requirement',
    chapter: '1, T1',
    input: z.strictObject({ crop_key: text, season_frac: maybe, thermal_frac: maybe, bbch: maybe }),
    output: { n_uptake_frac: n },
    run: (i, book) => uptakeFraction(book, i),
  }),
  method({
    id: 'budget.late_n',
    title: 'Late N against quality',
    group: 'Requirement',
    chapter: '1, T2',
    output: { late_n_kg_ha: n, level: text },
    input: z.strictObject({
      crop_key: text,
      released_after_kg_ha: n,
      root_zone_nitrate_kg_ha: n,
      uptake_still_due_kg_ha: n,
      requirement_kg_ha: n,
    }),
    run: (i, book) => lateN(book, i),
  }),
  method({
    id: 'budget.eonr_quadratic',
    title: 'Economic optimum of a quadratic',
    group: 'Requirement',
    chapter: '1, R3',
    input: z.strictObject({
      a: n,
      b: n,
      c: n,
      price_n_per_kg: n,
      price_crop_per_t: n,
      n_highest_trial_kg_ha: n,
    }),
    output: {
      eonr_kg_ha: n,
      n_max_kg_ha: n,
      price_ratio_kg_kg: n,
      gain_t_ha: n,
      net_gain_per_ha: n,
      clamped: z.boolean(),
    },
    run: eonrQuadratic,
  }),
  method({
    id: 'budget.fit_quadratic_plateau',
    title: 'Response curve of own trials',
    group: 'Requirement',
    chapter: '1, R4 R5',
    input: z.strictObject({
      points: z.array(z.array(n).length(2)),
      price_n_per_kg: n,
      price_crop_per_t: n,
      site_years: maybe,
    }),
    output: { n_join_kg_ha: n, y_max_t_ha: n, g: n, r2: n, eonr_kg_ha: n },
    run: fitQuadraticPlateau,
  }),
  method({
    id: 'budget.flat_optimum',
    title: 'How flat the optimum is',
    group: 'Requirement',
    chapter: '1, R6',
    input: z.strictObject({ g: n, price_crop_per_t: n, loss_per_ha: maybe }),
    output: { half_width_kg_ha: n },
    run: flatOptimum,
  }),
  method({
    id: 'budget.eonr_many_site_years',
    title: 'Optimum over several site-years',
    group: 'Requirement',
    chapter: '1, R5b',
    input: z.strictObject({
      fits: z.array(z.strictObject({ y_max: n, g: n, n_join: n })),
      price_n_per_kg: n,
      price_crop_per_t: n,
    }),
    output: { n_best_kg_ha: n, eonr_min_kg_ha: n, eonr_max_kg_ha: n },
    run: eonrManySiteYears,
  }),
  method({
    id: 'budget.requirement_index',
    title: 'N dose by index and ceiling',
    group: 'Requirement',
    chapter: '1, R7',
    output: { n_index: n, rate0_kg_ha: n, adj_kg_ha: n, n_dose_kg_ha: n },
    input: z.strictObject({
      crop_key: text,
      yield_goal_t_ha: n,
      smn_kg_ha: maybe,
      crop_n_kg_ha: maybe,
      om_pct: maybe,
      soil_warmed: z.boolean().nullish(),
      previous_crop_group: text.nullish(),
      soil_group: text.nullish(),
      winter_drainage_mm_class: text.nullish(),
      regular_manure: z.boolean().nullish(),
      legal_cap_kg_ha: maybe,
    }),
    run: (i, book) => requirementIndex(book, i),
  }),
  method({
    id: 'budget.credit_green_manure',
    title: 'Green manure by measured biomass',
    group: 'Credits',
    chapter: '1, C6',
    input: z.strictObject(greenManure),
    run: creditGreenManure,
    output: {
      shoot_n_kg_ha: n,
      n_left_kg_ha: n,
      cn_ratio: n,
      effective_weeks: n,
      pan_shoot_kg_ha: n,
      pan_root_kg_ha: n,
      credit_kg_ha: n,
      debit_kg_ha: n,
    },
  }),
  method({
    id: 'budget.credit_green_manure_fixed',
    title: 'Green manure by what legumes fix',
    group: 'Credits',
    chapter: '1, C6b',
    input: z.strictObject(greenManure),
    output: { fixed_shoot_kg_ha: n, fixed_total_kg_ha: n, credit_kg_ha: n },
    run: creditGreenManureFixed,
  }),
  method({
    id: 'budget.green_manure_turn',
    title: 'When tied-up N comes back',
    group: 'Credits',
    chapter: '1, C6d',
    input: z.strictObject({ cn_ratio: n, n_left_kg_ha: n }),
    output: { greatest_tie_up_kg_ha: n, at_week: n.nullable(), turn_week: n.nullable() },
    run: greenManureTurn,
  }),
  method({
    id: 'budget.residue_tie_up',
    title: 'Residues that tie up N or give it',
    group: 'Credits',
    chapter: '1, C9',
    output: { cn_ratio: n, debit_kg_ha: n, credit_kg_ha: n },
    input: z.strictObject({
      residue_left_t_dm_ha: n,
      residue_n_kg_t_dm: n,
      placement: text.nullish(),
      incorporation_lead_weeks: maybe,
      soil_temp_season_c: num(RANGES.soilTempC).nullish(),
      kill_timing: text.nullish(),
    }),
    run: residueTieUp,
  }),
  method({
    id: 'budget.grain_legume_balance',
    title: 'N balance of a grain legume',
    group: 'Credits',
    chapter: '1, C7',
    input: z.strictObject({ crop_key: text, yield_t_ha: n, ndfa_pct: maybe }),
    output: { fixed_total_kg_ha: n, grain_n_kg_ha: n, net_kg_ha: n },
    run: (i, book) => grainLegumeBalance(book, i),
  }),
  method({
    id: 'budget.sidedress_nitrate_test',
    title: 'Sidedress by nitrate test',
    group: 'Requirement',
    chapter: '1, C11',
    input: z.strictObject({ no3n_mg_kg: n, critical_mg_kg: maybe }),
    output: { sidedress_kg_ha: n },
    run: sidedressNitrateTest,
  }),
  method({
    id: 'budget.forage_mining',
    title: 'P and K that hay took away',
    group: 'Budget',
    chapter: '1, X1',
    input: z.strictObject({
      crop_key: text,
      yields_t_ha: z.array(n),
      returned_p_kg_ha: maybe,
      returned_k_kg_ha: maybe,
    }),
    output: {
      export_p_kg_ha: n,
      net_p_kg_ha: n,
      export_k_kg_ha: n,
      net_k_kg_ha: n,
      drop_p_classes: n,
      drop_k_classes: n,
    },
    run: (i, book) => {
      const r = forageMining(book, i);
      return { ...r, caution_X01: r.cautionX01 };
    },
  }),
  method({
    id: 'budget.nitrogen_use',
    title: 'N in, N out',
    group: 'Budget',
    chapter: '1, E1',
    input: z.strictObject({ inputs: z.record(z.string(), n), n_out_kg_ha: n }),
    output: { n_in_kg_ha: n, nue_pct: n.nullable(), n_surplus_kg_ha: n },
    run: nitrogenUse,
  }),
  method({
    id: 'budget.credit_soil_nitrate',
    title: 'Soil nitrate by layers',
    group: 'Credits',
    chapter: '1, C1',
    output: { soil_n_kg_ha: n, below_roots_kg_ha: n, extrapolated: z.boolean() },
    input: z.strictObject({
      root_depth_cm: n,
      texture: z.enum(['sand', 'loam', 'clay', 'organic']).nullish(),
      extrapolate: z.boolean().nullish(),
      crop_key: text.nullish(),
      layers: z.array(
        z.strictObject({
          top_cm: n,
          bottom_cm: n,
          no3n_mg_kg: num(RANGES.no3nMgKg),
          bulk_density_g_cm3: num(RANGES.bulkDensityGCm3).nullish(),
          stones_vol_frac: num(RANGES.stonesVolFrac).nullish(),
        }),
      ),
    }),
    run: ({ cropKey, ...i }, book) =>
      creditSoilNitrate({
        ...i,
        usableFrac: cropKey == null ? null : cropOf(book, cropKey).nitrateUsableFrac,
      }),
  }),
  method({
    id: 'budget.nitrate_after_winter',
    title: 'Autumn nitrate left in spring',
    group: 'Credits',
    chapter: '1, C2',
    input: z.strictObject({
      drainage_mm: n,
      theta: n,
      loss_depth_cm: n,
      sampled_depth_cm: n,
      soil_n_autumn_kg_ha: n,
    }),
    output: { leached_frac: n, soil_n_spring_kg_ha: n },
    run: (i) => nitrateAfterWinter({ ...i, soilNAutumnKgHa: i.soilNAutumnKgHa }),
  }),
  method({
    id: 'budget.credit_organic_matter',
    title: 'N from soil organic matter',
    group: 'Credits',
    chapter: '1, C3',
    output: { om_n_kg_ha: n, n_min_kg_ha: n, credit_kg_ha: n },
    input: z.strictObject({
      om_pct: n,
      texture: z.enum(['sand', 'loam', 'clay', 'organic']),
      season_days: num(RANGES.seasonDays),
      soil_temp_season_c: num(RANGES.soilTempC).nullish(),
      moisture_class: text.nullish(),
      bulk_density_g_cm3: maybe,
      depth_cm: maybe,
    }),
    run: creditOrganicMatter,
  }),
  method({
    id: 'budget.credit_organic_matter_simple',
    title: 'N from organic matter, simple school',
    group: 'Credits',
    chapter: '1, C4',
    input: z.strictObject({ om_pct: num(RANGES.omPctBudget) }),
    output: { credit_kg_ha: n },
    run: creditOrganicMatterSimple,
  }),
  method({
    id: 'budget.credit_legume_table',
    title: 'Previous legume by table',
    group: 'Credits',
    chapter: '1, C5',
    output: { stand_class: text, tops_left: n, credit_kg_ha: n },
    input: z.strictObject({
      legume_key: text,
      stand_class: text.nullish(),
      plants_m2: maybe,
      stems_m2: maybe,
      legume_cover_pct: maybe,
      regrowth: text.nullish(),
      removed_frac_tops: maybe,
      texture: text.nullish(),
      kill_timing: text.nullish(),
      tillage: text.nullish(),
      climate: text.nullish(),
      stand_age: text.nullish(),
      years_since_kill: maybe,
    }),
    run: creditLegumeTable,
  }),
  method({
    id: 'budget.overlap',
    title: 'Legume credit less what the nitrate sample holds',
    group: 'Credits',
    chapter: '1, C12',
    input: z.strictObject({ credit_kg_ha: n, overlap: text }),
    output: { credit_kg_ha: n, s: n },
    run: overlapCredit,
  }),
  method({
    id: 'budget.credit_irrigation_water',
    title: 'N in irrigation water',
    group: 'Credits',
    chapter: '1, C8',
    input: z.strictObject({
      irrigation_mm: num(RANGES.irrigationMm),
      water_no3n_mg_l: num(RANGES.waterNo3n),
      share_before_run_down: maybe,
    }),
    output: { n_brought_kg_ha: n, credit_kg_ha: n, late_n_kg_ha: n },
    run: creditIrrigationWater,
  }),
  method({
    id: 'budget.credit_crop_n',
    title: 'N already in a winter crop',
    group: 'Credits',
    chapter: '1, C13',
    input: z.strictObject({ crop_key: text, crop_n_kg_ha: maybe, gai: maybe, shoots_m2: maybe }),
    output: { credit_kg_ha: n },
    run: (i, book) => creditCropN(book, i),
  }),
  method({
    id: 'budget.credit_delta',
    title: 'Credit beyond what the trials held',
    group: 'Credits',
    chapter: '1, D1',
    input: z.strictObject({ measured_kg_ha: n, cal_no3_kg_ha: n }),
    output: { credit_kg_ha: n },
    run: (i) => creditDelta({ measuredKgHa: i.measuredKgHa, calNo3KgHa: i.calNo3KgHa }),
  }),
  method({
    id: 'budget.credit_allowed',
    title: 'Whether a credit belongs to a school',
    group: 'Credits',
    chapter: '1, M1',
    input: z.strictObject({
      line: text,
      school: text,
      flags: z.record(z.string(), z.boolean()).nullish(),
    }),
    output: { cell: text, state: text },
    // Flag names are the chapter's own: put back what the renaming of keys did to them.
    run: (i) =>
      creditAllowed({
        ...i,
        flags:
          i.flags &&
          Object.fromEntries(
            Object.entries(i.flags).map(([k, v]) => [
              k.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`),
              v,
            ]),
          ),
      }),
  }),
  method({
    id: 'budget.balance',
    title: 'The sum of the sheet',
    group: 'Budget',
    chapter: '1, B1',
    output: { net_kg_ha: n, to_bring_kg_ha: n, surplus_kg_ha: n },
    input: z.strictObject({
      requirement: num({ label: 'Requirement', unit: 'kg/ha', min: 0, max: 2000 }),
      debits: lines,
      credits: lines,
      applied: lines,
      fixing_crop: z.boolean().nullish(),
    }),
    run: balance,
  }),
  method({
    id: 'budget.rounded_ledger',
    title: 'Whole kilograms that still add up',
    group: 'Budget',
    chapter: '1, B2',
    input: z.strictObject({ signed_lines: z.array(n) }),
    output: { rounded_lines: z.array(n), rounded_net: n },
    run: roundedLedger,
  }),
  method({
    id: 'budget.uncertainty',
    title: 'How sure the sum is',
    group: 'Budget',
    chapter: '1, B3',
    input: z.strictObject({ lines: z.array(z.strictObject({ name: text, kg_ha: n, se: n })) }),
    output: { sd_net_kg_ha: n, test_first: text.nullable() },
    run: uncertainty,
  }),
  method({
    id: 'budget.caps',
    title: 'Ceilings of crop and law',
    group: 'Budget',
    chapter: '1, B4',
    input: z.strictObject({
      to_bring_kg_ha: n,
      n_cap_kg_ha: n,
      applied_kg_ha: maybe,
      legal_cap_kg_ha: maybe,
      counted_for_legal_kg_ha: maybe,
    }),
    output: { n_allowed_kg_ha: n, shortfall_kg_ha: n, binding: text.nullable() },
    run: caps,
  }),
  method({
    id: 'budget.limiting_factor',
    title: 'What limits the crop',
    group: 'Budget',
    chapter: '1, L1',
    input: limitingInput,
    output: { limiting: text, co_limiting: z.array(text), y_liebig_t_ha: n, y_product_t_ha: n },
    run: (i, book) => limitingFactor(book, i),
  }),
  method({
    id: 'budget.lower_n_to_attainable',
    title: 'N for the yield that the other limits allow',
    group: 'Budget',
    chapter: '1, L2',
    input: limitingInput,
    output: { attainable_t_ha: n, n_req_kg_ha: n, n_saved_kg_ha: n },
    run: (i, book) => lowerNToAttainable(book, i),
  }),
];
