import type { Plan } from '../document/document';
import type { ObservedStage } from '../document/seenDocument';
import { clockStart, stageDegrees } from '../nitrogen/stageClock';
import { dateInWords, type IsoDate } from '../quantity/calendar';

/** Stages that were seen: those that put the clock right, and those that do not count, with why. */
export interface Looks {
  counted: ObservedStage[];
  setAside: { look: ObservedStage; message: string }[];
}
/**
 * Which looks count: in the crop's own days, and each at least as far on as the one before.
 *
 * @param i.start, i.end the season's own days
 */
export function looksOf(
  { season, field }: Pick<Plan, 'season' | 'field'>,
  cropId: string,
  i: { start: IsoDate; end: IsoDate },
): Looks {
  const out: Looks = { counted: [], setAside: [] };
  if (season.observedStages.length === 0) return out;
  const from = clockStart(cropId, {
    clockDate: season.plantingDate ?? i.start,
    end: i.end,
    southern: field.latitudeDeg < 0,
  });
  const to = season.harvestDate ?? i.end;
  let reached = -1;
  for (const look of season.observedStages.toSorted((a, b) => a.date.localeCompare(b.date))) {
    const aside = (why: string) =>
      out.setAside.push({
        look,
        message: `Stage ${look.stage} of ${dateInWords(look.date)} ${why}: it does not count.`,
      });
    const degrees = stageDegrees(cropId, look.stage);
    if (look.date < from || look.date > to) aside('lies outside the crop’s days');
    else if (degrees < reached) aside('lies before a stage that was seen earlier');
    else {
      reached = degrees;
      out.counted.push(look);
    }
  }
  return out;
}
