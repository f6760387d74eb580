import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { sidedressNitrateTest, sufficiencyIndex } from '../nitrogen/inSeason';
import { Refusal } from '../quantity/refusal';
import { said, type Words } from '../why/said';

// What was measured in the growing crop, beside what the plan still intends (chapter 4, section 6).

export interface InSeasonReading {
  id: 'sidedress_test' | 'rich_strip';
  /** What it asks for from its day on; null where it may not be read. */
  nKgHa: number | null;
  words: Words[];
}

/** N of passes that are planned for a day or later, kg/ha. */
const plannedFrom = (a: Assessment, date: string): number =>
  a.supply.passes
    .filter((p) => p.pass.status === 'planned' && p.counts && p.pass.date >= date)
    .reduce((s, p) => s + p.delivered.n, 0);
/** N of passes that went out before a day. */
const doneBefore = (a: Assessment, date: string): number =>
  a.supply.passes
    .filter((p) => p.counts && p.pass.date < date)
    .reduce((s, p) => s + p.delivered.n, 0);

function against(asked: number, planned: number): Words {
  const [x, y] = [Math.round(asked), Math.round(planned)];
  return Math.abs(x - y) <= 10
    ? said`It asks for ${x} kg/ha from now on; the plan has ${y} kg/ha for then: leave it.`
    : x > y
      ? said`It asks for ${x} kg/ha from now on, ${x - y} kg/ha more than the plan has for then.`
      : said`It asks for ${x} kg/ha from now on, ${y - x} kg/ha less than the plan has for then.`;
}
const read = (
  id: InSeasonReading['id'],
  of: () => Omit<InSeasonReading, 'id'>,
): InSeasonReading => {
  try {
    return { id, ...of() };
  } catch (e) {
    if (e instanceof Refusal) return { id, nKgHa: null, words: [e.message] };
    throw e;
  }
};

/**
 * The readings of a season, each with what it asks for: shown beside the sheet and preferred to any
 * model; no figure of the sheet follows by itself.
 */
export function inSeasonReadings(
  { season }: Pick<Plan, 'season'>,
  a: Assessment,
  calendar: Pick<SeasonCalendar, 'seasonCropId'> | null,
): InSeasonReading[] {
  const { sidedressTest: test, richStrip: strip } = season;
  const maize = calendar?.seasonCropId?.includes('maize') ?? false;
  return [
    ...(test
      ? [
          read('sidedress_test', () => {
            if (!maize)
              return {
                nKgHa: null,
                words: [
                  'The test before sidedressing is calibrated for maize: here it is no dose.',
                ],
              };
            if (test.nitrateNMgKg === null || test.plantHeightCm === null)
              return { nKgHa: null, words: ['Nitrate and height of the plants first.'] };
            const { nKgHa } = sidedressNitrateTest({
              no3NMgKg: test.nitrateNMgKg,
              plantHeightCm: test.plantHeightCm,
            });
            return {
              nKgHa,
              words: [
                against(nKgHa, plannedFrom(a, test.date)),
                'It stands in the place of the nitrate credit of the sheet, not beside it: never count both.',
                'Not valid after a large band, on ground dry from drought, or on sand after more than 75 mm of rain since.',
              ],
            };
          }),
        ]
      : []),
    ...(strip
      ? [
          read('rich_strip', () => {
            if (strip.fieldReading === null || strip.stripReading === null)
              return { nKgHa: null, words: ['Both readings first.'] };
            const applied = doneBefore(a, strip.date);
            const { si, nKgHa, flag } = sufficiencyIndex({
              fieldReading: strip.fieldReading,
              referenceReading: strip.stripReading,
              nOptKgHa: Math.min(500, applied + plannedFrom(a, strip.date) + a.sums.n.stillToApply),
              nAppliedKgHa: applied,
            });
            return {
              nKgHa: flag === 'other_cause' ? null : nKgHa,
              words: [
                said`The field reads ${Math.round(100 * si)} % of the strip.`,
                flag === 'strip_not_best'
                  ? 'The strip is not the best of the field: it was not fed richly enough, or something else holds it back.'
                  : flag === 'other_cause'
                    ? 'So far below the strip something else is short first: S, Mn, water or disease. No dose is told.'
                    : against(nKgHa, plannedFrom(a, strip.date)),
              ],
            };
          }),
        ]
      : []),
  ];
}
