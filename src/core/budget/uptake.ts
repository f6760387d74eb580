import type { Book } from '../book/book';
import { clip, interpolate } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { cropOf } from '../book/crops';
import { lateNOf, uptakeKnots } from '../book/budgetTables';

const FRAC = { label: 'Share of the season', unit: '', min: 0, max: 1 };

/**
 * Share of its N that the crop has taken up by a point of the season (chapter 1, T1). An observed
 * stage overrides thermal time, which
 * overrides the calendar.
 *
 * @example uptakeFraction(PRINTED, { cropKey: 'maize_grain', seasonFrac: 0.37 }).nUptakeFrac //
 * 0.25
 */
export function uptakeFraction(
  book: Book,
  i: {
    cropKey: string;
    seasonFrac?: number | null;
    thermalFrac?: number | null;
    bbch?: number | null;
  },
): { nUptakeFrac: number } {
  const crop = cropOf(book, i.cropKey);
  const knots = uptakeKnots(crop.uptakeCurveKey);
  if (i.bbch != null) {
    if (crop.uptakeCurveKey === 'forage_cuts' || crop.uptakeCurveKey === 'continuous')
      refuse(
        'inconsistent',
        'bbch',
        `bbch: the stage of ${crop.name} comes back with each cut; give season_frac or thermal_frac.`,
        { value: i.bbch },
      );
    // A knot such as 21-25 holds for every code of its range, and interpolation leaves from its
    // upper end.
    const coded = knots
      .flatMap((k) => k.bbch.split('-').map((code) => [Number(code), k.nUptakeFrac] as const))
      .filter(([code]) => Number.isFinite(code));
    return { nUptakeFrac: interpolate(coded, i.bbch) };
  }
  if (i.thermalFrac != null)
    return {
      nUptakeFrac: interpolate(
        knots.map((k) => [k.thermalFrac, k.nUptakeFrac] as const),
        within('thermal_frac', i.thermalFrac, FRAC),
      ),
    };
  if (i.seasonFrac != null)
    return {
      nUptakeFrac: interpolate(
        knots.map((k) => [k.seasonFrac, k.nUptakeFrac] as const),
        clip(within('season_frac', i.seasonFrac, FRAC), 0, 1),
      ),
    };
  return refuse(
    'missing',
    'season_frac',
    'season_frac is missing: give season_frac, thermal_frac or bbch.',
  );
}

const KG = { label: 'Nitrogen', unit: 'kg/ha', min: 0, max: 2000 };
const ABOVE_KG = { ...KG, above: true };

/**
 * N released after the date on which the crop should run short (T2): a charge against quality,
 * not a credit.
 *
 * @example lateN(PRINTED, { cropKey: 'onion', releasedAfterKgHa: 55, rootZoneNitrateKgHa: 45,
 * uptakeStillDueKgHa: 40, requirementKgHa: 160 }).level // 'stop'
 */
export function lateN(
  book: Book,
  i: {
    cropKey: string;
    releasedAfterKgHa: number;
    rootZoneNitrateKgHa: number;
    uptakeStillDueKgHa: number;
    requirementKgHa: number;
  },
) {
  const crop = cropOf(book, i.cropKey);
  const requirement = within('requirement_kg_ha', i.requirementKgHa, ABOVE_KG);
  const lateNKgHa = Math.max(
    0,
    within('released_after_kg_ha', i.releasedAfterKgHa, KG) +
      within('root_zone_nitrate_kg_ha', i.rootZoneNitrateKgHa, KG) -
      within('uptake_still_due_kg_ha', i.uptakeStillDueKgHa, KG),
  );
  const share = lateNKgHa / requirement;
  const level =
    crop.lateNSensitivity < 2
      ? 'none'
      : crop.lateNSensitivity >= 3 && share > 0.25
        ? 'stop'
        : share > 0.1
          ? 'caution'
          : 'none';
  return { lateNKgHa, share, level, harm: lateNOf(crop)?.harm ?? null };
}
