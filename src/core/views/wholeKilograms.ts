import type { Assessment } from '../assessment/assess';
import { reasonWords } from '../assessment/placed';
import { largestRemainder } from '../budget/ledger';
import type { LeftEntry, LeftReason } from '../lines/leftOut';
import type { SoilFirst } from '../lines/soilFirst';
import { NUTRIENT_KEYS, type LedgerLine, type NutrientKey } from '../lines/line';
import { fromCore, shownUnit, type UnitSystem } from '../quantity/units';
import { inWords, type Words } from '../why/said';

export type Amounts = Record<NutrientKey, number | null>;
/** A line of the sheet's end, with its exact figures: signs as on the sheet. */
export interface BalanceRow {
  id: string;
  kind: 'passes' | 'left' | 'still_to_apply' | 'over';
  label: Words;
  exact: Amounts;
}
/** The sheet in whole kilograms that add up, line by line and to its end. */
export interface WholeSheet {
  amounts: ReadonlyMap<string, Amounts>;
  rows: BalanceRow[];
}

const signed = (l: LedgerLine, x: NutrientKey): number | null =>
  l[x] === null || l.struck !== null
    ? null
    : (l.kind === 'requirement' || l.kind === 'debit' ? 1 : -1) * (l[x] ?? 0);
const perNutrient = (of: (x: NutrientKey) => number | null): Amounts => ({
  n: of('n'),
  p: of('p'),
  k: of('k'),
  s: of('s'),
});

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
/** The reason, and a person's own words where they stand for one nutrient only. */
const leftLabel = ({ reason, words }: LeftEntry, shared: boolean): string =>
  !shared && (reason === 'rotation' || reason === 'decision')
    ? `${capital(reasonWords(reason))}: ${inWords(words)}`
    : capital(reasonWords(reason));

/** What is still to apply, with what makes it less certain or not yet worth its money. */
const endLabel = (atMost: boolean, waits: SoilFirst | null): string =>
  ['Still to apply', ...(atMost ? ['at most'] : []), ...(waits === null ? [] : [waits.after])].join(
    ', ',
  );

/** Passes and what is left out, below the lines. */
function below(a: Pick<Assessment, 'sums' | 'supply'>): BalanceRow[] {
  const passes = (label: string, which: 'applied' | 'planned'): BalanceRow[] =>
    NUTRIENT_KEYS.some((x) => a.supply[which][x] > 0)
      ? [
          {
            id: `passes.${which}`,
            kind: 'passes',
            label,
            exact: perNutrient((x) => -a.supply[which][x]),
          },
        ]
      : [];
  const reasons = new Map<LeftReason, BalanceRow>();
  for (const x of NUTRIENT_KEYS)
    for (const l of a.sums[x].left) {
      const had = reasons.get(l.reason);
      reasons.set(l.reason, {
        id: `left.${l.reason}`,
        kind: 'left',
        label: leftLabel(l, had !== undefined),
        exact: {
          ...(had?.exact ?? perNutrient(() => null)),
          [x]: (had?.exact[x] ?? 0) - l.kgHa,
        },
      });
    }
  return [
    ...passes('Fertiliser, spread', 'applied'),
    ...passes('Fertiliser, planned', 'planned'),
    ...reasons.values(),
  ];
}

/**
 * Whole kilograms of every line, pass and thing left out that still add up to what is still to
 * apply or over (largest remainder, chapter 1, B2). Signs as on the sheet: needs plus, what is found
 * minus. In lb/ac every exact figure is converted first and rounded then.
 */
export function wholeSheet(
  a: Pick<Assessment, 'lines' | 'sums' | 'supply' | 'soilFirst'>,
  system: UnitSystem = 'metric',
): WholeSheet {
  const unit = shownUnit('nutrient_rate', system);
  const rows = below(a);
  const amounts = new Map<string, Amounts>(
    [...a.lines, ...rows].map((l) => [l.id, perNutrient(() => null)]),
  );
  const ends = perNutrient(() => null);
  for (const x of NUTRIENT_KEYS) {
    const known = [
      ...a.lines.flatMap((l) => ({ id: l.id, v: signed(l, x) })),
      ...rows.map((r) => ({ id: r.id, v: r.exact[x] })),
    ].flatMap(({ id, v }) =>
      v === null ? [] : [{ id, v: fromCore(Math.round(v * 100) / 100, unit) }],
    );
    const { roundedLines, roundedNet } = largestRemainder(known.map((k) => k.v));
    known.forEach((k, i) => {
      const row = amounts.get(k.id);
      if (row) row[x] = roundedLines[i] ?? 0;
    });
    ends[x] = roundedNet;
  }
  const still = perNutrient((x) => Math.max(0, ends[x] ?? 0));
  const over = perNutrient((x) => Math.max(0, -(ends[x] ?? 0)));
  amounts.set('still_to_apply', still);
  amounts.set('over', over);
  const atMost = NUTRIENT_KEYS.some(
    (x) => a.sums[x].unknown.high > 0 && a.sums[x].stillToApply > 0,
  );
  return {
    amounts,
    rows: [
      ...rows,
      {
        id: 'still_to_apply',
        kind: 'still_to_apply',
        label: endLabel(atMost, a.soilFirst),
        exact: perNutrient((x) => a.sums[x].stillToApply),
      },
      ...(NUTRIENT_KEYS.some((x) => (over[x] ?? 0) > 0)
        ? [
            {
              id: 'over',
              kind: 'over' as const,
              label: 'Over',
              exact: perNutrient((x) => a.sums[x].over),
            },
          ]
        : []),
    ],
  };
}
