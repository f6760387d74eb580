import { dateInWords } from '../quantity/calendar';
import { extractantName, nutrientSymbol } from '../book/soilTests';
import type { BadRow, ParsedSample } from './bringIn';
import { asker, type Answers, type Question } from './questions';
import type { LabReading } from './samples';

// A figure that lies far from what the field itself had before is asked about: a field is seldom
// another one, a column more often.

/** What a field's newest topsoil sample says. */
export interface EarlierFound {
  date: string;
  phWater: number | null;
  phCacl2: number | null;
  readings: readonly LabReading[];
}
/** pH moves by tenths from year to year, by lime by a half (own estimate, `consensus`). */
const FAR_PH = 1;
/** Sampling error of P and K reaches half of the value; three times is another thing (`consensus`). */
const FAR_TIMES = 3;
const TOPSOIL_CM = 30;

interface Doubt {
  /** What it is about, the same for every sample of the field. */
  figure: string;
  now: string;
  before: string;
}
const farPh = (figure: string, now: number | null, was: number | null): Doubt[] =>
  now !== null && was !== null && Math.abs(now - was) > FAR_PH
    ? [{ figure, now: String(now), before: String(was) }]
    : [];
function doubtsOf(s: ParsedSample, e: EarlierFound): Doubt[] {
  // A point of a survey may well differ from the field: that is what it was taken for.
  if (s.point !== null || s.depthFromCm > 0 || (s.depthCm ?? 0) > TOPSOIL_CM) return [];
  const readings = s.readings.flatMap((r): Doubt[] => {
    const was = e.readings.find(
      (x) => x.nutrient === r.nutrient && x.extractant === r.extractant && x.unit === r.unit,
    );
    if (!was || r.belowDetection || was.belowDetection || was.value <= 0 || r.value <= 0) return [];
    const times = r.value / was.value;
    return times > FAR_TIMES || times < 1 / FAR_TIMES
      ? [
          {
            figure: `${nutrientSymbol(r.nutrient)} (${extractantName(r.extractant)})`,
            now: String(r.value),
            before: `${was.value} ${was.unit.replace('_', '/')}`,
          },
        ]
      : [];
  });
  return [
    ...farPh('pH in water', s.phWater, e.phWater),
    ...farPh('pH in calcium chloride', s.phCacl2, e.phCacl2),
    ...readings,
  ];
}

/**
 * Sorts out samples whose figures lie far from their field's own earlier ones: asked once a field
 * and figure, they come in or wait as the answer says.
 *
 * @param earlier the newest topsoil sample of each field, by its name
 * @param cellsOf cells of a waiting row as the file has them
 */
export function againstEarlier(
  good: readonly ParsedSample[],
  earlier: ReadonlyMap<string, EarlierFound>,
  answers: Answers,
  cellsOf: (s: ParsedSample) => Record<string, string>,
): { good: ParsedSample[]; bad: BadRow[]; questions: Question[] } {
  const a = asker(answers);
  const kept: ParsedSample[] = [];
  const bad: BadRow[] = [];
  for (const s of good) {
    const before = earlier.get(s.fieldName);
    const doubts = before ? doubtsOf(s, before) : [];
    const said = doubts.map((d) => ({
      d,
      answer: a.ask({
        about: 'earlier',
        column: `${s.fieldName}, ${d.figure}`,
        cell: `${d.now}, where it was ${d.before} on ${before ? dateInWords(before.date) : ''}`,
        choices: [
          { answer: 'so', means: 'it is so: it comes in' },
          { answer: 'wait', means: 'something is wrong: those samples wait' },
        ],
      }),
    }));
    const waits = said.filter((x) => x.answer === 'wait');
    if (waits.length === 0) kept.push(s);
    else
      bad.push({
        row: s.row,
        cells: cellsOf(s),
        problems: waits.map(({ d }) => ({
          column: d.figure,
          value: d.now,
          reason: `${d.figure} ${d.now} lies far from ${d.before}, which the field had before.`,
        })),
      });
  }
  return { good: kept, bad, questions: a.questions() };
}
