import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { countedYield } from '../budget/requirement';
import type { Plan } from '../document/document';
import { seasonCalendar, stageAt, type SeasonCalendar } from '../lines/calendar';
import { dateOf, dayOf, type SeasonDays } from '../lines/days';
import { eachDay } from '../quantity/calendar';
import { clip, interpolate } from '../quantity/curve';
import { fixedFromAir, strataOf, type Stratum } from './strata';

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
  demand: number[];
  demandTotal: number;
  strata: Stratum[];
  supply: number[];
  marks: Mark[];
  closed: { fromDay: number; toDay: number }[];
  /** Deepest shortage, and what lies untouched at harvest. */
  shortest: { day: number; date: string; kg: number } | null;
  left: number;
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
    stage: stageWords(stageAt(calendar, date)),
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
  const demandTotal = crop.uptakeNKgT * countedYield(crop, goal);
  const top = calendar.uptake[calendar.days] || 1;
  const pick = (all: readonly number[]) => days.map((d) => all[d] ?? 0);
  const days = Array.from(
    { length: Math.floor(calendar.days / STEP_DAYS) + 1 },
    (_, i) => i * STEP_DAYS,
  );
  if (days[days.length - 1] !== calendar.days) days.push(calendar.days);

  const strata = strataOf(plan, a, calendar, days);
  const demand = pick(calendar.uptake).map((u) => (u / top) * demandTotal);
  if (
    a.sums.n.requirement === 0 &&
    (crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume')
  )
    strata.push(fixedFromAir(demand, strata));
  const supply = days.map((_, i) => strata.reduce((s, x) => s + (x.given[i] ?? 0), 0));
  const gaps = days.map((day, i) => ({ day, kg: (demand[i] ?? 0) - (supply[i] ?? 0) }));
  const worst = gaps.reduce((w, g) => (g.kg > w.kg ? g : w), { day: 0, kg: 0 });
  return {
    calendar: {
      start: calendar.start,
      end: calendar.end,
      days: calendar.days,
      planting: calendar.planting,
    },
    days,
    demand,
    demandTotal,
    strata,
    supply,
    marks: marksOf(plan, a, calendar),
    closed: closedOf(plan, calendar, days),
    shortest:
      worst.kg > 1 ? { day: worst.day, date: dateOf(calendar, worst.day), kg: worst.kg } : null,
    left: Math.max(0, (supply[supply.length - 1] ?? 0) - demandTotal),
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
