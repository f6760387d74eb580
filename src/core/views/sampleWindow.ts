import type { Book } from '../book/book';
import { tissueCropOf } from '../book/crops';
import { leafStandards, type SamplingProtocol } from '../book/leafStandards';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { stageDate } from '../nitrogen/stageClock';
import { daysBetween, type IsoDate } from '../quantity/calendar';
import { Refusal } from '../quantity/refusal';
import { standardsFor } from '../tissue/standard';

// When the leaf of a crop is taken: by its clock where it has one, else by the calendar of its
// hemisphere (chapter 5, section 3).

export interface SampleWindow {
  protocol: SamplingProtocol;
  part: string;
  partLabel: string;
  stageLabel: string;
  system: string | null;
  bbchFrom: number;
  bbchTo: number;
  /** Days by the crop's clock; null where it has none. */
  from: IsoDate | null;
  to: IsoDate | null;
  /** Months in words, for the hemisphere of the field. */
  calendar: string;
  state: 'past' | 'open' | 'soon' | 'later' | 'not_known';
}
/** A window that opens within so many days stands on Today. */
const SOON_D = 14;
const ORDER: readonly SampleWindow['state'][] = ['open', 'soon', 'later', 'not_known', 'past'];

/** Day on which a stage is reached; a stage that the table does not hold lies before the next. */
export function dayOfStage(calendar: SeasonCalendar, bbch: number): IsoDate | null {
  if (!calendar.seasonCropId) return null;
  try {
    return stageDate(calendar.clock, calendar.seasonCropId, String(bbch).padStart(2, '0'));
  } catch (e) {
    if (e instanceof Refusal) return null;
    throw e;
  }
}

function stateOf(from: IsoDate | null, to: IsoDate | null, today: IsoDate): SampleWindow['state'] {
  if (from === null) return 'not_known';
  if (to !== null && to < today) return 'past';
  if (from <= today) return 'open';
  return daysBetween(today, from) <= SOON_D ? 'soon' : 'later';
}

/** The windows of the season's crop, those that are open or open next first. */
export function sampleWindows(
  book: Book,
  plan: Plan,
  calendar: SeasonCalendar | null,
): SampleWindow[] {
  const { cropKey, use } = plan.season;
  const crop = cropKey && tissueCropOf(book, cropKey, use);
  if (!crop) return [];
  const { ranges, protocols } = leafStandards(book);
  const southern = plan.field.latitudeDeg < 0;
  // What is cut again and again has its window in every growth: no day of the year tells it.
  const clocked = calendar?.regrowth ? null : calendar;
  return standardsFor(ranges, crop)
    .flatMap((s): SampleWindow[] => {
      const protocol = protocols.find((p) => p.protocolId === s.protocolId);
      if (!protocol) return [];
      const from = clocked && dayOfStage(clocked, s.bbchFrom);
      const to = clocked && dayOfStage(clocked, s.bbchTo);
      const months = southern ? protocol.calendarHintSouth : protocol.calendarHintNorth;
      return [
        {
          protocol,
          part: s.part,
          partLabel: s.partLabel,
          stageLabel: s.stageLabel,
          system: s.system,
          bbchFrom: s.bbchFrom,
          bbchTo: s.bbchTo,
          from,
          to,
          // "same": the window hangs on the crop, not on the hemisphere.
          calendar: months === 'same' ? protocol.calendarHintNorth : months,
          state: stateOf(from, to, plan.asOf),
        },
      ];
    })
    .toSorted(
      (a, b) =>
        ORDER.indexOf(a.state) - ORDER.indexOf(b.state) ||
        (a.from ?? '').localeCompare(b.from ?? ''),
    );
}
