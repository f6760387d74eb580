import {
  hundredths,
  NUTRIENT_KEYS,
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
  const of = (kind: LedgerLine['kind']) =>
    lines.reduce((s, l) => s + (l.kind === kind ? hundredths(l, x) : 0), 0);
  const [requirement, debits, credits, applied] = [
    of('requirement'),
    of('debit'),
    of('credit'),
    of('applied'),
  ];
  const gross = requirement + debits - credits - applied;
  const fixation = fixing && x === 'n' ? Math.max(0, gross) : 0;
  const net = gross - fixation;
  const plannedH = Math.round(planned * 100);
  return {
    requirement: fromHundredths(requirement),
    debits: fromHundredths(debits),
    credits: fromHundredths(credits),
    applied: fromHundredths(applied),
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
export const sumsOf = (lines: readonly LedgerLine[], supply: Supply, fixing: boolean): PlanSums =>
  Object.fromEntries(
    NUTRIENT_KEYS.map((x) => [x, sumUp(lines, x, supply.total[x], fixing)]),
  ) as PlanSums;
