import { mineralisationOf } from '../book/organicTables';
import { residueRelease } from '../book/legumes';
import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import { thermalTime, type SeasonCalendar } from '../lines/calendar';
import { dayOf } from '../lines/days';
import type { AssessedApplication } from '../lines/organicLines';
import { COUNTED_BY_SAMPLE } from '../lines/schoolCredit';
import { releaseFraction } from '../organics/release';
import { clip, interpolateAll } from '../quantity/curve';
import { warmthAt } from '../quantity/thermalTime';

/**
 * A source of N as a stratum under the soil line: what it has given by each day, kg/ha cumulative.
 */
export interface Stratum {
  id: string;
  label: string;
  kind: 'nitrate' | 'organic_matter' | 'legume' | 'manure' | 'water' | 'fertiliser';
  total: number;
  given: number[];
}
/**
 * Ploughed-in legume tops and roots of the table are read at this C:N (chapter 1, residue_release):
 * low confidence, timing only.
 */
const LEGUME_CN = 12;
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

/** Share of a killed legume's N that is out by each day, as far as this season sees it. */
function legumeRelease(plan: Plan, calendar: SeasonCalendar): number[] {
  const knots = residueRelease().find((r) => r.cnRatio === LEGUME_CN);
  const killed =
    plan.previous && plan.previous.kind !== 'other' && plan.previous.killDate
      ? dayOf(calendar, plan.previous.killDate)
      : calendar.planting;
  const weeks = weeksFrom(calendar, killed);
  const released = knots
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
  return released.map((x) => x / (released[calendar.days] || 1));
}

/**
 * Share of a dressing's N that is out by each day: its ammonium at once, the rest with the warmth.
 */
function dressingRelease(
  o: AssessedApplication,
  calendar: SeasonCalendar,
  sampleDay: number,
): number[] {
  // What a later nitrate test saw already is part of the soil's nitrate: the rest comes from then
  // on.
  const day = clip(
    Math.max(dayOf(calendar, o.app.date), o.tested ? sampleDay : -Infinity),
    0,
    calendar.days,
  );
  const klass = mineralisationOf(o.material.mineralisationClass).mineralisationClass;
  const tt = (d: number) => thermalTime(calendar, day, d);
  const end = releaseFraction({ klass, tt: tt(calendar.days) }) || 1;
  const mineral = Math.min(o.mineralKgHa, o.nKgHa);
  return calendar.clock.degrees.map((_, d) =>
    d < day
      ? 0
      : (mineral + ((o.nKgHa - mineral) * releaseFraction({ klass, tt: tt(d) })) / end) / o.nKgHa,
  );
}

/**
 * What each source of the sheet has given by the days of the picture; its total is the sheet's
 * own.
 */
export function strataOf(
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar,
  days: readonly number[],
): Stratum[] {
  const strata: Stratum[] = [];
  const pick = (all: readonly number[]) => days.map((d) => all[d] ?? 0);
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
  const legume = legumeRelease(plan, calendar);
  add(
    'legume',
    'previous legume',
    'legume',
    line('legume_table_year1') + line('legume_table_year2_3'),
    legume,
  );
  add('green_manure', 'green manure', 'legume', line('green_manure_measured'), legume);
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
    const given = dressingRelease(o, calendar, sampleDay);
    const struck = a.lines.find((l) => l.id === `organic.${o.app.id}`)?.struck;
    if (!struck && o.nKgHa > 0)
      add(`organic.${o.app.id}`, o.material.name.toLowerCase(), 'manure', o.onField.nKgHa, given);
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
  return strata;
}

/** A nodulated legume takes from the air what the ground does not give. */
export function fixedFromAir(demand: readonly number[], strata: readonly Stratum[]): Stratum {
  const found = demand.map((_, i) => strata.reduce((s, x) => s + (x.given[i] ?? 0), 0));
  const fixed = demand.map((d, i) => Math.max(0, d - (found[i] ?? 0)));
  for (let i = 1; i < fixed.length; i++) fixed[i] = Math.max(fixed[i] ?? 0, fixed[i - 1] ?? 0);
  return {
    id: 'fixation',
    label: 'fixed from the air',
    kind: 'legume',
    total: fixed[fixed.length - 1] ?? 0,
    given: fixed,
  };
}
