import { caps, uncertainty } from '../budget/ledger';
import { limitingFactor, type LimitingResult } from '../budget/limiting';
import { offtake } from '../budget/offtake';
import { realisticYield } from '../budget/requirement';
import { budgetRules, type BudgetFacts } from '../budget/rules';
import { stageDate } from '../nitrogen/stageClock';
import { applicationRules, historyRules } from '../organics/rules';
import { daysBetween } from '../quantity/calendar';
import { fromHundredths } from '../quantity/rounding';
import { cropOf, crosswalkOf, type Crop } from '../reference/crops';
import { lateNOf } from '../reference/budgetTables';
import { legumeOf } from '../reference/legumes';
import { spreadingMethodOf } from '../reference/organicMaterials';
import { organicsParameter, pathogenIntervals } from '../reference/organicTables';
import { pScreenOf } from '../reference/soilTests';
import { textureGroup } from '../reference/soils';
import { byLevel, judge, type Warning } from '../rules/rule';
import { step, type Step } from '../why/step';
import { isAutumn, seasonCalendar, type SeasonCalendar } from './calendar';
import { dateOf } from './days';
import { soilCreditLines, type SoilCredits } from './creditLines';
import type { Plan } from './document';
import { assessGround, groundWarnings, type GroundAssessment } from './groundReading';
import { assessLime, type LimeAssessment } from './lime';
import { hundredths, NUTRIENT_KEYS, type LedgerLine, type NutrientKey } from './line';
import { organicLines, type AssessedApplication, type OrganicCredits } from './organicLines';
import { attempt, type Problem, type Station } from './problem';
import { nSchoolOf, requirementLine } from './requirementLine';
import { secondaryWarnings } from './secondary';
import { assessSupply, type Supply } from './supply';

/** The sum of one nutrient, kg/ha, exact in hundredths. `afterPlan` is net less the fertiliser passes: negative when over-supplied. */
export interface NutrientSum {
  requirement: number;
  debits: number;
  credits: number;
  applied: number;
  fixation: number;
  net: number;
  toBring: number;
  surplus: number;
  planned: number;
  afterPlan: number;
}
export type StationWord = 'done' | 'open' | 'stopped';
export interface StationState {
  state: StationWord;
  /** What is missing, what must be put right, or nothing. */
  note: string;
}
export interface Assessment {
  cropName: string | null;
  lines: LedgerLine[];
  sums: Record<NutrientKey, NutrientSum>;
  ground: GroundAssessment;
  /** Lime, once somebody has opened it for this field. */
  lime: LimeAssessment | null;
  limiting: LimitingResult | null;
  realistic: ReturnType<typeof realisticYield> | null;
  uncertainty: { sdNetKgHa: number; testFirst: string | null };
  caps: { nAllowedKgHa: number; shortfallKgHa: number; binding: string | null };
  organics: AssessedApplication[];
  supply: Supply;
  runDownDate: string | null;
  warnings: Warning[];
  problems: Problem[];
  stations: Record<Station, StationState>;
  /** Roots of the why-trees, by figure. */
  figures: Step[];
  /** Stages borrowed from a similar crop, or a crop without a stage table. */
  stageNote: string | null;
}

function sumUp(lines: readonly LedgerLine[], x: NutrientKey, planned: number, fixing: boolean): NutrientSum {
  const of = (kind: LedgerLine['kind']) => lines.reduce((s, l) => s + (l.kind === kind ? hundredths(l, x) : 0), 0);
  const [requirement, debits, credits, applied] = [of('requirement'), of('debit'), of('credit'), of('applied')];
  const gross = requirement + debits - credits - applied;
  const fixation = fixing && x === 'n' ? Math.max(0, gross) : 0;
  const net = gross - fixation;
  const plannedH = Math.round(planned * 100);
  return { requirement: fromHundredths(requirement), debits: fromHundredths(debits), credits: fromHundredths(credits), applied: fromHundredths(applied), fixation: fromHundredths(fixation), net: fromHundredths(net), toBring: fromHundredths(Math.max(0, net)), surplus: fromHundredths(Math.max(0, -net)), planned: fromHundredths(plannedH), afterPlan: fromHundredths(net - plannedH) };
}

const SYMBOLS: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };

const balanceStep = (x: NutrientKey, sum: NutrientSum, lines: readonly LedgerLine[]): Step =>
  step(`balance.${x}`, `${SYMBOLS[x]} still to bring`, sum.toBring, 'kg/ha', {
    formula: 'requirement + debits - credits - applied; a surplus of one nutrient never pays for another', source: 'chapter 1, B1', confidence: 'high', note: sum.surplus > 0 ? `Surplus ${sum.surplus.toFixed(2)} kg/ha` : undefined,
    inputs: lines.filter((l) => l[x] !== null && l.struck === null).map((l) => l.why[x] ?? step(`line.${l.id}.${x}`, l.label, l[x], 'kg/ha')),
  });

const fixes = (crop: Crop | null): boolean => crop?.nFixing === 'grain_legume' || crop?.nFixing === 'forage_legume';

/** Midpoint of the lowest index, where nothing was sampled, kg N/ha. */
const POOREST_SOIL_N = 50;
function limits(plan: Plan, crop: Crop, ground: GroundAssessment, sums: Assessment['sums'], supply: Supply, nitrateKgHa: number | null, problems: Problem[]): LimitingResult | null {
  const { n } = sums;
  const soilN = nSchoolOf(plan, crop) === 'yield_goal' ? 0 : (nitrateKgHa ?? POOREST_SOIL_N);
  const part = (x: 'p' | 'k' | 's') => ({ plannedKgHa: supply.total[x] + sums[x].applied, neededKgHa: sums[x].requirement, banded: x === 'p' && supply.passes.some((q) => ['starter_5x5', 'seed_row', 'strip_till_band'].includes(q.pass.placementId)) });
  return attempt(problems, 'budget', () => limitingFactor({
    // A dose already leaves out what the soil gives: it is put back on both sides (chapter 1, L1).
    cropKey: crop.key, yieldGoalTHa: plan.season.yieldGoalTHa ?? 0, nSupplyKgHa: Math.max(0, soilN + n.credits + n.applied + n.planned - n.debits), nNeedKgHa: fixes(crop) ? 0 : soilN + n.requirement, classes: ground.classes, phWater: ground.planning?.ph ?? null, planned: { P: part('p'), K: part('k'), S: part('s') },
  }));
}

function budgetFacts(plan: Plan, crop: Crop, a: { ground: GroundAssessment; credits: SoilCredits; sums: Assessment['sums']; supply: Supply; limiting: LimitingResult | null; realistic: Assessment['realistic']; caps: Assessment['caps'] }): BudgetFacts {
  const { season, ground, previous } = plan;
  const legumeRow = previous?.kind === 'legume' ? legumeOf(previous.legumeKey).find((r) => r.standClass === (a.credits.legume?.standClass ?? '')) : undefined;
  const sampled = ground.nitrateLayers.length > 0;
  const sampleDate = sampled ? ground.nitrateSampleDate : null;
  const spreadBefore = sampleDate ? [...plan.organics.filter((o) => o.cropYear < 2), ...plan.passes].map((e) => daysBetween(e.date, sampleDate)).filter((d) => d >= 0) : [];
  const { n, s } = a.sums;
  const p = a.limiting?.relativeYields.find((f) => f.factor === 'P');
  const lowest = a.limiting?.relativeYields[0];
  return {
    crop, yieldGoal: season.yieldGoalTHa ?? 0, realistic: a.realistic && !a.realistic.bookYield ? { mean: a.realistic.meanTHa, tooHigh: a.realistic.tooHigh, realistic: a.realistic.realisticYieldTHa } : null,
    nitrateSampled: sampled, nitrateSampledToCm: a.credits.nitrate?.sampledToCm ?? null, nitrateAgeDays: sampleDate && season.plantingDate && season.plantingDate > sampleDate ? daysBetween(sampleDate, season.plantingDate) : null, nitrateAutumn: sampleDate !== null && isAutumn(sampleDate, plan.field.latitudeDeg) && (season.harvestDate ?? '9999') > sampleDate,
    nitrateMaxMgKg: Math.max(0, ...ground.nitrateLayers.map((l) => l.no3nMgKg)), manuredBeforeSampleDays: spreadBefore.length > 0 ? Math.min(...spreadBefore) : null, drainageMm: season.winterDrainageMm, texture: textureGroup(plan.field.soilTextureId), omPct: plan.field.omPct, omUsed: a.credits.omUsed,
    omCredit: a.credits.lines.find((l) => l.id === 'om_mineralisation')?.n ?? 0, omDepthCm: plan.field.omDepthCm,
    legume: previous?.kind === 'legume' && a.credits.legume ? {
      claimed: previous.standClass, derived: a.credits.legume.derivedClass, used: a.credits.legume.standClass, plants: previous.plantsM2, coverPct: previous.legumeCoverPct, removedFrac: previous.removedFracTops ?? 0, credit: a.credits.legume.creditKgHa, uncut: legumeRow ? legumeRow.creditRootsKgHa + legumeRow.creditTopsKgHa : 0, killTiming: previous.killTiming, yearsSinceKill: previous.yearsSinceKill,
      grain: legumeOf(previous.legumeKey)[0]?.useType === 'grain_legume', greenManure: ['biennial_green_manure', 'annual_green_manure', 'companion'].includes(legumeOf(previous.legumeKey)[0]?.useType ?? ''),
    } : null,
    requirementN: n.requirement, toBringN: n.toBring, surplusN: n.surplus, supplyN: n.credits + n.applied + n.planned - n.debits, plannedN: n.planned, plannedP: a.sums.p.planned, plannedK: a.sums.k.planned + a.sums.k.applied, sToBring: Math.max(0, s.afterPlan),
    nSupplyTotal: n.credits + n.applied + n.planned, sSupplyTotal: s.credits + s.applied + s.planned, classes: a.ground.classes, offtakeK: crop.removalKKgT * (season.yieldGoalTHa ?? 0), ryP: p?.ry ?? null,
    limiting: a.limiting && lowest ? { factor: a.limiting.limiting, coLimiting: a.limiting.coLimiting, ry: lowest.ry, liebig: a.limiting.yLiebigTHa } : null, ph: a.ground.planning?.ph ?? null, cap: { binding: a.caps.binding, allowed: a.caps.nAllowedKgHa, shortfall: a.caps.shortfallKgHa }, fixing: fixes(crop),
  };
}

/** Date on which a crop that late N spoils should run short of N: its stage by the clock, else its days before harvest (chapter 1, section 4). */
function runDownDate(calendar: SeasonCalendar, crop: Crop): string | null {
  const row = crop.lateNSensitivity >= 2 ? lateNOf(crop.key) : undefined;
  if (!row) return null;
  const byStage = calendar.seasonCropId && !calendar.proxy ? stageDate(calendar.clock, calendar.seasonCropId, String(row.runDownBbch)) : null;
  return byStage ?? dateOf(calendar, Math.max(0, calendar.days - row.daysBeforeHarvestMax));
}

/** Days to harvest that fresh manure must keep from a crop eaten raw. */
function intervalDays(pathogenClass: string, touchesSoil: boolean): number {
  const situation = touchesSoil ? 'raw_soil_contact' : 'raw_no_contact';
  const row = pathogenIntervals().find((r) => r.ruleKey === situation && r.materialClass.split(';').includes(pathogenClass)) ?? (touchesSoil ? pathogenIntervals().find((r) => r.ruleKey === pathogenClass) : undefined);
  return row?.intervalD ?? 0;
}

function organicWarnings(plan: Plan, crop: Crop, organic: OrganicCredits, ground: GroundAssessment, sums: Assessment['sums']): Warning[] {
  const { season, field } = plan;
  const olsen = ground.pTest?.extractant === 'olsen';
  const screen = ground.pTest ? pScreenOf(ground.pTest.extractant) : undefined;
  const offtakeP = offtake({ cropKey: crop.key, yieldTHa: season.yieldGoalTHa ?? 0 }).offtakePKgHa;
  const all = organic.assessed.flatMap((a) => judge(applicationRules, {
    material: a.material, analysis: a.analysis, labBroken: a.labBroken, done: a.app.status === 'done', rateTHa: a.rateTHa, rateM3Ha: a.app.rateUnit === 'm3_ha' ? a.app.rate : null, maxPracticalM3Ha: spreadingMethodOf(a.app.methodKey).rateUnit === 'm3_ha' ? spreadingMethodOf(a.app.methodKey).maxPracticalRate : null,
    tanKgHa: a.tanKgHa, lossFrac: a.loss.lossFrac, lossPlannedFrac: a.lossPlannedFrac, lostKgHa: a.lostKgHa, lostMoney: Math.round(a.lostMoney), plannedHours: a.app.plannedHours, coveredHours: a.app.coverings[0]?.hours ?? null, autumn: a.autumn, panKgHa: a.nKgHa, needKgHa: sums.n.requirement - sums.n.credits, pSuppliedKgHa: a.pTotalKgHa, pOfftakeKgHa: offtakeP,
    pTest: ground.pTest?.value ?? null,
    // Chapter 2's screens by extractant (Olsen 30 and 60, Mehlich-3 and Bray-1 50 and 100); other extractants use chapter 3's.
    pCautionAt: olsen ? 30 : screen && !['mehlich_3_icp', 'bray_1'].includes(ground.pTest?.extractant ?? '') ? screen.cautionAt : Number(organicsParameter('p_caution_mg_kg').default),
    pScreenAt: olsen ? 60 : screen && !['mehlich_3_icp', 'bray_1'].includes(ground.pTest?.extractant ?? '') ? screen.stopAbove : Number(organicsParameter('p_screen_mg_kg').default),
    daysToPlanting: season.plantingDate ? daysBetween(a.app.date, season.plantingDate) : null, daysToHarvest: season.harvestDate ? daysBetween(a.app.date, season.harvestDate) : null, eatenRaw: season.eatenRaw, touchesSoil: season.touchesSoil, intervalD: intervalDays(a.material.pathogenClass, season.touchesSoil),
    certified: field.certification !== 'none', cropName: crop.name, tieUp: a.nKgHa < 0,
  }, a.material.name));
  // An estimate for what is missing: last year's usual dressing of this year's material.
  const usual = organic.assessed[0];
  const guess = usual ? usual.pan.orgNKgT * usual.rateTHa * 0.1 : 10;
  return [...all, ...judge(historyRules, { history: plan.manureHistory, earlierCount: organic.earlierCount, estimateKgHa: guess })];
}

function stationStates(plan: Plan, a: { ground: GroundAssessment; supply: Supply; sums: Assessment['sums']; calendar: SeasonCalendar | null }, warnings: readonly Warning[], problems: readonly Problem[]): Assessment['stations'] {
  const { season, ground } = plan;
  const stop = (modules: readonly string[]) => warnings.find((w) => w.level === 'stop' && modules.includes(w.module));
  const cautions = (modules: readonly string[]) => warnings.filter((w) => w.level === 'caution' && modules.includes(w.module)).length;
  const settle = (k: number) => (k > 0 ? `${k} to settle` : '');
  const missing = (...list: [unknown, string][]) => list.filter(([v]) => v === null || v === 0 || v === false).map(([, w]) => w);
  const state = (station: Station, modules: readonly string[], lacks: string[], note: string): StationState => {
    const halted = stop(modules);
    const problem = problems.find((p) => p.station === station);
    if (halted) return { state: 'stopped', note: halted.message };
    if (problem) return { state: 'open', note: problem.message };
    return lacks.length > 0 ? { state: 'open', note: station === 'supply' ? lacks.join(', ') : `missing: ${lacks.join(', ')}` } : { state: 'done', note };
  };
  const has = (x: string) => ground.readings.some((r) => r.nutrient === x);
  const cropLacks = missing([season.cropKey, 'crop'], [season.yieldGoalTHa, 'yield goal'], [season.harvestDate, 'harvest date'], [season.plantingDate !== null || season.plantingYear !== null || a.calendar !== null, 'planting date'], [plan.previous, 'previous crop']);
  const short = a.sums.n.afterPlan;
  const placed = season.cropKey === null ? ['crop first'] : short > 15 ? [`${Math.round(short)} kg N/ha not placed`] : [];
  return {
    ground: state('ground', ['ground'], missing([ground.phWater ?? ground.phCacl2, 'pH'], [has('p'), 'P'], [has('k'), 'K']), settle(cautions(['ground']))),
    crop: state('crop', [], cropLacks, ''),
    budget: state('budget', ['budget', 'organics'], season.cropKey && season.yieldGoalTHa !== null ? (a.calendar ? [] : ['season dates']) : ['crop and yield goal'], settle(cautions(['budget', 'organics']))),
    supply: state('supply', ['nitrogen'], placed, short < -15 ? `${Math.round(-short)} kg N/ha over` : settle(cautions(['nitrogen']))),
    season: { state: 'open', note: 'no leaf sample yet' },
  };
}

/**
 * The whole field plan, assessed: the one door through which app, command line and API get results. Never throws on an unfinished plan:
 * what is missing or refused is named, and the rest goes on.
 */
export function assess(plan: Plan): Assessment {
  const problems: Problem[] = [];
  const crop = plan.season.cropKey ? attempt(problems, 'crop', () => cropOf(plan.season.cropKey as string)) : null;
  const ready = crop && plan.season.yieldGoalTHa !== null ? crop : null;
  const { plantingDate, harvestDate, startDate } = plan.season;
  if (plantingDate && harvestDate && harvestDate <= plantingDate) problems.push({ station: 'crop', code: 'inconsistent', field: 'harvest_date', value: harvestDate, allowed: `after ${plantingDate}`, message: `harvest_date = ${harvestDate} is not after planting on ${plantingDate}.` });
  if (harvestDate && harvestDate <= startDate) problems.push({ station: 'crop', code: 'inconsistent', field: 'harvest_date', value: harvestDate, allowed: `after ${startDate}`, message: `harvest_date = ${harvestDate} lies before the season, which begins on ${startDate}.` });
  const calendar = attempt(problems, 'crop', () => seasonCalendar(plan));
  const ground = assessGround(plan, problems);
  const credits: SoilCredits = ready ? soilCreditLines(plan, ready, calendar, problems) : { lines: [], nitrate: null, legume: null, omUsed: false, omTestDepthCm: 20 };
  const required = ready ? attempt(problems, plan.schools.n === 'yield_goal' ? 'crop' : 'budget', () => requirementLine(plan, ready, ground, credits.nitrate?.soilNKgHa ?? null)) : null;
  const organic: OrganicCredits = ready ? organicLines(plan, ground, problems) : { lines: [], assessed: [], earlierCount: 0 };
  const supply = assessSupply(plan, calendar, problems);
  const lines = [...(required ? [required] : []), ...credits.lines, ...organic.lines].map((l) => ({ ...l, struck: plan.struck.find((s) => s.line === l.id)?.reason ?? l.struck }));
  const sums = Object.fromEntries(NUTRIENT_KEYS.map((x) => [x, sumUp(lines, x, supply.total[x], fixes(ready))])) as Assessment['sums'];
  const limiting = ready && required ? limits(plan, ready, ground, sums, supply, credits.nitrate?.soilNKgHa ?? null, problems) : null;
  const lime = plan.lime ? assessLime(plan, ground, limiting?.relativeYields.find((f) => f.factor === 'pH')?.ry ?? null, problems) : null;
  const realistic = ready && plan.season.yieldHistoryTHa.length > 0 ? attempt(problems, 'crop', () => realisticYield({ cropKey: ready.key, yieldHistoryTHa: plan.season.yieldHistoryTHa, yieldGoalTHa: plan.season.yieldGoalTHa })) : null;
  const noCeiling: Assessment['caps'] = { nAllowedKgHa: 0, shortfallKgHa: 0, binding: null };
  // An absurd dressing is named; it must not take the rest of the plan with it.
  const ceiling = ready ? (attempt(problems, 'budget', () => caps({ toBringKgHa: sums.n.toBring, nCapKgHa: ready.nCapKgHa, appliedKgHa: Math.min(sums.n.applied, 2000), legalCapKgHa: plan.farm.legalNCapKgHa, countedForLegalKgHa: sums.n.applied })) ?? noCeiling) : noCeiling;
  const sure = attempt(problems, 'budget', () => uncertainty({ lines: lines.filter((l) => l.struck === null && l.n !== null).map((l) => ({ name: l.label, kgHa: l.n ?? 0, se: l.error })) })) ?? { sdNetKgHa: 0, testFirst: null };
  const runDown = calendar && ready ? runDownDate(calendar, ready) : null;
  const warnings = [
    ...groundWarnings(plan, ground, supply.total.p + sums.p.applied),
    ...(lime?.warnings ?? []),
    ...(crop ? (attempt(problems, 'supply', () => secondaryWarnings(plan, crop)) ?? []) : []),
    ...(ready && required ? judge(budgetRules, budgetFacts(plan, ready, { ground, credits, sums, supply, limiting, realistic, caps: ceiling })) : []),
    ...(ready && required ? organicWarnings(plan, ready, organic, ground, sums) : []),
    ...supply.passes.flatMap((p) => p.warnings),
  ].sort(byLevel);
  const figures = [...NUTRIENT_KEYS.map((x) => balanceStep(x, sums[x], lines)), ...(ground.planning ? [ground.planning.why] : []), ...(ground.gate ? [ground.gate.why] : []), ...ground.readings.flatMap((r) => (r.classified ? [r.classified.why] : [])), ...supply.passes.map((p) => p.why), ...(limiting?.relativeYields.map((f) => f.why) ?? []), ...(lime?.requirement.why ? [lime.requirement.why] : []), ...(lime?.rows.map((r) => r.why) ?? [])];
  const walk = crop ? crosswalkOf(crop.key) : null;
  return {
    cropName: crop?.name ?? null, lines, sums, ground, lime, limiting, realistic, caps: ceiling, organics: organic.assessed, supply, runDownDate: runDown, warnings, problems, figures, stations: stationStates(plan, { ground, supply, sums, calendar }, warnings, problems),
    uncertainty: sure,
    stageNote: !walk || !crop ? null : walk.seasonMatch === 'none' ? `No stage table for ${crop.name} yet: uptake follows the calendar, passes are placed by date.` : walk.seasonMatch === 'proxy' ? `Stages of ${crop.name} are borrowed from a similar crop (${walk.seasonCropId?.replaceAll('_', ' ')}): watch the field.` : null,
  };
}
