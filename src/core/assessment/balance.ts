import type { Crop } from '../book/crops';
import { pScreenOf } from '../book/soilTests';
import type { Plan } from '../document/document';
import { airLines } from '../lines/air';
import type { GroundAssessment } from '../lines/groundReading';
import { kLeftByLeaf } from '../lines/leafPk';
import type { LeafVerdict } from '../lines/leafVerdict';
import type { TargetFacts } from '../lines/leftOut';
import { hundredths, type LedgerLine, type PlanSums } from '../lines/line';
import type { Problem } from '../lines/problem';
import type { Supply } from '../lines/supply';
import { fromHundredths } from '../quantity/rounding';
import { unknownLines } from '../lines/unknowns';
import { ceilingOf, doubtOf, type Ceiling } from './limits';
import { sumsOf } from './sums';

export interface Balanced {
  lines: LedgerLine[];
  sums: PlanSums;
  caps: Ceiling;
  uncertainty: { sdNetKgHa: number; testFirst: string | null };
}

/** The sheet's lines with what was struck or stopped, the air's share, and the one balance of all. */
export function balanceOf(
  plan: Plan,
  crop: Crop | null,
  i: {
    lines: readonly LedgerLine[];
    /** Dressings that may not go out, by line, and why. */
    stopped: ReadonlyMap<string, string>;
    supply: Supply;
    ground: GroundAssessment;
    leaf: LeafVerdict | null;
    runDown: string | null;
    problems: Problem[];
  },
): Balanced {
  const { supply, ground, leaf } = i;
  const standing = i.lines.map((l): LedgerLine => {
    const struck =
      plan.struck.find((s) => s.line === l.id)?.reason ??
      i.stopped.get(l.id.replace(/\.tie_up$/u, ''));
    return struck === undefined ? l : { ...l, struck };
  });
  const lines = crop
    ? [
        ...standing,
        ...unknownLines(plan, crop, leaf),
        ...airLines(plan, crop, standing, supply.total.n),
      ]
    : [...standing];
  const uncertainty = doubtOf(lines, i.problems);
  const signed = (l: LedgerLine) =>
    (l.kind === 'requirement' || l.kind === 'debit' ? 1 : -1) * hundredths(l, 'n');
  const net = fromHundredths(lines.reduce((s, l) => s + signed(l), 0));
  const manure = fromHundredths(
    lines.reduce(
      (s, l) => s + (l.kind === 'applied' || l.kind === 'planned' ? hundredths(l, 'n') : 0),
      0,
    ),
  );
  const caps = ceilingOf(plan, crop, { netKgHa: net, manureKgHa: manure }, i.problems);
  const p = ground.pTest;
  const screen = p ? pScreenOf(p.extractant) : undefined;
  const facts: TargetFacts | null = crop && {
    plan,
    crop,
    leaf,
    leafKLeftOut: kLeftByLeaf(plan, leaf, ground),
    sdNKgHa: uncertainty.sdNetKgHa,
    pScreenStop: p !== null && screen !== undefined && p.value >= screen.stopAbove,
    stopPh: ground.gate?.level === 'stop' ? ground.ph : null,
    nAllowedKgHa: caps.binding === null ? null : caps.nAllowedKgHa,
    ceiling: caps.binding,
    runDownDate: i.runDown,
  };
  return { lines, sums: sumsOf(lines, supply, facts), caps, uncertainty };
}
