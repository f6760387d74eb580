import { caps, uncertainty } from '../budget/ledger';
import { limitingFactor, type LimitingResult } from '../budget/limiting';
import { realisticYield } from '../budget/requirement';
import { secondaryOfftake } from '../budget/offtake';
import { stageDate } from '../nitrogen/stageClock';
import type { Book } from '../book/book';
import { fromHundredths } from '../quantity/rounding';
import { cropOf, crosswalkOf, type Crop } from '../book/crops';
import { lateNOf } from '../book/budgetTables';
import { byLevel, type Warning } from '../rules/rule';
import { step, type Step } from '../why/step';
import { seasonCalendar, type SeasonCalendar } from '../lines/calendar';
import { dateOf } from '../lines/days';
import { budgetWarnings } from '../warnings/budgetWarnings';
import { buildWarnings } from '../lines/pkRequirement';
import { soilCreditLines, type SoilCredits } from '../lines/creditLines';
import { chosenSchools } from '../lines/chosenSchools';
import type { Plan } from '../document/document';
import { withoutUnknown } from '../document/keys';
import { assessGround, groundWarnings, type GroundAssessment } from '../lines/groundReading';
import { assessLime, type LimeAssessment } from '../lines/lime';
import {
  hundredths,
  NUTRIENT_KEYS,
  type LedgerLine,
  type NutrientKey,
  type NutrientSum,
  type PlanSums,
} from '../lines/line';
import { organicLines, type AssessedApplication, type OrganicCredits } from '../lines/organicLines';
import { organicWarnings } from '../warnings/organicWarnings';
import { attempt, type Problem, type Station } from '../lines/problem';
import { fixes as fixesN, nSchoolOf, requirementLine } from '../lines/requirementLine';
import { readLeaves, type LeafReading } from '../lines/leaf';
import { secondaryWarnings } from '../lines/secondary';
import { assessSupply, type Supply } from '../lines/supply';

export type StationWord = 'done' | 'open' | 'stopped';
export interface StationState {
  state: StationWord;
  /** What is missing, what must be put right, or nothing. */
  note: string;
}
export interface Assessment {
  cropName: string | null;
  lines: LedgerLine[];
  sums: PlanSums;
  ground: GroundAssessment;
  /** Lime, once somebody has opened it for this field. */
  lime: LimeAssessment | null;
  limiting: LimitingResult | null;
  realistic: ReturnType<typeof realisticYield> | null;
  uncertainty: { sdNetKgHa: number; testFirst: string | null };
  caps: { nAllowedKgHa: number; shortfallKgHa: number; binding: string | null };
  organics: AssessedApplication[];
  supply: Supply;
  leaf: LeafReading;
  runDownDate: string | null;
  /** Ca and Mg that leave with the harvest, kg/ha: for information. */
  secondary: { caKgHa: number; mgKgHa: number } | null;
  warnings: Warning[];
  problems: Problem[];
  stations: Record<Station, StationState>;
  /** Roots of the why-trees, by figure. */
  figures: Step[];
  /** Stages borrowed from a similar crop, or a crop without a stage table. */
  stageNote: string | null;
}

function sumUp(
  lines: readonly LedgerLine[],
  x: NutrientKey,
  planned: number,
  fixing: boolean,
): NutrientSum {
  const of = (kind: LedgerLine['kind']) =>
    lines.reduce((s, l) => s + (l.kind === kind ? hundredths(l, x) : 0), 0);
  const [requirement, debits, credits, applied] = [
    of('requirement'),
    of('debit'),
    of('credit'),
    of('applied'),
  ];
  const gross = requirement + debits - credits - applied;
  const fixation = fixing && x === 'n' ? Math.max(0, gross) : 0;
  const net = gross - fixation;
  const plannedH = Math.round(planned * 100);
  return {
    requirement: fromHundredths(requirement),
    debits: fromHundredths(debits),
    credits: fromHundredths(credits),
    applied: fromHundredths(applied),
    fixation: fromHundredths(fixation),
    net: fromHundredths(net),
    toBring: fromHundredths(Math.max(0, net)),
    surplus: fromHundredths(Math.max(0, -net)),
    planned: fromHundredths(plannedH),
    afterPlan: fromHundredths(net - plannedH),
  };
}

const SYMBOLS: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };

const balanceStep = (x: NutrientKey, sum: NutrientSum, lines: readonly LedgerLine[]): Step =>
  step(`balance.${x}`, `${SYMBOLS[x]} still to bring`, sum.toBring, 'kg/ha', {
    formula:
      'requirement + debits - credits - applied; a surplus of one nutrient never pays for another',
    source: 'chapter 1, B1',
    confidence: 'high',
    note: sum.surplus > 0 ? `Surplus ${sum.surplus.toFixed(2)} kg/ha` : undefined,
    inputs: lines
      .filter((l) => l[x] !== null && l.struck === null)
      .map((l) => l.why[x] ?? step(`line.${l.id}.${x}`, l.label, l[x], 'kg/ha')),
  });

const fixes = (crop: Crop | null): boolean => crop !== null && fixesN(crop);

/** A limit that the user gives: no fertiliser repairs it. */
export const WATER_OR_STAND = 'water or stand';
/** Midpoint of the lowest index, where nothing was sampled, kg N/ha. */
const POOREST_SOIL_N = 50;
function limits(
  book: Book,
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
  sums: PlanSums,
  supply: Supply,
  nitrateKgHa: number | null,
  problems: Problem[],
): LimitingResult | null {
  const { n } = sums;
  const soilN = nSchoolOf(plan, crop) === 'yield_goal' ? 0 : (nitrateKgHa ?? POOREST_SOIL_N);
  const part = (x: 'p' | 'k' | 's') => ({
    plannedKgHa: supply.total[x] + sums[x].applied,
    neededKgHa: sums[x].requirement,
    banded:
      x === 'p' &&
      supply.passes.some((q) =>
        ['starter_5x5', 'seed_row', 'strip_till_band'].includes(q.pass.placementId),
      ),
  });
  return attempt(problems, 'budget', () =>
    limitingFactor(book, {
      // A dose already leaves out what the soil gives: it is put back on both sides (chapter 1, L1).
      cropKey: crop.key,
      yieldGoalTHa: plan.season.yieldGoalTHa ?? 0,
      nSupplyKgHa: Math.max(0, soilN + n.credits + n.applied + n.planned - n.debits),
      nNeedKgHa: fixes(crop) ? 0 : soilN + n.requirement,
      classes: ground.classes,
      phWater: ground.planning?.ph ?? null,
      otherLimits:
        plan.season.stand.otherLimitRy === null
          ? null
          : [{ name: WATER_OR_STAND, relativeYield: plan.season.stand.otherLimitRy }],
      planned: { P: part('p'), K: part('k'), S: part('s') },
    }),
  );
}

/**
 * Date on which a crop that late N spoils should run short of N: its stage by the clock, else its
 * days before harvest (chapter 1, section 4).
 */
function runDownDate(calendar: SeasonCalendar, crop: Crop): string | null {
  const row = crop.lateNSensitivity >= 2 ? lateNOf(crop) : undefined;
  if (!row) return null;
  const byStage =
    calendar.seasonCropId && !calendar.proxy
      ? stageDate(calendar.clock, calendar.seasonCropId, String(row.runDownBbch))
      : null;
  return byStage ?? dateOf(calendar, Math.max(0, calendar.days - row.daysBeforeHarvestMax));
}

function stationStates(
  plan: Plan,
  a: {
    ground: GroundAssessment;
    supply: Supply;
    sums: PlanSums;
    calendar: SeasonCalendar | null;
    leaf: LeafReading;
  },
  warnings: readonly Warning[],
  problems: readonly Problem[],
): Assessment['stations'] {
  const { season, ground } = plan;
  const stop = (modules: readonly string[]) =>
    warnings.find((w) => w.level === 'stop' && modules.includes(w.module));
  const cautions = (modules: readonly string[]) =>
    warnings.filter((w) => w.level === 'caution' && modules.includes(w.module)).length;
  const settle = (k: number) => (k > 0 ? `${k} to settle` : '');
  const missing = (...list: [unknown, string][]) =>
    list.filter(([v]) => v === null || v === 0 || v === false).map(([, w]) => w);
  const state = (
    station: Station,
    modules: readonly string[],
    lacks: string[],
    note: string,
  ): StationState => {
    const halted = stop(modules);
    const problem = problems.find((p) => p.station === station);
    if (halted) return { state: 'stopped', note: halted.message };
    if (problem) return { state: 'open', note: problem.message };
    return lacks.length > 0
      ? {
          state: 'open',
          note: station === 'supply' ? lacks.join(', ') : `missing: ${lacks.join(', ')}`,
        }
      : { state: 'done', note };
  };
  const { leaf } = a;
  const has = (x: string) => ground.readings.some((r) => r.nutrient === x);
  const cropLacks = missing(
    [season.cropKey, 'crop'],
    [season.yieldGoalTHa, 'yield goal'],
    [season.harvestDate, 'harvest date'],
    [
      season.plantingDate !== null || season.plantingYear !== null || a.calendar !== null,
      'planting date',
    ],
    [plan.previous, 'previous crop'],
  );
  const short = a.sums.n.afterPlan;
  const placed =
    season.cropKey === null
      ? ['crop first']
      : short > 15
        ? [`${Math.round(short)} kg N/ha not placed`]
        : [];
  return {
    ground: state(
      'ground',
      ['ground'],
      missing([ground.phWater ?? ground.phCacl2, 'pH'], [has('p'), 'P'], [has('k'), 'K']),
      settle(cautions(['ground'])),
    ),
    crop: state('crop', [], cropLacks, ''),
    budget: state(
      'budget',
      ['budget', 'organics'],
      season.cropKey && season.yieldGoalTHa !== null
        ? a.calendar
          ? []
          : ['season dates']
        : ['crop and yield goal'],
      settle(cautions(['budget', 'organics'])),
    ),
    supply: state(
      'supply',
      ['nitrogen'],
      placed,
      short < -15 ? `${Math.round(-short)} kg N/ha over` : settle(cautions(['nitrogen'])),
    ),
    season:
      leaf.datesOfSeason.length === 0
        ? { state: 'open', note: 'no leaf sample yet' }
        : {
            state: 'done',
            note: leaf.short.length > 0 ? `short: ${leaf.short.join(', ')}` : '',
          },
  };
}

/** Where a field of the plan is put right. */
const stationOf = (field: string): Station =>
  /^(field\.soil|field\.climate|lime|ground)/.test(field)
    ? 'ground'
    : field.startsWith('organics')
      ? 'budget'
      : field.startsWith('passes')
        ? 'supply'
        : field.startsWith('leaves')
          ? 'season'
          : 'crop';

/**
 * The whole field plan, assessed: the one door through which app, command line and API get results.
 * Never throws on an unfinished plan:
 * what is missing or refused is named, and the rest goes on.
 */
export const assess = (book: Book, plan: Plan): Assessment => assessSeason(book, plan).assessment;

/**
 * The assessment with what it was reckoned on: the plan without unknown keys, and the season laid
 * out in days. Views draw from the same.
 */
export interface AssessedSeason {
  plan: Plan;
  calendar: SeasonCalendar | null;
  assessment: Assessment;
}
export function assessSeason(book: Book, given: Plan): AssessedSeason {
  const { plan, unknown } = withoutUnknown(book, given);
  const problems: Problem[] = unknown.map((u) => ({ ...u, station: stationOf(u.field) }));
  const crop = plan.season.cropKey
    ? attempt(problems, 'crop', () => cropOf(book, plan.season.cropKey as string))
    : null;
  const ready = crop && plan.season.yieldGoalTHa !== null ? crop : null;
  const { plantingDate, harvestDate, startDate } = plan.season;
  if (plantingDate && harvestDate && harvestDate <= plantingDate)
    problems.push({
      station: 'crop',
      code: 'inconsistent',
      field: 'harvest_date',
      value: harvestDate,
      allowed: `after ${plantingDate}`,
      message: `harvest_date = ${harvestDate} is not after planting on ${plantingDate}.`,
    });
  if (harvestDate && harvestDate <= startDate)
    problems.push({
      station: 'crop',
      code: 'inconsistent',
      field: 'harvest_date',
      value: harvestDate,
      allowed: `after ${startDate}`,
      message: `harvest_date = ${harvestDate} lies before the season, which begins on ${startDate}.`,
    });
  const calendar = attempt(problems, 'crop', () => seasonCalendar(book, plan));
  const ground = assessGround(book, plan, problems);
  const credits: SoilCredits = ready
    ? soilCreditLines(book, plan, ready, calendar, problems)
    : {
        lines: [],
        nitrate: null,
        legume: null,
        greenManure: null,
        omUsed: false,
        omTestDepthCm: 20,
      };
  const required = ready
    ? attempt(problems, chosenSchools(plan).n === 'yield_goal' ? 'crop' : 'budget', () =>
        requirementLine(book, plan, ready, ground, credits.nitrate?.soilNKgHa ?? null),
      )
    : null;
  const organic: OrganicCredits = ready
    ? organicLines(book, plan, ready, ground, calendar, problems)
    : { lines: [], assessed: [], earlierCount: 0 };
  const supply = assessSupply(book, plan, calendar, problems);
  const lines = [...(required ? [required] : []), ...credits.lines, ...organic.lines].map((l) => ({
    ...l,
    struck: plan.struck.find((s) => s.line === l.id)?.reason ?? l.struck,
  }));
  const sums = Object.fromEntries(
    NUTRIENT_KEYS.map((x) => [x, sumUp(lines, x, supply.total[x], fixes(ready))]),
  ) as PlanSums;
  const limiting =
    ready && required
      ? limits(
          book,
          plan,
          ready,
          ground,
          sums,
          supply,
          credits.nitrate?.soilNKgHa ?? null,
          problems,
        )
      : null;
  const lime = plan.lime
    ? assessLime(
        book,
        plan,
        ground,
        limiting?.relativeYields.find((f) => f.factor === 'pH')?.ry ?? null,
        problems,
      )
    : null;
  const realistic =
    ready && plan.season.yieldHistoryTHa.length > 0
      ? attempt(problems, 'crop', () =>
          realisticYield(book, {
            cropKey: ready.key,
            yieldHistoryTHa: plan.season.yieldHistoryTHa,
            yieldGoalTHa: plan.season.yieldGoalTHa,
          }),
        )
      : null;
  const noCeiling: Assessment['caps'] = { nAllowedKgHa: 0, shortfallKgHa: 0, binding: null };
  // An absurd dressing is named; it must not take the rest of the plan with it.
  const ceiling = ready
    ? (attempt(problems, 'budget', () =>
        caps({
          toBringKgHa: sums.n.toBring,
          nCapKgHa: ready.nCapKgHa,
          appliedKgHa: Math.min(sums.n.applied, 2000),
          legalCapKgHa: plan.farm.legalNCapKgHa,
          countedForLegalKgHa: sums.n.applied,
        }),
      ) ?? noCeiling)
    : noCeiling;
  const sure = attempt(problems, 'budget', () =>
    uncertainty({
      lines: lines
        .filter((l) => l.struck === null && l.n !== null)
        .map((l) => ({ name: l.label, kgHa: l.n ?? 0, se: l.error })),
    }),
  ) ?? { sdNetKgHa: 0, testFirst: null };
  const runDown = calendar && ready ? runDownDate(calendar, ready) : null;
  const leaf = readLeaves(book, plan, problems);
  const warnings = [
    ...groundWarnings(book, plan, ground, supply.total.p + sums.p.applied),
    ...(lime?.warnings ?? []),
    ...(crop ? (attempt(problems, 'supply', () => secondaryWarnings(book, plan, crop)) ?? []) : []),
    ...(ready && required
      ? (attempt(problems, 'budget', () =>
          budgetWarnings(book, plan, ready, {
            ground,
            credits,
            organic,
            sums,
            supply,
            limiting,
            realistic,
            caps: ceiling,
            calendar,
            runDown,
          }),
        ) ?? [])
      : []),
    ...(ready
      ? (attempt(problems, 'budget', () => buildWarnings(book, plan, ready, ground)) ?? [])
      : []),
    ...(ready && required
      ? (attempt(problems, 'budget', () =>
          organicWarnings(book, plan, ready, organic, ground, sums, calendar, runDown),
        ) ?? [])
      : []),
    ...supply.passes.flatMap((p) => p.warnings),
  ].sort(byLevel);
  const figures = [
    ...NUTRIENT_KEYS.map((x) => balanceStep(x, sums[x], lines)),
    ...(ground.planning ? [ground.planning.why] : []),
    ...(ground.gate ? [ground.gate.why] : []),
    ...ground.readings.flatMap((r) => (r.classified ? [r.classified.why] : [])),
    ...supply.passes.map((p) => p.why),
    ...(limiting?.relativeYields.map((f) => f.why) ?? []),
    ...(lime?.requirement.why ? [lime.requirement.why] : []),
    ...(lime?.rows.map((r) => r.why) ?? []),
  ];
  const walk = crop ? crosswalkOf(book, crop.key) : null;
  const assessment: Assessment = {
    cropName: crop?.name ?? null,
    lines,
    sums,
    ground,
    lime,
    limiting,
    realistic,
    caps: ceiling,
    organics: organic.assessed,
    supply,
    leaf,
    runDownDate: runDown,
    secondary: ready
      ? attempt([], 'budget', () =>
          secondaryOfftake(book, { cropKey: ready.key, yieldTHa: plan.season.yieldGoalTHa ?? 0 }),
        )
      : null,
    warnings,
    problems,
    figures,
    stations: stationStates(plan, { ground, supply, sums, calendar, leaf }, warnings, problems),
    uncertainty: sure,
    stageNote:
      !walk || !crop
        ? null
        : walk.seasonMatch === 'none'
          ? `No stage table for ${crop.name} yet: uptake follows the calendar, passes are placed by date.`
          : walk.seasonMatch === 'proxy'
            ? `Stages of ${crop.name} are borrowed from a similar crop (${walk.seasonCropId?.replaceAll('_', ' ')}): watch the field.`
            : null,
  };
  return { plan, calendar, assessment };
}
