import type { Crop } from '../book/crops';
import { placedBand, type LeftReason } from '../lines/leftOut';
import { NUTRIENT_KEYS, type NutrientKey, type NutrientSum, type PlanSums } from '../lines/line';
import { joined, said, type Said, type Words } from '../why/said';

// What "placed" and "over" mean, for every page (chapter 7, W1.5).

const SYMBOL: Readonly<Record<NutrientKey, string>> = { n: 'N', p: 'P', k: 'K', s: 'S' };
/** Of a crop that late N spoils, more than this over its target is told, kg/ha. */
const SPOILT_ABOVE = 10;

/**
 * What is still to apply with the credits that nobody knows at what is usual of them: from the
 * better to the worse end (W4.2).
 */
export const likely = (s: NutrientSum): { low: number; high: number } => ({
  low: Math.max(0, s.stillToApply - s.unknown.high),
  high: Math.max(0, s.stillToApply - s.unknown.low),
});
/** Nothing, or too little to matter, is likely still to apply. */
export function isPlaced(x: NutrientKey, s: NutrientSum): boolean {
  const { low, high } = likely(s);
  return (low + high) / 2 <= placedBand(x, s.requirement);
}

/**
 * More than the target by what can be left out: products and manure that are planned, never water
 * or soil.
 */
export function isOver(
  x: NutrientKey,
  s: NutrientSum,
  crop: Pick<Crop, 'lateNSensitivity'> | null,
): boolean {
  const band =
    x === 'n' && (crop?.lateNSensitivity ?? 0) >= 2
      ? Math.min(SPOILT_ABOVE, placedBand(x, s.requirement))
      : placedBand(x, s.requirement);
  // Sulphur that comes with an N product harms nothing; what was not planned cannot be left out.
  return x !== 's' && Math.min(s.over, s.planned) > band;
}

const REASONS: Readonly<Record<LeftReason, string>> = {
  quality: 'held back for quality',
  leaf: 'left out by the leaf',
  ground: 'left out until limed',
  water_screen: 'left out, soil P above the limit for water',
  cap: 'unmet, above the ceiling',
  too_small: 'left out, too little to drive out for',
  rotation: 'left to another year',
  too_late: 'too late this season',
  decision: 'left out on purpose',
};
/** The reason of a left-out amount in a few words. */
export const reasonWords = (reason: LeftReason): string => REASONS[reason];

function openOf(x: NutrientKey, s: NutrientSum): Said {
  const kg = Math.round(s.stillToApply);
  if (s.unknown.high === 0) return said`${SYMBOL[x]} ${kg} kg/ha`;
  const { low, high } = likely(s);
  return said`${SYMBOL[x]} at most ${kg} kg/ha (likely ${Math.round(low)} kg/ha to ${Math.round(high)} kg/ha)`;
}
/** "Still to apply: N 42 kg/ha, K 93 kg/ha"; null where all four are placed. */
export function openNote(sums: PlanSums): Words | null {
  const open = NUTRIENT_KEYS.filter((x) => !isPlaced(x, sums[x]));
  return open.length === 0
    ? null
    : joined(
        [
          { text: 'still to apply:', fill: {} },
          joined(
            open.map((x) => openOf(x, sums[x])),
            ', ',
          ),
        ],
        ' ',
      );
}
/** "P over by 12 kg/ha": what is over of what is planned; null where nothing is too much. */
export function overNote(sums: PlanSums, crop: Crop | null): Words | null {
  const over = NUTRIENT_KEYS.filter((x) => isOver(x, sums[x], crop));
  return over.length === 0
    ? null
    : joined(
        over.map((x) => said`${SYMBOL[x]} over by ${Math.round(sums[x].over)} kg/ha`),
        ', ',
      );
}
/** "N, S placed; P left to another year": what a settled plan says of the four nutrients. */
export function settledNote(sums: PlanSums): string {
  const left = NUTRIENT_KEYS.filter((x) => sums[x].leftOut > 0);
  const placed = NUTRIENT_KEYS.filter((x) => sums[x].planned + sums[x].applied > 0);
  const rest = NUTRIENT_KEYS.filter((x) => !left.includes(x) && !placed.includes(x));
  const covered = rest.filter((x) => sums[x].requirement >= 0.5);
  const nothing = rest.filter((x) => !covered.includes(x));
  const names = (of: readonly NutrientKey[]) => of.map((x) => SYMBOL[x]).join(', ');
  return [
    ...(placed.length > 0 ? [`${names(placed)} placed`] : []),
    ...left.map((x) => {
      const most = sums[x].left.reduce((m, l) => (l.kgHa > m.kgHa ? l : m));
      return `${SYMBOL[x]} ${REASONS[most.reason]}`;
    }),
    ...(covered.length > 0 ? [`${names(covered)} covered`] : []),
    ...(nothing.length > 0 ? [`${names(nothing)} not asked for`] : []),
  ].join('; ');
}
