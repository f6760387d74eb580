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
  needD: number;
  days: number | null;
  /** What the days count to, in words. */
  to: string;
  level: 'stop' | 'caution' | 'info';
  source: string;
}

const raw = (f: IntervalFacts): boolean => f.food && f.eatenRaw;
/** Certified land keeps the days from every food crop; other land from those eaten raw. */
const ON_HARVEST: Readonly<Record<string, (f: IntervalFacts) => boolean>> = {
  raw_soil_contact: (f) => f.certified && f.food && f.touchesSoil,
  raw_no_contact: (f) => f.certified && f.food && !f.touchesSoil,
  raw_not_food: (f) => !f.food,
  raw_not_organic_contact: (f) => !f.certified && raw(f) && f.touchesSoil,
  raw_not_organic_no_contact: (f) => !f.certified && raw(f) && !f.touchesSoil,
  treated_compost: () => true,
  digested_mesophilic: (f) => raw(f) && f.touchesSoil,
  pasteurised: () => true,
  biosolids_restricted: (f) => f.food && f.touchesSoil && !f.harvestedBelow,
  biosolids_restricted_below: (f) => f.food && f.harvestedBelow && !f.workedInSoon,
  biosolids_restricted_below_soon: (f) => f.food && f.harvestedBelow && f.workedInSoon,
  biosolids_restricted_other: (f) =>
    !f.grazedOrCut && !(f.food && (f.touchesSoil || f.harvestedBelow)),
};
const ON_CUT: Readonly<Record<string, (f: IntervalFacts) => boolean>> = {
  biosolids_restricted_graze: (f) => f.grazedOrCut,
  animal_byproduct_graze: (f) => f.grazedOrCut,
  slurry_graze: (f) => f.grazedOrCut,
};
const OWN_DAYS: Readonly<Record<string, 'rawContactDays' | 'rawNoContactDays'>> = {
  raw_soil_contact: 'rawContactDays',
  raw_not_organic_contact: 'rawContactDays',
  raw_no_contact: 'rawNoContactDays',
  raw_not_organic_no_contact: 'rawNoContactDays',
};

const applies = (row: PathogenInterval, f: IntervalFacts): boolean =>
  row.materialClass.split(';').includes(f.pathogenClass) &&
  (ON_HARVEST[row.ruleKey] ?? ON_CUT[row.ruleKey] ?? (() => false))(f);

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
      const own = OWN_DAYS[row.ruleKey];
      const toCut = row.ruleKey in ON_CUT;
      return {
        ruleKey: row.ruleKey,
        needD: own ? f[own] : row.intervalD,
        days: toCut ? f.daysToCut : f.daysToHarvest,
        to: toCut ? 'the next cut or grazing' : 'harvest',
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
