import type { Book } from '../book/book';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { limeMaterialOf, type LimeMaterial } from '../book/limes';
import { entered, fromTable, step, type Step } from '../why/step';
import {
  effectiveNeutralisingValue,
  limeCost,
  limeReacted,
  maxPassTHa,
  type PassSoil,
} from './limeProduct';
import { ASSUMED_CLOCK_RATE, DAYS_PER_MONTH } from './wetClock';
import { latestSpreadDate } from './limeLead';
import { phGate, phMoney } from './ph';

/** A material's own analysis, from its certificate; the book value stands in until there is one. */
export interface LimeAnalysis {
  ccePct: number;
  dryMatterPct: number;
  p8: number;
  p20: number;
  p60: number;
}
export interface LimeCandidate {
  id: string;
  materialKey: string;
  pricePerT: number;
  haulPerT: number;
  spreadPerT: number;
  analysis: LimeAnalysis | null;
}
export interface ComparisonInput {
  /** Requirement to the target at the depth of mixing, t ECC/ha. */
  needTHa: number;
  ph: number;
  targetPh: number;
  /** Lime is advised below this pH for the crop of the season. */
  actBelowPh: number;
  spreadDate: IsoDate;
  plantingDate: IsoDate | null;
  climate: 'moist' | 'dry';
  soil: Exclude<PassSoil, 'hydrated'>;
  split: boolean;
  onePassMaxTHa: number | null;
  /** The first crop, by its group of target pH; goal and price where its loss is to be told. */
  crop: {
    group: string;
    omPct: number | null;
    yieldGoal: number | null;
    price: number | null;
  } | null;
}
export interface LimeRow {
  candidate: LimeCandidate;
  material: LimeMaterial;
  ecceAsReceivedPct: number;
  productTHa: number;
  passes: number;
  maxPassTHa: number;
  perTEcc: number;
  perTReactedByPlanting: number | null;
  costPerHa: number;
  phAtPlanting: number | null;
  ph12: number;
  ph36: number;
  /** Reaches the limit below which lime is advised by planting; null without a planting date. */
  inTime: boolean | null;
  leadDays: number | null;
  latestSpreadDate: IsoDate | null;
  caKgHa: number;
  mgKgHa: number;
  lossFirstCrop: number | null;
  firstCropTotal: number | null;
  stopAtPlanting: boolean;
  /** Rests on a pH that lies beyond the model, which holds up to 1.2 times the requirement. */
  beyondModel: boolean;
  why: Step;
}

/** Half a year between two passes (chapter 3, 7.4: 6 to 12 months). */
const MONTHS_BETWEEN_PASSES = 6;
const MAX_MONTHS = 60;

interface Speed {
  rateTHa: number;
  passes: number;
  analysis: LimeAnalysis;
  km: number;
  i: ComparisonInput;
}
/**
 * pH after some calendar months since the first pass, with each pass reacting on its own wet
 * clock.
 */
function phAfter(
  { rateTHa, passes, analysis, km, i }: Speed,
  months: number,
): { ph: number; reactedTHa: number; ratio: number } {
  const clock = ASSUMED_CLOCK_RATE[i.climate];
  let reactedTHa = 0;
  for (let k = 0; k < passes; k++) {
    const t = (months - k * MONTHS_BETWEEN_PASSES) * clock;
    if (t > 0)
      reactedTHa +=
        (rateTHa / passes) *
        (analysis.dryMatterPct / 100) *
        (analysis.ccePct / 100) *
        limeReacted({ ...analysis, km, t }).value;
  }
  const ratio = reactedTHa / i.needTHa;
  return { ph: i.ph + (i.targetPh - i.ph) * ratio, reactedTHa, ratio };
}

/**
 * Days from spreading to the limit below which lime is advised, to the day, so that it never
 * contradicts the pH at planting; null if not within five years.
 */
function leadDaysOf(s: Speed): number | null {
  const reached = (days: number) => phAfter(s, days / DAYS_PER_MONTH).ph >= s.i.actBelowPh - 1e-9;
  let [low, high] = [0, Math.round(MAX_MONTHS * DAYS_PER_MONTH)];
  if (!reached(high)) return null;
  // The pH only rises with time.
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (reached(middle)) high = middle;
    else low = middle + 1;
  }
  return high;
}

const analysisOf = (c: LimeCandidate, m: LimeMaterial): LimeAnalysis =>
  c.analysis ?? {
    ccePct: m.ccePct,
    dryMatterPct: m.dryMatterPct,
    p8: m.pass236mmPct,
    p20: m.pass085mmPct,
    p60: m.pass025mmPct,
  };

function speedOf(
  book: Book,
  c: LimeCandidate,
  i: ComparisonInput,
): Speed & { ecce: ReturnType<typeof effectiveNeutralisingValue>; maxPass: number } {
  const material = limeMaterialOf(book, c.materialKey);
  const analysis = analysisOf(c, material);
  const ecce = effectiveNeutralisingValue({
    cce: analysis.ccePct,
    dm: analysis.dryMatterPct,
    p8: analysis.p8,
    p20: analysis.p20,
    p60: analysis.p60,
  });
  const caustic = material.anion === 'oxide' || material.anion === 'hydroxide';
  const maxPass = maxPassTHa(caustic ? 'hydrated' : i.soil, i.onePassMaxTHa);
  const passes = i.split ? Math.max(1, Math.ceil(i.needTHa / maxPass - 1e-9)) : 1;
  return {
    rateTHa: i.needTHa / (ecce.ecceAsReceived / 100),
    passes,
    analysis,
    km: material.kMult ?? 1,
    i,
    ecce,
    maxPass,
  };
}

/** What the first crop loses at a pH, money per ha, and whether it must not be sown at all. */
function firstCropAt(
  ph: number,
  { group, omPct, yieldGoal, price }: NonNullable<ComparisonInput['crop']>,
): { loss: number | null; stop: boolean } {
  // Organic soil has its own limits; the slope of the mineral table holds on mineral soil only.
  const slope = yieldGoal !== null && price !== null && (omPct ?? 0) < 10;
  return {
    loss: slope ? phMoney({ ph, crop: group, yieldGoal, price }).lossPerHa : null,
    stop: phGate({ ph, crop: group, omPct }).level === 'stop',
  };
}

/** A material that is no lime is not compared: its anion takes up no acid. */
export const isLime = (book: Book, c: LimeCandidate): boolean =>
  limeMaterialOf(book, c.materialKey).isLime === 'yes';

/**
 * One lime against the field (chapter 3, 7.1 to 7.6): rate, passes, pH at planting and later, cost,
 * and what the first crop loses at that pH.
 * The reaction is run on CCE by sieve fraction, never on the effective value: that would discount
 * coarse grains twice.
 */
export function compareLime(book: Book, c: LimeCandidate, i: ComparisonInput): LimeRow {
  const material = limeMaterialOf(book, c.materialKey);
  const s = speedOf(book, c, i);
  const months = i.plantingDate
    ? Math.max(0, daysBetween(i.spreadDate, i.plantingDate)) / DAYS_PER_MONTH
    : null;
  const at = months === null ? null : phAfter(s, months);
  const frac =
    months === null
      ? 0
      : limeReacted({ ...s.analysis, km: s.km, t: months * ASSUMED_CLOCK_RATE[i.climate] }).value;
  const cost = limeCost({
    price: c.pricePerT,
    haul: c.haulPerT,
    spread: c.spreadPerT,
    ecAr: s.ecce.ecceAsReceived,
    dm: s.analysis.dryMatterPct,
    cce: s.analysis.ccePct,
    frac,
    productTHa: s.rateTHa,
  });
  const lead = leadDaysOf(s);
  const crop = at && i.crop ? firstCropAt(at.ph, i.crop) : null;
  const dryTHa = s.rateTHa * (s.analysis.dryMatterPct / 100);
  const costPerHa = cost.perHa ?? 0;
  return {
    candidate: c,
    material,
    ecceAsReceivedPct: s.ecce.ecceAsReceived,
    productTHa: s.rateTHa,
    passes: s.passes,
    maxPassTHa: s.maxPass,
    perTEcc: cost.perTEcc,
    perTReactedByPlanting: cost.perTReacted,
    costPerHa,
    phAtPlanting: at?.ph ?? null,
    ph12: phAfter(s, 12).ph,
    ph36: phAfter(s, 36).ph,
    inTime: at ? at.ph >= i.actBelowPh - 1e-9 : null,
    leadDays: lead,
    latestSpreadDate:
      lead !== null && i.plantingDate ? latestSpreadDate(i.plantingDate, lead) : null,
    caKgHa: dryTHa * 10 * material.caPctDry,
    mgKgHa: dryTHa * 10 * material.mgPctDry,
    lossFirstCrop: crop?.loss ?? null,
    firstCropTotal: crop?.loss == null ? null : costPerHa + crop.loss,
    stopAtPlanting: crop?.stop ?? false,
    beyondModel: phAfter(s, 36).ratio > 1.2,
    why: step(`lime.product.${c.id}`, `${material.name}, rate`, s.rateTHa, 't/ha', {
      formula: 'requirement / effective neutralising value',
      note: `pH at planting ${at ? at.ph.toFixed(1) : 'not known without a planting date'} (+/- 0.3), reaction on the wet clock at ${ASSUMED_CLOCK_RATE[i.climate]} effective months a month, assumed moisture${material.caution ? `; ${material.caution}` : ''}`,
      source: material.source,
      confidence: 'low',
      inputs: [
        step('lime.need.used', 'Lime requirement', i.needTHa, 't ECC/ha'),
        s.ecce.why,
        ...(c.analysis
          ? []
          : [
              fromTable(
                `lime.book.${c.id}`,
                `Book value; real value may be ${material.cceMin}-${material.cceMax} % CCE`,
                material.ccePct,
                '% CaCO3',
                material,
              ),
            ]),
        entered(`lime.spread.${c.id}`, 'Spread on', i.spreadDate, ''),
        step(
          `lime.cost.${c.id}`,
          'Cost of a tonne of effective carbonate, spread',
          cost.perTEcc,
          'per t',
          { formula: '(price + haulage + spreading) / effective value' },
        ),
      ],
    }),
  };
}

/** pH by month since spreading, for the chart. */
export const phCurve = (
  book: Book,
  c: LimeCandidate,
  i: ComparisonInput,
  months: number,
): { month: number; date: IsoDate; ph: number }[] => {
  const s = speedOf(book, c, i);
  return Array.from({ length: months * 2 + 1 }, (_, k) => ({
    month: k / 2,
    date: dateAfter(i.spreadDate, Math.round((k / 2) * DAYS_PER_MONTH)),
    ph: phAfter(s, k / 2).ph,
  }));
};

/**
 * Cheapest tonne of effective carbonate first, among those that work in time; the late ones after
 * them (chapter 3, 17).
 */
export const byCostInTime = (a: LimeRow, b: LimeRow): number =>
  Number(b.inTime ?? true) - Number(a.inTime ?? true) || a.perTEcc - b.perTEcc;
