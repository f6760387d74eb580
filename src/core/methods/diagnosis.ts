import { hypotheses } from '../book/symptoms';
import { foliarMix, foliarShare, nutrientLoad, nutritionDose, retest } from '../tissue/correction';
import type { LeafClass } from '../tissue/classify';
import { diagnose, nextTests, type Observed } from '../tissue/diagnosis';
import { nutritionIndex } from '../tissue/dilution';
import { dris } from '../tissue/dris';
import { calciumProgramme, pitRisk } from '../tissue/fruitCalcium';
import { pairReading } from '../tissue/pair';
import { leafRatio } from '../tissue/ratios';
import { sapReading } from '../tissue/sap';
import { soilTissue } from '../tissue/soilMatrix';
import { leafTrend } from '../tissue/trend';
import { tetanyRatio } from '../ground/secondary';
import { oneOf } from '../quantity/range';
import { list, may, mayList, need, rowsOf } from './fields';
import { calculation, type Method } from './method';

const CLASSES: readonly LeafClass[] = [
  'deficient',
  'low',
  'marginal',
  'sufficient',
  'ample',
  'high',
  'toxic_risk',
];
const seen = {
  leaf_crop: need('crop'),
  symptom_answers: need('answers'),
  symptom_pictures: mayList('signatures'),
  symptom_conditions: mayList('conditions'),
  symptom_leaf_classes: may('tissue'),
  symptom_tests: may('tests'),
} as const;
/** What was seen, with the leaf's classes checked. */
const observed = (i: {
  crop: string;
  answers: Record<string, boolean>;
  signatures?: string[] | null;
  conditions?: string[] | null;
  tissue?: Record<string, string> | null;
  tests?: Record<string, string> | null;
}): Observed => ({
  ...i,
  tissue: Object.fromEntries(
    Object.entries(i.tissue ?? {}).map(([x, cls]) => [x, oneOf(`tissue.${x}`, cls, CLASSES)]),
  ),
});
const FLAG = {
  inside: [],
  too_little_biomass: ['unreliable'],
  beyond_the_curve: ['extrapolated'],
} as const;

export const diagnosisMethods: readonly Method[] = [
  calculation({
    id: 'tissue.ratio',
    title: 'Ratio of two nutrients',
    group: 'Balance and pairs',
    chapter: '5, F8.1',
    takes: {
      leaf_ratio_id: need('ratio_id'),
      sample_n: may('n_pct'),
      sample_p: may('p_pct'),
      sample_k: may('k_pct'),
      sample_s: may('s_pct'),
      sample_ca: may('ca_pct'),
      sample_mg: may('mg_pct'),
      sample_b: may('b_mg_kg'),
      sample_cu: may('cu_mg_kg'),
      sample_fe: may('fe_mg_kg'),
      sample_mn: may('mn_mg_kg'),
      sample_mo: may('mo_mg_kg'),
      sample_zn: may('zn_mg_kg'),
      ratio_cv_pct: mayList('cv'),
    },
    gives: {
      leaf_ratio: need('ratio'),
      ratio_sd_ln: need('sd_ln'),
      ratio_level: need('level'),
      ratio_means: may('means'),
    },
    run: (i) =>
      leafRatio({
        ratioId: i.ratioId,
        cvPct: i.cv,
        values: {
          N: i.nPct,
          P: i.pPct,
          K: i.kPct,
          S: i.sPct,
          Ca: i.caPct,
          Mg: i.mgPct,
          B: i.bMgKg,
          Cu: i.cuMgKg,
          Fe: i.feMgKg,
          Mn: i.mnMgKg,
          Mo: i.moMgKg,
          Zn: i.znMgKg,
        },
      }),
  }),
  calculation({
    id: 'tissue.tetany_ratio',
    title: 'Grass tetany: K against Ca and Mg',
    group: 'Balance and pairs',
    chapter: '5, F8.3',
    takes: {
      herbage_k_pct: need('k_pct'),
      herbage_ca_pct: need('ca_pct'),
      herbage_mg_pct: need('mg_pct'),
    },
    gives: { tetany_ratio: need('ratio_meq'), level: need() },
    run: (i) => {
      const { value, level } = tetanyRatio({ k: i.kPct, ca: i.caPct, mg: i.mgPct });
      return { ratioMeq: value, level };
    },
  }),
  calculation({
    id: 'tissue.dris',
    title: 'Balance against norms of good crops',
    group: 'Balance and pairs',
    chapter: '5, F8.4',
    takes: { dris_norm_set: need('norm_set'), dris_values: need('values') },
    gives: {
      dris_index: need('index'),
      dris_nbi: need('nbi'),
      dris_nbi_mean: need('nbi_mean'),
      dris_skipped: list('skipped'),
    },
    run: dris,
  }),
  calculation({
    id: 'tissue.paired_comparison',
    title: 'Affected beside unaffected plants',
    group: 'Balance and pairs',
    chapter: '5, F9.1',
    takes: {
      nutrient: need(),
      affected_value: need('affected'),
      unaffected_value: need('unaffected'),
      pair_count: may('n_pairs'),
      pair_log_ratio_sd: may('log_ratio_sd'),
      biomass_ratio: may(),
    },
    gives: {
      pair_log_ratio: need('log_ratio'),
      pair_error: need('u'),
      pair_z: need('z'),
      pair_difference_pct: need('pct_diff'),
      pair_strength: need('strength'),
      pair_vector: may('vector'),
    },
    run: pairReading,
  }),
  calculation({
    id: 'tissue.soil_tissue_matrix',
    title: 'Soil beside leaf',
    group: 'Balance and pairs',
    chapter: '5, 10',
    takes: {
      nutrient: need(),
      soil_bucket: need('soil_class'),
      leaf_class: need('tissue_class'),
      soil_leaf_answers: may('answers'),
    },
    gives: {
      soil_leaf_cell: need('cell'),
      soil_leaf_diagnosis: need('diagnosis'),
      level: need(),
      soil_leaf_special: list('special'),
      soil_leaf_asked: list('asked'),
    },
    run: (i) => {
      const { cell, specific, asked } = soilTissue(i);
      return {
        cell: cell.cellId,
        diagnosis: cell.diagnosis,
        level: cell.level,
        special: specific.map((r) => r.cellId),
        asked: asked.map((r) => r.cellId),
      };
    },
  }),
  calculation({
    id: 'tissue.nitrogen_nutrition_index',
    title: 'N nutrition index, with its class',
    group: 'Sap and biomass',
    chapter: '5, F7',
    takes: {
      dilution_curve: need('curve_id'),
      biomass_dry_t_ha: need('w_t_ha'),
      crop_n_pct: need('n_pct'),
    },
    gives: {
      critical_n_pct: need('nc_pct'),
      nitrogen_nutrition_index: need('nni'),
      crop_n_uptake_kg_ha: need('n_uptake_kg_ha'),
      crop_n_critical_kg_ha: need('n_uptake_critical_kg_ha'),
      crop_n_gap_kg_ha: need('gap_kg_ha'),
      nutrition_class: need('cls'),
      nutrition_flags: list('flags'),
    },
    run: (i) => {
      const r = nutritionIndex({ curve: i.curveId, biomassTHa: i.wTHa, nPct: i.nPct });
      return {
        ncPct: r.criticalNPct,
        nni: r.nni,
        nUptakeKgHa: r.uptakeKgHa,
        nUptakeCriticalKgHa: r.criticalUptakeKgHa,
        gapKgHa: r.deficitKgHa,
        cls: r.cls,
        flags: FLAG[r.validity],
      };
    },
  }),
  calculation({
    id: 'tissue.nni_dose',
    title: 'N to a crop that is short of it',
    group: 'Sap and biomass',
    chapter: '5, F7.5',
    takes: {
      crop_n_gap_kg_ha: need('gap'),
      critical_uptake_to_come_kg_ha: need('expected_critical_uptake'),
      soil_supply_to_come_kg_ha: need('expected_supply'),
      rescue_recovery_frac: may('recovery'),
    },
    gives: { rescue_n_kg_ha: need('dose_kg_n_ha') },
    run: (i) => ({ doseKgNHa: nutritionDose(i) }),
  }),
  calculation({
    id: 'tissue.sap_reading',
    title: 'Reading of a sap meter',
    group: 'Sap and biomass',
    chapter: '5, F11',
    takes: {
      sap_crop: need('crop'),
      growth_stage_bbch: need('bbch'),
      sap_meter: need('meter_reads'),
      sap_meter_mg_l: need('reading_mg_l'),
      sap_dilution: may('dilution'),
    },
    gives: {
      sap_mg_l: need('no3_n_mg_l'),
      sap_class: may('cls'),
      sap_low_mg_l: may('low'),
      sap_high_mg_l: may('high'),
    },
    run: (i) => {
      const { mgL, cls, low, high } = sapReading(i);
      return { no3NMgL: mgL, cls, low, high };
    },
  }),
  calculation({
    id: 'tissue.nutrient_load',
    title: 'Nutrient in the crop',
    group: 'Correction',
    chapter: '5, F13.1',
    takes: {
      nutrient: need(),
      plant_concentration: need('conc_pct'),
      biomass_dry_t_ha: need('biomass_t_ha'),
    },
    gives: { nutrient_in_crop_kg_ha: need('load_kg_ha') },
    run: (i) => ({
      loadKgHa: nutrientLoad({ nutrient: i.nutrient, conc: i.concPct, biomassTHa: i.biomassTHa }),
    }),
  }),
  calculation({
    id: 'tissue.foliar_mix',
    title: 'Strength of a spray on the leaf',
    group: 'Correction',
    chapter: '5, F13.2',
    takes: {
      spray_element_kg_ha: need('rate_mn_kg_ha'),
      spray_salt_id: need('product_id'),
      spray_water_l_ha: need('water_l_ha'),
      spray_strongest_pct: may('max_concentration_pct'),
    },
    gives: {
      spray_product_kg_ha: need('product_kg_ha'),
      spray_strength_pct: need('concentration_pct'),
      is_spray_safe: need('ok'),
      spray_least_water_l_ha: may('min_water_l_ha'),
    },
    run: ({ rateMnKgHa: rateKgHa, ...i }) => foliarMix({ ...i, rateKgHa }),
  }),
  calculation({
    id: 'tissue.foliar_share',
    title: 'Share of the need that sprays bring',
    group: 'Correction',
    chapter: '5, F13.3',
    takes: {
      spray_element_kg_ha: need('rate_k_kg_ha'),
      spray_count: need('n_sprays'),
      spray_efficiency_frac: may('efficiency'),
      crop_need_kg_ha: need(),
    },
    gives: { spray_share_pct: need('share_pct') },
    run: ({ rateKKgHa: rateKgHa, ...i }) => ({ sharePct: foliarShare({ ...i, rateKgHa }) }),
  }),
  calculation({
    id: 'tissue.retest_date',
    title: 'When to sample again',
    group: 'Correction',
    chapter: '5, F13.5',
    takes: {
      nutrient: need(),
      correction_way: need('method'),
      correction_date: need('spray_date'),
    },
    gives: { retest_days: may('days'), retest_date: may() },
    run: retest,
  }),
  calculation({
    id: 'tissue.fruit_calcium_programme',
    title: 'Calcium on the fruit',
    group: 'Correction',
    chapter: '5, F14.1',
    takes: {
      spray_salt_id: need('product_id'),
      spray_product_strength_pct: need('concentration_pct'),
      spray_volume_l_ha: need('volume_l_ha'),
      spray_count: need('n_sprays'),
      spray_interval_d: need('interval_d'),
      spray_season_d: need('season_days'),
      pit_risk_group: need('risk_group'),
      fruit_crop: need('crop'),
      canopy_height_m: may('canopy_h_m'),
      canopy_width_m: may('canopy_w_m'),
      tree_row_m: may('row_m'),
      warmest_hour_c: may('tmax_c'),
    },
    gives: {
      spray_product_kg_ha: need('product_kg_ha_per_spray'),
      spray_ca_kg_ha: need('ca_kg_ha_per_spray'),
      season_ca_kg_ha: need('ca_season_kg_ha'),
      spray_coverage: may('coverage_index'),
      effective_ca_kg_ha: need('ca_effective_kg_ha'),
      spray_cacl2_kg_ha: need('cacl2_equivalent_kg_ha_per_spray'),
      calcium_class: need('cls'),
      extra_sprays: need('extra_sprays_to_target'),
      programme_flags: list('flags'),
    },
    run: ({ canopyHM, canopyWM, rowM, ...i }) => {
      const { target: _, ...r } = calciumProgramme({
        ...i,
        canopy:
          canopyHM != null && canopyWM != null && rowM != null
            ? { heightM: canopyHM, widthM: canopyWM, rowM }
            : null,
      });
      return r;
    },
  }),
  calculation({
    id: 'tissue.pit_risk',
    title: 'Risk of bitter pit of a block',
    group: 'Correction',
    chapter: '5, F14.8',
    takes: {
      is_low_k_group_k_high: may('low_k_group_and_k_high'),
      is_leaf_n_high: may('leaf_n_high'),
      crop_load_ratio: may('load_ratio'),
      shoot_length_cm: may('shoot_cm'),
      is_fruit_big: may('big_fruit'),
      are_trees_young: may('young_trees'),
      peel_n_to_ca: may('peel_n_ca'),
      previous_pit_pct: may(),
    },
    gives: { pit_points: need('points'), pit_risk_group: need('group') },
    run: ({ peelNCa, ...i }) => {
      const { points, group } = pitRisk({ ...i, peelNCa });
      return { points, group };
    },
  }),
  calculation({
    id: 'tissue.trend',
    title: 'Trend of a leaf value over years',
    group: 'Balance and pairs',
    chapter: '5, 16',
    takes: {
      trend_years: list('years'),
      trend_values: list('values'),
      trend_cv_pct: need('combined_cv_pct'),
      trend_limit: may('limit'),
    },
    gives: {
      trend_n: need('n'),
      trend_slope_per_year: may('slope_per_year'),
      trend_s: need('S'),
      trend_change: may('change_over_period'),
      trend_change_needed: may('needed_change'),
      trend_class: need('cls'),
      years_to_limit: may(),
    },
    run: leafTrend,
  }),
  calculation({
    id: 'tissue.diagnose',
    title: 'Causes of a picture of symptoms',
    group: 'Symptoms',
    chapter: '5, F12.1',
    takes: seen,
    gives: {
      symptom_verdict: need('verdict'),
      leading_cause: need('first'),
      leading_chance: need('p_first'),
      leading_evidence: rowsOf(
        { evidence_label: need('label'), evidence_shift: need('shift') },
        'steps_N_def',
      ),
      causes: rowsOf({ cause_id: need('id'), cause_chance: need('p') }, 'list'),
    },
    run: (i) => {
      const d = diagnose(observed(i));
      const first = d.ranked[0];
      return {
        verdict: d.verdict,
        first: first?.hypothesis.hypothesisId,
        pFirst: first?.p,
        steps_N_def: first?.evidence,
        list: d.ranked.map((r) => ({ id: r.hypothesis.hypothesisId, p: r.p })),
      };
    },
  }),
  calculation({
    id: 'tissue.next_test',
    title: 'The test that tells causes apart',
    group: 'Symptoms',
    chapter: '5, F12.5',
    takes: { ...seen, is_legume: may('legume') },
    gives: {
      causes_in_order: list('top3'),
      symptom_verdict: need('verdict'),
      next_test_best: may('best_test'),
      next_test_nats: may('best_mi_nats'),
      next_test_second: may('second_test'),
    },
    run: ({ legume, ...i }) => {
      const d = diagnose(observed(i));
      const [best, second] = nextTests(d, {
        legume: legume ?? false,
        done: Object.keys(i.tests ?? {}),
      });
      return {
        top3: d.ranked
          .slice(0, Math.min(3, hypotheses().length))
          .map((r) => r.hypothesis.hypothesisId),
        verdict: d.verdict,
        bestTest: best?.testId ?? null,
        bestMiNats: best?.information ?? null,
        secondTest: second?.testId ?? null,
      };
    },
  }),
];
