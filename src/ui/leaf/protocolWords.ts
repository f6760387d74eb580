import { dateInWords } from '@/core/quantity/calendar';
import type { SampleWindow } from '@/core/views/sampleWindow';

/** What becomes of the stalk, as the protocols name it. */
export const STALK: Readonly<Record<string, string>> = {
  no: 'The stalk stays on.',
  yes: 'The stalk is taken off.',
  separate: 'Blade and stalk go into bags of their own.',
  petiole_is_sample: 'The stalk is the sample: the blade is taken off at once.',
};
export const windowWords = (w: SampleWindow): string =>
  w.from === null
    ? w.calendar
    : `${dateInWords(w.from)}${w.to === null ? ' on' : ` to ${dateInWords(w.to)}`}`;
export const sentence = (text: string): string =>
  `${(text[0] ?? '').toUpperCase()}${text.slice(1).replace(/\.$/u, '')}.`;
