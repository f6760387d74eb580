import { mineralisationOf } from '../book/organicTables';
import { residueRelease } from '../book/legumes';
import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import { thermalTime, type SeasonCalendar } from '../lines/calendar';
import { dayOf } from '../lines/days';
import type { AssessedApplication } from '../lines/organicLines';
import { inWords } from '../why/said';
import { releaseFraction } from '../organics/release';
import { clip, interpolateAll } from '../quantity/curve';
import { warmthAt } from '../quantity/thermalTime';

/**
 * A source of N as a stratum under the soil line: what it has given by each day, kg/ha cumulative.
 */
export interface Stratum {
  id: string;
  label: string;
  kind:
    'nitrate' | 'organic_matter' | 'legume' | 'air' | 'dose' | 'manure' | 'water' | 'fertiliser';
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

/** A curve that ends at 1: what the season's end cuts off is drawn as given by then. */
function whole(share: readonly number[]): readonly number[] {
  const last = share[share.length - 1] ?? 0;
  return last > 0
    ? share.map((x) => x / last)
    : share.map((_, d) => (d === share.length - 1 ? 1 : 0));
}
const KINDS: Readonly<Record<string, Stratum['kind']>> = {
  soil_nitrate: 'nitrate',
  crop_n_in_spring: 'nitrate',
  om_mineralisation: 'organic_matter',
  soil_not_measured: 'organic_matter',
  from_the_air: 'air',
  manure_earlier_years: 'manure',
  irrigation_nitrate: 'water',
  deposition: 'water',
};
const NAMES: Readonly<Record<string, string>> = {
  soil_nitrate: 'soil nitrate',
  crop_n_in_spring: 'N in the crop',
  om_mineralisation: 'soil organic matter',
  soil_not_measured: 'soil, not measured',
  from_the_air: 'from the air',
  legume_table_year1: 'previous legume',
  legume_table_year2_3: 'earlier legume',
  green_manure_measured: 'green manure',
  vegetable_residue_release: 'residues',
  manure_earlier_years: 'manure of earlier years',
  irrigation_nitrate: 'irrigation water',
  deposition: 'deposition',
};
/** How a credit of the sheet comes through the season, as shares by day. */
function creditRelease(
  id: string,
  plan: Plan,
  calendar: SeasonCalendar,
  sampleDay: number,
): readonly number[] {
  const { planting, uptakeEnd, days } = calendar;
  switch (id) {
    case 'soil_nitrate':
    case 'crop_n_in_spring':
      return from(calendar, 0);
    case 'om_mineralisation':
      return warmth(calendar, Math.max(planting, sampleDay, 0), uptakeEnd);
    case 'legume_table_year1':
    case 'legume_table_year2_3':
    case 'green_manure_measured':
      return legumeRelease(plan, calendar);
    case 'irrigation_nitrate':
      return warmth(calendar, planting + Math.round((days - planting) * 0.2), uptakeEnd);
    case 'deposition':
      return calendar.clock.degrees.map((_, d) => d / days);
    case 'from_the_air':
    case 'soil_not_measured':
      return calendar.uptake;
    default:
      return warmth(calendar, Math.max(0, planting), uptakeEnd);
  }
}

/** What the sheet brings, by the days of the picture: each source ends at its figure of the sheet. */
export interface Sources {
  strata: Stratum[];
  /** N that residues and mixtures tie up, cumulative, kg/ha. */
  tiedUp: number[];
}
/**
 * What each source of the sheet has given by the days of the picture (chapter 7, W1.6): every
 * credit, dressing and pass that counts, so that the last day is the sheet's own sum.
 *
 * @param insideDose what the dose of a school holds of the ground's own N, kg/ha
 */
export function strataOf(
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar,
  days: readonly number[],
  insideDose: number,
): Sources {
  const pick = (all: readonly number[], total: number) => {
    const shares = whole(all);
    return days.map((d) => (shares[d] ?? 0) * total);
  };
  const sampleDay = plan.ground.nitrateSampleDate
    ? dayOf(calendar, plan.ground.nitrateSampleDate)
    : 0;
  const band = (
    id: string,
    label: string,
    kind: Stratum['kind'],
    total: number,
    share: readonly number[],
  ): Stratum[] => (total > 0 ? [{ id, label, kind, total, given: pick(share, total) }] : []);
  const counted = a.lines.filter((l) => l.struck === null && (l.n ?? 0) > 0);
  const dressings = new Map(a.organics.map((o) => [`organic.${o.app.id}`, o]));
  const debits = counted.filter((l) => l.kind === 'debit');
  const tied = pick(warmth(calendar, Math.max(0, calendar.planting), calendar.uptakeEnd), 1);
  return {
    strata: [
      ...counted
        .filter((l) => l.kind === 'credit')
        .flatMap((l) =>
          band(
            l.id,
            NAMES[l.id] ?? inWords(l.label).toLowerCase(),
            KINDS[l.id] ?? 'legume',
            l.n ?? 0,
            creditRelease(l.id, plan, calendar, sampleDay),
          ),
        ),
      ...band('inside_dose', 'inside the dose', 'dose', insideDose, calendar.uptake),
      ...counted.flatMap((l) => {
        const o = dressings.get(l.id);
        return o && l.kind !== 'debit'
          ? band(
              l.id,
              o.material.name.toLowerCase(),
              'manure',
              l.n ?? 0,
              dressingRelease(o, calendar, sampleDay),
            )
          : [];
      }),
      ...a.supply.passes
        .filter((p) => p.counts)
        .flatMap((p) =>
          band(
            `pass.${p.pass.id}`,
            p.product.name.toLowerCase(),
            'fertiliser',
            p.delivered.n,
            from(calendar, clip(dayOf(calendar, p.pass.date), 0, calendar.days)),
          ),
        ),
    ],
    tiedUp: tied.map((x) => x * debits.reduce((s, l) => s + (l.n ?? 0), 0)),
  };
}
