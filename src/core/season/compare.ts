import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { said, type Words } from '../why/said';
import { newState, type SeasonSummary } from './nitrogen';
import { waterOf } from './events';
import { OUTLOOK_SEED, OUTLOOK_YEARS, prepared } from './prepared';
import {
  layOutYears,
  pairedLoss,
  runYears,
  shortShare,
  spreadOf,
  totalLoss,
  type Spread,
} from './years';

// Plans beside each other in the same weather years (chapter 4, M3, and section 12, 2).

export interface NamedPlan {
  id: string;
  name: string;
  plan: Plan;
  a: Assessment;
  calendar: SeasonCalendar | null;
}
export interface ComparedPlan {
  id: string;
  name: string;
  passes: number;
  /** N of passes and dressings that counts on the sheet, kg/ha. */
  nKgHa: number;
  costHa: number;
  shortShare: number;
  inCrop: Spread | null;
  ammonia: Spread;
  gas: Spread;
  leached: Spread;
  loss: Spread;
  residual: Spread | null;
  lateExcessIndex: Spread | null;
  /** N that is lost in the middle year, at the farm's price of N. */
  lossWorthHa: number;
}
export interface Comparison {
  years: number;
  seed: number;
  plans: ComparedPlan[];
  /** Plans that could not be run, with why. */
  notRun: { name: string; why: string }[];
  /** Loss of each plan against the first, year by year. */
  paired: { id: string; spread: Spread; shareLosesMore: number; clear: boolean; words: Words }[];
  leastLoss: string | null;
  fewestShort: string | null;
  cheapest: string | null;
}
/** The years agree where they exclude no difference, or four of five go one way. */
const AGREED_SHARE = 0.8;
const TOLD_KG = 0.5;

const least = (plans: readonly ComparedPlan[], of: (p: ComparedPlan) => number): string | null => {
  const [first, ...rest] = plans;
  if (!first || rest.length === 0) return null;
  const best = plans.reduce((a, b) => (of(b) < of(a) ? b : a));
  // Of plans that come to the same none is the least.
  return plans.filter((p) => Math.abs(of(p) - of(best)) < 1e-9).length === 1 ? best.id : null;
};

/**
 * Compares plans of one season over the same weather years: all begin on the first day of the first.
 *
 * @param given the plan as it stands first, then those that it is weighed against
 * @returns the comparison, or a sentence that says why the first cannot be run
 */
export function comparePlans(
  book: Book,
  given: readonly NamedPlan[],
  { years = OUTLOOK_YEARS, seed = OUTLOOK_SEED }: { years?: number; seed?: number } = {},
): Comparison | string {
  const notRun: Comparison['notRun'] = [];
  const ran: { told: ComparedPlan; found: SeasonSummary[] }[] = [];
  for (const { id, name, plan, a, calendar } of given) {
    const ready = prepared(book, plan, a, calendar, seed);
    if (typeof ready === 'string') {
      if (id === given[0]?.id) return ready;
      notRun.push({ name, why: ready });
      continue;
    }
    const { run, field, events } = ready;
    const weather = Array.from({ length: years }, (_, y) => ready.weatherOf(y));
    const laid = layOutYears(field, weather, waterOf(events, run.days));
    const found = runYears(field, events, laid, newState(field.site.layers));
    const spread = (of: (s: SeasonSummary) => number) => spreadOf(found.map(of)) as Spread;
    const known = (of: (s: SeasonSummary) => number | null) =>
      spreadOf(found.flatMap((s) => of(s) ?? []));
    const loss = spread(totalLoss);
    ran.push({
      found,
      told: {
        id,
        name,
        passes: a.supply.passes.filter((p) => p.counts).length,
        nKgHa: a.supply.total.n + a.organics.reduce((s, o) => s + o.onField.nKgHa, 0),
        costHa: a.supply.cost,
        shortShare: shortShare(found, field.params.shortFrac),
        inCrop: known((s) => s.plantNFrac),
        ammonia: spread((s) => s.volatilised),
        gas: spread((s) => s.denitrified),
        leached: spread((s) => s.leached + s.runoffN),
        loss,
        residual: known((s) => s.residualNo3),
        lateExcessIndex: known((s) => s.lateExcessIndex),
        lossWorthHa: loss.p50 * plan.farm.nPricePerKg,
      },
    });
  }
  const [first, ...others] = ran;
  const plans = ran.map((r) => r.told);
  return {
    years,
    seed,
    plans,
    notRun,
    paired: first ? others.map((o) => pairedWith(first, o)) : [],
    leastLoss: least(plans, (p) => Math.round(p.loss.p50)),
    fewestShort: least(plans, (p) => p.shortShare),
    cheapest: least(plans, (p) => Math.round(p.costHa)),
  };
}

type Ran = { told: ComparedPlan; found: SeasonSummary[] };
function pairedWith(first: Ran, other: Ran): Comparison['paired'][number] {
  const { spread, shareALosesMore } = pairedLoss(other.found, first.found);
  const clear =
    Math.abs(spread.p50) >= TOLD_KG &&
    (spread.p10 > 0 ||
      spread.p90 < 0 ||
      shareALosesMore >= AGREED_SHARE ||
      shareALosesMore <= 1 - AGREED_SHARE);
  const [low, high] = [Math.round(spread.p10), Math.round(spread.p90)];
  const words = clear
    ? spread.p50 > 0
      ? said`“${other.told.name}” loses ${Math.round(spread.p50)} kg/ha more than the plan in the middle of the same years, and more in ${Math.round(100 * shareALosesMore)} % of them.`
      : said`“${other.told.name}” loses ${Math.round(-spread.p50)} kg/ha less than the plan in the middle of the same years, and less in ${Math.round(100 * (1 - shareALosesMore))} % of them.`
    : said`“${other.told.name}” loses about as much as the plan: between ${low} kg/ha and ${high} kg/ha more, by the year.`;
  return { id: other.told.id, spread, shareLosesMore: shareALosesMore, clear, words };
}
