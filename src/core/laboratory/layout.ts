import type { Cell, Grid, GridRow } from './grid';
import { folded, readHeading, type About, type Heading, type Measured } from './headings';
import { isPartName } from './names';
import { basisIn, isUnitCell, unitIn, type LabUnit } from './units';

// Which cell belongs to which sample and says what: a row a sample, a row a result, or a column a
// sample.

export interface Result {
  /** The heading as the file writes it: how questions and remarks name it. */
  column: string;
  row: number;
  cell: Cell;
  measured: Measured;
}
export interface AboutCell {
  column: string;
  /** The unit that its heading says. */
  unit: LabUnit | null;
  row: number;
  text: string;
}
export interface TableSample {
  row: number;
  about: Partial<Record<About, AboutCell>>;
  results: Result[];
  at: [number, number] | null;
  /** What the heading of its own column says, where each sample has a column. */
  title: string;
}
export interface LeftOut {
  column: string;
  reason: string;
}
export interface Layout {
  samples: TableSample[];
  leftOut: LeftOut[];
  /** How the table was read, in words. */
  shape: 'a row a sample' | 'a row a result' | 'a column a sample';
}

const text = (r: GridRow | undefined, c: number): string => r?.cells[c]?.text ?? '';
const widthOf = (rows: readonly GridRow[]): number =>
  Math.max(0, ...rows.map((r) => r.cells.length));
const NUMBER = /^[<>≤≥]?\s*[-+]?\d/u;
/** A heading is words: a figure or a day is none, whatever letters stand in it. */
const headingOf = (t: string): Heading =>
  (NUMBER.test(t) && !/^\d+\s?\p{L}/u.test(t)) || NUMBERED.test(t)
    ? { kind: 'unknown' }
    : readHeading(t);
/** S-2290 is a sample's number, not sulphur. */
const NUMBERED = /^(?!pH\b)\p{L}{1,5}([-_./ ]\d|\d{2})/iu;
/** Reads headings, some of them as somebody said that they are to be read. */
type Heads = (text: string) => Heading;
const isMeasured = (h: Heading): boolean => h.kind === 'measured';

const MOST_ABOVE = 60;
/** Names down a first column: a table with more rows has its samples, not its results, below. */
const MOST_DOWN = 400;
/** Reads each text once: a column of a long table says the same many times. */
function readOnce(read: Heads): Heads {
  const known = new Map<string, Heading>();
  return (t) => {
    const before = known.get(t);
    if (before) return before;
    const heading = read(t);
    known.set(t, heading);
    return heading;
  };
}
/** The row that reads most like a heading. */
function headingRow(
  rows: readonly GridRow[],
  heads: Heads,
): { at: number; measured: number; known: number } {
  let best = { at: 0, measured: 0, known: 0 };
  rows.slice(0, MOST_ABOVE).forEach((r, at) => {
    const read = r.cells.map((c) => heads(c.text));
    const measured = read.filter(isMeasured).length;
    const known = read.filter((h) => h.kind !== 'unknown').length;
    if (known > best.known) best = { at, measured, known };
  });
  return best;
}

/** What stands above the table as "name: value" or in two cells. */
function saidAbove(rows: readonly GridRow[]): Partial<Record<About, AboutCell>> {
  const said: Partial<Record<About, AboutCell>> = {};
  for (const r of rows) {
    const filled = r.cells.filter((c) => c.text !== '');
    const pair =
      filled.length === 1
        ? (/^([^:]{2,40}):\s*(.+)$/u.exec(filled[0]?.text ?? '')?.slice(1) ?? [])
        : filled.length === 2
          ? filled.map((c) => c.text)
          : [];
    const [name = '', value = ''] = pair;
    const heading = readHeading(name);
    if (value !== '' && heading.kind === 'about')
      said[heading.about] ??= {
        column: name.replace(/:$/u, ''),
        unit: heading.unit,
        row: r.row,
        text: value,
      };
  }
  return said;
}

interface Column {
  c: number;
  name: string;
  heading: Heading;
}
/** Names of columns, each once: what two share is told apart by its place. */
function columnsOf(heading: GridRow, width: number, heads: Heads): Column[] {
  const seen = new Map<string, number>();
  return Array.from({ length: width }, (_, c) => {
    const own = text(heading, c);
    const times = (seen.get(own) ?? 0) + 1;
    seen.set(own, times);
    return {
      c,
      name: own === '' ? '' : times === 1 ? own : `${own} (${times})`,
      heading: heads(own),
    };
  });
}
/** The column of each kind of word about the sample: of two, the one that says it better. */
function aboutColumns(
  columns: readonly Column[],
  cellsOf: (column: Column) => string[],
  leftOut: LeftOut[],
): Map<About, Column> {
  const chosen = new Map<About, Column>();
  const rank = (c: Column) => (c.heading.kind === 'about' ? c.heading.rank : 9);
  for (const column of columns) {
    if (column.heading.kind !== 'about') continue;
    const said = cellsOf(column).filter((t) => t !== '');
    // "Sample" may hold what was sampled, beside the laboratory's number.
    const about =
      column.heading.about === 'label' && said.length > 0 && said.every((t) => isPartName(t))
        ? 'part'
        : column.heading.about;
    const other = chosen.get(about);
    if (other && rank(other) <= rank(column)) {
      leftOut.push({ column: column.name, reason: `${other.name} says it already` });
      continue;
    }
    if (other) leftOut.push({ column: other.name, reason: `${column.name} says it better` });
    chosen.set(about, column);
  }
  return chosen;
}
function sayLeftOut(columns: readonly Column[], leftOut: LeftOut[]): void {
  for (const { heading, name } of columns)
    if (heading.kind === 'not_result') leftOut.push({ column: name, reason: heading.reason });
    else if (heading.kind === 'unknown' && name !== '')
      leftOut.push({ column: name, reason: 'not recognised as a result' });
}

/** A measured heading with what a row or column of units, bases or methods adds to it. */
function completed(measured: Measured, ...more: readonly string[]): Measured {
  return more.reduce<Measured>((m, extra) => {
    const { unit, rest } = unitIn(extra);
    const { basis, rest: words } = basisIn(rest);
    return {
      ...m,
      unit: unit ?? m.unit,
      basis: basis ?? m.basis,
      words: `${m.words} ${folded(words)}`.trim(),
    };
  }, measured);
}
const isUnitRow = (r: GridRow | undefined): boolean => {
  const filled = (r?.cells ?? []).filter((c) => c.text !== '');
  return filled.length > 0 && filled.filter((c) => isUnitCell(c.text)).length > filled.length / 2;
};

/** The word by itself: a field may be named Media Luna. */
const MEAN =
  /^(mean|average|avg|mittel(wert)?|durchschnitt|moyenne|media|promedio|median|min(imum)?|max(imum)?|sd|std|sum|total|summe|ø)\s?((of|value|wert|all|n\s?=).*)?[:.]?$/iu;
/** A row of means or sums is no sample. */
const isMeanRow = (r: GridRow): boolean => r.cells.slice(0, 4).some((c) => MEAN.test(c.text));

interface Parts {
  columns: Column[];
  about: Map<About, Column>;
  above: Partial<Record<About, AboutCell>>;
}
const aboutOf = (
  { about, above }: Pick<Parts, 'about' | 'above'>,
  r: GridRow,
): TableSample['about'] => ({
  ...above,
  ...Object.fromEntries(
    [...about]
      .map(
        ([k, { c, name, heading }]) =>
          [
            k,
            {
              column: name,
              unit: heading.kind === 'about' ? heading.unit : null,
              row: r.row,
              text: text(r, c),
            },
          ] as const,
      )
      .filter(([, cell]) => cell.text !== ''),
  ),
});

function byRow(rows: readonly GridRow[], parts: Parts, leftOut: LeftOut[]): TableSample[] {
  const units = isUnitRow(rows[0]) ? rows[0] : undefined;
  // A row of units speaks of the depth, too.
  const about = new Map(
    [...parts.about].map(([k, column]): [About, Column] => {
      const { unit } = unitIn(text(units, column.c));
      return [
        k,
        unit && column.heading.kind === 'about'
          ? { ...column, heading: { ...column.heading, unit } }
          : column,
      ];
    }),
  );
  const results = parts.columns.flatMap(({ c, name, heading }) =>
    heading.kind === 'measured'
      ? [
          {
            c,
            name,
            measured: units ? completed(heading.measured, text(units, c)) : heading.measured,
          },
        ]
      : [],
  );
  return rows.slice(units ? 1 : 0).flatMap((r) => {
    if (isMeanRow(r)) {
      leftOut.push({ column: `row ${r.row}`, reason: 'a mean or sum, not a sample' });
      return [];
    }
    return [
      {
        row: r.row,
        about: aboutOf({ about, above: parts.above }, r),
        at: r.at,
        title: '',
        results: results.map(({ c, name, measured }) => ({
          column: name,
          row: r.row,
          cell: r.cells[c] ?? { text: '', typed: false },
          measured,
        })),
      },
    ];
  });
}

function byResult(
  rows: readonly GridRow[],
  parts: Parts,
  leftOut: LeftOut[],
  heads: Heads,
): TableSample[] {
  const part = (p: string) =>
    parts.columns.find((x) => x.heading.kind === 'long' && x.heading.part === p)?.c;
  const [parameter = -1, result = -1, unit = -1, method = -1] = [
    part('parameter'),
    part('result'),
    part('unit'),
    part('method'),
  ];
  const samples = new Map<string, TableSample>();
  const told = new Set<string>();
  for (const r of rows) {
    const name = text(r, parameter);
    const heading = heads(name);
    const about = aboutOf(parts, r);
    const key = JSON.stringify(Object.values(about).map((a) => [a.column, a.text]));
    const sample = samples.get(key) ?? { row: r.row, about, results: [], at: r.at, title: '' };
    samples.set(key, sample);
    if (heading.kind !== 'measured') {
      if (name !== '' && !told.has(name))
        leftOut.push({
          column: name,
          reason: heading.kind === 'not_result' ? heading.reason : 'not recognised as a result',
        });
      told.add(name);
      continue;
    }
    sample.results.push({
      column: name,
      row: r.row,
      cell: r.cells[result] ?? { text: '', typed: false },
      measured: completed(heading.measured, text(r, unit), text(r, method)),
    });
  }
  return [...samples.values()];
}

const transposed = (rows: readonly GridRow[]): GridRow[] =>
  Array.from({ length: widthOf(rows) }, (_, c) => ({
    row: c + 1,
    at: null,
    cells: rows.map((r) => r.cells[c] ?? { text: '', typed: false }),
  }));

/** One sample told as received and dry in two columns is one sample. */
function mergedBases(samples: readonly TableSample[]): TableSample[] {
  const merged = new Map<string, TableSample>();
  for (const s of samples) {
    const key = JSON.stringify([
      basisIn(s.title).basis === null ? s.title : '',
      Object.entries(s.about).map(([k, a]) => [k, a.text]),
    ]);
    const same = merged.get(key);
    merged.set(key, same ? { ...same, results: [...same.results, ...s.results] } : s);
  }
  return [...merged.values()];
}

/** Samples stand side by side: the first column names what each row says. */
function byColumn(rows: readonly GridRow[], leftOut: LeftOut[], heads: Heads): TableSample[] {
  const [names, ...others] = transposed(rows);
  if (!names) return [];
  const columns = columnsOf(names, rows.length, heads);
  const measured = columns.filter((x) => isMeasured(x.heading));
  const filled = (r: GridRow) => measured.filter((x) => text(r, x.c) !== '');
  const isUnits = (r: GridRow) => {
    const said = filled(r);
    return said.length > 0 && said.every((x) => isUnitCell(text(r, x.c)));
  };
  const units = others.find(isUnits);
  // What stands once, beside its name, holds for all samples.
  const above: Parts['above'] = {};
  for (const { c, heading } of columns) {
    if (heading.kind !== 'about') continue;
    const said = others.filter((r) => text(r, c) !== '');
    const [only] = said;
    if (said.length === 1 && only && (only === units || others.indexOf(only) === 0))
      above[heading.about] = {
        column: text(names, c),
        unit: heading.unit,
        row: rows[c]?.row ?? 0,
        text: text(only, c),
      };
  }
  const titles = columns.filter(
    ({ heading }) => heading.kind === 'long' && ['parameter', 'unit'].includes(heading.part),
  );
  const about = aboutColumns(columns, ({ c }) => others.map((r) => text(r, c)), leftOut);
  sayLeftOut(columns, leftOut);
  const samples = others.flatMap((r): TableSample[] => {
    if (r === units || filled(r).length === 0) return [];
    const title = titles.map((x) => text(r, x.c)).join(' ');
    const says = readHeading(title);
    if (says.kind === 'not_result' || MEAN.test(title)) {
      leftOut.push({
        column: title,
        reason: says.kind === 'not_result' ? says.reason : 'a mean or sum, not a sample',
      });
      return [];
    }
    const own = aboutOf({ about, above }, r);
    return [
      {
        row: r.row,
        about: Object.fromEntries(
          Object.entries(own).map(([k, a]) => [
            k,
            { ...a, row: rows[about.get(k as About)?.c ?? 0]?.row ?? a.row },
          ]),
        ),
        at: null,
        title,
        results: measured.map(({ c, name, heading }) => ({
          column: name,
          row: rows[c]?.row ?? 0,
          cell: r.cells[c] ?? { text: '', typed: false },
          measured: completed(
            (heading as { measured: Measured }).measured,
            units ? text(units, c) : '',
            title,
          ),
        })),
      },
    ];
  });
  return mergedBases(samples);
}

/**
 * Finds the samples of a table and what is said of each.
 *
 * @param as what a heading is to be read as, where somebody said so
 */
export function layOut({ rows }: Grid, as: (heading: string) => string): Layout {
  const leftOut: LeftOut[] = [];
  const heads = readOnce((t) => headingOf(as(t)));
  const best = headingRow(rows, heads);
  const first = rows.slice(0, MOST_DOWN).map((r) => heads(text(r, 0)));
  const inFirst = first.filter(isMeasured).length;
  const saysBoth = rows[best.at]?.cells.some((c) => heads(c.text).kind === 'about');
  // A row that names field or day beside a result is the heading: then fields named Clay Bank and
  // Iron Hill are fields.
  const abouts = new Set(first.flatMap((h) => (h.kind === 'about' ? [h.about] : [])));
  const isHeading = best.measured > 0 && saysBoth === true && abouts.size < 2;
  if (inFirst >= 2 && inFirst > best.measured && !isHeading)
    return { samples: byColumn(rows, leftOut, heads), leftOut, shape: 'a column a sample' };
  const heading = rows[best.at];
  if (!heading || best.known < 2) return { samples: [], leftOut, shape: 'a row a sample' };
  const body = rows.slice(best.at + 1);
  const columns = columnsOf(heading, widthOf(rows), heads);
  const about = aboutColumns(columns, ({ c }) => body.map((r) => text(r, c)), leftOut);
  const above = saidAbove(rows.slice(0, best.at));
  sayLeftOut(columns, leftOut);
  const parts = { columns, about, above };
  const long = (p: string) =>
    columns.some((x) => x.heading.kind === 'long' && x.heading.part === p);
  return long('parameter') && long('result')
    ? { samples: byResult(body, parts, leftOut, heads), leftOut, shape: 'a row a result' }
    : { samples: byRow(body, parts, leftOut), leftOut, shape: 'a row a sample' };
}
