import type { Book } from '../book/book';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { newState, type SeasonSummary } from './nitrogen';
import { waterOf } from './events';
import { OUTLOOK_YEARS, type Prepared } from './prepared';
import type { SeasonEvent } from './record';
import { planOf, type LaidOut } from './run';
import { bearingDays, bearingShare, ENOUGH_YEARS } from './workable';
import {
  leastN,
  layOutYears,
  runYears,
  shortShare,
  spreadOf,
  totalLoss,
  type Spread,
} from './years';

// Better dates and shares for the passes of a plan, by trying them over weather years (chapter 4,
// M4 and M5). It moves only within what the start says: windows of stages, shares, caps.

/** A pass to place, and how far it may be moved. */
export interface MovablePass {
  name: string;
  date: IsoDate;
  productId: string;
  placementId: string;
  /** Days between which it may go out: its stages, and neither past nor closed. */
  from: IsoDate;
  to: IsoDate;
  share: number;
  shareMin: number;
  shareMax: number;
  /** The most N at once, kg/ha. */
  capKgHa: number;
}
/** What one way of splitting comes to over the years. */
export interface SplitOutcome {
  dates: IsoDate[];
  shares: number[];
  /** At the total that is planned: years short, N lost, nitrate left, N beyond what is taken late. */
  shortShare: number;
  loss: Spread;
  residual: Spread | null;
  lateExcess: Spread | null;
  /** Least N that is short in no more than the risk; null where even the most is. */
  leastKgHa: number | null;
}
export interface SplitAdvice {
  risk: number;
  years: number;
  totalKgHa: number;
  start: SplitOutcome;
  best: SplitOutcome;
  /** Changes that were accepted, and ways that were tried. */
  steps: number;
  tried: number;
  /** Somebody stopped it: the best so far stands. */
  stopped: boolean;
}

const MOST_ROUNDS = 40;
const MOVE_D = 7;
const MOVE_SHARE = 0.1;
const SCREEN_YEARS = 10;
const N_MAX = 300;
/** Less than this is no better, kg/ha. */
const BETTER_KG = 0.5;

interface Way {
  dates: IsoDate[];
  shares: number[];
}
interface Judge {
  over: (way: Way, totalKgHa: number, years: readonly LaidOut[]) => SeasonSummary[];
  shortFrac: number;
}

const eventsOf = (passes: readonly MovablePass[], way: Way, totalKgHa: number): SeasonEvent[] =>
  passes.map((p, k) => ({
    type: 'fertilise',
    date: way.dates[k] as IsoDate,
    productId: p.productId,
    placementId: p.placementId,
    nKgHa: totalKgHa * (way.shares[k] ?? 0),
  }));

function judged(
  judge: Judge,
  way: Way,
  totalKgHa: number,
  years: readonly LaidOut[],
  risk: number,
): SplitOutcome {
  const found = judge.over(way, totalKgHa, years);
  const numbers = (of: (s: SeasonSummary) => number | null) =>
    spreadOf(found.flatMap((s) => of(s) ?? []));
  return {
    ...way,
    shortShare: shortShare(found, judge.shortFrac),
    loss: spreadOf(found.map(totalLoss)) as Spread,
    residual: numbers((s) => s.residualNo3),
    lateExcess: numbers((s) => s.lateExcess),
    leastKgHa: leastN((kg) => shortShare(judge.over(way, kg, years), judge.shortFrac), {
      risk,
      nMax: N_MAX,
    }),
  };
}

/** Least N first, then fewer short years at the planned total, then what is lost in the middle. */
function isBetter(a: SplitOutcome, b: SplitOutcome): boolean {
  const [x, y] = [a.leastKgHa ?? Infinity, b.leastKgHa ?? Infinity];
  if (x !== y) return x < y;
  if (a.shortShare !== b.shortShare) return a.shortShare < b.shortShare;
  return a.loss.p50 < b.loss.p50 - BETTER_KG;
}

/** Ways next to one: a tenth of the N moved from one pass to another, a date moved by a week. */
function neighbours(passes: readonly MovablePass[], way: Way, totalKgHa: number): Way[] {
  const fits = (shares: readonly number[]) =>
    shares.every((s, k) => {
      const p = passes[k] as MovablePass;
      return s >= p.shareMin - 1e-9 && s <= p.shareMax + 1e-9 && s * totalKgHa <= p.capKgHa + 1e-9;
    });
  const moved = passes.flatMap((_, from) =>
    passes.flatMap((_p, to): Way[] => {
      if (from === to) return [];
      const shares = way.shares.map((s, k) =>
        k === from ? s - MOVE_SHARE : k === to ? s + MOVE_SHARE : s,
      );
      return fits(shares) ? [{ ...way, shares }] : [];
    }),
  );
  const shifted = passes.flatMap((p, k) =>
    [-MOVE_D, MOVE_D].flatMap((by): Way[] => {
      const date = dateAfter(way.dates[k] as IsoDate, by);
      const dates = way.dates.map((d, i) => (i === k ? date : d));
      const inOrder = dates.every((d, i) => i === 0 || d >= (dates[i - 1] as IsoDate));
      return date >= p.from && date <= p.to && inOrder ? [{ ...way, dates }] : [];
    }),
  );
  return [...moved, ...shifted];
}

/**
 * Searches dates and shares of the passes of a plan, screened on ten years and confirmed on all.
 *
 * @param ready the plan without the passes that are to be placed
 * @param i.risk share of years that may end short, 0.01 to 0.5
 * @param i.onTried hears after each way; false stops, and the best so far stands
 */
export function searchSplit(
  book: Book,
  ready: Prepared,
  passes: readonly MovablePass[],
  i: {
    totalKgHa: number;
    risk: number;
    years?: number;
    /** Days on which the farm's rules let a pass go out. */
    mayGo?: (date: IsoDate) => boolean;
    onTried?: (tried: number) => boolean | void;
  },
): SplitAdvice {
  const { run, field } = ready;
  const years = i.years ?? OUTLOOK_YEARS;
  const weather = Array.from({ length: years }, (_, y) => ready.weatherOf(y));
  const laid = layOutYears(field, weather, waterOf(ready.events, run.days));
  const state = newState(field.site.layers);
  const bearing = weather.map((w, y) =>
    bearingDays(run.record.soil.textureId, w, laid[y] as LaidOut),
  );
  const bears = (date: IsoDate) =>
    (i.mayGo?.(date) ?? true) &&
    bearingShare(bearing, daysBetween(run.record.startDate, date)) >= ENOUGH_YEARS;
  const judge: Judge = {
    shortFrac: field.params.shortFrac,
    over: (way, kg, on) =>
      runYears(
        field,
        planOf(book, field, [...run.record.events, ...eventsOf(passes, way, kg)]),
        on,
        state,
      ),
  };
  const screen = laid.slice(0, Math.min(SCREEN_YEARS, years));
  const first: Way = { dates: passes.map((p) => p.date), shares: passes.map((p) => p.share) };
  let best = judged(judge, first, i.totalKgHa, screen, i.risk);
  let [steps, tried, stopped] = [0, 1, false];
  const seen = new Set([JSON.stringify(first)]);
  for (let round = 0; round < MOST_ROUNDS && !stopped; round++) {
    let found: SplitOutcome | null = null;
    for (const way of neighbours(passes, best, i.totalKgHa)) {
      const key = JSON.stringify({ dates: way.dates, shares: way.shares.map((s) => s.toFixed(3)) });
      const movedTo = way.dates.find((d, k) => d !== best.dates[k]);
      if (seen.has(key) || (movedTo !== undefined && !bears(movedTo))) continue;
      seen.add(key);
      const outcome = judged(
        judge,
        { dates: way.dates, shares: way.shares },
        i.totalKgHa,
        screen,
        i.risk,
      );
      tried += 1;
      if (isBetter(outcome, found ?? best)) found = outcome;
      if (i.onTried?.(tried) === false) {
        stopped = true;
        break;
      }
    }
    if (!found) break;
    best = found;
    steps += 1;
  }
  const start = judged(judge, first, i.totalKgHa, laid, i.risk);
  const confirmed = judged(
    judge,
    { dates: best.dates, shares: best.shares },
    i.totalKgHa,
    laid,
    i.risk,
  );
  // What looked better in ten years and is not in all of them is not proposed.
  const better = isBetter(confirmed, start);
  return {
    risk: i.risk,
    years,
    totalKgHa: i.totalKgHa,
    start,
    best: better ? confirmed : start,
    steps: better ? steps : 0,
    tried,
    stopped,
  };
}
