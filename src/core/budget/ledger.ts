import { within } from '../quantity/range';
import { fromHundredths, halfAwayFromZero, toHundredths } from '../quantity/rounding';

export type Lines = Record<string, number>;
export interface Balance {
  netKgHa: number;
  toBringKgHa: number;
  surplusKgHa: number;
  /** What a nodulated crop makes for itself instead of asking for it. */
  fixationKgHa: number;
}
const LINE = { label: 'Ledger line', unit: 'kg/ha', min: 0, max: 2000 };

const sumOf = (group: string, lines: Lines): number =>
  Object.entries(lines).reduce(
    (sum, [name, kg]) => sum + toHundredths(within(`${group}.${name}`, kg, LINE)),
    0,
  );

/**
 * The sum of the sheet (chapter 1, B1): requirement + debits - credits - applied, in whole
 * hundredths of a kilogram so that it adds up
 * exactly. Lines are never negative: a tie-up is a debit.
 *
 * @throws Refusal naming a negative line
 * @example balance({ requirement: 130, credits: { soil_nitrate: 95, legume: 77 } }) // { netKgHa:
 * -42, toBringKgHa: 0, surplusKgHa: 42 }
 */
export function balance(i: {
  requirement: number;
  debits?: Lines | null;
  credits?: Lines | null;
  applied?: Lines | null;
  fixingCrop?: boolean | null;
}): Balance {
  const need =
    toHundredths(within('requirement', i.requirement, LINE)) + sumOf('debits', i.debits ?? {});
  const found = sumOf('credits', i.credits ?? {}) + sumOf('applied', i.applied ?? {});
  // A fixing crop makes no need out of a debit: the gap is met from the air, and shown as such.
  const fixation = i.fixingCrop ? Math.max(0, need - found) : 0;
  const net = need - found - fixation;
  return {
    netKgHa: fromHundredths(net),
    toBringKgHa: fromHundredths(Math.max(0, net)),
    surplusKgHa: fromHundredths(Math.max(0, -net)),
    fixationKgHa: fromHundredths(fixation),
  };
}

/**
 * Whole-kilogram display that still adds up (B2, largest remainder).
 *
 * @example roundedLedger({ signedLines: [164.4, 12.3, -48.49, -63.21, -20] }).roundedLines //
 * [164, 12, -48, -63, -20]
 */
export function roundedLedger({ signedLines }: { signedLines: readonly number[] }): {
  roundedLines: number[];
  roundedNet: number;
} {
  signedLines.forEach((x, k) => within(`signed_lines[${k}]`, x, { ...LINE, min: -2000 }));
  return largestRemainder(signedLines);
}

/**
 * The arithmetic of B2 without its range: what is shown of a plan must not fail on a line that the
 * plan itself has let in and warned of.
 *
 * @example largestRemainder([0.4, 0.4, 0.4]).roundedLines // [1, 0, 0]
 */
export function largestRemainder(signedLines: readonly number[]): {
  roundedLines: number[];
  roundedNet: number;
} {
  const roundedNet = halfAwayFromZero(
    fromHundredths(signedLines.reduce((sum, x) => sum + toHundredths(x), 0)),
  );
  const floors = signedLines.map(Math.floor);
  const missing = roundedNet - floors.reduce((a, b) => a + b, 0);
  const order = signedLines
    .map((x, k) => ({ k, rest: x - Math.floor(x), size: Math.abs(x) }))
    .sort((a, b) => b.rest - a.rest || b.size - a.size || a.k - b.k);
  const raised = new Set(order.slice(0, missing).map((o) => o.k));
  return {
    roundedLines: floors.map((f, k) => (raised.has(k) ? f + 1 : f) || 0),
    roundedNet: roundedNet || 0,
  };
}

/**
 * Relative standard errors by kind of line (chapter 1, 8.3): judgement of the chapter, low
 * confidence.
 */
export const LINE_ERROR = {
  requirement: 0.12,
  nitrate: 0.2,
  nitrate_extrapolated: 0.4,
  om: 0.35,
  legume_table: 0.4,
  legume_measured: 0.3,
  residue: 0.4,
  irrigation: 0.15,
  deposition: 0.5,
  manure_lab: 0.25,
  manure_book: 0.45,
  applied: 0.05,
} as const;

/**
 * How sure the sum is, and which line to test first (B3).
 *
 * @example uncertainty({ lines: [{ name: 'requirement', kgHa: 252, se: 0.12 }, { name: 'legume',
 * kgHa: 77, se: 0.4 }] }).testFirst // 'legume'
 */
export function uncertainty({
  lines,
}: {
  lines: readonly { name: string; kgHa: number; se: number }[];
}): { sdNetKgHa: number; testFirst: string | null } {
  lines.forEach(
    (l, k) => (
      within(`lines[${k}].kg_ha`, l.kgHa, LINE),
      within(`lines[${k}].se`, l.se, { label: 'Relative error', unit: '', min: 0, max: 2 })
    ),
  );
  const worst = lines.reduce<{ name: string; sd: number } | null>(
    (w, l) => (l.kgHa * l.se > (w?.sd ?? 0) ? { name: l.name, sd: l.kgHa * l.se } : w),
    null,
  );
  return {
    sdNetKgHa: Math.sqrt(lines.reduce((sum, l) => sum + (l.kgHa * l.se) ** 2, 0)),
    testFirst: worst?.name ?? null,
  };
}

/**
 * What the crop's ceiling and a legal ceiling leave of the dose (B4).
 *
 * @example caps({ toBringKgHa: 150, nCapKgHa: 160, appliedKgHa: 30, legalCapKgHa: 170,
 * countedForLegalKgHa: 60 }) // { nAllowedKgHa: 110, binding: 'legal_cap' }
 */
export function caps(i: {
  toBringKgHa: number;
  nCapKgHa: number;
  appliedKgHa?: number | null;
  legalCapKgHa?: number | null;
  countedForLegalKgHa?: number | null;
}) {
  const toBring = within('to_bring_kg_ha', i.toBringKgHa, LINE);
  const crop =
    within('n_cap_kg_ha', i.nCapKgHa, LINE) - within('applied_kg_ha', i.appliedKgHa ?? 0, LINE);
  const legal =
    i.legalCapKgHa == null
      ? Infinity
      : within('legal_cap_kg_ha', i.legalCapKgHa, LINE) -
        within('counted_for_legal_kg_ha', i.countedForLegalKgHa ?? 0, LINE);
  const nAllowedKgHa = Math.max(0, Math.min(toBring, crop, legal));
  const binding = nAllowedKgHa >= toBring ? null : legal <= crop ? 'legal_cap' : 'crop_cap';
  return { nAllowedKgHa, shortfallKgHa: toBring - nAllowedKgHa, binding };
}
