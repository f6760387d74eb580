import type { Book } from '../book/book';
import type { Plan } from '../document/document';
import { alStops, aluminiumOf } from './aluminium';
import type { GroundAssessment } from './groundReading';
import type { LimeAssessment } from './lime';

// Ground that must be put right before this crop's fertiliser pays (chapter 7, W2.3 d and h).

/** Above this pH sodium is suspected, and lime does harm. */
const SODIC = 8.5;
/** Why a crop waits for its ground, in the words of the stations. */
export interface SoilFirst {
  cause: 'acid' | 'aluminium' | 'too_limy' | 'sodium';
  note: string;
  /** What goes before its fertiliser, said beside every amount. */
  after: string;
}
/** Whether the lime that is chosen brings the pH to its limit by planting (chapter 3, 7.2). */
export const limedInTime = (lime: LimeAssessment | null): boolean => lime?.chosen?.inTime === true;

/** What this crop waits for; null where nothing is in the way, or lime on the plan comes in time. */
export function soilFirst(
  book: Book,
  plan: Plan,
  ground: GroundAssessment,
  lime: LimeAssessment | null,
): SoilFirst | null {
  const { gate, ph } = ground;
  if (gate?.level === 'stop' && ph !== null) {
    if (ph > SODIC)
      return {
        cause: 'sodium',
        note: 'find out why the pH is above 8.5 first',
        after: 'once the pH is put right',
      };
    if (ph > gate.maxPreferredPh)
      return {
        cause: 'too_limy',
        note: 'too limy for this crop: lower the pH a year ahead',
        after: 'once the pH is put right',
      };
    if (!limedInTime(lime))
      return { cause: 'acid', note: 'lime first, for this crop', after: 'only after lime' };
  }
  return alStops(aluminiumOf(book, plan), plan.lime?.chosenId != null)
    ? {
        cause: 'aluminium',
        note: 'lime first, for this crop: too much aluminium',
        after: 'only after lime',
      }
    : null;
}
