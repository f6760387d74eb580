import type { Book } from '../book/book';
import { lateNOf } from '../book/budgetTables';
import { placementOf } from '../book/fertilisers';
import type { Crop } from '../book/crops';
import { caps, uncertainty } from '../budget/ledger';
import { limitingFactor, type LimitingResult } from '../budget/limiting';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { dateOf } from '../lines/days';
import type { GroundAssessment } from '../lines/groundReading';
import type { LedgerLine, NutrientSum, PlanSums } from '../lines/line';
import { attempt, type Problem } from '../lines/problem';
import { nSchoolOf } from '../lines/requirementLine';
import type { Supply } from '../lines/supply';
import { stageDate } from '../nitrogen/stageClock';
import { inWords } from '../why/said';
import { stagesOf } from '../book/stages';

/** A limit that the user gives: no fertiliser repairs it. */
export const WATER_OR_STAND = 'water or stand';
/** Midpoint of the lowest index, where nothing was sampled, kg N/ha. */
const POOREST_SOIL_N = 50;
/**
 * N that the crop gets once the plan is completed (chapter 7, W1.16): nobody having planned it yet
 * makes N no shortage; a ceiling, a law or the ground does.
 */
const completed = (n: NutrientSum): number =>
  n.credits +
  n.applied +
  n.planned +
  n.stillToApply -
  n.debits +
  n.left.reduce((s, l) => s + (l.reason === 'cap' || l.reason === 'ground' ? 0 : l.kgHa), 0);

/** What holds the crop back most, with the plan as it stands. */
export function limits(
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
    banded: x === 'p' && supply.passes.some((q) => placementOf(q.pass.placementId).pInBand),
  });
  return attempt(problems, 'budget', () =>
    limitingFactor(book, {
      // A dose already leaves out what the soil gives: it is put back on both sides (chapter 1,
      // L1).
      cropKey: crop.key,
      yieldGoalTHa: plan.season.yieldGoalTHa ?? 0,
      nSupplyKgHa: Math.max(0, soilN + completed(n)),
      nNeedKgHa: soilN + n.requirement,
      classes: ground.classes,
      phWater: ground.ph,
      otherLimits:
        plan.season.stand.otherLimitRy === null
          ? null
          : [{ name: WATER_OR_STAND, relativeYield: plan.season.stand.otherLimitRy }],
      planned: { P: part('p'), K: part('k'), S: part('s') },
    }),
  );
}

/**
 * Date on which a crop that late N spoils should run short of N: the table's days before harvest, or
 * its stage where its own clock has it earlier (chapter 1, section 4; corrections, m).
 */
export function runDownDate(calendar: SeasonCalendar, crop: Crop): string | null {
  const row = crop.lateNSensitivity >= 2 ? lateNOf(crop) : undefined;
  if (!row) return null;
  const byStage =
    calendar.seasonCropId &&
    !calendar.proxy &&
    stagesOf(calendar.seasonCropId).some((s) => Number(s.stageBbch) === row.runDownBbch)
      ? stageDate(calendar.clock, calendar.seasonCropId, String(row.runDownBbch))
      : null;
  const byDays = dateOf(calendar, Math.max(0, calendar.harvest - row.daysBeforeHarvestMin));
  return byStage !== null && byStage < byDays ? byStage : byDays;
}

export interface Ceiling {
  nAllowedKgHa: number;
  shortfallKgHa: number;
  binding: string | null;
}
const NO_CEILING: Ceiling = { nAllowedKgHa: 0, shortfallKgHa: 0, binding: null };
/**
 * More manure N than any field gets: an absurd dressing is named elsewhere and must not take the
 * ceiling with it.
 */
const MOST_APPLIED = 2000;

/** How much N the crop and the law allow. */
export const ceilingOf = (
  plan: Plan,
  crop: Crop | null,
  { netKgHa, manureKgHa }: { netKgHa: number; manureKgHa: number },
  problems: Problem[],
): Ceiling =>
  (crop &&
    attempt(problems, 'budget', () =>
      caps({
        toBringKgHa: Math.max(0, netKgHa),
        nCapKgHa: crop.nCapKgHa,
        appliedKgHa: Math.min(manureKgHa, MOST_APPLIED),
        legalCapKgHa: plan.farm.legalNCapKgHa,
        countedForLegalKgHa: Math.min(manureKgHa, MOST_APPLIED),
      }),
    )) ??
  NO_CEILING;

/** How far the N to bring may be off, and which line most of the doubt lies in. */
export const doubtOf = (
  lines: readonly LedgerLine[],
  problems: Problem[],
): { sdNetKgHa: number; testFirst: string | null } => {
  const doubt = attempt(problems, 'budget', () =>
    uncertainty({
      lines: lines.flatMap((l, k) =>
        l.struck === null && l.n !== null ? [{ name: `${k}`, kgHa: l.n, se: l.error }] : [],
      ),
    }),
  );
  const first = lines[Number(doubt?.testFirst ?? Number.NaN)];
  return { sdNetKgHa: doubt?.sdNetKgHa ?? 0, testFirst: first ? inWords(first.label) : null };
};
