import type { Book } from '../book/book';
import { cropOf, crosswalkOf, type Crop } from '../book/crops';
import type { LimitingResult } from '../budget/limiting';
import { secondaryOfftake } from '../budget/offtake';
import { realisticYield } from '../budget/requirement';
import type { Plan } from '../document/document';
import { withoutUnknown } from '../document/keys';
import { seasonCalendar, type SeasonCalendar } from '../lines/calendar';
import { chosenSchools } from '../lines/chosenSchools';
import { soilCreditLines, type SoilCredits } from '../lines/creditLines';
import { assessGround, groundWarnings, type GroundAssessment } from '../lines/groundReading';
import { leafVerdict, setByLeaf, type LeafVerdict } from '../lines/leafVerdict';
import { readLeaves, type LeafReading } from '../lines/leaf';
import { assessLime, type LimeAssessment } from '../lines/lime';
import { NUTRIENT_KEYS, type LedgerLine, type PlanSums } from '../lines/line';
import { organicLines, type AssessedApplication, type OrganicCredits } from '../lines/organicLines';
import { buildWarnings } from '../lines/pkRequirement';
import { attempt, type Problem, type Station } from '../lines/problem';
import { requirementLine } from '../lines/requirementLine';
import { secondaryWarnings } from '../lines/secondary';
import { limedInTime, soilFirst, type SoilFirst } from '../lines/soilFirst';
import { assessSupply, type Supply } from '../lines/supply';
import { byLevel, type Warning } from '../rules/rule';
import { budgetWarnings } from '../warnings/budgetWarnings';
import {
  dressingWarnings,
  organicWarnings,
  stoppedDressings,
  type DressingWarnings,
} from '../warnings/organicWarnings';
import { namingSources } from '../warnings/permitted';
import type { Step } from '../why/step';
import { atOdds } from './atOdds';
import { balanceOf } from './balance';
import { limits, runDownDate, type Ceiling } from './limits';
import { stationOf, stationStates, type StationState } from './stations';
import { balanceStep } from './sums';
import { triage, type Caution } from './triage';

export interface Assessment {
  cropName: string | null;
  lines: LedgerLine[];
  sums: PlanSums;
  ground: GroundAssessment;
  /** Lime, once somebody has opened it for this field. */
  lime: LimeAssessment | null;
  /** What this crop waits for in its ground; its fertiliser is told paler until then. */
  soilFirst: SoilFirst | null;
  limiting: LimitingResult | null;
  realistic: ReturnType<typeof realisticYield> | null;
  uncertainty: { sdNetKgHa: number; testFirst: string | null };
  caps: Ceiling;
  organics: AssessedApplication[];
  supply: Supply;
  leaf: LeafReading;
  /** What the leaf of a perennial rules; null where none does. */
  leafSays: LeafVerdict | null;
  runDownDate: string | null;
  /** Ca and Mg that leave with the harvest, kg/ha: for information. */
  secondary: { caKgHa: number; mgKgHa: number } | null;
  warnings: Warning[];
  /** The warnings by their causes, weightiest first, with what somebody answered. */
  cautions: Caution[];
  problems: Problem[];
  stations: Record<Station, StationState>;
  /** Roots of the why-trees, by figure. */
  figures: Step[];
  /** Stages borrowed from a similar crop, or a crop without a stage table. */
  stageNote: string | null;
}

/** What the checks of a whole plan look at. */
interface Checked {
  /** The crop, once its requirement is known. */
  ready: Crop | null;
  ground: GroundAssessment;
  lime: LimeAssessment | null;
  credits: SoilCredits;
  organic: OrganicCredits;
  sums: PlanSums;
  supply: Supply;
  limiting: LimitingResult | null;
  realistic: Assessment['realistic'];
  caps: Ceiling;
  calendar: SeasonCalendar | null;
  runDown: string | null;
  /** What was said of each dressing already; null where the balance has changed since. */
  looked: DressingWarnings | null;
  problems: Problem[];
}
/**
 * Everything that is checked on a plan, trade by trade; stops first. A check that fails is named
 * and costs only itself.
 */
function warningsOf(book: Book, plan: Plan, crop: Crop | null, c: Checked): Warning[] {
  const { ready, ground, organic, sums, supply, problems } = c;
  const checked = (station: Station, check: () => Warning[]): Warning[] =>
    attempt(problems, station, check) ?? [];
  const withCrop = crop === null || plan.season.yieldGoalTHa === null ? null : crop;
  const all = [
    ...groundWarnings(book, plan, ground, sums.p.applied + sums.p.planned).filter(
      // A stop by pH ends when lime on the plan comes in time (chapter 7, W2.3 d).
      (w) => !(limedInTime(c.lime) && ['R01', 'R02'].includes(w.id)),
    ),
    ...(c.lime?.warnings ?? []),
    ...(crop ? checked('supply', () => secondaryWarnings(book, plan, crop)) : []),
    ...(ready
      ? checked('budget', () => budgetWarnings(book, plan, ready, c)).filter(
          (w) => !(limedInTime(c.lime) && w.id === 'L-02'),
        )
      : []),
    ...(withCrop ? checked('budget', () => buildWarnings(book, plan, withCrop, ground)) : []),
    ...(ready
      ? checked('budget', () =>
          organicWarnings(
            book,
            plan,
            ready,
            organic,
            ground,
            sums,
            c.calendar,
            c.runDown,
            c.looked,
          ),
        )
      : []),
    ...supply.passes.flatMap((p) => p.warnings),
  ].sort(byLevel);
  return namingSources(book, plan, all);
}

/** Roots of the why-trees. */
const figuresOf = ({
  lines,
  sums,
  ground,
  supply,
  limiting,
  lime,
}: Pick<Assessment, 'lines' | 'sums' | 'ground' | 'supply' | 'limiting' | 'lime'>): Step[] => [
  ...NUTRIENT_KEYS.map((x) => balanceStep(x, sums[x], lines, supply)),
  ...(ground.planning ? [ground.planning.why] : []),
  ...(ground.gate ? [ground.gate.why] : []),
  ...ground.readings.flatMap((r) => (r.classified ? [r.classified.why] : [])),
  ...supply.passes.map((p) => p.why),
  ...(limiting?.relativeYields.map((f) => f.why) ?? []),
  ...(lime?.requirement.why ? [lime.requirement.why] : []),
  ...(lime?.rows.map((r) => r.why) ?? []),
];

/** Whose stages a crop goes by, where they are not its own. */
function stageNoteOf(book: Book, crop: Crop): string | null {
  const walk = crosswalkOf(book, crop.key);
  if (walk?.seasonMatch === 'none')
    return `No stage table for ${crop.name} yet: uptake follows the calendar, passes are placed by date.`;
  if (walk?.seasonMatch === 'proxy')
    return `Stages of ${crop.name} are borrowed from a similar crop (${walk.seasonCropId?.replaceAll('_', ' ')}): watch the field.`;
  return null;
}

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
  const calendar = attempt(problems, 'crop', () => seasonCalendar(book, plan));
  problems.push(...atOdds(book, plan, calendar));
  const ground = assessGround(book, plan, problems);
  const leaf = readLeaves(book, plan, problems);
  const verdict = ready
    ? attempt(problems, 'season', () => leafVerdict(book, plan, ready, leaf.leaves))
    : null;
  const setBy = setByLeaf(plan, verdict) ? 'leaf' : 'school';
  const credits: SoilCredits = ready
    ? soilCreditLines(book, plan, ready, calendar, setBy, problems)
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
        requirementLine(book, plan, ready, ground, credits.nitrate?.soilNKgHa ?? null, verdict),
      )
    : null;
  const organic: OrganicCredits = ready
    ? organicLines(book, plan, ready, ground, calendar, setBy, problems)
    : { lines: [], assessed: [], earlierCount: 0 };
  const runDown = calendar && ready ? runDownDate(calendar, ready) : null;
  const supply = assessSupply(book, plan, calendar, verdict, runDown, problems);
  const balanced = (stopped: ReadonlyMap<string, string>) =>
    balanceOf(plan, required ? ready : null, {
      lines: [...(required ? [required] : []), ...credits.lines, ...organic.lines],
      stopped,
      supply,
      ground,
      leaf: verdict,
      runDown,
      problems,
    });
  // What may not go out is known once the whole was looked at: its kilograms leave the plan then.
  const first = balanced(new Map());
  const looked =
    ready &&
    required &&
    attempt([], 'budget', () =>
      dressingWarnings(book, {
        plan,
        crop: ready,
        organic,
        ground,
        calendar,
        runDown,
        sums: first.sums,
      }),
    );
  const stopped = looked ? stoppedDressings(looked) : new Map<string, string>();
  const {
    lines,
    sums,
    caps: ceiling,
    uncertainty,
  } = stopped.size === 0 ? first : balanced(stopped);
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
  const waitsFor = soilFirst(book, plan, ground, lime);
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
  const warnings = warningsOf(book, plan, crop, {
    ready: required ? ready : null,
    ground,
    lime,
    credits,
    organic,
    sums,
    supply,
    limiting,
    realistic,
    caps: ceiling,
    calendar,
    runDown,
    looked: stopped.size === 0 ? looked : null,
    problems,
  });
  const cautions = triage(plan, warnings);
  const assessment: Assessment = {
    cropName: crop?.name ?? null,
    lines,
    sums,
    ground,
    lime,
    soilFirst: waitsFor,
    limiting,
    realistic,
    caps: ceiling,
    organics: organic.assessed,
    supply,
    leaf,
    leafSays: verdict,
    runDownDate: runDown,
    secondary: ready
      ? attempt([], 'budget', () =>
          secondaryOfftake(book, { cropKey: ready.key, yieldTHa: plan.season.yieldGoalTHa ?? 0 }),
        )
      : null,
    warnings,
    cautions,
    problems,
    figures: figuresOf({ lines, sums, ground, supply, limiting, lime }),
    stations: stationStates(
      plan,
      { ground, supply, sums, calendar, leaf, soilFirst: waitsFor },
      cautions,
      problems,
    ),
    uncertainty,
    stageNote: crop && stageNoteOf(book, crop),
  };
  return { plan, calendar, assessment };
}
