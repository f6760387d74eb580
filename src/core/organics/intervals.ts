import { pathogenIntervals, type PathogenInterval } from '../book/organicTables';

/** What the intervals before harvest look at (chapter 2, 11.1). */
export interface IntervalFacts {
  /** Pathogen class of the material; a compost without records of its heat is raw manure. */
  pathogenClass: string;
  /** The crop is food for people. */
  food: boolean;
  /** What is harvested may be eaten raw. */
  eatenRaw: boolean;
  /** What is harvested touches the soil or is splashed by it. */
  touchesSoil: boolean;
  /** What is harvested grew below the surface. */
  harvestedBelow: boolean;
  /** Grass or forage that is cut or grazed. */
  grazedOrCut: boolean;
  certified: boolean;
  /** Worked in within four months, by what was planned or by the planting. */
  workedInSoon: boolean;
  /** Days from spreading or working in, whichever is later, to the first harvest. */
  daysToHarvest: number | null;
  /** Days to the next cut or grazing. */
  daysToCut: number | null;
  /** The farm's own days for raw manure. */
  rawContactDays: number;
  rawNoContactDays: number;
}
export interface AppliedInterval {
  ruleKey: string;
  /** Of raw manure, whose days a farm may set. */
  ofRaw: boolean;
  needD: number;
  days: number | null;
  /** What the days count to, in words. */
  to: string;
  level: 'stop' | 'caution' | 'info';
  source: string;
}

type Contact = NonNullable<PathogenInterval['asksContact']>;
/** How what is harvested grows, by the words of the table's column. */
const GROWS: Record<Contact, (f: IntervalFacts) => boolean> = {
  soil: (f) => f.touchesSoil,
  off: (f) => !f.touchesSoil,
  surface: (f) => f.touchesSoil && !f.harvestedBelow,
  below: (f) => f.harvestedBelow && !f.workedInSoon,
  below_soon: (f) => f.harvestedBelow && f.workedInSoon,
  other: (f) => !f.grazedOrCut && !(f.food && (f.touchesSoil || f.harvestedBelow)),
};
const asks = (wanted: boolean | null, is: boolean): boolean => wanted === null || wanted === is;

/** Certified land keeps the days from every food crop; other land from those eaten raw. */
const applies = (row: PathogenInterval, f: IntervalFacts): boolean =>
  row.materialClass.split(';').includes(f.pathogenClass) &&
  asks(row.asksFood, f.food) &&
  asks(row.asksCertified, f.certified) &&
  (!row.asksRaw || f.eatenRaw) &&
  (row.asksContact === null || GROWS[row.asksContact](f)) &&
  (!row.toCut || f.grazedOrCut);

/**
 * The rows of the table of intervals that hold for one dressing on one crop, each with the days
 * that there are: by material class, how the crop grows and how it is eaten (chapter 2, 11.1;
 * agronomy corrections, i). Days are calendar days; as many as are wanted is enough.
 *
 * @example intervalsOf({ pathogenClass: 'raw_manure', food: true, eatenRaw: true, touchesSoil: true,
 * harvestedBelow: false, grazedOrCut: false, certified: false, workedInSoon: true, daysToHarvest: 19,
 * daysToCut: null, rawContactDays: 120, rawNoContactDays: 90 })[0].needD // 120
 */
export const intervalsOf = (f: IntervalFacts): AppliedInterval[] =>
  pathogenIntervals()
    .filter((row) => applies(row, f))
    .map((row) => {
      const { toCut, ownDays } = row;
      const own = ownDays === 'contact' ? f.rawContactDays : f.rawNoContactDays;
      return {
        ruleKey: row.ruleKey,
        needD: ownDays === null ? row.intervalD : own,
        days: toCut ? f.daysToCut : f.daysToHarvest,
        to: toCut ? 'the next cut or grazing' : 'harvest',
        ofRaw: ownDays !== null,
        level: row.levelIfBroken,
        source: row.source,
      };
    });

/** Intervals of a level that are not kept, the longest first. */
export const brokenOf = (
  intervals: readonly AppliedInterval[],
  level: AppliedInterval['level'],
): AppliedInterval[] =>
  intervals
    .filter((x) => x.level === level && x.days !== null && x.days < x.needD)
    .toSorted((a, b) => b.needD - a.needD);
/** The longest interval that nobody can check, since the day of harvest is not known. */
export const uncheckedOf = (intervals: readonly AppliedInterval[]): AppliedInterval | undefined =>
  intervals.filter((x) => x.days === null && x.needD > 0).toSorted((a, b) => b.needD - a.needD)[0];
