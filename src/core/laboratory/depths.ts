import { readFigure, type Mark } from './figures';
import type { AboutCell, TableSample } from './layout';
import type { Asker } from './questions';
import { unitIn } from './units';

export interface Depth {
  topCm: number | null;
  bottomCm: number | null;
  /** The cell that says a depth which can't be read. */
  unreadable: AboutCell | null;
}
const NO_DEPTH: Depth = { topCm: null, bottomCm: null, unreadable: null };
const CM: Readonly<Record<string, number>> = { cm: 1, mm: 0.1, in: 2.54 };
const BETWEEN =
  /^\s*(\d+(?:[.,]\d+)?)\s*(?:-|–|—|to|bis|a|à|hasta|\/)\s*(\d+(?:[.,]\d+)?)\s*(?:cm|mm|in|inch(?:es)?|["”″])?$/iu;

const figure = (text: string, mark: Mark): number | null => {
  const f = readFigure(text, mark);
  return f.kind === 'value' && f.limit === null ? f.value : null;
};

interface Bounds {
  cell: AboutCell;
  /** From and to as they stand; null where they can't be read. */
  span: [number, number] | null;
  unit: string | null;
}
function boundsOf({ about }: TableSample, mark: Mark): Bounds | null {
  const { depth, depth_top: top, depth_bottom: bottom } = about;
  const cell = bottom ?? depth;
  if (!cell) return null;
  const own = /[^\d\s.,-]/u.test(cell.text) ? unitIn(cell.text) : { unit: null, rest: cell.text };
  const between = depth ? BETWEEN.exec(depth.text) : null;
  const [from, to] = between
    ? [figure(between[1] as string, mark), figure(between[2] as string, mark)]
    : bottom
      ? [top ? figure(top.text, mark) : 0, figure(bottom.text, mark)]
      : [0, figure(own.rest, mark)];
  const unit = own.unit ?? cell.unit;
  return {
    cell,
    span: from === null || to === null ? null : [from, to],
    unit: unit?.kind === 'length' ? unit.key : null,
  };
}

/** Centimetres come in fives, and go below a hand; inches do neither. */
const areCm = (bounds: readonly number[]): boolean =>
  bounds.every((v) => v % 5 === 0) && Math.max(...bounds) >= 15;

/**
 * The unit of depths that name none, for the whole file: centimetres where all say so, else it is
 * asked. Null as long as it is open.
 */
export function plainDepthUnit(
  samples: readonly TableSample[],
  mark: Mark,
  { ask }: Asker,
): string | null {
  const plain = samples
    .map((s) => boundsOf(s, mark))
    .filter((b) => b !== null && b.unit === null && b.span !== null) as (Bounds & {
    span: [number, number];
  })[];
  const [first] = plain;
  if (!first || areCm(plain.flatMap((b) => b.span))) return 'cm';
  const [from, to] = first.span;
  return ask({
    about: 'depth_unit',
    column: first.cell.column,
    cell: [...new Set(plain.map((b) => b.cell.text))].slice(0, 6).join(', '),
    choices: [
      { answer: 'cm', means: `centimetres: ${from} to ${to} cm` },
      { answer: 'in', means: `inches: ${from * 2.54} to ${to * 2.54} cm` },
    ],
  });
}

/**
 * The layer of a sample in cm: "20", "0-30 cm", '0-6"', or from and to in two columns.
 *
 * @param plain the unit of depths that name none; null as long as that is open
 */
export function depthOf(sample: TableSample, mark: Mark, plain: string | null): Depth {
  const bounds = boundsOf(sample, mark);
  if (!bounds) return NO_DEPTH;
  const { cell, span, unit } = bounds;
  if (!span) return { ...NO_DEPTH, unreadable: cell };
  const said = unit ?? plain;
  if (said === null) return NO_DEPTH;
  const cm = (v: number) => Number((v * (CM[said] ?? 1)).toFixed(2));
  return { topCm: cm(span[0]), bottomCm: cm(span[1]), unreadable: null };
}
