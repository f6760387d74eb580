import {
  hundredths,
  type LedgerLine,
  type NutrientKey,
  type NutrientSum,
  type PlanSums,
} from '../lines/line';
import type { Supply } from '../lines/supply';
import { fromHundredths } from '../quantity/rounding';
import { step, type Step } from '../why/step';

function sumUp(
  lines: readonly LedgerLine[],
  x: NutrientKey,
  planned: number,
  fixing: boolean,
): NutrientSum {
  const by = { requirement: 0, debit: 0, credit: 0, applied: 0 };
  for (const l of lines) by[l.kind] += hundredths(l, x);
  const gross = by.requirement + by.debit - by.credit - by.applied;
  const fixation = fixing && x === 'n' ? Math.max(0, gross) : 0;
  const net = gross - fixation;
  const plannedH = Math.round(planned * 100);
  return {
    requirement: fromHundredths(by.requirement),
    debits: fromHundredths(by.debit),
    credits: fromHundredths(by.credit),
    applied: fromHundredths(by.applied),
    fixation: fromHundredths(fixation),
    net: fromHundredths(net),
    toBring: fromHundredths(Math.max(0, net)),
    surplus: fromHundredths(Math.max(0, -net)),
    planned: fromHundredths(plannedH),
    afterPlan: fromHundredths(net - plannedH),
  };
}

const SYMBOLS: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };

/** What is still to bring of one nutrient, with every line that counts for it. */
export const balanceStep = (x: NutrientKey, sum: NutrientSum, lines: readonly LedgerLine[]): Step =>
  step(`balance.${x}`, `${SYMBOLS[x]} still to bring`, sum.toBring, 'kg/ha', {
    formula:
      'requirement + debits - credits - applied; a surplus of one nutrient never pays for another',
    source: 'chapter 1, B1',
    confidence: 'high',
    note: sum.surplus > 0 ? `Surplus ${sum.surplus.toFixed(2)} kg/ha` : undefined,
    inputs: lines
      .filter((l) => l[x] !== null && l.struck === null)
      .map((l) => l.why[x] ?? step(`line.${l.id}.${x}`, l.label, l[x], 'kg/ha')),
  });

/** The sheet's sums, nutrient by nutrient; a surplus of one never pays for another. */
export const sumsOf = (
  lines: readonly LedgerLine[],
  supply: Supply,
  fixing: boolean,
): PlanSums => ({
  n: sumUp(lines, 'n', supply.total.n, fixing),
  p: sumUp(lines, 'p', supply.total.p, fixing),
  k: sumUp(lines, 'k', supply.total.k, fixing),
  s: sumUp(lines, 's', supply.total.s, fixing),
});
