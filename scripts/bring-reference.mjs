// Brings tables and worked examples from the agronomy chapters into the repository, one row a line
// so that a change can be read in a diff.
// Used when a chapter changes: node scripts/bring-reference.mjs <agronomy folder>. Nothing depends
// on that folder afterwards.
import fs from 'node:fs';
import path from 'node:path';
import { parse } from 'csv-parse/sync';

const [source] = process.argv.slice(2);
if (!source) {
  console.error('Usage: node scripts/bring-reference.mjs <agronomy folder>');
  process.exit(2);
}
const chapters = {
  '01-requirement-credits': [
    'credit_matrix',
    'crops',
    'green_manure_species',
    'late_n',
    'legume_credits',
    'legume_modifiers',
    'limiting_relative_yield',
    'n_index_bands',
    'n_index_previous_crop',
    'n_index_rates',
    'om_mineralisation',
    'ph_relative_yield',
    'pk_replacement_factors',
    'residue_placement',
    'residue_release',
    'uptake_curve_meta',
    'uptake_curves',
  ],
  '02-manure-compost': [
    'calibration_limits',
    'compost_tests',
    'decomposition',
    'dm_limits',
    'incrop_windows',
    'late_n_crops',
    'materials',
    'metals',
    'mineralisation',
    'nh3_methods',
    'nh3_modifiers',
    'nh3_simple_table',
    'overwinter',
    'parameters',
    'pathogen_intervals',
    'ring_rates',
    'setbacks',
  ],
  '03-soil-lime-pk': [
    'al_tolerance',
    'ash_alkalinity',
    'build_drawdown',
    'claim_compounds',
    'critical_levels',
    'extractant_conversions',
    'lime_buffering',
    'lime_materials',
    'micronutrient_triggers',
    'p_env_screen',
    'parameters',
    'ph_bands',
    'sampling_depths',
    'sampling_schemes',
    'sampling_variability',
    'secondary_micro_rates',
    'soil_test_levels',
    'target_ph',
  ],
  '04-nitrogen-plan': [
    'additive_claims',
    'climate_normals',
    'crop_params',
    'dose_limits',
    'fertilisers',
    'foliar_limits',
    'loss_factors',
    'drainage_classes',
    'n_uptake_curves_gdd',
    'organic_pools',
    'phenology',
    'placement',
    'seed_row_crops',
    'seed_row_openers',
    'sim_params',
    'soils',
    'split_templates',
    'stop_rules',
    'tank_mix',
  ],
  '05-tissue': [
    'corrections',
    'dilution_curves',
    'discriminating_tests',
    'dris_norms',
    'foliar_products',
    'fruit_ca_standards',
    'fruit_ca_targets',
    'indicator_plants',
    'nutrients',
    'orchard_k',
    'prior_modifiers',
    'ratios',
    'sampling_protocols',
    'sap_thresholds',
    'soil_tissue_matrix',
    'sufficiency_ranges',
    'symptom_features',
    'symptom_hypotheses',
    'symptoms',
  ],
};
/**
 * Columns that no method reads yet stay in the chapter: whoever needs one takes it off this list,
 * and adds it to rows.ts.
 */
const leftOut = {
  crop_params: 'at_yield_of',
  crops: 'harvest_index uptake_basis uptake_p_kg_t uptake_k_kg_t',
  fertilisers: 'category p2o5_pct k2o_pct na_pct salt_index acidity_kg_caco3_per_kg_n',
  late_n: 'run_down_alias days_before_harvest_max',
  legume_modifiers: 'applies_to',
  lime_materials:
    'fineness_eff_pct ecce_dry_pct ecce_as_received_pct frac_reacted_3mo frac_reacted_6mo frac_reacted_12mo frac_reacted_24mo frac_reacted_36mo',
  nh3_methods: 'residual_note',
  orchard_k: 'set_id removal_basis',
  phenology: 'gdd_f_d',
  placement: 'n_recovery_low_frac n_recovery_high_frac',
  soils: 'sand_pct_mid clay_pct_mid available_water_vol_pct',
  tissue_nutrients:
    'lab_cv_pct sampling_cv_pct loq_typical phloem_mobility symptom_leaf_age readable_for_surplus washing_changes_result',
  uptake_curve_meta:
    'season_origin run_down_bbch run_down_season_frac run_down_note thermal_total_cd',
  uptake_curves: 'knot_no stage_alias',
};
/** What a row does beside its chapter's columns, as columns of our own: a farm's row made like another has them all. */
const traits = JSON.parse(fs.readFileSync('scripts/traits.json', 'utf8'));
/** Where a row points into its chapter, a reader of the page is pointed to the page. */
const reworded = [
  ['fruit_ca_targets.csv (section 14)', 'the calcium programme'],
  ['leaf-K programme section 15', 'potassium by the leaf'],
  [
    'leaf-K programme of section 15 with the low-K row',
    'potassium by the leaf, by the row of the low-K group',
  ],
  [' (section 13)', ''],
  ['; see section 3.4', ''],
];
const told = (text) => reworded.reduce((t, [from, to]) => t.replaceAll(from, to), text);
const numeric = /^-?(0|[1-9]\d*)(\.\d+)?(e[+-]?\d+)?$/;
const write = (name, csv) => {
  const [columns, ...rows] = parse(csv, { relax_quotes: true, skip_empty_lines: true });
  const skip = new Set((leftOut[name] ?? '').split(' '));
  const kept = columns.flatMap((c, i) => (skip.has(c) ? [] : [i]));
  const isNumber = columns.map(
    (_, i) => rows.every((r) => r[i] === '' || numeric.test(r[i])) && rows.some((r) => r[i] !== ''),
  );
  const cells = rows.map((r) =>
    kept.map((i) => (r[i] === '' ? null : isNumber[i] ? Number(r[i]) : told(r[i]))),
  );
  const added = Object.entries(traits[name] ?? {});
  const names = [...kept.map((i) => columns[i]), ...added.map(([column]) => column)];
  const keys = rows.map((r) => r[0]);
  for (const [column, { rows: given }] of added)
    for (const key of Object.keys(given))
      if (!keys.includes(key)) throw new Error(`${name}.${column}: no row ${key}`);
  cells.forEach((r, i) =>
    r.push(...added.map(([, { default: usual, rows: given }]) => given[keys[i]] ?? usual)),
  );
  const body = `{"columns":${JSON.stringify(names)},"rows":[\n${cells.map((r) => JSON.stringify(r)).join(',\n')}\n]}\n`;
  fs.writeFileSync(path.join('src/core/book/tables', `${name}.json`), body);
};
const tableName = (chapter, table) =>
  table === 'parameters'
    ? chapter.startsWith('03')
      ? 'ground_parameters'
      : 'organics_parameters'
    : table === 'nutrients'
      ? 'tissue_nutrients'
      : table;
for (const [chapter, tables] of Object.entries(chapters)) {
  for (const table of tables)
    write(
      tableName(chapter, table),
      fs.readFileSync(path.join(source, chapter, `${table}.csv`), 'utf8'),
    );
  const cases = JSON.parse(fs.readFileSync(path.join(source, chapter, 'examples.json'), 'utf8'));
  const list = Array.isArray(cases) ? cases : cases.examples;
  fs.writeFileSync(
    `src/core/methods/examples/${chapter}.json`,
    `[\n${list.map((c) => JSON.stringify(c)).join(',\n')}\n]\n`,
  );
}
write('crop_crosswalk', fs.readFileSync(path.join(source, 'crop_crosswalk.csv'), 'utf8'));
// What the simulator must come to, run for run.
for (const name of ['10day', '30year', 'edge', 'least_n', 'rng_weather', 'winter_wheat'])
  fs.writeFileSync(
    `src/core/season/reference/${name}.json`,
    JSON.stringify(
      JSON.parse(
        fs.readFileSync(path.join(source, '04-nitrogen-plan', `reference_${name}.json`), 'utf8'),
      ),
    ),
  );
