import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import type { NutrientSum } from '../lines/line';
import { dateAfter, daysBetween, monthName, type IsoDate } from '../quantity/calendar';
import { joined, said, type Said, type Words } from '../why/said';
import { waterOf } from './events';
import { newState, newTrace, type SeasonSummary } from './nitrogen';
import type { PlannedRun } from './ofPlan';
import { OUTLOOK_SEED, OUTLOOK_YEARS, prepared, type Prepared } from './prepared';
import { layOut, newLaidOut, runPlan } from './run';
import { LEAST_YEARS, realYears, type StationWeather } from './weatherFile';
import { bearingDays, bearingShare } from './workable';
import {
  isShort,
  shortShare,
  spreadOf,
  spreadsOf,
  totalLoss,
  type Spread,
  type SpreadKey,
} from './years';

// A plan over many weather years: what no table can show. It changes no figure of the sheet; it is
// told beside it (chapter 7, W1.15).

const STEP_D = 3;

type LossKind = 'drainage' | 'ammonia' | 'wet soil' | 'run-off';
/** What a plan comes to over weather years, kg/ha. */
export interface Outlook {
  years: number;
  seed: number;
  /** Where the weather is from: made from the climate, or years of a station. */
  weather: string;
  start: IsoDate;
  /** Days for which the bands hold a figure. */
  days: number[];
  /** What the crop has taken and can reach by each day: P10, P50 and P90. */
  supply: { p10: number[]; p50: number[]; p90: number[] };
  /** What the crop asks for by each day, in the middle year. */
  demand: number[];
  /** Rain, and water that left the profile, by each day in the middle year, mm. */
  rain: number[];
  drained: number[];
  /** How the season stands on the plan's day; null before its first day and after the harvest. */
  today: StandingToday | null;
  /** Share of years in which the week from each day on holds a day that bears a machine. */
  bears: number[];
  /** The same for each pass that is still planned. */
  passesBear: { id: string; share: number }[];
  lateExcess: Spread | null;
  spreads: Record<SpreadKey, Spread | null>;
  loss: Spread;
  /** Share of years in which the crop ends short, and how much it lacks in the worst tenth. */
  shortShare: number;
  shortWorstKgHa: number;
  /** Where most is lost, and in which month of a middling year. */
  mainLoss: { kind: LossKind; month: string; kgHa: number } | null;
  /** How the middle year of the simulator ends, in the currency of the sheet. */
  endKgHa: number;
  sheetEndKgHa: number;
  /** One sentence beside the section, and a second where the two differ. */
  sentence: Words;
  differs: Words | null;
  assumed: string[];
}
/** What the crop has, what its roots reach and what is still to come on one day, kg/ha. */
export interface StandingToday {
  date: IsoDate;
  /** What the crop asks for in all. */
  asks: number;
  takenUp: Spread;
  inReach: Spread;
  /** What soil, residues and dressings still set free until the harvest. */
  toCome: Spread;
  /** N that a coat still holds. */
  coated: Spread;
}
/** What of a year is drawn and counted. */
interface Kept {
  supply: Float64Array[];
  demand: Float64Array[];
  drained: Float64Array[];
  rain: Float64Array[];
  bearing: Uint8Array[];
  byMonth: Map<string, Record<LossKind, number>>;
  ends: number[];
  today: { takenUp: number; inReach: number; toCome: number; coated: number }[];
}
const KINDS: readonly LossKind[] = ['drainage', 'ammonia', 'wet soil', 'run-off'];

/**
 * Runs a plan over weather years.
 *
 * @param onYear hears after each year; false stops, and what is done stands
 * @returns the outlook, or a sentence that says why there is none
 */
export function outlookOf(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
  {
    years = OUTLOOK_YEARS,
    seed = OUTLOOK_SEED,
    station,
    onYear,
  }: {
    years?: number;
    seed?: number;
    /** Weather of a station in place of years made from the climate. */
    station?: StationWeather;
    onYear?: (done: number) => boolean | void;
  } = {},
): Outlook | string {
  const made = prepared(book, plan, a, calendar, seed);
  if (typeof made === 'string') return made;
  const source = station ? ofStation(made, station) : generated(made, years);
  if (typeof source === 'string') return source;
  const { ready } = source;
  const { run, field, events } = ready;
  const irrigation = waterOf(events, run.days);
  const laid = newLaidOut(field, run.days);
  const state = newState(field.site.layers);
  const trace = newTrace(run.days);
  const at = Array.from({ length: Math.ceil(run.days / STEP_D) }, (_, i) => i * STEP_D);
  const months = Array.from({ length: run.days }, (_, d) =>
    dateAfter(run.record.startDate, d).slice(0, 7),
  );
  const kept: Kept = {
    supply: [],
    demand: [],
    drained: [],
    rain: [],
    bearing: [],
    byMonth: new Map(),
    ends: [],
    today: [],
  };
  const todayAt = daysBetween(run.record.startDate, plan.asOf);
  const summaries: SeasonSummary[] = [];
  const behind = staysBehind(a, field.crop?.uTotalKgHa ?? 0);
  for (let y = 0; y < source.years; y++) {
    const weather = ready.weatherOf(y);
    layOut(field, weather, irrigation, laid);
    const s = runPlan(field, events, laid, state, trace);
    summaries.push(s);
    kept.supply.push(
      Float64Array.from(at, (d) => (trace.uptakeCum[d] ?? 0) + (trace.rootZoneN[d] ?? 0)),
    );
    kept.demand.push(Float64Array.from(at, (d) => laid.days.demand[d] ?? 0));
    kept.drained.push(summed(laid.physical.drain, at));
    kept.rain.push(summed(weather.rainMm, at));
    kept.bearing.push(bearingDays(run.record.soil.textureId, weather, laid));
    const harvest = s.harvestDay ?? run.days - 1;
    kept.ends.push(
      s.uptake - (field.crop?.uTotalKgHa ?? 0) + ((trace.rootZoneN[harvest] ?? 0) - behind),
    );
    if (todayAt >= 0 && todayAt < harvest)
      kept.today.push({
        takenUp: trace.uptakeCum[todayAt] ?? 0,
        inReach: trace.rootZoneN[todayAt] ?? 0,
        toCome: trace.netMin.subarray(todayAt + 1, harvest + 1).reduce((s, v) => s + v, 0),
        coated: trace.coated[todayAt] ?? 0,
      });
    for (let d = 0; d < run.days; d++) {
      const month = months[d] as string;
      const sums = kept.byMonth.get(month) ?? {
        drainage: 0,
        ammonia: 0,
        'wet soil': 0,
        'run-off': 0,
      };
      sums.drainage += trace.leached[d] ?? 0;
      sums.ammonia += trace.volatilised[d] ?? 0;
      sums['wet soil'] += trace.denitrified[d] ?? 0;
      sums['run-off'] += trace.runoffN[d] ?? 0;
      kept.byMonth.set(month, sums);
    }
    if (onYear?.(y + 1) === false) break;
  }
  return {
    ...told(a, run, seed, source.words, at, field.params.shortFrac, summaries, kept),
    today: standing(plan.asOf, field.crop?.uTotalKgHa ?? 0, kept.today),
  };
}

/** The years that a plan is run over, and what they are. */
interface YearSource {
  ready: Prepared;
  years: number;
  words: string;
}
const generated = (ready: Prepared, years: number): YearSource => ({
  ready,
  years,
  words: 'made from the climate of the farm',
});
function ofStation(made: Prepared, station: StationWeather): YearSource | string {
  const { record, days } = made.run;
  const { years, leftOut } = realYears(station, record.startDate, days, made.field.latitudeDeg);
  if (years.length < LEAST_YEARS)
    return `The station has ${years.length} years without a gap for this season, and ${leftOut.length} with one; ${LEAST_YEARS} are needed.`;
  const words = `the station’s years ${years.map((y) => y.year).join(', ')}${leftOut.length > 0 ? `; left out for missing days: ${leftOut.map((l) => `${l.year} (${l.missing})`).join(', ')}` : ''}`;
  return {
    ready: { ...made, weatherOf: (year) => (years[year] as (typeof years)[0]).weather },
    years: years.length,
    words,
  };
}

/** A figure of each day, added up to the days that are drawn. */
function summed(byDay: Float64Array, at: readonly number[]): Float64Array {
  let sum = 0;
  const upTo = byDay.map((x) => (sum += x));
  return Float64Array.from(at, (d) => upTo[d] ?? 0);
}

/** What the requirement holds beyond what is in the crop: it stays in the ground as usual. */
const staysBehind = (a: Assessment, uptakeKgHa: number): number =>
  Math.max(0, a.sums.n.requirement - uptakeKgHa);

function standing(date: IsoDate, asks: number, years: Kept['today']): StandingToday | null {
  const spread = (key: keyof Kept['today'][0]) => spreadOf(years.map((y) => y[key]));
  const [takenUp, inReach] = [spread('takenUp'), spread('inReach')];
  const [toCome, coated] = [spread('toCome'), spread('coated')];
  return takenUp && inReach && toCome && coated
    ? { date, asks, takenUp, inReach, toCome, coated }
    : null;
}

/** Percentiles of each day over the years. */
function bands(years: readonly Float64Array[], days: number): Outlook['supply'] {
  const each = Array.from(
    { length: days },
    (_, d) => spreadOf(years.map((y) => y[d] as number)) as Spread,
  );
  return {
    p10: each.map((s) => s.p10),
    p50: each.map((s) => s.p50),
    p90: each.map((s) => s.p90),
  };
}

function mainLossOf(kept: Kept, years: number): Outlook['mainLoss'] {
  const totals = KINDS.map((kind) => ({
    kind,
    kgHa: [...kept.byMonth.values()].reduce((s, m) => s + m[kind], 0) / years,
  })).toSorted((x, y) => y.kgHa - x.kgHa);
  const most = totals[0] as (typeof totals)[0];
  if (most.kgHa < 1) return null;
  const [month] = [...kept.byMonth].reduce((best, x) =>
    x[1][most.kind] > best[1][most.kind] ? x : best,
  );
  return { ...most, month: monthName(`${month}-15`) };
}

/** What the sheet takes from soil, residues and dressings in this season, kg/ha. */
const releaseOnSheet = (a: Assessment): number =>
  a.lines
    .filter((l) => l.struck === null)
    .reduce(
      (s, l) => s + (/^(om_|legume|green_manure|vegetable)/u.test(l.id) ? (l.n ?? 0) : 0),
      a.organics.reduce((s, o) => s + o.organicKgHa * o.app.areaFrac, 0),
    );

/** What the plan itself leaves open: no weather is to blame for it. */
const openWords = ({ leftOut, stillToApply }: NutrientSum): Said[] => [
  ...(leftOut >= 1 ? [said`${Math.round(leftOut)} kg/ha are left out on purpose.`] : []),
  ...(stillToApply >= 1 ? [said`${Math.round(stillToApply)} kg/ha are still to apply.`] : []),
];

function differsWords(
  a: Assessment,
  difference: number,
  summaries: readonly SeasonSummary[],
  loss: Spread,
  main: Outlook['mainLoss'],
): Words | null {
  if (Math.abs(difference) <= Math.max(15, 0.1 * a.sums.n.requirement)) return null;
  const release = (spreadOf(summaries.map((s) => s.netMin))?.p50 ?? 0) - releaseOnSheet(a);
  const byLoss = difference < 0 && (main === null ? 0 : loss.p50) > -release;
  const cause = byLoss
    ? said`it loses ${Math.round(loss.p50)} kg/ha, most by ${main?.kind ?? 'weather'}`
    : release < 0
      ? said`soil and residues release ${Math.round(-release)} kg/ha less than the sheet takes`
      : said`soil and residues release ${Math.round(release)} kg/ha more than the sheet takes`;
  const words = difference < 0 ? 'lower' : 'higher';
  return {
    text: `The simulator’s middling year ends {by} kg/ha ${words} than the sheet: ${cause.text}.`,
    fill: { ...cause.fill, by: Math.round(Math.abs(difference)) },
  };
}

function told(
  a: Assessment,
  run: PlannedRun,
  seed: number,
  weather: string,
  at: number[],
  shortFrac: number,
  summaries: readonly SeasonSummary[],
  kept: Kept,
): Omit<Outlook, 'today'> {
  const years = summaries.length;
  const loss = spreadOf(summaries.map(totalLoss)) as Spread;
  const share = shortShare(summaries, shortFrac);
  const lacks = spreadOf(summaries.map((s) => s.demand - s.uptake)) as Spread;
  const main = mainLossOf(kept, years);
  const end = spreadOf(kept.ends) as Spread;
  const { n } = a.sums;
  const sheetEnd = n.over - n.stillToApply - n.leftOut;
  const short = summaries.some((s) => isShort(s, shortFrac));
  const cause = main ? `, mostly through ${main.kind} in ${main.month}` : '';
  const overYears: Said = short
    ? {
        text: `The sheet reckons with a middling year; over {years} years this plan is short in {pct} % of them, by {kg} kg/ha in the worst tenth${cause}.`,
        fill: { years, pct: Math.round(100 * share), kg: Math.round(lacks.p90) },
      }
    : {
        text: `The sheet reckons with a middling year; over {years} years this plan is short in none of them, and loses {low} kg/ha to {high} kg/ha${cause}.`,
        fill: { years, low: Math.round(loss.p10), high: Math.round(loss.p90) },
      };
  const sentence = joined([overYears, ...openWords(n)], ' ');
  return {
    years,
    seed,
    weather,
    start: run.record.startDate,
    days: at,
    supply: bands(kept.supply, at.length),
    demand: bands(kept.demand, at.length).p50,
    rain: bands(kept.rain, at.length).p50,
    drained: bands(kept.drained, at.length).p50,
    bears: at.map((d) => bearingShare(kept.bearing, d)),
    passesBear: run.sources.flatMap(({ id, at: k }) => {
      const event = run.record.events[k];
      return event
        ? [{ id, share: bearingShare(kept.bearing, daysBetween(run.record.startDate, event.date)) }]
        : [];
    }),
    lateExcess: spreadOf(summaries.flatMap((s) => s.lateExcess ?? [])),
    spreads: spreadsOf(summaries),
    loss,
    shortShare: share,
    shortWorstKgHa: lacks.p90,
    mainLoss: main,
    endKgHa: end.p50,
    sheetEndKgHa: sheetEnd,
    sentence,
    differs: differsWords(a, end.p50 - sheetEnd, summaries, loss, main),
    assumed: run.assumed,
  };
}
