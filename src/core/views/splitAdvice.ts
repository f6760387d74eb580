import type { Book } from '../book/book';
import type { SplitPass } from '../book/splitTemplates';
import type { FertiliserPass, Plan } from '../document/document';
import { inPeriod } from '../lines/days';
import { capAndRound } from '../nitrogen/split';
import { stageDate } from '../nitrogen/stageClock';
import { dateAfter, type IsoDate } from '../quantity/calendar';
import { prepared, OUTLOOK_SEED } from '../season/prepared';
import {
  searchSplit,
  type MovablePass,
  type SplitAdvice,
  type SplitOutcome,
} from '../season/splitSearch';
import { joined, said, type Words } from '../why/said';
import {
  passOf,
  placedBy,
  togetherByDay,
  toSplit,
  type Dose,
  type Placed,
  type ToSplit,
} from './splitProposal';

// A split of the N that is searched over weather years: number, dates and sizes, with its reasons.

export interface AdvisedPass extends Dose {
  /** The stage that its date is meant for, and the days between which it may go out. */
  stage: string;
  from: IsoDate;
  to: IsoDate;
  startDate: IsoDate;
  startKgHa: number;
  pass: FertiliserPass;
}
export interface SplitAdvised {
  passes: AdvisedPass[];
  unplacedKgHa: number;
  advice: SplitAdvice;
  /** The same N in fewer or more passes, each by its own template. */
  numbers: { nPasses: number; outcome: SplitOutcome }[];
  words: Words[];
  /** What the bare plan's run takes without being told. */
  assumed: string[];
}

/** The most N that is tried, kg/ha. */
const N_MAX = 300;
/** What differs by less is a tie, kg/ha. */
const TIE_KG = 10;

function movable(t: ToSplit, placed: Placed, productId: string): MovablePass[] {
  const { plan, calendar, a } = t;
  const last = [plan.season.harvestDate, a.runDownDate && dateAfter(a.runDownDate, -1)]
    .filter((d): d is IsoDate => d !== null && d !== '')
    .toSorted()[0];
  const at = (row: SplitPass, bbch: string, own: IsoDate) =>
    stageDate(calendar.clock, row.cropId, bbch) ?? own;
  return placed.rows.map((row, k): MovablePass => {
    const date = placed.dates[k] as IsoDate;
    const earliest = [at(row, row.bbchFrom, date), plan.asOf, calendar.start].toSorted().at(-1);
    const latest = [at(row, row.bbchTo, date), ...(last ? [last] : [])].toSorted()[0];
    return {
      name: row.passName,
      date,
      productId,
      placementId: row.placementId,
      from: earliest ?? date,
      to: latest ?? date,
      share: placed.split.shares[k] ?? 0,
      shareMin: row.shareMinPct / 100,
      shareMax: row.shareMaxPct / 100,
      capKgHa: placed.capsKgHa[k] ?? Infinity,
    };
  });
}

const percent = (share: number): number => Math.round(100 * share);

function wordsOf(t: ToSplit, advice: SplitAdvice, numbers: SplitAdvised['numbers']): Words[] {
  const { start, best, years, risk, totalKgHa } = advice;
  const least = (o: SplitOutcome) => o.leastKgHa ?? Infinity;
  const gained = least(start) - least(best);
  const moved =
    advice.steps === 0
      ? said`No other dates or sizes within the stages did better than the template’s in ${years} years.`
      : gained >= 5 && gained < Infinity
        ? said`Moved dates and sizes need ${least(best)} kg/ha for the same safety, the template’s ${least(start)} kg/ha.`
        : said`Moved dates and sizes are short in ${percent(best.shortShare)} % of the years and lose ${Math.round(best.loss.p50)} kg/ha in the middle one, the template’s ${percent(start.shortShare)} % and ${Math.round(start.loss.p50)} kg/ha.`;
  return [
    said`${Math.round(totalKgHa)} kg/ha, what the sheet still asks for, in ${inPasses(best.dates.length)}; soil, drainage and the largest dose ask for ${t.count.wanted}.`,
    moved,
    ...(numbers.length > 1 ? [numberWords(numbers, risk)] : []),
    amountWords(best.leastKgHa, Math.round(totalKgHa), risk),
  ];
}
const inPasses = (n: number): string => (n === 1 ? 'one pass' : `${n} passes`);

/** The least N by the number of passes. */
function numberWords(numbers: SplitAdvised['numbers'], risk: number): Words {
  const [low, high] = [
    Math.min(...numbers.map(({ outcome }) => outcome.leastKgHa ?? Infinity)),
    Math.max(...numbers.map(({ outcome }) => outcome.leastKgHa ?? Infinity)),
  ];
  const each = numbers.map(({ nPasses, outcome }) =>
    outcome.leastKgHa === null
      ? said`${inPasses(nPasses)} more than ${N_MAX} kg/ha`
      : said`${inPasses(nPasses)} ${outcome.leastKgHa} kg/ha`,
  );
  const end = high - low <= TIE_KG ? '. That is nearly a tie: a split buys little here.' : '.';
  return joined(
    [
      joined(
        [
          said`To be short in no more than ${percent(risk)} % of the years takes in`,
          joined(each, ', in '),
        ],
        ' ',
      ),
      said``,
    ],
    end,
  );
}

/** Least N beside what the sheet asks for: never put in its place. */
function amountWords(leastKgHa: number | null, total: number, risk: number): Words {
  const safe = said`To be short in no more than ${percent(risk)} % of the years`;
  const rest =
    leastKgHa === null
      ? said`even ${N_MAX} kg/ha would not do: another year’s loss is not met by more N.`
      : leastKgHa > total + TIE_KG
        ? said`it would take ${leastKgHa} kg/ha, ${leastKgHa - total} kg/ha more than the sheet asks for; the amount stays the sheet’s.`
        : leastKgHa < total - TIE_KG
          ? said`${leastKgHa} kg/ha would do, ${total - leastKgHa} kg/ha less than the sheet asks for; the amount stays the sheet’s until somebody changes it.`
          : said`it takes ${leastKgHa} kg/ha, about what the sheet asks for.`;
  return joined([safe, rest], ' ');
}

/**
 * The split of what is still to apply, searched over weather years (chapter 4, M4, M5). It stays
 * within stages, dose limits, closed periods, the legal ceiling and the run-down date.
 *
 * @param i.risk share of years that may end short, 0.01 to 0.5
 * @returns the advice, or a sentence that says why the years cannot be run
 * @throws Refusal when the crop has no stage table or nothing is left to apply
 */
export function adviseSplit(
  book: Book,
  plan: Plan,
  i: {
    productId: string;
    risk: number;
    newId: (k: number) => string;
    years?: number;
    onTried?: (tried: number) => boolean | void;
  },
): SplitAdvised | string {
  const t = toSplit(book, plan);
  const ready = prepared(book, t.bare, t.a, t.calendar, OUTLOOK_SEED);
  if (typeof ready === 'string') return ready;
  const [chosen, ...others] = t.templates as [ToSplit['templates'][0], ...ToSplit['templates']];
  const placed = placedBy(t, chosen.templateId);
  const passes = movable(t, placed, i.productId);
  const search = {
    totalKgHa: t.wantedKgHa,
    risk: i.risk,
    ...(i.years === undefined ? {} : { years: i.years }),
  };
  const advice = searchSplit(book, ready, passes, {
    ...search,
    mayGo: (date) => !plan.farm.closedPeriods.some((p) => inPeriod(date, p)),
    ...(i.onTried ? { onTried: i.onTried } : {}),
  });
  const numbers = [
    { nPasses: chosen.nPasses, outcome: advice.best },
    ...others.map(({ templateId, nPasses }) => ({
      nPasses,
      outcome: searchSplit(book, ready, movable(t, placedBy(t, templateId), i.productId), {
        ...search,
        onTried: () => false,
      }).start,
    })),
  ].toSorted((x, y) => x.nPasses - y.nPasses);
  const { doses, unplaced } = capAndRound(t.wantedKgHa, advice.best.shares, placed.capsKgHa);
  const advised = togetherByDay(
    placed.rows.map((row, k) => {
      const p = passes[k] as MovablePass;
      return {
        name: row.passName,
        date: advice.best.dates[k] as IsoDate,
        placementId: row.placementId,
        nKgHa: doses[k] ?? 0,
        stage: row.bbchTarget,
        from: p.from,
        to: p.to,
        startDate: p.date,
        startKgHa: placed.split.dosesKgHa[k] ?? 0,
      };
    }),
  );
  return {
    passes: advised.map((d, k) => ({ ...d, pass: passOf(book, i.newId(k), i.productId, d) })),
    unplacedKgHa: unplaced,
    advice,
    numbers,
    words: wordsOf(t, advice, numbers),
    assumed: ready.run.assumed,
  };
}
