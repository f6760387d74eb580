import type { Crop } from '../book/crops';
import type { Plan } from '../document/document';
import type { LeftOut } from '../document/leftDocument';
import { dateInWords } from '../quantity/calendar';
import { fromHundredths, toHundredths } from '../quantity/rounding';
import { said, type Words } from '../why/said';
import { setByLeaf, type LeafVerdict } from './leafVerdict';
import { fixes } from './fixing';

// What a plan leaves out, with a reason: chapter 7, W1.4. Reasons of the target hold whatever is
// planned; reasons of a remainder never exceed what would still be to apply.

type Nutrient = LeftOut['nutrient'];
export type LeftReason =
  | 'quality'
  | 'leaf'
  | 'ground'
  | 'water_screen'
  | 'cap'
  | 'too_small'
  | 'rotation'
  | 'too_late'
  | 'decision';
export interface LeftEntry {
  reason: LeftReason;
  kgHa: number;
  words: Words;
  by: string | null;
  until: string | null;
}
/** Amounts that nobody drives out for, kg/ha (W1.4). */
const TOO_SMALL: Readonly<Record<Nutrient, number>> = { n: 15, p: 5, k: 15, s: 5 };
/** Within so much, or a twentieth of the requirement, a nutrient is placed (W1.5). */
const PLACED_WITHIN: Readonly<Record<Nutrient, number>> = { n: 5, p: 2, k: 5, s: 3 };
/** How far from its target a nutrient may be and still be placed, kg/ha. */
export const placedBand = (x: Nutrient, requirement: number): number =>
  Math.max(PLACED_WITHIN[x], 0.05 * requirement);

const SYMBOL: Readonly<Record<Nutrient, string>> = { n: 'N', p: 'P', k: 'K', s: 'S' };
const STARTER_P = 10;
const TOO_ACID = 4.5;

/** What is known of a plan that lowers a target. */
export interface TargetFacts {
  plan: Plan;
  crop: Crop;
  leaf: LeafVerdict | null;
  /** Removal of K that the leaf does not ask for, kg/ha. */
  leafKLeftOut: number;
  /** Give or take of the N that is asked for. */
  sdNKgHa: number;
  /** Soil test P at or above the stop for water. */
  pScreenStop: boolean;
  /** pH to plan with where it stops the crop; null where it does not. */
  stopPh: number | null;
  /** The most N that crop and law allow to be brought; null: no ceiling bites. */
  nAllowedKgHa: number | null;
  /** By which ceiling. */
  ceiling: string | null;
  runDownDate: string | null;
}

/**
 * Reasons that lower the target of a nutrient.
 *
 * @param net what is asked for after credits and manure, in hundredths
 * @param requirement in hundredths
 */
export function targetLeft(
  x: Nutrient,
  net: number,
  requirement: number,
  f: TargetFacts,
): LeftEntry[] {
  const left: LeftEntry[] = [];
  let open = Math.max(0, net);
  const take = (reason: LeftReason, hundredthsWanted: number, words: Words): void => {
    const kg = Math.min(open, Math.max(0, Math.round(hundredthsWanted)));
    if (kg === 0) return;
    open -= kg;
    left.push({ reason, kgHa: fromHundredths(kg), words, by: null, until: null });
  };
  if (x === 'p' && f.pScreenStop)
    take('water_screen', open, 'soil P is above the limit for water: none from any source');
  if (f.stopPh !== null && f.stopPh < TOO_ACID && x !== 's')
    take(
      'ground',
      x === 'n'
        ? open - requirement / 2
        : open - (x === 'p' ? Math.min(requirement, STARTER_P * 100) : 0),
      `pH ${f.stopPh.toFixed(1)}: until the lime has worked`,
    );
  if (x === 'n' && f.leaf?.n === 'above')
    take('leaf', open, `leaf N of ${dateInWords(f.leaf.date)} above its range: no N this year`);
  if (x === 'k' && f.leafKLeftOut > 0)
    take(
      'leaf',
      toHundredths(f.leafKLeftOut),
      `leaf K of ${f.leaf ? dateInWords(f.leaf.date) : 'the season'} asks for less`,
    );
  if (x === 'n' && f.crop.lateNSensitivity >= 2 && !setByLeaf(f.plan, f.leaf))
    take(
      'quality',
      open - Math.max(0, open - toHundredths(f.sdNKgHa)),
      f.runDownDate === null
        ? 'held back: late N spoils this crop; test before any top-up'
        : `held back until a test before ${dateInWords(f.runDownDate)}: late N spoils this crop`,
    );
  if (x === 'n' && f.nAllowedKgHa !== null && !fixes(f.crop))
    take(
      'cap',
      open - toHundredths(f.nAllowedKgHa),
      said`unmet: ${f.ceiling === 'legal_cap' ? 'the legal ceiling' : 'the crop’s ceiling'} allows ${Math.round(f.nAllowedKgHa)} kg/ha`,
    );
  return left;
}

/**
 * Reasons for what is left after the plan: a person's, a date that is past, or too little to drive
 * out for.
 *
 * @param open still to apply without them, in hundredths
 * @param carried whether a product that is planned anyway can bring it
 */
export function remainderLeft(
  x: Nutrient,
  open: number,
  requirement: number,
  carried: boolean,
  { plan, runDownDate, crop }: Pick<TargetFacts, 'plan' | 'runDownDate' | 'crop'>,
): LeftEntry[] {
  const left: LeftEntry[] = [];
  let rest = open;
  for (const l of plan.left.filter((e) => e.nutrient === x)) {
    const kg = Math.min(rest, l.kgHa === null ? rest : toHundredths(l.kgHa));
    if (kg === 0) continue;
    rest -= kg;
    left.push({
      reason: l.reason,
      kgHa: fromHundredths(kg),
      words: l.words,
      by: l.by,
      until: l.until,
    });
  }
  if (rest === 0) return left;
  if (x === 'n' && crop.lateNSensitivity >= 2 && runDownDate !== null && runDownDate < plan.asOf)
    return [
      ...left,
      {
        reason: 'too_late',
        kgHa: fromHundredths(rest),
        words: `too late since ${dateInWords(runDownDate)}`,
        by: null,
        until: null,
      },
    ];
  const small = rest <= 100 * TOO_SMALL[x];
  const placed = rest <= 100 * placedBand(x, fromHundredths(requirement));
  return small && !placed && !carried
    ? [
        ...left,
        {
          reason: 'too_small',
          kgHa: fromHundredths(rest),
          words: `${SYMBOL[x]}: too little to drive out for`,
          by: null,
          until: null,
        },
      ]
    : left;
}
