import type { Book } from '../book/book';
import { numberOfPasses, splitAllocate } from '../nitrogen/split';
import { stageDate } from '../nitrogen/stageClock';
import { productRate } from '../nitrogen/product';
import { refuse } from '../quantity/refusal';
import { doseLimit } from '../book/fertilisers';
import { templateOf, templatesFor } from '../book/splitTemplates';
import { soilOf } from '../book/soils';
import type { Step } from '../why/step';
import { assess } from '../assessment/assess';
import { seasonCalendar } from '../lines/calendar';
import { dateOf } from '../lines/days';
import type { FertiliserPass, Plan } from '../document/document';
import { likely } from '../assessment/placed';
import { furrowSection, supplyBetween } from './furrow';

export interface SplitProposal {
  passes: FertiliserPass[];
  names: string[];
  unplacedKgHa: number;
  why: Step[];
}
/** The station offers up to three; fertigation crops may want more, placed by hand. */
const MOST_PASSES = 3;

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
  const bare: Plan = { ...plan, passes: plan.passes.filter((p) => p.status === 'done') };
  const a = assess(book, bare);
  const calendar = seasonCalendar(book, bare);
  const section = furrowSection(book, bare, a);
  const cropId = calendar?.seasonCropId;
  if (!calendar || !section || !cropId)
    refuse('inconsistent', 'crop_key', 'This crop has no stage table: place the passes by date.');
  // Credits that nobody knows count at the careful end: what late N spoils gets less, the rest more.
  const { low, high } = likely(a.sums.n);
  const wanted = Math.min(a.caps.nAllowedKgHa, calendar.crop.lateNSensitivity >= 2 ? low : high);
  if (wanted < 15)
    refuse(
      'inconsistent',
      'n_total_kg_ha',
      `${Math.round(wanted)} kg N/ha are still to apply: too little to drive out for.`,
      { value: wanted, allowed: '15 kg/ha or more' },
    );
  const soil = soilOf(plan.field.soilTextureId);
  const count = numberOfPasses({
    cropId,
    nTotalKgHa: wanted,
    expectedDrainageMm: plan.season.springDrainageMm,
    splitClass: soil.splitClass,
  });
  const templates = templatesFor(cropId).filter((t) => t.nPasses <= MOST_PASSES);
  const chosen =
    count.nPasses <= MOST_PASSES
      ? count.templateId
      : [...templates].sort((x, y) => y.nPasses - x.nPasses)[0]?.templateId;
  if (!chosen)
    refuse(
      'inconsistent',
      'crop_key',
      'No template with up to three passes for this crop: place them by hand.',
    );
  const rows = templateOf(chosen);
  const dates = rows.map(
    (r) =>
      stageDate(calendar.clock, cropId, r.bbchTarget) ??
      dateOf(calendar, Math.min(calendar.planting, calendar.days)),
  );
  const limit = doseLimit('soil_applied', soil.splitClass)?.maxSingleDoseKgHa ?? 120;
  const split = splitAllocate({
    templateId: chosen,
    nTotalKgHa: wanted,
    uTotalKgHa: Math.max(1, section.demandTotal),
    soilSupplyKgHa: supplyBetween(section, dates),
    maxDoseKgHa: rows.map((r) =>
      r.passName === 'tillering'
        ? (doseLimit('tillering_cereal', soil.splitClass)?.maxSingleDoseKgHa ?? limit)
        : limit,
    ),
  });
  const passes = rows.flatMap((r, k): FertiliserPass[] => {
    const dose = split.dosesKgHa[k] ?? 0;
    if (dose === 0) return [];
    return [
      {
        id: newId(k),
        date: dates[k] as string,
        productId,
        productKgHa: Math.round(productRate(book, { productId, targetKgHa: dose }).productKgHa),
        placementId: r.placementId,
        status: 'planned',
        pricePerT: null,
      },
    ];
  });
  return {
    passes,
    names: rows.map((r) => r.passName),
    unplacedKgHa: split.unplacedKgHa,
    why: [count.why, split.why],
  };
}
