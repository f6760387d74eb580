import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { cropOf, tissueCropOf } from '../book/crops';
import { fertilisers, LABEL_NUTRIENTS, LABEL_PCT, type Fertiliser } from '../book/fertilisers';
import { tissueNutrientOf } from '../book/tissueNutrients';
import type { FertiliserPass, Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { dayOf } from '../lines/days';
import { passPrice } from '../lines/prices';
import { stageOn } from '../nitrogen/stageClock';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { judge, type Warning } from '../rules/rule';
import { correctionRules } from '../tissue/adviceRules';
import { classConfidence } from '../tissue/classify';
import {
  correctionAt,
  foliarMix,
  foliarProductOf,
  foliarShare,
  retest,
  type FoundCorrection,
} from '../tissue/correction';
import { said, type Words } from '../why/said';
import type { LeafBeside } from './leafBeside';
import { dayOfStage } from './sampleWindow';

// What is done about a shortage: this season or next, or nothing and why (chapter 5, section 13).

export type GateAnswer = 'yes' | 'no' | 'not_known';
export interface Gate {
  question: string;
  answer: GateAnswer;
  why: Words;
}
export interface SprayPlan {
  product: Fertiliser;
  /** Of the element, and of the product of the library, in one spray. */
  elementKgHa: number;
  productKgHa: number;
  waterLHa: number;
  strengthPct: number;
  maxPct: number | null;
  sprays: number;
  dates: IsoDate[];
  /** Days until a leaf that grew after it may be sampled. */
  retestOn: IsoDate | null;
}
export interface SoilPlan {
  product: Fertiliser;
  elementKgHa: number;
  productKgHa: number;
}
export interface Action {
  nutrient: string;
  cls: string;
  found: FoundCorrection | null;
  gates: Gate[];
  /** All gates are passed, or not known: it may go out this season. */
  open: boolean;
  spray: SprayPlan | null;
  soil: SoilPlan | null;
  /** The usual salt may not go onto this land; null where it may. */
  barred: string | null;
  /** The sentence that answers it. */
  words: Words;
  warnings: Warning[];
}

const BELOW: readonly string[] = ['deficient', 'low', 'marginal'];
const SURE = 0.75;
const GOOD_STAND = 0.7;
/** Middle of what a correction brings, of the yield (F13.4; consensus, low). */
const RESPONSE: Readonly<Record<string, number>> = { deficient: 0.1, low: 0.025, marginal: 0.025 };
const MACRO = ['N', 'P', 'K', 'S', 'Ca', 'Mg'];
/** Content of an element in a fertiliser of the library, %. */
function contentOf(f: Fertiliser, element: string): number {
  const key = LABEL_NUTRIENTS.find((x) => x === element.toLowerCase());
  return key ? LABEL_PCT[key](f) : 0;
}
const libraryOf = (book: Book, id: string | null): Fertiliser | undefined =>
  id === null ? undefined : fertilisers(book).find((f) => f.productId === id);

/** Stage of the plan's day: by the clock, else by the leaf itself where it is fresh. */
function stageNow(plan: Plan, calendar: SeasonCalendar | null, beside: LeafBeside): number | null {
  if (calendar?.seasonCropId && plan.asOf >= calendar.start && plan.asOf <= calendar.end)
    return Number(stageOn(calendar.clock, calendar.seasonCropId, dayOf(calendar, plan.asOf)));
  const leaf = beside.leaf?.sample;
  return leaf && Math.abs(daysBetween(leaf.date, plan.asOf)) <= 21 ? leaf.bbch : null;
}
function sprayOf(
  book: Book,
  plan: Plan,
  calendar: SeasonCalendar | null,
  nutrient: string,
  { row, window }: FoundCorrection,
): SprayPlan | null {
  const { defaultProductId, foliarRateDefaultKgHa: rate, waterDefaultLHa: water } = row;
  if (defaultProductId === null || rate === null || water === null || window === 'no_use')
    return null;
  const salt = foliarProductOf(defaultProductId, nutrient);
  const product = libraryOf(book, salt.fertiliserId);
  const content = product ? contentOf(product, nutrient) : 0;
  if (!product || content <= 0) return null;
  const mix = foliarMix({
    rateKgHa: rate,
    productId: defaultProductId,
    waterLHa: water,
    maxConcentrationPct: row.maxConcentrationPctWV,
  });
  const opens = calendar && dayOfStage(calendar, row.windowBbchFrom ?? 0);
  const first = window === 'to_come' && opens !== null && opens > plan.asOf ? opens : plan.asOf;
  const sprays = row.nSpraysMin ?? 1;
  const dates = Array.from({ length: sprays }, (_, k) =>
    dateAfter(first, k * (row.minIntervalD ?? 10)),
  );
  return {
    product,
    elementKgHa: rate,
    productKgHa: (100 * rate) / content,
    waterLHa: water,
    strengthPct: mix.concentrationPct,
    maxPct: row.maxConcentrationPctWV,
    sprays,
    dates,
    retestOn: retest({ nutrient, method: 'foliar', sprayDate: dates.at(-1) ?? first }).retestDate,
  };
}

function soilOfRow(book: Book, nutrient: string, found: FoundCorrection): SoilPlan | null {
  const { soilRateLowKgHa: low, soilRateHighKgHa: high } = found.row;
  const product = libraryOf(book, tissueNutrientOf(nutrient).soilProductId);
  const elementKgHa = ((low ?? 0) + (high ?? 0)) / 2;
  const content = product ? contentOf(product, nutrient) : 0;
  return product && content > 0 && elementKgHa > 0
    ? { product, elementKgHa, productKgHa: (100 * elementKgHa) / content }
    : null;
}

/** Certified land may get only what its certifier's list allows. */
const mayHere = ({ field }: Plan, product: Fertiliser): boolean =>
  field.certification === 'none' || product.organicStatus !== 'not_permitted';
const soilHere = (plan: Plan, soil: SoilPlan | null): SoilPlan | null =>
  soil && mayHere(plan, soil.product) ? soil : null;

interface Facts {
  plan: Plan;
  beside: LeafBeside;
  nutrient: string;
  cls: string;
  p: number;
  found: FoundCorrection;
  spray: SprayPlan | null;
  /** Stage of the crop on the plan's day; null: neither a clock nor a fresh leaf tells it. */
  bbch: number | null;
}
function windowOf({ row, window }: FoundCorrection, bbch: number | null): Omit<Gate, 'question'> {
  if (window === 'no_use')
    return {
      answer: row.soilThisSeason ? 'not_known' : 'no',
      why: 'A spray on the leaf does not work; the soil may, as long as its own window is open.',
    };
  const span = `BBCH ${row.windowBbchFrom} to ${row.windowBbchTo}`;
  if (bbch === null)
    return {
      answer: 'not_known',
      why: `The stage of today is not known: there is no table of stages, and the leaf is old. Its window is ${span}.`,
    };
  return {
    open: { answer: 'yes' as const, why: `${span}; it stands at ${bbch}.` },
    to_come: { answer: 'no' as const, why: `It opens at BBCH ${row.windowBbchFrom}.` },
    past: { answer: 'no' as const, why: 'All windows of this season are past.' },
  }[window];
}
const WINDOW = 'Is its window open?';
/** The six gates, in the order of the chapter (F13.0). */
function gatesOf({ plan, beside, nutrient, cls, p, found, spray, bbch }: Facts): Gate[] {
  const cell = beside.soil.find((s) => s.nutrient === nutrient)?.reading.cell ?? null;
  const pair = beside.pair?.rows.find((r) => r.nutrient === nutrient)?.reading.strength === 'clear';
  const trusted = !beside.leaf?.assessment.warnings.some(
    (w) => w.level === 'stop' && w.about === undefined,
  );
  const { yieldGoalTHa, cropPricePerT, stand } = plan.season;
  const potential = stand.otherLimitRy;
  const uptake = cell?.rule === 'uptake';
  const bypass =
    found.row.foliarWorks === 'yes' ||
    (found.row.foliarWorks === 'partial' && !MACRO.includes(nutrient));
  const cost = spray
    ? spray.sprays *
      ((spray.productKgHa / 1000) *
        passPrice(plan.farm, { date: spray.dates[0] ?? plan.asOf, pricePerT: null }, spray.product)
          .perT)
    : null;
  const gain =
    cropPricePerT === null || yieldGoalTHa === null
      ? null
      : cropPricePerT * yieldGoalTHa * (RESPONSE[cls] ?? 0);
  return [
    {
      question: 'Can the sample be trusted?',
      answer: trusted ? 'yes' : 'no',
      why: trusted ? 'No stop stands on the sample.' : 'A stop stands on the sample.',
    },
    {
      question: 'Is it surely below the range?',
      answer: (BELOW.includes(cls) && p >= SURE) || pair ? 'yes' : 'no',
      why: pair
        ? 'The pair is clear.'
        : `${Math.round(100 * p)} % sure that it lies below the range; 75 % are asked for, or a clear pair.`,
    },
    {
      question: 'Is supply the cause, or can a spray pass it by?',
      answer: cell === null ? 'not_known' : uptake && !bypass ? 'no' : 'yes',
      why:
        cell === null
          ? 'There is no class of the soil for it.'
          : uptake
            ? bypass
              ? 'The soil has enough: a problem of uptake, which a spray passes by. Dig all the same.'
              : 'The soil has enough: a problem of uptake. Dig before anything else.'
            : 'The soil does not speak against a shortage of supply.',
    },
    {
      question: WINDOW,
      ...windowOf(found, bbch),
    },
    {
      question: 'Are seven tenths of a normal yield still in reach?',
      answer: potential === null ? 'not_known' : potential >= GOOD_STAND ? 'yes' : 'no',
      why:
        potential === null
          ? 'Nobody has said what water or stand allow.'
          : `${Math.round(100 * potential)} % are said.`,
    },
    {
      question: 'Can it pay?',
      answer: gain === null || cost === null ? 'not_known' : gain > cost ? 'yes' : 'no',
      why:
        gain === null
          ? 'The price of the crop is missing.'
          : cost === null
            ? 'There is no spray to price.'
            : `About ${Math.round(gain)} by hectare may come of it (low confidence), the product costs ${Math.round(cost)}; the pass and the wheels come on top.`,
    },
  ];
}

function wordsOf(f: Facts, gates: readonly Gate[], open: boolean): Words {
  const shut =
    gates.find((g) => g.answer === 'no') ??
    (open ? undefined : gates.find((g) => g.answer === 'not_known' && g.question === WINDOW));
  if (open && f.spray)
    return said`${f.spray.sprays} ${f.spray.sprays === 1 ? 'spray' : 'sprays'} of ${f.spray.elementKgHa} kg/ha ${f.nutrient} each, from ${f.spray.dates[0] ?? f.plan.asOf} on. Leave a strip without.`;
  if (open && f.found.row.soilThisSeason) return `${f.found.row.soilThisSeason}.`;
  if (f.found.window === 'to_come' && gates.filter((g) => g.answer === 'no').length === 1)
    return f.spray?.dates[0] && f.spray.dates[0] > f.plan.asOf
      ? said`Not yet: its window opens at BBCH ${f.found.row.windowBbchFrom ?? 0}, about ${f.spray.dates[0]}.`
      : `Not yet: its window opens at BBCH ${f.found.row.windowBbchFrom}.`;
  const next = f.found.row.nextSeasonAdvice ? ` Next season: ${f.found.row.nextSeasonAdvice}.` : '';
  return `Nothing this season: ${shut ? lower(shut) : 'no spray and no dressing of the soil helps now'}.${next}`;
}
const lower = (g: Gate): string => {
  const text = typeof g.why === 'string' ? g.why : g.why.text;
  return (text[0] ?? '').toLowerCase() + text.slice(1).replace(/\.$/u, '');
};

/**
 * What can be done about each nutrient that is short in the newest leaf, the shortest first.
 *
 * @param tmaxC warmest hour of the spray day, where somebody said it
 */
export function correctionsFor(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
  beside: LeafBeside,
  tmaxC: number | null = null,
): Action[] {
  const { leaf } = beside;
  if (!leaf) return [];
  const crop = cropOf(book, leaf.sample.cropKey);
  const use = leaf.sample.cropKey === plan.season.cropKey ? plan.season.use : null;
  const tissueCrop = tissueCropOf(book, leaf.sample.cropKey, use);
  if (!tissueCrop) return [];
  const perennial = crop.nBaseKgHa > 0;
  const bbch = stageNow(plan, calendar, beside);
  return leaf.assessment.order.flatMap((nutrient): Action[] => {
    const r = leaf.assessment.results.find((x) => x.nutrient === nutrient);
    if (!r || r.value === null || !r.limits || r.cls === null) return [];
    const { cls } = r;
    const p = classConfidence({
      value: r.value,
      limit: r.limits.sl,
      combinedCvPct: tissueNutrientOf(nutrient).combinedCvPct,
    }).pBelowLimit;
    const found = correctionAt({
      nutrient,
      crop: tissueCrop,
      perennial,
      bbch: bbch ?? leaf.sample.bbch,
    });
    if (!found)
      return [
        {
          nutrient,
          cls,
          found: null,
          gates: [],
          open: false,
          spray: null,
          soil: null,
          barred: null,
          words: 'The tables hold no correction of it for this crop: a pair and the soil first.',
          warnings: [],
        },
      ];
    const usual = sprayOf(book, plan, calendar, nutrient, found);
    const barred = usual !== null && !mayHere(plan, usual.product) ? usual.product.name : null;
    const spray = barred === null ? usual : null;
    const facts: Facts = { plan, beside, nutrient, cls, p, found, spray, bbch };
    const gates = gatesOf(facts);
    // Nothing goes onto a crop whose stage nobody knows, though nothing says that it is too late.
    const unknown = bbch === null && found.window !== 'no_use';
    const open = !unknown && gates.every((g) => g.answer !== 'no');
    const need =
      nutrient === 'N' || nutrient === 'P' || nutrient === 'K' || nutrient === 'S'
        ? a.sums[nutrient.toLowerCase() as 'n' | 'p' | 'k' | 's'].requirement
        : null;
    return [
      {
        nutrient,
        cls,
        found,
        gates,
        open,
        spray: found.window === 'past' || bbch === null ? null : spray,
        soil: soilHere(plan, soilOfRow(book, nutrient, found)),
        barred,
        words: wordsOf(facts, gates, open),
        warnings: judge(
          correctionRules,
          {
            nutrient,
            foliarWorks: found.row.foliarWorks,
            needKgHa: need,
            strength:
              spray && spray.maxPct !== null
                ? {
                    concPct: spray.strengthPct,
                    maxPct: spray.maxPct,
                    leastWaterLHa: (spray.strengthPct * spray.waterLHa) / spray.maxPct,
                  }
                : null,
            tmaxC,
            window: unknown ? 'not_known' : found.window,
            opensBbch: found.row.windowBbchFrom,
            potentialFrac: plan.season.stand.otherLimitRy,
            sharePct:
              spray && need !== null && need > 0 && MACRO.includes(nutrient)
                ? foliarShare({
                    rateKgHa: spray.elementKgHa,
                    nSprays: spray.sprays,
                    cropNeedKgHa: need,
                  })
                : null,
          },
          nutrient,
        ),
      },
    ];
  });
}

/** The sprays of an action as planned passes. */
export const spraysAsPasses = (spray: SprayPlan, newId: () => string): FertiliserPass[] =>
  spray.dates.map((date) => ({
    id: newId(),
    date,
    productId: spray.product.productId,
    productKgHa: Number(spray.productKgHa.toPrecision(3)),
    placementId: 'foliar_spray',
    status: 'planned',
    pricePerT: null,
  }));
