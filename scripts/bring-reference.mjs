// Brings tables and worked examples from the agronomy chapters into the repository, one row a line so that a change can be read in a diff.
// Used when a chapter changes: node scripts/bring-reference.mjs <agronomy folder>. Nothing depends on that folder afterwards.
import fs from 'node:fs';
import path from 'node:path';
import { parse } from 'csv-parse/sync';

const [source] = process.argv.slice(2);
if (!source) {
  console.error('Usage: node scripts/bring-reference.mjs <agronomy folder>');
  process.exit(2);
}
const chapters = {
  '01-requirement-credits': ['credit_matrix', 'crops', 'late_n', 'legume_credits', 'legume_modifiers', 'limiting_relative_yield', 'om_mineralisation', 'ph_relative_yield', 'pk_replacement_factors', 'residue_release', 'uptake_curves'],
  '02-manure-compost': ['dm_limits', 'materials', 'mineralisation', 'nh3_methods', 'nh3_modifiers', 'nh3_simple_table', 'overwinter', 'parameters', 'pathogen_intervals'],
  '03-soil-lime-pk': ['extractant_conversions', 'p_env_screen', 'soil_test_levels', 'target_ph'],
  '04-nitrogen-plan': ['climate_normals', 'crop_params', 'dose_limits', 'fertilisers', 'foliar_limits', 'n_uptake_curves_gdd', 'phenology', 'placement', 'soils', 'split_templates', 'stop_rules', 'tank_mix'],
  '05-tissue': ['nutrients', 'sampling_protocols', 'sufficiency_ranges'],
};
const numeric = /^-?(0|[1-9]\d*)(\.\d+)?$/;
const write = (name, csv) => {
  const [columns, ...rows] = parse(csv, { relax_quotes: true, skip_empty_lines: true });
  const isNumber = columns.map((_, i) => rows.every((r) => r[i] === '' || numeric.test(r[i])) && rows.some((r) => r[i] !== ''));
  const cells = rows.map((r) => r.map((v, i) => (v === '' ? null : isNumber[i] ? Number(v) : v)));
  const body = `{"columns":${JSON.stringify(columns)},"rows":[\n${cells.map((r) => JSON.stringify(r)).join(',\n')}\n]}\n`;
  fs.writeFileSync(path.join('src/core/reference/tables', `${name}.json`), body);
};
const tableName = (chapter, table) => (table === 'parameters' ? 'organics_parameters' : table === 'nutrients' ? 'tissue_nutrients' : table);
for (const [chapter, tables] of Object.entries(chapters)) {
  for (const table of tables) write(tableName(chapter, table), fs.readFileSync(path.join(source, chapter, `${table}.csv`), 'utf8'));
  const cases = JSON.parse(fs.readFileSync(path.join(source, chapter, 'examples.json'), 'utf8'));
  const list = Array.isArray(cases) ? cases : cases.examples;
  fs.writeFileSync(`src/core/methods/examples/${chapter}.json`, `[\n${list.map((c) => JSON.stringify(c)).join(',\n')}\n]\n`);
}
write('crop_crosswalk', fs.readFileSync(path.join(source, 'crop_crosswalk.csv'), 'utf8'));
