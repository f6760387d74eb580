import { z } from 'zod';
import { ammoniaKeptTable, ammoniaLoss, lateIncorporationCost } from '../organics/ammonia';
import { dryBasisPossible, labCheck, labToKgT, oxideSuspect, rangeCheck, ratioMedian, unitSuspect } from '../organics/laboratory';
import { firstYearFraction, lateRelease, nitrogenPools, nPctDmRelease, pCredit, plantAvailableN, releaseFraction, releaseResidual, residualCredit } from '../organics/release';
import { RANGES } from '../quantity/range';
import { num } from '../quantity/input';
import { method, type Method } from './method';

const n = z.number();
const maybe = n.nullish();
const text = z.string();
const lab = z.strictObject({ total_n_kg_t: maybe, nh4_n_kg_t: maybe, no3_n_kg_t: maybe, p_kg_t: maybe, k_kg_t: maybe, s_kg_t: maybe, dm_pct: maybe, c_to_n: maybe }).nullish();
const result = (value: unknown) => ({ result: value });

export const organicsMethods: readonly Method[] = [
  method({ id: 'organics.lab_to_kg_t', title: 'Manure report as kg/t', group: 'Laboratory', chapter: '2, 3.1', input: z.strictObject({ value: n, unit: text, basis: text.nullish(), dm_pct: maybe, density_kg_m3: maybe, oxide_of: text.nullish() }), output: { result: n }, run: (i) => result(labToKgT({ ...i, densityKgM3: i.densityKgM3 })) }),
  method({ id: 'organics.lab_check', title: 'Manure report: sanity checks', group: 'Laboratory', chapter: '2, 3.2', input: z.strictObject({ total_n: n, nh4: maybe, no3: maybe, p: maybe, k: maybe, s: maybe, ca: maybe, mg: maybe, dm_pct: n, form: text }), output: { result: z.array(text) }, run: (i) => result(labCheck(i)) }),
  method({ id: 'organics.ratio_median', title: 'Geometric median of laboratory to book', group: 'Laboratory', chapter: '2, 3.2', input: z.strictObject({ xs: z.array(n) }), output: { result: n }, run: (i) => result(ratioMedian(i)) }),
  method({ id: 'organics.unit_suspect', title: 'Which unit slip explains a report', group: 'Laboratory', chapter: '2, 3.2', input: z.strictObject({ r_med: n, dm_pct: num(RANGES.dmPct), unit: text, basis: z.enum(['as_received', 'dry']), form: text }), output: { result: z.array(text).nullable() }, run: (i) => result(unitSuspect(i)) }),
  method({ id: 'organics.oxide_suspect', title: 'Oxide read as element', group: 'Laboratory', chapter: '2, 3.2', input: z.strictObject({ rn: n, rp: n, rk: maybe }), output: { result: text.nullable() }, run: (i) => result(oxideSuspect(i)) }),
  method({ id: 'organics.dry_basis_possible', title: 'Possibly a dry-basis report', group: 'Laboratory', chapter: '2, 3.2', input: z.strictObject({ ratios: z.array(n), dm_pct: num(RANGES.dmPct), basis: z.enum(['as_received', 'dry']) }), output: { result: z.boolean() }, run: (i) => result(dryBasisPossible(i)) }),
  method({ id: 'organics.range_check', title: 'A manure parameter against its limits', group: 'Laboratory', chapter: '2, parameters', input: z.strictObject({ name: text, value: n }), output: { result: text }, run: (i) => result(rangeCheck(i)) }),
  method({ id: 'organics.ammonia_loss', title: 'Ammonia lost after spreading', group: 'Ammonia', chapter: '2, 4.1', output: { f_inf: n, t_m: n, loss_frac: n, retained_frac: n },
    input: z.strictObject({ method: text, dm_pct: maybe, temp_c: num(RANGES.tempC).nullish(), wind_m_s: num(RANGES.windMS).nullish(), soil: text.nullish(), cover: text.nullish(), klass: text.nullish(), acidified: z.boolean().nullish(), material_ph: maybe, salt_bound: z.boolean().nullish(), soil_ph: maybe, events: z.array(z.tuple([text, n])).nullish() }),
    run: ({ events, ...i }) => ammoniaLoss({ ...i, coverings: (events ?? []).map(([kind, hours]) => ({ kind, hours })) }) }),
  method({ id: 'organics.ammonia_kept_table', title: 'Ammonium kept, simple table', group: 'Ammonia', chapter: '2, simple_table', input: z.strictObject({ group: text, dm_pct: maybe, placement: text, hours: maybe }), output: { result: n }, run: (i) => result(ammoniaKeptTable(i)) }),
  method({ id: 'organics.late_incorporation_cost', title: 'What late incorporation cost', group: 'Ammonia', chapter: '2, N01', input: z.strictObject({ tan: n, rate: n, loss_planned: n, loss_actual: n, price_n: n }), output: { lost_kg_ha: n, lost_money_ha: n }, run: lateIncorporationCost }),
  method({ id: 'organics.nitrogen_pools', title: 'Nitrogen pools of a material', group: 'Release', chapter: '2, 4.3', input: z.strictObject({ total_n: n, nh4: n, no3: maybe, klass: text, uric_n: maybe }), output: { tan: n, uric: n, org: n }, run: nitrogenPools }),
  method({ id: 'organics.first_year_fraction', title: 'First-year share of organic N', group: 'Release', chapter: '2, 4.3', input: z.strictObject({ klass: text, cn_book: maybe, cn_lab: maybe }), output: { result: n }, run: (i) => result(firstYearFraction(i)) }),
  method({ id: 'organics.release_fraction', title: 'Share released by a thermal time', group: 'Release', chapter: '2, 4.4', input: z.strictObject({ klass: text, tt: n, y1_adj: maybe }), output: { result: n }, run: (i) => result(releaseFraction(i)) }),
  method({ id: 'organics.release_residual', title: 'Release in a later year', group: 'Release', chapter: '2, 9.3', input: z.strictObject({ klass: text, year_k: n, tt: n }), output: { result: n }, run: (i) => result(releaseResidual(i)) }),
  method({ id: 'organics.plant_available_n', title: 'Plant-available N in the first year', group: 'Release', chapter: '2, 4.3', output: { tan_kg_t: n, org_n_kg_t: n, y1_eff: n, mineral_kept_kg_t: n, pan_kg_t: n },
    input: z.strictObject({ mat: text, retained_frac: n, lab, season: z.enum(['spring', 'autumn']).nullish(), ow: maybe, tt_pre: maybe, tt_end: maybe, climate_factor: maybe, meal_on_surface: z.boolean().nullish() }), run: plantAvailableN }),
  method({ id: 'organics.residual_credit', title: 'N from manure of earlier years', group: 'Release', chapter: '2, 4.5', input: z.strictObject({ apps: z.array(z.tuple([text, n, n])), tail: maybe, climate_factor: maybe }), output: { result: n },
    run: ({ apps, ...i }) => { const r = residualCredit({ ...i, apps: apps.map(([mat, rateTHa, yearK]) => ({ mat, rateTHa, yearK })) }); return { result: r.creditKgHa, why: r.why }; } }),
  method({ id: 'organics.late_release', title: 'N released late in the season', group: 'Release', chapter: '2, 4.4', input: z.strictObject({ mat: text, rate: n, tt_from: n, tt_to: n }), output: { result: n }, run: (i) => result(lateRelease(i)) }),
  method({ id: 'organics.n_pct_dm_release', title: 'Season release by dry-matter N', group: 'Release', chapter: '2, 4.3 (ii)', input: z.strictObject({ total_n: n, dm_pct: n }), output: { result: n }, run: (i) => result(nPctDmRelease(i)) }),
  method({ id: 'organics.p_credit', title: 'P of manure: balance and credit', group: 'Release', chapter: '2, 5.1', input: z.strictObject({ rate: n, p_t: n, klass: text, below_critical: z.boolean(), soil_ph: maybe }), output: { balance_kg_ha: n, y1_kg_ha: n, credit_kg_ha: n }, run: (i) => pCredit({ ...i, nutrient: 'p' }) }),
];
