import type { Book } from '../book/book';
import type { Crop } from '../book/crops';
import { orchardKOf } from '../book/orchardK';
import { pkReplacement } from '../budget/offtake';
import type { Plan } from '../document/document';
import { dateInWords } from '../quantity/calendar';
import { orchardPotassium } from '../tissue/orchardPotassium';
import { entered, step } from '../why/step';
import type { GroundAssessment } from './groundReading';
import type { LeafVerdict } from './leafVerdict';
import { pkRequirement } from './pkRequirement';
import { carriedOff } from './planOfftake';

// P and K of trees, vines and bushes with a valid leaf (chapter 7, W2.6).

/** K by the leaf, where the crop has a table and the leaf a figure. */
function leafK(plan: Plan, leaf: LeafVerdict | null, ground: GroundAssessment) {
  if (leaf?.kPct == null || !orchardKOf(leaf.leafCrop)) return null;
  return orchardPotassium({
    crop: leaf.leafCrop,
    yieldTHa: plan.season.yieldGoalTHa ?? 0,
    leafKPct: leaf.kPct,
    soilKHigh: ['high', 'very_high'].includes(ground.classes.K ?? 'unknown'),
  });
}
/** Removal of K that the leaf does not ask for, kg/ha; 0 without a leaf. */
export function kLeftByLeaf(
  plan: Plan,
  leaf: LeafVerdict | null,
  ground: GroundAssessment,
): number {
  const k = leafK(plan, leaf, ground);
  return k ? k.removalKgHa * Math.max(0, 1 - k.factor) : 0;
}

/** P or K of the plan by its school, and by the leaf where that rules. */
export function byLeafPk(
  book: Book,
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
  nutrient: 'p' | 'k',
  leaf: LeafVerdict | null,
): ReturnType<typeof pkRequirement> {
  const school = pkRequirement(book, plan, crop, ground, nutrient);
  if (nutrient === 'k') {
    const k = leafK(plan, leaf, ground);
    if (!k || !leaf) return school;
    const value = k.removalKgHa * Math.max(1, k.factor);
    return {
      ...school,
      offtakeKgHa: k.removalKgHa,
      reqKgHa: value,
      school: 'leaf',
      why: step('requirement.k', 'K requirement', value, 'kg/ha', {
        school: 'leaf',
        formula:
          k.factor > 1
            ? `removal by the fruit x ${k.factor}`
            : 'removal by the fruit; the leaf decides how much of it is given',
        source: 'chapter 5, F15',
        confidence: 'medium',
        note: `By the soil it would be ${school.reqKgHa.toFixed(0)} kg/ha.`,
        inputs: [
          entered('requirement.k.leaf', `Leaf K of ${dateInWords(leaf.date)}`, leaf.kPct ?? 0, '%'),
        ],
      }),
    };
  }
  if (leaf?.p !== 'within' && leaf?.p !== 'above') return school;
  const fruit = pkReplacement(book, {
    cropKey: crop.key,
    yieldTHa: plan.season.yieldGoalTHa ?? 0,
    ...carriedOff(plan, crop),
    nutrient,
    soilClass: ground.classes.P ?? 'unknown',
  });
  return fruit.reqKgHa < school.reqKgHa ? { ...fruit, school: 'leaf' } : school;
}
