import { byKey } from './table';

/** Tables whose rows a farm may put its own values on. */
export const LIBRARY_TABLES = [
  'crops',
  'materials',
  'fertilisers',
  'limes',
  'ranges',
  'protocols',
] as const;
export type LibraryTable = (typeof LIBRARY_TABLES)[number];
/** Whether a farm may add rows of its own: of leaf ranges and protocols it changes the figures alone. */
export const hasOwnRows = (table: LibraryTable): boolean =>
  table !== 'ranges' && table !== 'protocols';

/**
 * A farm's own value for some columns of a row, or a row of its own made after another (`like`).
 * Its schema is in `libraryChange.ts`.
 */
export interface LibraryChange {
  table: LibraryTable;
  key: string;
  like: string;
  values: Record<string, number | string | null>;
  by: string;
  on: string;
  why: string;
}

/** What every row of such a table has beside its figures. */
export interface BookRow {
  /**
   * Key of the printed row that this one descends from: other tables know a crop or a material by
   * it, so that a row of the farm's own has
   * the stages, limits and chemistry of the one it was made like.
   */
  bookKey: string;
  source: string;
  confidence: 'low' | 'medium' | 'high';
}

/** A table that a farm may change: its printed rows, and the column that names one. */
export interface BookTable<R extends BookRow> {
  name: LibraryTable;
  keyColumn: string & keyof R;
  printed: () => ReadonlyMap<string, R>;
}

/**
 * The reference tables with one farm's own rows laid over them. A value: two farms have two books,
 * and nothing outside a book remembers
 * anything of it. Every door of the core that reads one of these tables takes a book.
 */
export interface Book {
  /** The farm's own values and rows. */
  readonly own: readonly LibraryChange[];
  /** Rows of a table by key. */
  rows<R extends BookRow>(table: BookTable<R>): ReadonlyMap<string, R>;
}

/**
 * Declares a table that a farm may change. The rows are unpacked when a book is first asked for
 * one.
 */
export function bookTable<R extends BookRow>(
  name: LibraryTable,
  keyColumn: string & keyof R,
  rows: () => readonly Omit<R, 'bookKey'>[],
): BookTable<R> {
  let printed: ReadonlyMap<string, R> | undefined;
  const keyOf = (r: R) => String(r[keyColumn]);
  return {
    name,
    keyColumn,
    printed: () =>
      (printed ??= byKey(
        rows().map((r) =>
          Object.freeze({ ...r, bookKey: String(r[keyColumn as keyof typeof r]) } as unknown as R),
        ),
        keyOf,
      )),
  };
}

/**
 * Lays a farm's own values over printed rows. A change of a printed row (`key` = `like`) comes
 * first, then rows of the farm's own in the
 * order in which they lean on each other: a row like another has all of it, as the farm sees it,
 * except what it says itself. A row that leans on none, or on itself, is left out: it comes in by
 * no
 * door, and where one stands it may cost only what uses it (`document/keys.ts` names it).
 */
function layOver<R extends BookRow>(
  table: BookTable<R>,
  changes: readonly LibraryChange[],
): ReadonlyMap<string, R> {
  const printed = table.printed();
  const mine = changes.filter((c) => c.table === table.name);
  if (mine.length === 0) return printed;
  const rows = new Map(printed);
  const byOwnKey = new Map(mine.map((c) => [c.key, c]));
  const laid = new Set<string>();
  const lay = (c: LibraryChange, leaning: readonly string[]): void => {
    if (laid.has(c.key) || leaning.includes(c.key)) return;
    const below = byOwnKey.get(c.like);
    if (below && below.key !== c.key) lay(below, [...leaning, c.key]);
    const base = printed.get(c.key) ?? rows.get(c.like);
    if (!base) return;
    const own = c.key === c.like ? {} : { [table.keyColumn]: c.key };
    rows.set(
      c.key,
      Object.freeze({
        ...base,
        ...c.values,
        ...own,
        source: `the farm’s own: ${c.why} (${c.by}, ${c.on})`,
        confidence: 'medium' as const,
      }),
    );
    laid.add(c.key);
  };
  for (const c of mine) lay(c, []);
  return rows;
}

/**
 * The book as one farm reads it.
 *
 * @example bookOf([]).rows(CROPS).get('winter_wheat')?.nReqKgT // 36 kg N/t
 */
export function bookOf(own: readonly LibraryChange[]): Book {
  const laid = new Map<string, ReadonlyMap<string, BookRow>>();
  return Object.freeze({
    own,
    rows<R extends BookRow>(table: BookTable<R>): ReadonlyMap<string, R> {
      const known = laid.get(table.name) as ReadonlyMap<string, R> | undefined;
      if (known) return known;
      const rows = layOver(table, own);
      laid.set(table.name, rows);
      return rows;
    },
  });
}

/** The book as printed, without anybody's own values. */
export const PRINTED: Book = bookOf([]);
