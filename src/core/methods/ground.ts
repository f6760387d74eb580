import { z } from 'zod';
import { classify } from '../ground/classify';
import { convertExtractant, ppmToKgHa } from '../ground/extractants';
import { phGate, phMoney, planningPh } from '../ground/ph';
import { oneSeasonOptimum, relativeYield, relativeYieldLinear } from '../ground/relativeYield';
import { method, type Method } from './method';

const n = z.number();
const maybe = n.nullish();
const text = z.string();
const curve = { test: n, crit95: n, ry0: n };

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
];
