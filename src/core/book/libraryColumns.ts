import { refuse } from '../quantity/refusal';
import { rangeProblem, type Range } from '../quantity/range';
import { crops } from './crops';
import { fertilisers } from './fertilisers';
import type { SufficiencyRow } from './leafStandards';
import { bookOf, hasOwnRows, type Book, type LibraryChange, type LibraryTable } from './book';
import { limeMaterials } from './limes';
import { materials } from './organicMaterials';

export interface LibraryColumn {
  column: string;
  label: string;
  unit: string;
  min: number;
  max: number;
}
const col = (column: string, label: string, unit: string, max: number, min = 0): LibraryColumn => ({
  column,
  label,
  unit,
  min,
  max,
});
const pct = (column: string, label: string, max = 100) => col(column, label, '%', max);
const kgT = (column: string, label: string, max: number) => col(column, label, 'kg/t', max);

/**
 * Figures of each table that a farm may put its own in place of, with the span in which they can
 * lie.
 */
export const LIBRARY_COLUMNS: Record<LibraryTable, readonly LibraryColumn[]> = {
  crops: [
    kgT('nReqKgT', 'N required', 150),
    kgT('removalNKgT', 'N off-take', 150),
    kgT('removalPKgT', 'P off-take', 30),
    kgT('removalKKgT', 'K off-take', 80),
    kgT('removalSKgT', 'S off-take', 30),
    col('nCapKgHa', 'N ceiling', 'kg/ha', 600),
    col('yieldTypicalTHa', 'Usual yield', 't/ha', 200),
    col('yieldMaxTHa', 'Credible yield', 't/ha', 300),
    col('rootDepthCm', 'Rooting depth', 'cm', 250, 10),
  ],
  materials: [
    pct('dmPct', 'Dry matter'),
    kgT('totalNKgT', 'Total N', 250),
    kgT('nh4NKgT', 'Ammonium-N', 250),
    kgT('pKgT', 'P', 200),
    kgT('kKgT', 'K', 500),
    kgT('sKgT', 'S', 250),
    kgT('caKgT', 'Ca', 400),
    kgT('mgKgT', 'Mg', 100),
    pct('ccePct', 'Lime value', 180),
    col('cToN', 'C:N', '', 500, 1),
    col('densityKgM3', 'Density', 'kg/m3', 1500, 60),
  ],
  fertilisers: [
    pct('nTotalPct', 'Total N', 100),
    pct('nNitratePct', 'Nitrate-N'),
    pct('nAmmoniumPct', 'Ammonium-N'),
    pct('nUreaPct', 'Urea-N'),
    pct('pPct', 'P'),
    pct('kPct', 'K'),
    pct('sSulphatePct', 'Sulphate-S'),
    pct('caPct', 'Ca'),
    pct('mgPct', 'Mg'),
    col('acidityKgCaco3Per100kg', 'Acidity', 'kg CaCO3 per 100 kg', 200, -200),
    col('pricePerTDemo', 'Price', 'per t', 20_000),
  ],
  limes: [
    col('ccePct', 'Neutralising value', '%', 180, 1),
    pct('dryMatterPct', 'Dry matter'),
    pct('pass236mmPct', 'Through 2.36 mm'),
    pct('pass085mmPct', 'Through 0.85 mm'),
    pct('pass025mmPct', 'Through 0.25 mm'),
    pct('caPctDry', 'Ca'),
    pct('mgPctDry', 'Mg'),
  ],
  ranges: [
    col('deficientBelow', 'Deficient below', '', 100_000),
    col('lowBelow', 'Low below', '', 100_000),
    col('sufficientLow', 'Sufficient from', '', 100_000),
    col('sufficientHigh', 'Sufficient to', '', 100_000),
    col('highAbove', 'High above', '', 100_000),
    col('toxicAbove', 'Toxic above', '', 100_000),
  ],
  protocols: [
    col('minCount', 'At least', 'leaves', 1000, 1),
    col('recommendedCount', 'Better', 'leaves', 1000, 1),
  ],
};

export interface LibraryEntry {
  key: string;
  name: string;
  group: string;
  /** What its figures are in, where that differs from row to row. */
  unit: string;
  values: Record<string, number | null>;
  source: string;
  confidence: string;
  /** The farm's own values and whose they are; null: the book alone. */
  own: LibraryChange | null;
}
/** Column that names a row, by table. */
const KEY_COLUMN = {
  crops: 'key',
  materials: 'key',
  fertilisers: 'productId',
  limes: 'key',
} as const;
type AnyRow = { source: string; confidence: string } & Record<string, unknown>;
const rangeName = (r: SufficiencyRow): string =>
  `${r.crop.replaceAll('_', ' ')}, ${r.partLabel}, ${r.stageLabel}: ${r.nutrient}`;

async function rows(
  book: Book,
  table: LibraryTable,
): Promise<{ key: string; name: string; group: string; unit: string; row: AnyRow }[]> {
  if (table === 'ranges') {
    // Fetched when somebody looks at the ranges: no other page of the library wants the largest
    // table.
    const { leafStandards, rangeKey } = await import('./leafStandards');
    return leafStandards(book).ranges.map((r) => ({
      key: rangeKey(r),
      name: rangeName(r),
      group: r.cropGroup,
      unit: r.unit,
      row: r as unknown as AnyRow,
    }));
  }
  if (table === 'protocols') {
    const { leafStandards } = await import('./leafStandards');
    return leafStandards(book).protocols.map((r) => ({
      key: r.protocolId,
      name: `${r.crops.replaceAll('_', ' ').replaceAll(',', ', ')}: ${r.partExact}, BBCH ${r.bbchFrom}-${r.bbchTo}`,
      group: r.organ.replaceAll('_', ' '),
      unit: '',
      row: r as unknown as AnyRow,
    }));
  }
  const all = { crops, materials, fertilisers, limes: limeMaterials }[table](
    book,
  ) as unknown as AnyRow[];
  const group = { crops: 'group', materials: 'class', fertilisers: 'physicalForm', limes: 'form' }[
    table
  ];
  return all.map((r) => ({
    key: String(r[KEY_COLUMN[table]]),
    name: String(r.name),
    group: String(r[group]).replaceAll('_', ' '),
    unit: '',
    row: r,
  }));
}

/**
 * A table of the library as a farm sees it: the book's rows with its own values laid over them, and
 * rows of its own.
 */
export async function libraryEntries(book: Book, table: LibraryTable): Promise<LibraryEntry[]> {
  const columns = LIBRARY_COLUMNS[table];
  return (await rows(book, table)).map(({ key, name, group, unit, row }) => ({
    key,
    name,
    group,
    unit,
    values: Object.fromEntries(
      columns.map((c) => [
        c.column,
        typeof row[c.column] === 'number' ? (row[c.column] as number) : null,
      ]),
    ),
    source: row.source,
    confidence: row.confidence,
    own: book.own.find((c) => c.table === table && c.key === key) ?? null,
  }));
}

/**
 * Checks a farm's own values against the book's row: columns that the table has, figures in their
 * span, limits in their order.
 *
 * @throws Refusal naming the column, its value and the span
 */
export async function checkChange(
  change: LibraryChange,
  others: readonly LibraryChange[],
): Promise<void> {
  const { table, key, like, values } = change;
  const known = await rows(
    bookOf(others.filter((c) => !(c.table === table && c.key === key))),
    table,
  );
  const base =
    known.find((r) => r.key === key) ??
    known.find((r) => r.key === like) ??
    refuse(
      'unknown_id',
      'key',
      `${key} is not in the library, and neither is ${like} that it is made after.`,
      { value: key },
    );
  for (const [column, value] of Object.entries(values)) {
    if (column === 'name' && hasOwnRows(table) && typeof value === 'string' && value.trim() !== '')
      continue;
    const c =
      LIBRARY_COLUMNS[table].find((x) => x.column === column) ??
      refuse(
        'unknown_field',
        column,
        `${column} is not a figure of this table: use one of ${LIBRARY_COLUMNS[table].map((x) => x.column).join(', ')}.`,
        { value: column },
      );
    if (value === null) {
      if (base.row[column] === null) continue;
      refuse('missing', column, `${c.label} is missing: the book has a figure, so one is needed.`, {
        value,
      });
    }
    const problem =
      typeof value === 'number'
        ? rangeProblem(column, value, rangeOf(c))
        : `${c.label} (${column}) = ${String(value)} is not a number.`;
    if (problem)
      refuse('out_of_range', column, problem, { value, allowed: `${c.min} to ${c.max}` });
  }
  const merged = { ...base.row, ...values } as Record<string, number | null>;
  for (const [low, high] of ORDER[table] ?? []) {
    const [a, b] = [merged[low], merged[high]];
    if (a != null && b != null && a > b)
      refuse('inconsistent', high, `${high} = ${b} lies below ${low} = ${a}.`, {
        value: b,
        allowed: `${a} or more`,
      });
  }
}
const rangeOf = (c: LibraryColumn): Range => ({
  label: c.label,
  unit: c.unit,
  min: c.min,
  max: c.max,
});
/** Figures that may not pass each other. */
const ORDER: Partial<Record<LibraryTable, readonly (readonly [string, string])[]>> = {
  ranges: [
    ['lowBelow', 'sufficientLow'],
    ['sufficientLow', 'sufficientHigh'],
    ['sufficientHigh', 'highAbove'],
    ['highAbove', 'toxicAbove'],
  ],
  materials: [['nh4NKgT', 'totalNKgT']],
  limes: [
    ['pass085mmPct', 'pass236mmPct'],
    ['pass025mmPct', 'pass085mmPct'],
  ],
  crops: [['yieldTypicalTHa', 'yieldMaxTHa']],
  protocols: [['minCount', 'recommendedCount']],
};
