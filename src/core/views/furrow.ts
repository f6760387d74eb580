import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { countedYield } from '../budget/requirement';
import type { Plan } from '../document/document';
import { seasonCalendar, stageAt, type SeasonCalendar } from '../lines/calendar';
import { dateOf, dayOf, type SeasonDays } from '../lines/days';
import { daysBetween, eachDay } from '../quantity/calendar';
import { clip, interpolate } from '../quantity/curve';
import { doseHolds } from './dose';
import { strataOf, type Stratum } from './strata';

export interface Mark {
  id: string;
  date: string;
  day: number;
  label: string;
  kind: 'pass' | 'manure' | 'sample' | 'leaf' | 'run_down' | 'planting' | 'harvest';
  kgN: number;
  /** "BBCH 31" on that day, or nothing where the crop has no stage table. */
  stage: string;
}
export interface FurrowSection {
  calendar: SeasonDays;
  /** Days for which the arrays below hold a figure. */
  days: number[];
  /** What the crop asks for by each day, cumulative, and what the sheet is less of, kg/ha. */
  demand: number[];
  /** The same without what is left out on purpose. */
  wanted: number[];
  /** Requirement of the sheet, with what a dose holds inside. */
  demandTotal: number;
  /** Of it, what the crop itself holds at harvest. */
  uptakeTotal: number;
  strata: Stratum[];
  /** What the strata give together, less what is tied up. */
  supply: number[];
  /** Requirement and debits less what is left out on purpose; null where nothing is left out. */
  target: number | null;
  marks: Mark[];
  closed: { fromDay: number; toDay: number }[];
  /** Day by which the crop has half of its N. */
  middleDay: number;
  /** Where all is placed, but part of it comes late (chapter 7, W1.6). */
  late: { kg: number; date: string; passDate: string | null; daysForward: number } | null;
  /** The end of the season, as the sheet has it. */
  end: { stillToApply: number; over: number; leftOut: number; atMost: boolean };
}

const stageWords = (bbch: string | null): string => (bbch ? `BBCH ${bbch}` : '');
const STEP_DAYS = 3;

/** What happens on a day: sample, planting, dressings, passes, and when N should have run down. */
function marksOf(plan: Plan, a: Assessment, calendar: SeasonCalendar): Mark[] {
  const mark = (id: string, date: string, label: string, kind: Mark['kind'], kgN = 0): Mark => ({
    id,
    date,
    day: dayOf(calendar, date),
    label,
    kind,
    kgN,
    stage: stageWords(stageAt(calendar, date)?.bbch ?? null),
  });
  return [
    ...(plan.ground.nitrateSampleDate
      ? [mark('sample', plan.ground.nitrateSampleDate, 'nitrate sample', 'sample')]
      : []),
    ...(plan.season.plantingDate
      ? [mark('planting', plan.season.plantingDate, 'planting', 'planting')]
      : []),
    ...a.organics.map((o) =>
      mark(`organic.${o.app.id}`, o.app.date, o.material.name, 'manure', o.onField.nKgHa),
    ),
    ...a.supply.passes.map((p) =>
      mark(`pass.${p.pass.id}`, p.pass.date, p.product.name, 'pass', p.delivered.n),
    ),
    ...(plan.season.harvestDate && plan.season.harvestDate < calendar.end
      ? [mark('harvest', plan.season.harvestDate, 'harvest', 'harvest')]
      : []),
    ...(a.runDownDate
      ? [mark('run_down', a.runDownDate, 'N should have run down', 'run_down')]
      : []),
  ].filter((m) => m.day >= 0 && m.day <= calendar.days);
}

/** Stretches of the season in which the farm's rules forbid spreading. */
function closedOf(
  plan: Plan,
  calendar: SeasonCalendar,
  days: readonly number[],
): FurrowSection['closed'] {
  const monthDays: string[] = [];
  if (plan.farm.closedPeriods.length > 0)
    eachDay(calendar.start, calendar.days, (month, day) => {
      monthDays.push(`${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`);
    });
  return plan.farm.closedPeriods.flatMap((p) => {
    const inside = days.filter((d) => {
      const md = monthDays[d] ?? '';
      return p.from <= p.to ? md >= p.from && md <= p.to : md >= p.from || md <= p.to;
    });
    // A season may touch the same period twice: each stretch is drawn by itself.
    return inside.reduce<{ fromDay: number; toDay: number }[]>((stretches, d) => {
      const last = stretches[stretches.length - 1];
      if (last && d - last.toDay <= STEP_DAYS) last.toDay = d;
      else stretches.push({ fromDay: d, toDay: d });
      return stretches;
    }, []);
  });
}

/**
 * The furrow: the crop's cumulative N uptake above the line, and below it what each source has
 * given by then (chapter 1 uptake, chapter 4
 * stage clock on monthly normals, chapter 2 release). Totals are the budget's own; only their
 * timing is added here.
 */
export function furrowSection(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null = seasonCalendar(book, plan),
): FurrowSection | null {
  if (!calendar) return null;
  const { crop } = calendar;
  const goal = plan.season.yieldGoalTHa ?? 0;
  const { n } = a.sums;
  const insideDose = doseHolds(book, plan, crop, a);
  const demandTotal = n.requirement + insideDose;
  const top = calendar.uptake[calendar.days] || 1;
  const pick = (all: readonly number[]) => days.map((d) => all[d] ?? 0);
  const days = Array.from(
    { length: Math.floor(calendar.days / STEP_DAYS) + 1 },
    (_, i) => i * STEP_DAYS,
  );
  if (days[days.length - 1] !== calendar.days) days.push(calendar.days);

  const { strata, tiedUp } = strataOf(plan, a, calendar, days, insideDose);
  const share = pick(calendar.uptake).map((u) => u / top);
  const demand = share.map((f) => f * demandTotal);
  const supply = days.map(
    (_, i) => strata.reduce((s, x) => s + (x.given[i] ?? 0), 0) - (tiedUp[i] ?? 0),
  );
  const half = share.findIndex((f) => f >= 0.5);
  return {
    calendar: {
      start: calendar.start,
      end: calendar.end,
      days: calendar.days,
      harvest: calendar.harvest,
      planting: calendar.planting,
    },
    days,
    demand,
    wanted: demand.map((d) => d * (demandTotal > 0 ? 1 - n.leftOut / demandTotal : 1)),
    demandTotal,
    uptakeTotal: crop.uptakeNKgT * countedYield(crop, goal),
    strata,
    supply,
    target: n.leftOut > 0 ? demandTotal + n.debits - n.leftOut : null,
    marks: marksOf(plan, a, calendar),
    closed: closedOf(plan, calendar, days),
    middleDay: days[half] ?? calendar.days,
    late: lateOf(a, calendar, { days, share, demand, supply }),
    end: {
      stillToApply: n.stillToApply,
      over: n.over,
      leftOut: n.leftOut,
      atMost: n.unknown.high > 0,
    },
  };
}

/** Uptake before this share is not told of: seedlings and reserves bridge it. */
const TOLD_FROM = { annual: 0.1, standing: 0.25 } as const;
const TOLD_KG = 10;
const TOLD_DAYS = 7;
/**
 * N that comes later than the crop asks for it, beyond what is still to apply or left out anyway; a
 * matter of time, never of amount (chapter 7, W1.6).
 */
function lateOf(
  a: Assessment,
  calendar: SeasonCalendar,
  { days, share, demand, supply }: Record<'days' | 'share' | 'demand' | 'supply', number[]>,
): FurrowSection['late'] {
  const { n } = a.sums;
  if (n.requirement <= 0) return null;
  const known = n.stillToApply + n.leftOut;
  const from = calendar.crop.nBaseKgHa > 0 ? TOLD_FROM.standing : TOLD_FROM.annual;
  const limit = Math.max(TOLD_KG, 0.05 * n.requirement);
  const gaps = days.map((day, i) => ({
    day,
    kg: (share[i] ?? 0) < from ? 0 : (demand[i] ?? 0) - (supply[i] ?? 0) - known,
  }));
  const told = gaps.filter((g) => g.kg >= limit);
  const [first] = told;
  const last = told[told.length - 1];
  if (!first || !last || last.day - first.day < TOLD_DAYS) return null;
  const kg = Math.max(...told.map((g) => g.kg));
  const date = dateOf(calendar, first.day);
  const next = a.supply.passes
    .filter((p) => p.counts && p.pass.status === 'planned' && p.delivered.n > 0)
    .map((p) => p.pass.date)
    .filter((d) => d > date)
    .toSorted()[0];
  return {
    kg,
    date,
    passDate: next ?? null,
    daysForward: next ? daysBetween(date, next) : 0,
  };
}

/**
 * Soil supply in the intervals between dates, from the strata that are not fertiliser: what the
 * split plan needs.
 */
export function supplyBetween(section: FurrowSection, dates: readonly string[]): number[] {
  const soil = section.strata.filter((s) => s.kind !== 'fertiliser');
  const at = (day: number) =>
    soil.reduce(
      (sum, s) =>
        sum +
        interpolate(
          section.days.map((d, i) => [d, s.given[i] ?? 0] as const),
          day,
        ),
      0,
    );
  const bounds = [
    0,
    ...dates.map((d) => clip(dayOf(section.calendar, d), 0, section.calendar.days)),
    section.calendar.days,
  ];
  const levels = [0, ...bounds.slice(1).map(at)];
  return levels.slice(1).map((x, i) => x - (levels[i] ?? 0));
}
