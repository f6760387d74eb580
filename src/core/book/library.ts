import { refuse } from '../quantity/refusal';
import { byKey } from './table';

/** Tables whose rows a farm may put its own values on. */
export const LIBRARY_TABLES = ['crops', 'materials', 'fertilisers', 'limes', 'ranges'] as const;
export type LibraryTable = (typeof LIBRARY_TABLES)[number];

/** A farm's own value for some columns of a row, or a row of its own made after another (`like`). Its schema is in `libraryChange.ts`. */
export interface LibraryChange {
  table: LibraryTable;
  key: string;
  like: string;
  values: Record<string, number | string | null>;
  by: string;
  on: string;
  why: string;
}
type Row = { source: string; confidence: 'low' | 'medium' | 'high' };

/**
 * Changes that hold while a plan is assessed. The core is synchronous, so the farm's library is laid under one assessment and taken away
 * after it: passing it through every table look-up would put a parameter into each method that no method has a use for (decision 0012).
 */
let current: readonly LibraryChange[] = [];
export function withLibrary<T>(changes: readonly LibraryChange[], work: () => T): T {
  const before = current;
  current = changes;
  try {
    return work();
  } finally {
    current = before;
  }
}

const built = new WeakMap<readonly LibraryChange[], Map<string, ReadonlyMap<string, unknown>>>();
/** Rows of a table by key, with the farm's own values laid over them; the same map as long as the farm's library stays the same. */
export function libraryRows<R extends Row>(
  table: LibraryTable,
  book: ReadonlyMap<string, R>,
): ReadonlyMap<string, R> {
  const changes = current.filter((c) => c.table === table);
  if (changes.length === 0) return book;
  const cache = built.get(current) ?? new Map<string, ReadonlyMap<string, unknown>>();
  built.set(current, cache);
  const found = cache.get(table) as ReadonlyMap<string, R> | undefined;
  if (found) return found;
  const rows = new Map(book);
  for (const c of changes) {
    const base =
      rows.get(c.key) ??
      book.get(c.like) ??
      refuse(
        'unknown_id',
        'like',
        `${c.key} is made after ${c.like}, which is not in the library.`,
        { value: c.like },
      );
    rows.set(
      c.key,
      Object.freeze({
        ...base,
        ...c.values,
        ...(c.key === c.like ? {} : ownKey(table, c.key)),
        source: `the farm’s own: ${c.why} (${c.by}, ${c.on})`,
        confidence: 'medium' as const,
      }),
    );
  }
  cache.set(table, rows);
  return rows;
}
/** Column that names a row, by table. */
export const KEY_COLUMN: Record<LibraryTable, string> = {
  crops: 'key',
  materials: 'key',
  fertilisers: 'productId',
  limes: 'key',
  ranges: 'rowKey',
};
const ownKey = (table: LibraryTable, key: string) =>
  table === 'ranges' ? {} : { [KEY_COLUMN[table]]: key };

/** Index of a table that the farm may change: built once, and again for each farm that has changes. */
export const changeable = <R extends Row>(
  table: LibraryTable,
  rows: () => readonly R[],
  key: (r: R) => string,
): (() => ReadonlyMap<string, R>) => {
  let book: ReadonlyMap<string, R> | undefined;
  return () => libraryRows(table, (book ??= byKey(rows(), key)));
};
