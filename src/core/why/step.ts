import type { UnitSystem } from '../quantity/units';
import { figureIn, inWords, type Words } from './said';

/** How far a figure can be trusted, lowest first. */
export type Confidence = 'low' | 'medium' | 'high';

/**
 * One figure with its reason. The drawer, the printed sheet and the command line print the same
 * tree.
 * `id` is stable and dotted (`credit.manure.n`), so that a figure can be asked about by name.
 */
export interface Step {
  id: string;
  label: Words;
  value: number | string | null;
  unit: string;
  /** The formula in the words of the trade. */
  formula?: string;
  inputs: Step[];
  source?: string;
  confidence?: Confidence;
  school?: string;
  note?: string;
}

type Extra = Partial<Omit<Step, 'id' | 'label' | 'value' | 'unit'>>;

/**
 * @example step('credit.soil_nitrate', 'Soil nitrate', 54.15, 'kg/ha', { formula: 'sum of the
 * layers' }) // { value: 54.15, unit: 'kg/ha' }
 */
export const step = (
  id: string,
  label: Words,
  value: Step['value'],
  unit: string,
  extra: Extra = {},
): Step => ({
  // Field by field, so that all steps have one shape: a plan has more than a hundred of them.
  id,
  label,
  value,
  unit,
  formula: extra.formula,
  inputs: extra.inputs ?? [],
  source: extra.source,
  confidence: extra.confidence,
  school: extra.school,
  note: extra.note,
});

/** A value read from a reference table, with the row's own source and confidence. */
export const fromTable = (
  id: string,
  label: Words,
  value: Step['value'],
  unit: string,
  row: { source?: string | null; confidence?: string | null },
): Step =>
  step(id, label, value, unit, {
    source: row.source ?? 'consensus',
    confidence: asConfidence(row.confidence),
  });

/** A value that somebody entered. */
export const entered = (
  id: string,
  label: Words,
  value: Step['value'],
  unit: string,
  note?: string,
): Step => step(id, label, value, unit, { source: 'entered', note });

export const asConfidence = (text: string | null | undefined): Confidence =>
  text === 'high' || text === 'low' ? text : 'medium';

const rank: Record<Confidence, number> = { low: 0, medium: 1, high: 2 };

/** The lowest confidence among a figure's inputs is the confidence of the figure. */
export function weakest(tree: Step): Confidence {
  return tree.inputs.reduce<Confidence>(
    (low, s) => (rank[weakest(s)] < rank[low] ? weakest(s) : low),
    tree.confidence ?? 'high',
  );
}

/** Finds a figure by its id anywhere in a tree. */
export function findStep(trees: readonly Step[], id: string): Step | undefined {
  for (const s of trees) {
    if (s.id === id) return s;
    const inner = findStep(s.inputs, id);
    if (inner) return inner;
  }
  return undefined;
}

/** A tree as plain lines, for the printed sheet and the command line. */
export function asLines(tree: Step, system: UnitSystem = 'metric', depth = 0): string[] {
  const shown = typeof tree.value === 'number' ? figureIn(tree.value, tree.unit, system) : null;
  const figure = shown
    ? `${Number(shown.value.toFixed(system === 'metric' ? 4 : 2))}`
    : (tree.value ?? 'not known');
  const unit = shown?.unit ?? tree.unit;
  const tail = [
    tree.formula,
    tree.source && tree.source !== 'entered' ? `source: ${tree.source}` : tree.source,
    tree.confidence && `confidence ${tree.confidence}`,
    tree.note,
  ]
    .filter(Boolean)
    .join('; ');
  return [
    `${'  '.repeat(depth)}${inWords(tree.label, system)}: ${figure}${unit ? ` ${unit}` : ''}${tail ? ` (${inWords(tail, system)})` : ''}`,
    ...tree.inputs.flatMap((s) => asLines(s, system, depth + 1)),
  ];
}
