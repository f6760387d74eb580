import { z } from 'zod';
import { acidityLoad, limeInterval } from '../ground/acidity';
import { calciumCompare } from '../ground/calcium';
import { cations, cationsAl } from '../ground/cations';
import { claimCheck, loadCheck } from '../ground/claim';
import { classify } from '../ground/classify';
import { convertExtractant, ppmToKgHa } from '../ground/extractants';
import { limeLead } from '../ground/limeLead';
import { effectiveNeutralisingValue, limeCost, limePasses, limeReacted, predictPh } from '../ground/limeProduct';
import { limeByAdamsEvans, limeByAluminium, limeByBaseSaturation, limeByCarbonAndClay, limeByFactor, limeByMehlich, limeBySmp, limeByTexture } from '../ground/limeRequirement';
import { acidifyCost, sToLowerPh } from '../ground/lowerPh';
import { phGate, phMoney, planningPh } from '../ground/ph';
import { recBuildMaintain, recIndex, recSufficiency } from '../ground/pkSchools';
import { pkOutlook } from '../ground/pkSimulation';
import { classProbability, coresNeeded, precision, realChange } from '../ground/precision';
import { oneSeasonOptimum, relativeYield, relativeYieldLinear } from '../ground/relativeYield';
import { bandCores, samplingDeadline, samplingGrid } from '../ground/sampling';
import { chlorideRate, pSaturationRatio, stratification, sulphurBalance, tetanyRatio } from '../ground/secondary';
import { effectiveMonths } from '../ground/wetClock';
import { randomStream } from '../quantity/random';
import { method, type Method } from './method';

const n = z.number();
const maybe = n.nullish();
const text = z.string();
const yes = z.boolean().nullish();
const curve = { test: n, crit95: n, ry0: n };
const sieve = { p8: n, p20: n, p60: n };
const buffer = z.strictObject({ ph: n, target: n, bph: n, bd: maybe });
const cationFields = { ca: n, mg: n, k: n, na: maybe, ph: maybe, buffer_smp: maybe, buffer_ae: maybe, acidity_cmol_kg: maybe };
const effective = z.strictObject({ cce: n, ...sieve, dm: maybe, weights: z.array(n).nullish() });
const acid = { ns: z.array(z.tuple([n, n, n])), prods: z.array(z.tuple([n, n, z.boolean()])), leach: maybe, bases: maybe, nitrate_leached_frac: maybe };
const rate = { rate: n, unit: z.enum(['kg', 'l']), density: maybe };
const value = { value: n };

export const groundMethods: readonly Method[] = [
  method({ id: 'ground.classify', title: 'Class of a soil test', group: 'Soil test', chapter: '3, 4.1', input: z.strictObject({ nutrient: text, extractant: text, value: n, unit: text, ph: maybe, cec_cmol_kg: maybe, crop_group: text.nullish(), om_pct: maybe, scheme: text.nullish() }), output: { cls: text, index: n, limits: z.array(n) }, run: classify }),
  method({ id: 'ground.convert_extractant', title: 'Estimate on another extractant', group: 'Soil test', chapter: '3, 4.2', input: z.strictObject({ key: text, value: n }), output: { value: n, lo: n, hi: n }, run: convertExtractant }),
  method({ id: 'ground.ppm_to_kg_ha', title: 'mg/kg in a layer as kg/ha', group: 'Soil test', chapter: '3, 3', input: z.strictObject({ x: n, bd: n, depth: n }), output: { value: n }, run: (i) => ppmToKgHa({ mgKg: i.x, bulkDensityGCm3: i.bd, depthCm: i.depth }) }),
  method({ id: 'ground.relative_yield', title: 'Relative yield at a soil test', group: 'Soil test', chapter: '3, 4.3', input: z.strictObject({ ...curve, model: z.literal('mitscherlich').nullish() }), output: { value: n }, run: relativeYield }),
  method({ id: 'ground.relative_yield_linear', title: 'Relative yield, line and plateau', group: 'Soil test', chapter: '3, 4.3', input: z.strictObject({ ...curve, model: z.literal('linear').nullish() }), output: { value: n }, run: relativeYieldLinear }),
  method({ id: 'ground.one_season_optimum', title: 'P or K dose that pays in one season', group: 'Soil test', chapter: '3, 4.3', input: z.strictObject({ yield_pot: n, price: n, ry: n, rmax: n, cost: n }), output: { value: n }, run: oneSeasonOptimum }),
  method({ id: 'ground.ph_planning', title: 'The pH to plan with', group: 'pH', chapter: '3, 2.4', input: z.strictObject({ ph_water: maybe, ph_cacl2: maybe, ph_kcl: maybe, moisture: z.enum(['dry', 'moist', 'wet']).nullish() }), output: { ph: n, flag: text }, run: planningPh }),
  method({ id: 'ground.ph_gate', title: 'pH gate', group: 'pH', chapter: '3, 5.2', input: z.strictObject({ ph: n, crop: text, om_pct: maybe }), output: { level: text, gap: n }, run: phGate }),
  method({ id: 'ground.ph_money', title: 'What a low pH costs', group: 'pH', chapter: '3, 5.4', input: z.strictObject({ ph: n, crop: text, yield_goal: n, price: n, lime_cost_ha: maybe, years: maybe }), output: { ry_ph: n, loss_per_ha: n }, run: phMoney }),
  method({ id: 'ground.sampling_grid', title: 'Cells of a sampling grid', group: 'Sampling', chapter: '3, 2.1', input: z.strictObject({ area_ha: n, cell_area_ha: n }), output: { n_cells: n, spacing_m: n }, run: samplingGrid }),
  method({ id: 'ground.band_cores', title: 'Cores between old bands', group: 'Sampling', chapter: '3, 2.1', input: z.strictObject({ band_spacing_cm: n }), output: value, run: bandCores }),
  method({ id: 'ground.precision', title: 'Precision of a sample', group: 'Sampling', chapter: '3, 2.2', input: z.strictObject({ mean: n, cv_field: n, cv_lab: n, n_cores: n, n_lab: maybe, z: maybe, is_sd: yes }), output: { se_rel: n, se: n, lo: n, hi: n }, run: precision }),
  method({ id: 'ground.cores_needed', title: 'Cores for a wanted precision', group: 'Sampling', chapter: '3, 2.2', input: z.strictObject({ cv_field: n, cv_lab: n, E: n, n_lab: maybe, z: maybe }), output: { n }, run: coresNeeded }),
  method({ id: 'ground.class_probability', title: 'Chance of each class', group: 'Sampling', chapter: '3, 2.2', input: z.strictObject({ mean: n, se: n, limits: z.array(n), log_normal: yes }), output: { very_low: n, low: n, medium: n, high: n, very_high: n }, run: classProbability }),
  method({ id: 'ground.real_change', title: 'Change or sampling error', group: 'Sampling', chapter: '3, 2.2', input: z.strictObject({ x1: n, se1: n, x2: n, se2: n, z: maybe }), output: { lsd: n, changed: z.boolean() }, run: realChange }),
  method({ id: 'ground.sampling_deadline', title: 'Last day to sample', group: 'Sampling', chapter: '3, 2.3', input: z.strictObject({ planting: text, lime_lead_days: maybe, spread_days: maybe, lab_days: maybe, today: text.nullish() }), output: { value: text }, run: samplingDeadline }),
  method({ id: 'ground.stratification', title: 'Layers of no-till and grass', group: 'Soil test', chapter: '3, 12.2', input: z.strictObject({ top: n, below: n }), output: { ratio: n, mean_0_15: n }, run: stratification }),
  method({ id: 'ground.p_saturation_ratio', title: 'P saturation by Mehlich-3', group: 'Soil test', chapter: '3, 12.4', input: z.strictObject({ p: n, al: n, fe: n }), output: value, run: pSaturationRatio }),
  method({ id: 'ground.cations', title: 'CEC and base saturation', group: 'Soil test', chapter: '3, 3', input: z.strictObject(cationFields), output: { cec: n, ca_sat: n, mg_sat: n, k_sat: n, na_sat: n, acid_sat: n }, run: cations }),
  method({ id: 'ground.cations_al', title: 'Effective CEC and aluminium', group: 'Soil test', chapter: '3, 3', input: z.strictObject({ ...cationFields, al: n }), output: { ecec: n, al_sat: n }, run: cationsAl }),
  method({ id: 'ground.acidify_cost', title: 'Sulphur to dissolve free lime', group: 'pH', chapter: '3, 5.5', input: z.strictObject({ caco3_pct: n, m: n }), output: value, run: acidifyCost }),
  method({ id: 'ground.s_to_lower_ph', title: 'Sulphur to lower the pH', group: 'pH', chapter: '3, 5.6', input: z.strictObject({ bc: n, drop: n }), output: { value: n, passes: n }, run: sToLowerPh }),
  method({ id: 'ground.acidity_load', title: 'Acid from a year of cropping', group: 'pH', chapter: '3, 7.7', input: z.strictObject({ ...acid, mode: z.enum(['convention', 'cycle']).nullish() }), output: { nitrogen: n, product: n, total: n }, run: acidityLoad }),
  method({ id: 'ground.acid_load_cycle', title: 'Acid by the N and carbon cycle', group: 'pH', chapter: '3, 7.7', input: z.strictObject({ ...acid, mode: z.literal('cycle').nullish() }), output: { nitrogen: n, product: n, total: n }, run: (i) => acidityLoad({ ...i, mode: 'cycle' }) }),
  method({ id: 'ground.lime_interval', title: 'Years until lime is due', group: 'pH', chapter: '3, 7.8', input: z.strictObject({ bc: n, ph: n, act: n, load: n }), output: { value: n.nullable(), verdict: text }, run: limeInterval }),
  method({ id: 'ground.lr_adams_evans', title: 'Lime by Adams-Evans buffer', group: 'Lime requirement', chapter: '3, 6.2a', input: buffer, output: value, run: limeByAdamsEvans }),
  method({ id: 'ground.lr_smp', title: 'Lime by SMP or Sikora buffer', group: 'Lime requirement', chapter: '3, 6.2b', input: buffer, output: value, run: limeBySmp }),
  method({ id: 'ground.lr_already_at_target', title: 'No lime at the target', group: 'Lime requirement', chapter: '3, 6.5', input: buffer, output: value, run: limeBySmp }),
  method({ id: 'ground.lr_mehlich', title: 'Lime by Mehlich buffer', group: 'Lime requirement', chapter: '3, 6.2c', input: buffer, output: value, run: limeByMehlich }),
  method({ id: 'ground.lr_oc_clay', title: 'Lime by carbon and clay', group: 'Lime requirement', chapter: '3, 6.3', input: z.strictObject({ ph: n, target: n, oc: n, clay: n, bd: maybe }), output: value, run: limeByCarbonAndClay }),
  method({ id: 'ground.lr_texture', title: 'Lime by texture', group: 'Lime requirement', chapter: '3, 6.3', input: z.strictObject({ ph: n, target: n, tex: text, om: text }), output: { value: n, lo: n, hi: n }, run: limeByTexture }),
  method({ id: 'ground.lr_lime_factor', title: 'Lime factor', group: 'Lime requirement', chapter: '3, 6.3', input: z.strictObject({ ph: n, target: n, factor: n }), output: { ground_limestone_t_ha: n, lr_ecc: n }, run: limeByFactor }),
  method({ id: 'ground.lr_al', title: 'Lime by aluminium tolerance', group: 'Lime requirement', chapter: '3, 6.4', input: z.strictObject({ al: n, ca: n, mg: n, ras: n, bd: maybe, depth: maybe }), output: value, run: limeByAluminium }),
  method({ id: 'ground.lr_base_sat', title: 'Lime by base saturation', group: 'Lime requirement', chapter: '3, 6.4', input: z.strictObject({ cec: n, v1: n, v2: n, d: maybe }), output: value, run: limeByBaseSaturation }),
  method({ id: 'ground.effective_neutralising_value', title: 'Effective neutralising value', group: 'Lime products', chapter: '3, 7.1', input: effective, output: { fineness: n, ecce_dry: n, ecce_as_received: n }, run: effectiveNeutralisingValue }),
  method({ id: 'ground.effective_neutralising_value_fluid', title: 'Effective value of fluid lime', group: 'Lime products', chapter: '3, 7.1', input: effective, output: { fineness: n, ecce_dry: n, ecce_as_received: n }, run: effectiveNeutralisingValue }),
  method({ id: 'ground.lime_reacted', title: 'Share of a lime that has reacted', group: 'Lime products', chapter: '3, 7.2', input: z.strictObject({ ...sieve, km: n, t: n }), output: value, run: limeReacted }),
  method({ id: 'ground.ph_predict', title: 'pH after liming', group: 'Lime products', chapter: '3, 7.2', input: z.strictObject({ ph: n, target: n, lr: n, rate: n, dm: n, cce: n, frac: n }), output: { cce_reacted: n, ratio: n, ph: n, beyond_model: z.boolean() }, run: predictPh }),
  method({ id: 'ground.effective_months', title: 'The wet clock', group: 'Lime products', chapter: '3, 7.3', input: z.strictObject({ recs: z.array(z.union([z.tuple([n, n, n]), z.tuple([n, n, n, n])])).max(2000).describe('records of days, rain in mm, soil temperature in °C, and irrigation in mm'), moist: z.boolean(), start_mm: maybe }), output: { t_eff_months: n, started: z.boolean(), cum_mm: n }, run: (i) => effectiveMonths({ records: i.recs.map(([days, rainMm, soilTempC, irrigationMm]) => ({ days, rainMm, soilTempC, irrigationMm: irrigationMm ?? 0 })), moist: i.moist, startMm: i.startMm }) }),
  method({ id: 'ground.lime_cost', title: 'Cost of a tonne of effective carbonate', group: 'Lime products', chapter: '3, 7.6', input: z.strictObject({ price: n, haul: n, spread: n, ec_ar: n, dm: n, cce: n, frac: n, product_t_ha: maybe }), output: { per_t_ecc: n, per_t_reacted: n.nullable() }, run: limeCost }),
  method({ id: 'ground.lime_passes', title: 'Passes of a lime rate', group: 'Lime products', chapter: '3, 7.4', input: z.strictObject({ rate: n, kind: z.enum(['sand', 'surface', 'hydrated', 'other']).nullish(), one_pass_max: maybe }), output: value, run: limePasses }),
  method({ id: 'ground.lime_lead', title: 'How long before planting', group: 'Lime products', chapter: '3, 7.5', input: z.strictObject({ ph: n, target: n, act: n, lr: n, rate: n, dm: n, cce: n, ...sieve, km: n, clock_rate: maybe }), output: { t_eff_months: n.nullable(), lead_days: n.nullable() }, run: limeLead }),
  method({ id: 'ground.claim_check', title: 'Claim checker', group: 'Claims', chapter: '3, 8.1', input: z.strictObject({ compound: text, pct: n, ...rate, ca_pct: maybe, mg_pct: maybe, lr: n, gap: n, claimed_kg_per_kg: maybe, allow_oxidation: yes }), output: { rate_kg: n, base_kg: n, verdict: text, level: text }, run: claimCheck }),
  method({ id: 'ground.load_check', title: 'Nutrient load of a product', group: 'Claims', chapter: '3, 8.2', input: z.strictObject({ ...rate, analysis_pct: n, reference: n, oxide: text.nullish(), price_per_unit: maybe }), output: { nutrient_kg_ha: n, share: n }, run: loadCheck }),
  method({ id: 'ground.calcium_compare', title: 'Calcium by two schools', group: 'Calcium and secondary nutrients', chapter: '3, 9', input: z.strictObject({ ca: n, mg: n, k: n, cec: n, ph: maybe, target: maybe, sand: yes, ca_pct_of_lime: maybe, bd: maybe, depth: maybe }), output: { ca_sat: n, suff_short_kg_ha: n, bcsr_short_kg_ha: n, lime_t_ha: n, gypsum_t_ha: n }, run: calciumCompare }),
  method({ id: 'ground.sulphur_balance', title: 'Sulphur balance', group: 'Calcium and secondary nutrients', chapter: '3, 13.1', input: z.strictObject({ uptake: n, om: n, cool: maybe, dep: maybe, irr_mg_l: maybe, irr_mm: maybe, manure_s: maybe }), output: value, run: sulphurBalance }),
  method({ id: 'ground.chloride_rate', title: 'Chloride for small grains', group: 'Calcium and secondary nutrients', chapter: '3, 13.2', input: z.strictObject({ profile: n }), output: value, run: chlorideRate }),
  method({ id: 'ground.tetany_ratio', title: 'Tetany ratio of herbage', group: 'Calcium and secondary nutrients', chapter: '3, 12.5', input: z.strictObject({ k: n, ca: n, mg: n }), output: value, run: tetanyRatio }),
  method({ id: 'ground.random_stream', title: 'Repeatable random stream', group: 'Sampling', chapter: '3, 11', input: z.strictObject({ seed: n.int().min(0).max(4294967295), draws: n.int().min(1).max(1000) }), output: { value: z.array(n) }, run: (i) => { const next = randomStream(i.seed); return { value: Array.from({ length: i.draws }, next) }; } }),
  method({ id: 'ground.rec_sufficiency', title: 'P or K by sufficiency', group: 'P and K', chapter: '3, 10.2', input: z.strictObject({ test: n, crit95: n, rmax: n, nutrient: z.enum(['p', 'k']).nullish(), band_factor: maybe }), output: { value: n }, run: (i) => ({ value: recSufficiency(i) }) }),
  method({ id: 'ground.rec_build_maintain', title: 'P or K by build-up and maintenance', group: 'P and K', chapter: '3, 10.3', input: z.strictObject({ test: n, l1: n, l2: n, l3: n, removal: n, build: n, years: n, nutrient: z.enum(['p', 'k']).nullish(), leaching_sand: z.boolean().nullish(), cap: maybe }), output: { value: n }, run: (i) => ({ value: recBuildMaintain(i) }) }),
  method({ id: 'ground.rec_index', title: 'P or K by replacement at an index', group: 'P and K', chapter: '3, 10.4', input: z.strictObject({ idx: n, removal: n, nutrient: z.enum(['p', 'k']), cls: z.string().nullish() }), output: { value: n }, run: (i) => ({ value: recIndex(i) }) }),
  method({ id: 'ground.pk_simulation', title: 'P and K schools over years', group: 'P and K', chapter: '3, 11', output: {},
    input: z.strictObject({ nutrient: z.enum(['p', 'k']).nullish(), yield_pot: n, price: n, cost: n, conc: n, start: n, crit95: n, ry0: n, rmax: n, build: n, draw: n, floor: n, l0: n, l1: n, l2: n, l3: n, years: n, N: n, d: n, pass_cost: n, tenure: n, phi: n, sc: n, sf: n, rho: n, cvy: n, runs: n, seed: n, shocks: z.boolean(), strategies: z.string().nullish() }),
    run: (i) => { const o = pkOutlook({ ...i, horizon: i.N, discount: i.d, sigmaCrop: i.sc, sigmaFert: i.sf, cvYield: i.cvy }); return o.spread ?? Object.fromEntries(Object.entries(o.calm).map(([s, r]) => [s, { npv: r.npv, terminal: r.terminal, total: r.total, sEnd: r.sEnd }])); } }),
];
