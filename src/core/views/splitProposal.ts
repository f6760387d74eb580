import type { Book } from '../book/book';
import { numberOfPasses, splitAllocate } from '../nitrogen/split';
import { stageDate } from '../nitrogen/stageClock';
import { productRate } from '../nitrogen/product';
import { refuse } from '../quantity/refusal';
import { doseLimit } from '../book/fertilisers';
import { templateOf, templatesFor, type SplitPass } from '../book/splitTemplates';
import { soilOf } from '../book/soils';
import type { Step } from '../why/step';
import { assess, type Assessment } from '../assessment/assess';
import { seasonCalendar, type SeasonCalendar } from '../lines/calendar';
import type { IsoDate } from '../quantity/calendar';
import { dateOf } from '../lines/days';
import type { FertiliserPass, Plan } from '../document/document';
import { likely } from '../assessment/placed';
import { furrowSection, supplyBetween, type FurrowSection } from './furrow';

export interface SplitProposal {
  passes: FertiliserPass[];
  names: string[];
  unplacedKgHa: number;
  why: Step[];
}
/** The station offers up to three; fertigation crops may want more, placed by hand. */
const MOST_PASSES = 3;
const WORTH_A_TRIP_KG = 15;

/** A season that is ready for N to be split: what is wanted, by which stages, on which ground. */
export interface ToSplit {
  book: Book;
  plan: Plan;
  /** The plan without the passes that are still planned. */
  bare: Plan;
  a: Assessment;
  calendar: SeasonCalendar;
  section: FurrowSection;
  cropId: string;
  wantedKgHa: number;
  count: ReturnType<typeof numberOfPasses>;
  /** Templates of up to three passes, the one that the rules choose first. */
  templates: { templateId: string; nPasses: number }[];
}
/**
 * What is to be split, and by which template of stages (chapter 4, F5.3).
 *
 * @throws Refusal when the crop has no stage table or nothing is left to apply
 */
export function toSplit(book: Book, plan: Plan): ToSplit {
  const bare: Plan = { ...plan, passes: plan.passes.filter((p) => p.status === 'done') };
  const a = assess(book, bare);
  const calendar = seasonCalendar(book, bare);
  const section = furrowSection(book, bare, a);
  const cropId = calendar?.seasonCropId;
  if (!calendar || !section || !cropId)
    refuse('inconsistent', 'crop_key', 'This crop has no stage table: place the passes by date.');
  if (calendar.end < plan.asOf)
    refuse('inconsistent', 'harvest_date', 'This season is over: nothing more is placed in it.', {
      value: plan.season.harvestDate,
      allowed: `${plan.asOf} or later`,
    });
  // Credits that nobody knows count at the careful end: what late N spoils gets less, the rest more.
  const { low, high } = likely(a.sums.n);
  const wantedKgHa = Math.min(
    a.caps.nAllowedKgHa,
    calendar.crop.lateNSensitivity >= 2 ? low : high,
  );
  if (wantedKgHa < WORTH_A_TRIP_KG)
    refuse(
      'inconsistent',
      'n_total_kg_ha',
      `${Math.round(wantedKgHa)} kg N/ha are still to apply: too little to drive out for.`,
      { value: wantedKgHa, allowed: '15 kg/ha or more' },
    );
  const count = numberOfPasses({
    cropId,
    nTotalKgHa: wantedKgHa,
    expectedDrainageMm: plan.season.springDrainageMm,
    splitClass: soilOf(plan.field.soilTextureId).splitClass,
  });
  const few = templatesFor(cropId).filter((t) => t.nPasses <= MOST_PASSES);
  const chosen =
    few.find((t) => t.templateId === count.templateId) ??
    few.toSorted((x, y) => y.nPasses - x.nPasses)[0];
  if (!chosen)
    refuse(
      'inconsistent',
      'crop_key',
      'No template with up to three passes for this crop: place them by hand.',
    );
  const templates = [chosen, ...few.filter((t) => t.templateId !== chosen.templateId)];
  return { book, plan, bare, a, calendar, section, cropId, wantedKgHa, count, templates };
}

/** Passes of a template on the days of its stages, sized by demand less soil supply. */
export interface Placed {
  rows: readonly SplitPass[];
  dates: IsoDate[];
  capsKgHa: number[];
  split: ReturnType<typeof splitAllocate>;
}
export function placedBy(t: ToSplit, templateId: string): Placed {
  const { splitClass } = soilOf(t.plan.field.soilTextureId);
  const rows = templateOf(templateId);
  const dates = rows.map((r) => {
    const meant =
      stageDate(t.calendar.clock, t.cropId, r.bbchTarget) ??
      dateOf(t.calendar, Math.min(t.calendar.planting, t.calendar.days));
    // What the stage would have wanted before today can only go out today.
    return meant < t.plan.asOf ? t.plan.asOf : meant;
  });
  const limit = doseLimit('soil_applied', splitClass)?.maxSingleDoseKgHa ?? 120;
  const capsKgHa = rows.map((r) =>
    r.passName === 'tillering'
      ? (doseLimit('tillering_cereal', splitClass)?.maxSingleDoseKgHa ?? limit)
      : limit,
  );
  const split = splitAllocate({
    templateId,
    nTotalKgHa: t.wantedKgHa,
    uTotalKgHa: Math.max(1, t.section.demandTotal),
    soilSupplyKgHa: supplyBetween(t.section, dates),
    maxDoseKgHa: capsKgHa,
  });
  return { rows, dates, capsKgHa, split };
}

/** So much N on a day, by a placement; what falls on one day goes out as one. */
export interface Dose {
  name: string;
  date: IsoDate;
  placementId: string;
  nKgHa: number;
}
export const togetherByDay = <D extends Dose>(doses: readonly D[]): D[] =>
  doses.reduce<D[]>((list, d) => {
    if (d.nKgHa === 0) return list;
    const same = list.findIndex((x) => x.date === d.date && x.placementId === d.placementId);
    const had = list[same];
    return had
      ? list.with(same, { ...had, name: `${had.name}, ${d.name}`, nKgHa: had.nKgHa + d.nKgHa })
      : [...list, d];
  }, []);
/** A planned pass that brings a dose. */
export const passOf = (
  book: Book,
  id: string,
  productId: string,
  { date, placementId, nKgHa }: Dose,
): FertiliserPass => ({
  id,
  date,
  productId,
  productKgHa: Math.round(productRate(book, { productId, targetKgHa: nKgHa }).productKgHa),
  placementId,
  status: 'planned',
  pricePerT: null,
});

/**
 * One to three N passes for what is still to apply, sized by demand less soil supply and dated by
 * the stage clock (chapter 4, F5.3 to F5.5).
 *
 * @param productId N product to use
 * @throws Refusal when the crop has no stage table or nothing is left to apply
 */
export function proposeSplit(
  book: Book,
  plan: Plan,
  productId: string,
  newId: (k: number) => string,
): SplitProposal {
  const t = toSplit(book, plan);
  const { rows, dates, split } = placedBy(t, (t.templates[0] as { templateId: string }).templateId);
  const doses = togetherByDay(
    rows.map((r, k) => ({
      name: r.passName,
      date: dates[k] as IsoDate,
      placementId: r.placementId,
      nKgHa: split.dosesKgHa[k] ?? 0,
    })),
  );
  return {
    passes: doses.map((d, k) => passOf(book, newId(k), productId, d)),
    names: doses.map((d) => d.name),
    unplacedKgHa: split.unplacedKgHa,
    why: [t.count.why, split.why],
  };
}
