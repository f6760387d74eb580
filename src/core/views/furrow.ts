import { warmthAt } from '../quantity/thermalTime';
import { eachDay } from '../quantity/calendar';
import { countedYield } from '../budget/requirement';
import type { Book } from '../book/book';
import { clip, interpolate, interpolateAll } from '../quantity/curve';
import { residueRelease } from '../book/legumes';
import { COUNTED_BY_SAMPLE } from '../lines/schoolCredit';
import { mineralisationOf } from '../book/organicTables';
import { releaseFraction } from '../organics/release';
import type { Assessment } from '../assessment/assess';
import { seasonCalendar, stageAt, thermalTime, type SeasonCalendar } from '../lines/calendar';
import { dateOf, dayOf, type SeasonDays } from '../lines/days';
import type { Plan } from '../document/document';

/** A source of N as a stratum under the soil line: what it has given by each day, kg/ha cumulative. */
export interface Stratum {
  id: string;
  label: string;
  kind: 'nitrate' | 'organic_matter' | 'legume' | 'manure' | 'water' | 'fertiliser';
  total: number;
  given: number[];
}
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
/**
 * Ploughed-in legume tops and roots of the table are read at this C:N (chapter 1, residue_release):
 * low confidence, timing only.
 */
const LEGUME_CN = 12;
const STEP_DAYS = 3;

/** Effective weeks at 17 °C from a day on. */
function weeksFrom(calendar: SeasonCalendar, from: number): number[] {
  let weeks = 0;
  return calendar.clock.meanTempC.map((t, d) => (d < from ? 0 : (weeks += warmthAt(t, 17) / 7)));
}

/** Share of a season's release by day, following temperature from one day to another. */
function warmth(calendar: SeasonCalendar, from: number, to: number): number[] {
  const daily = calendar.clock.meanTempC.map((t, d) => (d < from || d > to ? 0 : warmthAt(t, 15)));
  const sum = daily.reduce((a, b) => a + b, 0) || 1;
  let given = 0;
  return daily.map((x) => (given += x / sum));
}

const from = (calendar: SeasonCalendar, day: number): number[] =>
  calendar.clock.degrees.map((_, d) => (d >= day ? 1 : 0));

/**
 * The furrow: the crop's cumulative N uptake above the line, and below it what each source has
 * given by then (chapter 1 uptake, chapter 4
 * stage clock on monthly normals, chapter 2 release). Totals are the budget's own; only their timing is added here.
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

  const strata: Stratum[] = [];
  const add = (
    id: string,
    label: string,
    kind: Stratum['kind'],
    total: number,
    share: readonly number[],
  ) => {
    if (total > 0)
      strata.push({ id, label, kind, total, given: pick(share).map((s) => s * total) });
  };
  // What a dose school holds already is given by the ground all the same; what the nitrate sample
  // holds is in its own stratum.
  const line = (id: string) => {
    const l = a.lines.find((x) => x.id === id && x.struck === null);
    return l?.kind === 'debit' ? 0 : l?.detail === COUNTED_BY_SAMPLE ? 0 : (l?.heldN ?? l?.n ?? 0);
  };
  const always = from(calendar, 0);
  const sampleDay = plan.ground.nitrateSampleDate
    ? dayOf(calendar, plan.ground.nitrateSampleDate)
    : 0;
  add(
    'soil_nitrate',
    'soil nitrate',
    'nitrate',
    line('soil_nitrate') + line('crop_n_in_spring'),
    always,
  );
  add(
    'om_mineralisation',
    'soil organic matter',
    'organic_matter',
    line('om_mineralisation'),
    warmth(calendar, Math.max(calendar.planting, sampleDay, 0), calendar.uptakeEnd),
  );
  const knots = residueRelease().find((r) => r.cnRatio === LEGUME_CN);
  const killed =
    plan.previous && plan.previous.kind !== 'other' && plan.previous.killDate
      ? dayOf(calendar, plan.previous.killDate)
      : calendar.planting;
  const weeks = weeksFrom(calendar, killed);
  const legume = knots
    ? interpolateAll(
        [
          [0, 0],
          [4, knots.nFracWeek4],
          [10, knots.nFracWeek10],
          [20, knots.nFracWeek20],
        ],
        weeks,
      ).map((x) => x / knots.nFracWeek20)
    : weeks.map(() => 1);
  add(
    'legume',
    'previous legume',
    'legume',
    line('legume_table_year1') + line('legume_table_year2_3'),
    legume.map((x) => x / (legume[calendar.days] || 1)),
  );
  add(
    'green_manure',
    'green manure',
    'legume',
    line('green_manure_measured'),
    legume.map((x) => x / (legume[calendar.days] || 1)),
  );
  add(
    'residue',
    'residues',
    'legume',
    line('vegetable_residue_release'),
    warmth(calendar, Math.max(0, calendar.planting), calendar.uptakeEnd),
  );
  add(
    'manure_earlier_years',
    'manure of earlier years',
    'manure',
    line('manure_earlier_years'),
    warmth(calendar, Math.max(0, calendar.planting), calendar.uptakeEnd),
  );
  for (const o of a.organics) {
    // What a later nitrate test saw already is part of the soil's nitrate: the rest comes from then on.
    const day = clip(
      Math.max(dayOf(calendar, o.app.date), o.tested ? sampleDay : -Infinity),
      0,
      calendar.days,
    );
    const struck = a.lines.find((l) => l.id === `organic.${o.app.id}`)?.struck;
    if (struck || o.nKgHa <= 0) continue;
    const klass = mineralisationOf(o.material.mineralisationClass).mineralisationClass;
    const tt = (d: number) => thermalTime(calendar, day, d);
    const end = releaseFraction({ klass, tt: tt(calendar.days) }) || 1;
    const mineral = Math.min(o.mineralKgHa, o.nKgHa);
    add(
      `organic.${o.app.id}`,
      o.material.name.toLowerCase(),
      'manure',
      o.onField.nKgHa,
      calendar.clock.degrees.map((_, d) =>
        d < day
          ? 0
          : (mineral + ((o.nKgHa - mineral) * releaseFraction({ klass, tt: tt(d) })) / end) /
            o.nKgHa,
      ),
    );
  }
  add(
    'irrigation_nitrate',
    'irrigation water',
    'water',
    line('irrigation_nitrate'),
    warmth(
      calendar,
      calendar.planting + Math.round((calendar.days - calendar.planting) * 0.2),
      calendar.uptakeEnd,
    ),
  );
  add(
    'deposition',
    'deposition',
    'water',
    line('deposition'),
    always.map((_, d) => d / calendar.days),
  );
  for (const p of a.supply.passes)
    add(
      `pass.${p.pass.id}`,
      p.product.name.toLowerCase(),
      'fertiliser',
      p.delivered.n,
      from(calendar, clip(dayOf(calendar, p.pass.date), 0, calendar.days)),
    );

  const demand = pick(calendar.uptake).map((u) => (u / top) * demandTotal);
  // A nodulated legume takes from the air what the ground does not give.
  if (
    a.sums.n.requirement === 0 &&
    (crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume')
  ) {
    const found = days.map((_, i) => strata.reduce((s, x) => s + (x.given[i] ?? 0), 0));
    const fixed = demand.map((d, i) => Math.max(0, d - (found[i] ?? 0)));
    for (let i = 1; i < fixed.length; i++) fixed[i] = Math.max(fixed[i] ?? 0, fixed[i - 1] ?? 0);
    strata.push({
      id: 'fixation',
      label: 'fixed from the air',
      kind: 'legume',
      total: fixed[fixed.length - 1] ?? 0,
      given: fixed,
    });
  }
  const supply = days.map((_, i) => strata.reduce((s, x) => s + (x.given[i] ?? 0), 0));
  const gaps = days.map((day, i) => ({ day, kg: (demand[i] ?? 0) - (supply[i] ?? 0) }));
  const worst = gaps.reduce((w, g) => (g.kg > w.kg ? g : w), { day: 0, kg: 0 });
  const mark = (id: string, date: string, label: string, kind: Mark['kind'], kgN = 0): Mark => ({
    id,
    date,
    day: dayOf(calendar, date),
    label,
    kind,
    kgN,
    stage: stageWords(stageAt(calendar, date)),
  });
  const marks: Mark[] = [
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
  const monthDays: string[] = [];
  if (plan.farm.closedPeriods.length > 0)
    eachDay(calendar.start, calendar.days, (month, day) => {
      monthDays.push(`${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`);
    });
  const closed = plan.farm.closedPeriods.flatMap((p) => {
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
    marks,
    closed,
    shortest:
      worst.kg > 1 ? { day: worst.day, date: dateOf(calendar, worst.day), kg: worst.kg } : null,
    left: Math.max(0, (supply[supply.length - 1] ?? 0) - demandTotal),
  };
}

/** Soil supply in the intervals between dates, from the strata that are not fertiliser: what the split plan needs. */
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
