import { toCamel } from '../quantity/names';

export type Cell = string | number | boolean | null;
interface TableFile {
  columns: string[];
  rows: Cell[][];
}

/**
 * Rows of a table file as objects with camelCase columns. Frozen: a farm's own value is kept beside
 * a row, never written into it.
 */
export function rowsOf<Row>(file: unknown): readonly Row[] {
  const { columns, rows } = file as TableFile;
  const names = columns.map(toCamel);
  const row = (cell: (i: number) => Cell) =>
    Object.freeze(Object.fromEntries(names.map((n, i) => [n, cell(i)])));
  // A column that held nothing and a whole number before the first row is laid out by the engine
  // for any cell: rows then keep one layout, and reading one is quick.
  row(() => null);
  row(() => 0);
  return rows.map((cells) => row((i) => cells[i] ?? null) as Row);
}

/** Builds on the first call only, so that a table is not unpacked until somebody asks for it. */
export function lazily<T>(build: () => T): () => T {
  let built: { value: T } | undefined;
  return () => (built ??= { value: build() }).value;
}

/** First row for each key. */
export const byKey = <Row, K extends string | number>(
  rows: readonly Row[],
  key: (r: Row) => K,
): ReadonlyMap<K, Row> => {
  const map = new Map<K, Row>();
  for (const r of rows) if (!map.has(key(r))) map.set(key(r), r);
  return map;
};

export const groupedBy = <Row, K extends string>(
  rows: readonly Row[],
  key: (r: Row) => K,
): ReadonlyMap<K, Row[]> => {
  const map = new Map<K, Row[]>();
  for (const r of rows) map.set(key(r), [...(map.get(key(r)) ?? []), r]);
  return map;
};
