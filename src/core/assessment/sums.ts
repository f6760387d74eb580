import { remainderLeft, targetLeft, type LeftEntry, type TargetFacts } from '../lines/leftOut';
import {
  hundredths,
  NUTRIENT_KEYS,
  type LedgerLine,
  type NutrientKey,
  type NutrientSum,
  type PlanSums,
} from '../lines/line';
import type { Supply } from '../lines/supply';
import { fromHundredths, toHundredths } from '../quantity/rounding';
import { inWords } from '../why/said';
import { step, type Step } from '../why/step';

// The one balance of a plan (chapter 7, W1.1): requirement + debits + over = credits + applied +
// planned + left out + still to apply, in whole hundredths of a kilogram.

const total = (left: readonly LeftEntry[]): number =>
  left.reduce((s, l) => s + toHundredths(l.kgHa), 0);

/** What the unknown credits of a nutrient usually bring, at the end of their ranges. */
const usual = (lines: readonly LedgerLine[], x: NutrientKey, end: 'low' | 'high'): number =>
  lines.reduce((s, l) => s + (l.struck === null && l.usual?.nutrient === x ? l.usual[end] : 0), 0);

function sumUp(
  lines: readonly LedgerLine[],
  x: NutrientKey,
  supply: Supply,
  facts: TargetFacts | null,
): NutrientSum {
  const by = { requirement: 0, debit: 0, credit: 0, applied: 0, planned: 0 };
  for (const l of lines) by[l.kind] += hundredths(l, x);
  const passes = {
    applied: Math.round(100 * supply.applied[x]),
    planned: Math.round(100 * supply.planned[x]),
  };
  const net = by.requirement + by.debit - by.credit - by.applied - by.planned;
  const target = facts ? targetLeft(x, net, by.requirement, facts) : [];
  const open = net - passes.applied - passes.planned - total(target);
  const carried = supply.passes.some(
    (p) => p.counts && p.pass.status === 'planned' && p.delivered[x] > 0,
  );
  const rest = facts && open > 0 ? remainderLeft(x, open, by.requirement, carried, facts) : [];
  const left = [...target, ...rest];
  const end = net - passes.applied - passes.planned - total(left);
  return {
    requirement: fromHundredths(by.requirement),
    debits: fromHundredths(by.debit),
    credits: fromHundredths(by.credit),
    applied: fromHundredths(by.applied + passes.applied),
    planned: fromHundredths(by.planned + passes.planned),
    net: fromHundredths(net),
    asked: fromHundredths(net - total(target)),
    left,
    leftOut: fromHundredths(total(left)),
    unknown: {
      low: usual(lines, x, 'low'),
      high: usual(lines, x, 'high'),
    },
    stillToApply: fromHundredths(Math.max(0, end)),
    over: fromHundredths(Math.max(0, -end)),
  };
}

const SYMBOLS: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };

/** What is still to apply of one nutrient, with every line that counts for it. */
export const balanceStep = (
  x: NutrientKey,
  sum: NutrientSum,
  lines: readonly LedgerLine[],
  supply: Supply,
): Step =>
  step(
    `balance.${x}`,
    sum.over > 0 ? `${SYMBOLS[x]} over` : `${SYMBOLS[x]} still to apply`,
    sum.over > 0 ? sum.over : sum.stillToApply,
    'kg/ha',
    {
      formula:
        'requirement + debits - credits - applied - planned - left out; a surplus of one nutrient never pays for another',
      source: 'chapter 7, W1.1 (with chapter 1, B1)',
      confidence: 'high',
      inputs: [
        ...lines
          .filter((l) => l[x] !== null && l.struck === null)
          .map((l) => l.why[x] ?? step(`line.${l.id}.${x}`, l.label, l[x], 'kg/ha')),
        ...supply.passes
          .filter((p) => p.counts && p.delivered[x] > 0)
          .map((p) =>
            x === 'n'
              ? p.why
              : step(`pass.${p.pass.id}.${x}`, p.product.name, p.delivered[x], 'kg/ha'),
          ),
        ...sum.left.map((l, i) =>
          step(`left.${x}.${i}`, 'Left out', l.kgHa, 'kg/ha', { formula: inWords(l.words) }),
        ),
      ],
    },
  );

/** The sheet's sums, nutrient by nutrient; `facts` is null while crop or goal are not known. */
export const sumsOf = (
  lines: readonly LedgerLine[],
  supply: Supply,
  facts: TargetFacts | null,
): PlanSums =>
  Object.fromEntries(
    NUTRIENT_KEYS.map((x) => [x, sumUp(lines, x, supply, facts)]),
  ) as unknown as PlanSums;
