import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import * as rows from './rows';
import * as tissue from './tissueRows';
import { groupedBy, rowsOf } from './table';

const schemaOf: Record<string, z.ZodObject> = {
  al_tolerance: rows.alToleranceRow,
  ash_alkalinity: rows.ashRow,
  claim_compounds: rows.claimCompoundRow,
  critical_levels: rows.criticalLevelRow,
  ground_parameters: rows.groundParameterRow,
  lime_buffering: rows.limeBufferingRow,
  lime_materials: rows.limeMaterialRow,
  micronutrient_triggers: rows.microTriggerRow,
  ph_bands: rows.phBandRow,
  sampling_depths: rows.samplingDepthRow,
  sampling_schemes: rows.samplingSchemeRow,
  sampling_variability: rows.variabilityRow,
  secondary_micro_rates: rows.secondaryRateRow,
  additive_claims: rows.additiveClaimRow,
  dilution_curves: tissue.dilutionCurveRow,
  climate_normals: rows.climateRow,
  credit_matrix: rows.creditMatrixRow,
  crop_crosswalk: rows.crosswalkRow,
  crop_params: rows.cropParamRow,
  crops: rows.cropRow,
  dm_limits: rows.dmLimitRow,
  dose_limits: rows.doseLimitRow,
  extractant_conversions: rows.conversionRow,
  fertilisers: rows.fertiliserRow,
  foliar_limits: rows.foliarLimitRow,
  late_n: rows.lateNRow,
  legume_credits: rows.legumeRow,
  legume_modifiers: rows.legumeModifierRow,
  limiting_relative_yield: rows.limitingYieldRow,
  materials: rows.materialRow,
  mineralisation: rows.mineralisationRow,
  n_uptake_curves_gdd: rows.gddCurveRow,
  nh3_methods: rows.nh3MethodRow,
  nh3_modifiers: rows.nh3ModifierRow,
  nh3_simple_table: rows.nh3SimpleRow,
  om_mineralisation: rows.omRow,
  organics_parameters: rows.organicsParameterRow,
  overwinter: rows.overwinterRow,
  p_env_screen: rows.pScreenRow,
  pathogen_intervals: rows.pathogenRow,
  ph_relative_yield: rows.phYieldRow,
  phenology: rows.phenologyRow,
  drainage_classes: rows.drainageClassRow,
  organic_pools: rows.organicPoolRow,
  loss_factors: rows.lossFactorRow,
  seed_row_crops: rows.seedRowCropRow,
  seed_row_openers: rows.seedRowOpenerRow,
  sim_params: rows.simParamRow,
  pk_replacement_factors: rows.pkReplacementRow,
  placement: rows.placementRow,
  residue_release: rows.residueReleaseRow,
  sampling_protocols: tissue.protocolRow,
  soil_test_levels: rows.soilTestLevelRow,
  soils: rows.soilRow,
  split_templates: rows.splitTemplateRow,
  stop_rules: rows.stopRuleRow,
  sufficiency_ranges: tissue.rangeRow,
  tank_mix: rows.tankMixRow,
  target_ph: rows.targetPhRow,
  tissue_nutrients: tissue.tissueNutrientRow,
  setbacks: rows.setbackRow,
  metals: rows.metalRow,
  ring_rates: rows.ringRow,
  late_n_crops: rows.lateReleaseRow,
  orchard_k: tissue.orchardKRow,
  uptake_curve_meta: rows.curveMetaRow,
  uptake_curves: rows.uptakeCurveRow,
  build_drawdown: rows.buildDrawdownRow,
  calibration_limits: rows.calibrationLimitRow,
  compost_tests: rows.compostTestRow,
  decomposition: rows.decompositionRow,
  incrop_windows: rows.incropWindowRow,
  green_manure_species: rows.greenManureRow,
  residue_placement: rows.residuePlacementRow,
  n_index_previous_crop: rows.nIndexPreviousRow,
  n_index_bands: rows.nIndexBandRow,
  n_index_rates: rows.nIndexRateRow,
  corrections: tissue.correctionRow,
  discriminating_tests: tissue.discriminatingTestRow,
  dris_norms: tissue.drisNormRow,
  foliar_products: tissue.foliarProductRow,
  fruit_ca_standards: tissue.fruitCaStandardRow,
  fruit_ca_targets: tissue.fruitCaTargetRow,
  indicator_plants: tissue.indicatorRow,
  prior_modifiers: tissue.priorModifierRow,
  ratios: tissue.ratioRow,
  sap_thresholds: tissue.sapThresholdRow,
  soil_tissue_matrix: tissue.soilTissueRow,
  symptom_features: tissue.featureRow,
  symptom_hypotheses: tissue.hypothesisRow,
  symptoms: tissue.symptomRow,
};
const read = (name: string): readonly Record<string, unknown>[] =>
  rowsOf(JSON.parse(fs.readFileSync(new URL(`./tables/${name}.json`, import.meta.url), 'utf8')));
const names = fs
  .readdirSync(new URL('./tables', import.meta.url))
  .map((f) => f.replace('.json', ''));

describe('reference tables', () => {
  it('has a schema for every table file and no other', () =>
    expect(names.sort()).toEqual(Object.keys(schemaOf).sort()));

  it.each(names)('%s: every row fits, with no column unaccounted for', (name) => {
    const problems = read(name).flatMap((row, i) => {
      const r = z.strictObject((schemaOf[name] as z.ZodObject).shape).safeParse(row);
      return r.success ? [] : [`${name} row ${i + 1}: ${z.prettifyError(r.error)}`];
    });
    expect(problems).toEqual([]);
  });

  it('N forms of each fertiliser add up to its total N within 0.1 point', () => {
    for (const f of read('fertilisers') as unknown as z.infer<typeof rows.fertiliserRow>[])
      expect(
        Math.abs(f.nNitratePct + f.nAmmoniumPct + f.nUreaPct + f.nSlowPct - f.nTotalPct),
        f.productId,
      ).toBeLessThanOrEqual(0.1);
  });

  it('soil test limits rise from class to class, and a sufficiency range is never upside down', () => {
    for (const r of read('soil_test_levels') as unknown as z.infer<typeof rows.soilTestLevelRow>[])
      expect(
        r.lowFrom < r.mediumFrom && r.mediumFrom < r.highFrom && r.highFrom < r.veryHighFrom,
        `${r.nutrient} ${r.extractant}`,
      ).toBe(true);
    for (const r of read('sufficiency_ranges') as unknown as z.infer<typeof tissue.rangeRow>[])
      expect(r.sufficientLow <= r.sufficientHigh, `${r.setId} ${r.nutrient}`).toBe(true);
  });

  it('a sieve never lets through more than a coarser one, and the neutralising value lies in its span', () => {
    for (const m of read('lime_materials') as unknown as z.infer<typeof rows.limeMaterialRow>[]) {
      expect(m.pass236mmPct >= m.pass085mmPct && m.pass085mmPct >= m.pass025mmPct, m.key).toBe(
        true,
      );
      expect(m.cceMin <= m.ccePct && m.ccePct <= m.cceMax, m.key).toBe(true);
      expect(m.isLime === 'yes', m.key).toBe(m.kMult !== null);
    }
  });

  it('the neutralising value of a compound follows from its molar mass', () => {
    for (const c of read('claim_compounds') as unknown as z.infer<typeof rows.claimCompoundRow>[])
      if (c.molarMassG !== null && c.hConsumedMolPerMol !== null)
        expect(
          Math.abs((100.09 / c.molarMassG) * (c.hConsumedMolPerMol / 2) * 100 - (c.ccePct ?? NaN)),
          c.key,
        ).toBeLessThan(0.1);
  });

  it('pH bands follow one another without a gap', () => {
    const bands = read('ph_bands') as unknown as z.infer<typeof rows.phBandRow>[];
    bands.slice(1).forEach((b, i) => {
      expect(b.phWaterFrom, b.band).toBe(bands[i]?.phWaterTo);
    });
  });

  it('each uptake curve climbs to 1', () => {
    const byCurve = groupedBy(
      read('uptake_curves') as unknown as z.infer<typeof rows.uptakeCurveRow>[],
      (r) => r.curveKey,
    );
    for (const [key, knots] of byCurve) expect(knots.at(-1)?.nUptakeFrac, key).toBe(1);
  });
});
