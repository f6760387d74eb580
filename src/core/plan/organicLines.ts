import { LINE_ERROR } from '../budget/ledger';
import { ammoniaLoss, lateIncorporationCost, type AmmoniaLoss } from '../organics/ammonia';
import { labCheck } from '../organics/laboratory';
import { analysisOf, overwinterKept, pCredit, plantAvailableN, residualCredit, type Analysis, type PlantAvailableN } from '../organics/release';
import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { isLiquid, materialOf, spreadingMethodOf, type Material } from '../reference/organicMaterials';
import { decompositionOf, mineralisationOf } from '../reference/organicTables';
import { textureGroup } from '../reference/soils';
import { entered, step, type Step } from '../why/step';
import { isAutumn, thermalTime, type SeasonCalendar } from './calendar';
import { dayOf } from './days';
import type { OrganicApplication, Plan } from './document';
import type { GroundAssessment } from './groundReading';
import type { LedgerLine } from './line';
import { attempt, type Problem } from './problem';

/** Refuses a date that the crop of this season no longer sees. */
function checkDate(plan: Plan, app: OrganicApplication): void {
  const { harvestDate } = plan.season;
  if (app.cropYear === 1 && harvestDate && app.date > harvestDate) refuse('inconsistent', 'date', `date = ${app.date}: this dressing comes after the harvest of ${harvestDate}; give it to the next crop, or correct the date.`, { value: app.date, allowed: `up to ${harvestDate}` });
}

export interface AssessedApplication {
  app: OrganicApplication;
  material: Material;
  analysis: Analysis;
  labBroken: string[];
  rateTHa: number;
  autumn: boolean;
  loss: AmmoniaLoss;
  lossPlannedFrac: number;
  lostKgHa: number;
  lostMoney: number;
  pan: PlantAvailableN;
  tanKgHa: number;
  mineralKgHa: number;
  organicKgHa: number;
  nKgHa: number;
  pKgHa: number;
  pTotalKgHa: number;
  kKgHa: number;
  sKgHa: number;
}

const rateInTonnes = (app: OrganicApplication, material: Material): number => {
  const liquid = isLiquid(material);
  const spread = within('rate', app.rate, { label: 'Rate', unit: app.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha', min: 0, max: 400 });
  if (app.rateUnit === 'm3_ha' && !liquid && material.physicalForm !== 'semi_solid') refuse('inconsistent', 'rate_unit', `${material.name} is weighed, not pumped: give t/ha.`, { value: app.rateUnit, allowed: 't_ha' });
  return app.rateUnit === 'm3_ha' ? (spread * material.densityKgM3) / 1000 : spread;
};

/** What decides how much of a dressing's ammonium goes to the air, but for its covering. */
export const applicationWeather = (plan: Plan, app: OrganicApplication, material: Material, analysis: Analysis) => ({
  method: app.methodKey, dmPct: analysis.dmPct, tempC: app.tempC, windMS: app.windMS, soil: app.soil, cover: app.cover, klass: material.class, saltBound: ['none', 'hydrolysate', 'vinasse'].includes(material.mineralisationClass), soilPh: plan.ground.phWater,
});
const INHIBITOR_KEEPS = 0.15;
const MEAL_SAFE_HOURS = 72;
/** Uptake that ends within so many days of spreading is too short for a season's share of organic N (chapter 2, 4.3). */
const SHORT_SEASON_D = 100;
function shortClock(app: OrganicApplication, calendar: SeasonCalendar | null): number | null {
  if (!calendar || app.cropYear !== 1) return null;
  const spreadOn = dayOf(calendar, app.date);
  const days = calendar.uptakeEnd - spreadOn;
  return days > 0 && (days < SHORT_SEASON_D || app.use.kind === 'in_crop') && spreadOn >= 0 ? thermalTime(calendar, spreadOn, calendar.uptakeEnd) : null;
}
/** A layer that lies on top takes N only from where it touches the ground. */
function mulched(app: OrganicApplication, material: Material, pan: PlantAvailableN): PlantAvailableN {
  if (app.use.kind !== 'layer' || app.use.mixed || pan.y1Eff >= 0) return pan;
  const row = decompositionOf(mulchKind(material));
  const y1Eff = pan.y1Eff * row.surfaceMulchFactor;
  const panKgT = pan.mineralKeptKgT + pan.orgNKgT * y1Eff;
  return { ...pan, y1Eff, panKgT, why: step('organics.pan.mulch', 'Plant-available N under a mulch', panKgT, 'kg/t', { formula: `tie-up x ${row.surfaceMulchFactor}: only the contact layer takes N`, source: 'chapter 2, 9.1', confidence: 'medium', inputs: [pan.why] }) };
}
/** Row of the decomposition table for a material. */
export const mulchKind = (m: Material): string =>
  m.key === 'straw_cereal' ? 'cereal_straw' : ['wood_chips', 'horse_bedded_shavings'].includes(m.key) ? 'wood_chips_or_shavings' : m.key === 'compost_leaf' ? 'leaves_or_leaf_compost' : m.key === 'paper_mill_sludge' ? 'paper_sludge' : ['herbage_cut_carry', 'seaweed_fresh'].includes(m.key) ? 'fresh_green_plant' : m.class === 'compost' || m.pathogenClass === 'treated_compost' || m.key === 'digestate_fibre' ? 'mature_compost' : 'fresh_strawy_manure';
/** A farm that has to reckon by one legal share of total N sees that figure, with the two pools behind it. */
function farmSchool(plan: Plan, pan: PlantAvailableN, analysis: Analysis): PlantAvailableN {
  const pct = plan.farm.manureNSharePct;
  if (pct === null) return pan;
  const panKgT = (analysis.totalNKgT * pct) / 100;
  return { ...pan, panKgT, why: step('organics.pan.flat', 'Available N by one share', panKgT, 'kg/t', { formula: `total N x ${pct} %`, school: 'one share of total N', source: 'entered for the farm', confidence: 'low', note: `By two pools it would be ${pan.panKgT.toFixed(2)} kg/t.`, inputs: [pan.why] }) };
}

/** What one application of this season brings to the crop, and what it loses on the way. */
function assessApplication(plan: Plan, app: OrganicApplication, ground: GroundAssessment, calendar: SeasonCalendar | null): AssessedApplication {
  checkDate(plan, app);
  const material = materialOf(app.materialKey);
  const method = spreadingMethodOf(app.methodKey);
  const liquid = isLiquid(material);
  if (liquid !== (method.group === 'liquid')) refuse('inconsistent', 'method', `${method.name} does not suit ${material.name}: ${liquid ? 'it will run off a solid spreader' : 'it will not pump'}.`, { value: app.methodKey });
  const rateTHa = rateInTonnes(app, material);
  const analysis = analysisOf(material, app.lab);
  const labBroken = labCheck({ totalN: analysis.totalNKgT, nh4: analysis.nh4NKgT, no3: analysis.no3NKgT, p: analysis.pKgT, k: analysis.kKgT, s: analysis.sKgT, dmPct: analysis.dmPct, form: material.physicalForm });
  const weather = applicationWeather(plan, app, material, analysis);
  const loss = ammoniaLoss({ ...weather, coverings: app.coverings });
  // What the plan meant to lose: the same covering at the planned hour.
  const plannedCover = app.plannedHours === null ? app.coverings : [{ kind: app.coverings[0]?.kind ?? 'disc_or_cultivator_10_15_cm', hours: app.plannedHours }];
  const lossPlannedFrac = app.status === 'done' && app.plannedHours !== null ? ammoniaLoss({ ...weather, coverings: plannedCover }).lossFrac : loss.lossFrac;
  const autumn = isAutumn(app.date, plan.field.latitudeDeg) && app.cropYear === 1 && (plan.season.harvestDate ?? '9999') > app.date;
  const winter = overwinterKept(textureGroup(plan.field.soilTextureId), plan.season.winterDrainageMm);
  const kept = winter?.retainedMineralNFrac ?? 0.6;
  // With an inhibitor in cool soil more ammonium waits for spring (4.2).
  const ow = app.day?.inhibitor && (app.day.soilTempC ?? 99) < 10 ? Math.min(0.95, kept + INHIBITOR_KEEPS) : kept;
  const onSurface = !app.coverings.some((c) => c.hours <= MEAL_SAFE_HOURS);
  const found = plantAvailableN({ mat: app.materialKey, retainedFrac: loss.retainedFrac, lab: app.lab, season: autumn ? 'autumn' : 'spring', ow: autumn ? ow : null, ttEnd: shortClock(app, calendar), mealOnSurface: onSurface });
  const pan = farmSchool(plan, mulched(app, material, found), analysis);
  const klass = mineralisationOf(material.mineralisationClass);
  const quick = (x: 'P' | 'K') => ['very_low', 'low'].includes(ground.classes[x] ?? 'unknown');
  const p = pCredit({ rate: rateTHa, pT: analysis.pKgT, klass: material.mineralisationClass, belowCritical: quick('P'), soilPh: plan.ground.phWater, nutrient: 'p' });
  const k = pCredit({ rate: rateTHa, pT: analysis.kKgT, klass: material.mineralisationClass, belowCritical: quick('K'), nutrient: 'k' });
  const late = lossPlannedFrac < loss.lossFrac ? lateIncorporationCost({ tan: pan.tanKgT, rate: rateTHa, lossPlanned: lossPlannedFrac, lossActual: loss.lossFrac, priceN: plan.farm.nPricePerKg }) : { lostKgHa: 0, lostMoneyHa: 0 };
  return {
    app, material, analysis, labBroken, rateTHa, autumn, loss, lossPlannedFrac, lostKgHa: late.lostKgHa, lostMoney: late.lostMoneyHa, pan, tanKgHa: pan.tanKgT * rateTHa, mineralKgHa: pan.mineralKeptKgT * rateTHa, organicKgHa: pan.orgNKgT * pan.y1Eff * rateTHa, nKgHa: pan.panKgT * rateTHa,
    pKgHa: p.creditKgHa, pTotalKgHa: p.balanceKgHa, kKgHa: k.creditKgHa, sKgHa: rateTHa * analysis.sKgT * klass.sY1Frac * (autumn && plan.season.winterDrainageMm > 250 ? 0.5 : 1),
  };
}

const coverWords = (app: OrganicApplication): string => {
  const first = app.coverings[0];
  return first ? `${first.kind.replace('_inversion', 'ed in').replaceAll('_', ' ').replace(/^plough ed/, 'ploughed').replace(/^disc or.*$/, 'disced in')} after ${first.hours} h` : 'not worked in';
};

function thisSeasonLine(a: AssessedApplication): LedgerLine {
  const { app, material } = a;
  const origin = a.analysis.fromBook.includes('N') ? 'book value' : 'laboratory';
  const rate = (id: string): Step => entered(id, 'Rate', app.rate, app.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha', app.rateUnit === 'm3_ha' ? `${a.rateTHa.toFixed(1)} t/ha at ${material.densityKgM3} kg/m3` : undefined);
  const plain = (x: 'p' | 'k' | 's', label: string, value: number, content: number, formula: string) => step(`applied.organic.${app.id}.${x}`, label, value, 'kg/ha', { formula, source: 'chapter 2, section 5', confidence: origin === 'laboratory' ? 'medium' : 'low', inputs: [rate(`applied.organic.${app.id}.${x}.rate`), step(`applied.organic.${app.id}.${x}.content`, `${label} content`, content, 'kg/t', { source: a.analysis.fromBook.includes(x.toUpperCase()) ? 'book value' : 'laboratory' })] });
  return {
    id: `organic.${app.id}`, label: `${material.name}, ${app.rate} ${app.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha'}`, detail: `${app.status === 'done' ? 'spread' : 'planned'}, ${coverWords(app)}`, kind: a.nKgHa < 0 ? 'debit' : 'applied', evidence: origin === 'laboratory' ? 'laboratory' : 'book', date: app.date,
    n: Math.abs(a.nKgHa), p: a.pKgHa, k: a.kKgHa, s: a.sKgHa, error: origin === 'laboratory' ? LINE_ERROR.manure_lab : LINE_ERROR.manure_book, struck: null,
    why: {
      n: step(`applied.organic.${app.id}.n`, `Available N of ${material.name}`, a.nKgHa, 'kg/ha', { formula: 'rate x plant-available N per tonne', confidence: origin === 'laboratory' ? 'medium' : 'low', source: origin, inputs: [rate(`applied.organic.${app.id}.n.rate`), a.pan.why, a.loss.why] }),
      p: plain('p', 'P', a.pKgHa, a.analysis.pKgT, 'rate x content; only the first-year share where the soil test is low'),
      k: plain('k', 'K', a.kKgHa, a.analysis.kKgT, 'rate x content; only the first-year share where the soil test is low'),
      s: plain('s', 'S', a.sKgHa, a.analysis.sKgT, 'rate x content x first-year share'),
    },
  };
}

export interface OrganicCredits {
  lines: LedgerLine[];
  assessed: AssessedApplication[];
  earlierCount: number;
}
/** S that manure of years 2 and 3 still gives, as a share of all its S (chapter 2, 5.2). */
const S_LATER_YEARS = 0.05;

/** Manure and compost of this season (applied) and of earlier years (a credit). A material that ties N up is a debit. */
export function organicLines(plan: Plan, ground: GroundAssessment, calendar: SeasonCalendar | null, problems: Problem[]): OrganicCredits {
  const now = plan.organics.filter((a) => a.cropYear < 2);
  const earlier = plan.organics.filter((a) => a.cropYear >= 2);
  const assessed = now.flatMap((app) => attempt(problems, 'budget', () => assessApplication(plan, app, ground, calendar)) ?? []);
  const lines = assessed.flatMap((a): LedgerLine[] => {
    const line = thisSeasonLine(a);
    if (line.kind !== 'debit') return [line];
    // Tie-up is a debit of N; the P, K and S that come with it are still brought.
    return [{ ...line, id: `${line.id}.tie_up`, label: `${a.material.name} ties up N`, p: null, k: null, s: null, why: { n: line.why.n } }, { ...line, kind: 'applied', n: 0, why: { p: line.why.p, k: line.why.k, s: line.why.s } }];
  });
  const residual = earlier.length === 0 ? null : attempt(problems, 'budget', () => residualCredit({ apps: earlier.map((a) => ({ mat: a.materialKey, rateTHa: rateInTonnes(a, materialOf(a.materialKey)), yearK: a.cropYear, lab: a.lab })) }));
  if (residual) {
    const s = earlier.filter((a) => a.cropYear <= 3 && !['struvite', 'none'].includes(materialOf(a.materialKey).mineralisationClass)).reduce((sum, a) => sum + rateInTonnes(a, materialOf(a.materialKey)) * analysisOf(materialOf(a.materialKey), a.lab).sKgT * S_LATER_YEARS, 0);
    lines.push({
      id: 'manure_earlier_years', label: 'Manure of earlier years', detail: earlier.map((a) => `${a.cropYear - 1} y ago ${a.rate} ${a.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha'}`).join(', '), kind: 'credit', evidence: earlier.every((a) => a.lab?.totalNKgT != null) ? 'laboratory' : 'book', date: null, n: residual.creditKgHa, p: null, k: null, s, error: LINE_ERROR.manure_book, struck: null,
      why: { n: residual.why, s: step('credit.manure_residual.s', 'S of earlier manure', s, 'kg/ha', { formula: '5 % of its S a year in years 2 and 3', source: 'chapter 2, 5.2', confidence: 'low' }) },
    });
  }
  return { lines, assessed, earlierCount: earlier.length };
}
