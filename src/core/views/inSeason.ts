import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import { secondDressingDose, sidedressNitrateTest, sufficiencyIndex } from '../nitrogen/inSeason';
import { dateInWords, daysBetween } from '../quantity/calendar';
import { Refusal } from '../quantity/refusal';
import type { StandingToday } from '../season/outlook';
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
/** The years agree well enough on a dose below this difference, kg/ha. */
const SAME_DOSE_KG = 10;
/** It is a rule for a crop that is growing: before, the whole plan is still ahead. */
const GROWING_SHARE = 0.05;
const ONE_DRESSING_KG = 100;
/** Of a test that stands before the simulator. */
const FRESH_TEST_D = 14;

export interface SecondDressing {
  /** By the middle year, and by one with much and one with little in reach, kg/ha. */
  doseKgHa: number;
  betweenKgHa: [number, number];
  words: Words[];
}
/**
 * What the quick rule of a second dressing asks for from today on (chapter 4, F6.4), beside what the
 * plan still has for then; null until the crop takes up N in earnest, and after the harvest.
 */
export function secondDressing(
  plan: Pick<Plan, 'season'>,
  a: Assessment,
  today: StandingToday | null,
): SecondDressing | null {
  if (!today || !(today.takenUp.p50 >= GROWING_SHARE * today.asks && today.asks > 0)) return null;
  const from = (taken: number, reach: number) =>
    secondDressingDose({
      uTotalKgHa: today.asks,
      uptakeSoFarKgHa: taken,
      rootZoneMineralNKgHa: reach,
      expectedMineralisationKgHa: Math.max(0, today.toCome.p50),
      unreleasedCoatedKgHa: today.coated.p50,
      maxDoseKgHa: ONE_DRESSING_KG,
    });
  const middle = from(today.takenUp.p50, today.inReach.p50);
  const [much, little] = [today.inReach.p90, today.inReach.p10].map(
    (reach) => from(today.takenUp.p50, reach).doseKgHa,
  ) as [number, number];
  const planned = plannedFrom(a, today.date);
  const stopped = a.runDownDate !== null && today.date >= a.runDownDate;
  const { sidedressTest: test } = plan.season;
  const tested =
    test !== null &&
    test.nitrateNMgKg !== null &&
    Math.abs(daysBetween(test.date, today.date)) <= FRESH_TEST_D;
  const standing = said`On ${dateInWords(today.date)} of a middling year the crop holds ${Math.round(today.takenUp.p50)} kg/ha of the ${Math.round(today.asks)} kg/ha it asks for; its roots reach ${Math.round(today.inReach.p50)} kg/ha, and ${Math.round(Math.max(0, today.toCome.p50))} kg/ha are still set free.`;
  if (stopped)
    return {
      doseKgHa: 0,
      betweenKgHa: [0, 0],
      words: [standing, 'The day by which N should have run down is past: nothing more goes on.'],
    };
  return {
    doseKgHa: middle.doseKgHa,
    betweenKgHa: [much, little],
    words: [
      standing,
      middle.doseKgHa === 0 && planned < SAME_DOSE_KG
        ? said`It lacks ${Math.round(middle.deficitKgHa)} kg/ha, less than the ${Math.round(middle.thresholdKgHa)} kg/ha from which a second dressing pays: no more.`
        : against(middle.doseKgHa, planned),
      ...(little - much >= SAME_DOSE_KG
        ? [
            said`By how much the rain has left in reach it would be ${much} kg/ha to ${little} kg/ha: a nitrate test tells which year this is.`,
          ]
        : []),
      ...(middle.doseKgHa === ONE_DRESSING_KG
        ? [said`More than ${ONE_DRESSING_KG} kg/ha is not told: so much is not one dressing.`]
        : []),
      ...(tested ? ['A nitrate test was taken: it stands before this figure.'] : []),
    ],
  };
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
