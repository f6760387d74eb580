import { bookOf } from '@/core/book/book';
import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { readDecimal, refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import { LIBRARY_TABLES, type LibraryChange, type LibraryTable } from '@/core/book/book';
import { libraryChange } from '@/core/book/libraryChange';
import {
  checkChange,
  LIBRARY_COLUMNS,
  libraryEntries,
  type LibraryEntry,
} from '@/core/book/libraryColumns';
import type { Db, Executor } from '@/data/client';
import { putStore, storesOf } from '@/data/farmRecords';
import { holdSeason, savePlanChanges } from '@/data/savePlan';
import { loadPlansOf } from '@/data/seasons';
import { inTransaction } from '@/data/transaction';
import { usesOfRow, withRowReplaced } from '@/core/document/keys';
import { dropLibraryChange, putLibraryChange } from '@/data/farmRecords';
import { libraryOf, record } from '@/data/farms';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { readCsv } from './csvFile';

const input = libraryChange.pick({ table: true, key: true, like: true, values: true, why: true });
export const tableOf = (name: string): LibraryTable =>
  LIBRARY_TABLES.find((t) => t === name) ??
  refuse(
    'unknown_id',
    'table',
    `${name} is not a table of the library: use one of ${LIBRARY_TABLES.join(', ')}.`,
    { value: name },
  );
const changesOf = async (db: Executor, farmId: string): Promise<LibraryChange[]> =>
  (await libraryOf(db, [farmId])).map(({ farmId: _, ...c }) => c);

/** A table as a farm sees it. */
export async function libraryOfFarm(
  db: Db,
  actor: Actor,
  farmId: string,
  table: LibraryTable,
): Promise<LibraryEntry[]> {
  await authorise(db, actor, 'read', farmId);
  return libraryEntries(bookOf(await changesOf(db, farmId)), table);
}

/**
 * Puts a farm's own values in place of the book's, or adds a row of its own: with who, when and
 * why.
 */
export async function overrideRow(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  const parsed = input.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  if (Object.keys(parsed.data.values).length === 0)
    refuse('missing', 'values', 'Change at least one figure.');
  const change: LibraryChange = { ...parsed.data, by: actor.name, on: today() };
  await checkChange(change, await changesOf(db, farmId));
  await db.transaction(async (tx) => {
    await putLibraryChange(tx, { farmId, ...change });
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'override',
      subject: `${change.table} ${change.key}`,
      detail: change.values,
    });
  });
}

/**
 * Back to the book. A row of the farm's own that is still in use is not taken away in silence: the
 * refusal names its uses, and `replace`
 * puts the row that it was made like in its place everywhere.
 */
export async function resetRow(
  db: Db,
  actor: Actor,
  farmId: string,
  table: LibraryTable,
  key: string,
  replace = false,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  await inTransaction(db, async (tx) => {
    const changes = await changesOf(tx, farmId);
    const change = changes.find((c) => c.table === table && c.key === key);
    const ownRow = change !== undefined && change.like !== key;
    if (ownRow) await freeRow(tx, actor, farmId, change, changes, replace);
    await dropLibraryChange(tx, farmId, table, key);
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'reset',
      subject: `${table} ${key}`,
      detail: ownRow && replace ? { inItsPlace: change.like } : null,
    });
  });
}

/**
 * Makes sure that nothing uses a row of the farm's own any more. @throws Refusal naming the uses,
 * unless they are to be replaced
 */
async function freeRow(
  tx: Executor,
  actor: Actor,
  farmId: string,
  { table, key, like }: LibraryChange,
  changes: readonly LibraryChange[],
  replace: boolean,
): Promise<void> {
  const leaning = changes.find((c) => c.table === table && c.like === key && c.key !== key);
  if (leaning)
    refuse('inconsistent', 'key', `${leaning.key} is made after ${key}: remove it first.`, {
      value: key,
    });
  const seasons = (await loadPlansOf(tx, [farmId], today())).filter(
    (s) => usesOfRow(s.plan, table, key).length > 0,
  );
  const stores = (await storesOf(tx, [farmId])).filter(
    (s) => table === 'materials' && s.materialKey === key,
  );
  const leaves = seasons.some((s) => s.plan.leaves.some((l) => l.cropKey === key));
  if (seasons.length + stores.length === 0) return;
  const names = [
    ...new Set([
      ...seasons.map((s) => `${s.plan.field.name} ${s.plan.season.label}`),
      ...stores.map((s) => `store ${s.name}`),
    ]),
  ];
  if (!replace || (leaves && table === 'crops'))
    refuse(
      'conflict',
      'key',
      leaves && table === 'crops'
        ? `${key} can’t be removed: leaves were taken from it in ${names.join(', ')}.`
        : `${key} is in use: ${names.join(', ')}. Remove it there first, or put ${like} in its place.`,
      { value: key, allowed: like },
    );
  for (const s of seasons) {
    await holdSeason(tx, s.seasonId);
    await savePlanChanges(tx, s, withRowReplaced(s.plan, table, key, like), {
      author: actor.name,
      today: today(),
      newId,
    });
  }
  for (const s of stores) await putStore(tx, { ...s, materialKey: like });
}

/** The table as CSV, own values included; read back by `importLibrary`. */
export async function libraryCsv(
  db: Db,
  actor: Actor,
  farmId: string,
  table: LibraryTable,
): Promise<string> {
  const entries = await libraryOfFarm(db, actor, farmId, table);
  const columns = LIBRARY_COLUMNS[table].map((c) => c.column);
  return stringify(
    [
      ['key', 'name', ...columns, 'source', 'confidence', 'own'],
      ...entries.map((e) => [
        e.key,
        e.name,
        ...columns.map((c) => e.values[c] ?? ''),
        e.source,
        e.confidence,
        e.own ? 'yes' : '',
      ]),
    ],
    { escape_formulas: true },
  );
}

export interface LibraryImport {
  changed: number;
  unchanged: number;
  problems: { row: number; column: string; value: string; reason: string }[];
}
/**
 * Reads a library table back: figures that differ from what the farm has now become its own values,
 * rows with an unknown key become rows of its
 * own (after the row named in the column `like`). All or nothing: one bad row, and nothing is
 * taken.
 */
export async function importLibrary(
  db: Db,
  actor: Actor,
  farmId: string,
  table: LibraryTable,
  bytes: Uint8Array,
  why: string,
): Promise<LibraryImport> {
  await authorise(db, actor, 'edit', farmId);
  const reason = z.string().trim().min(3).max(300).safeParse(why);
  if (!reason.success)
    refuse('missing', 'why', 'Why: say where these values come from, in 3 letters or more.', {
      value: why,
      allowed: '3 to 300 letters',
    });
  const file = readCsv(bytes);
  if (!file.headers.includes('key'))
    refuse(
      'missing',
      'file',
      'No column named key: export the table first, change it, and read it back.',
    );
  const changes = await changesOf(db, farmId);
  const now = await libraryEntries(bookOf(changes), table);
  const columns = LIBRARY_COLUMNS[table].filter((c) => file.headers.includes(c.column));
  const found: LibraryChange[] = [];
  const problems: LibraryImport['problems'] = [];
  for (const { row, cells } of file.rows) {
    const key = (cells.key ?? '').trim();
    const entry = now.find((e) => e.key === key);
    const like = entry?.own?.like ?? (entry ? key : (cells.like ?? '').trim());
    const values: LibraryChange['values'] = { ...entry?.own?.values };
    let differs = false;
    for (const c of columns) {
      const text = (cells[c.column] ?? '').trim();
      const value = readDecimal(text);
      if (value === null && text !== '') {
        problems.push({
          row,
          column: c.column,
          value: text,
          reason: `${c.label} is not a number.`,
        });
        continue;
      }
      if (value === (entry?.values[c.column] ?? null)) continue;
      if (value === null && !entry) continue;
      values[c.column] = value;
      differs = true;
    }
    if (!entry && cells.name) values.name = cells.name.trim();
    if (!differs) continue;
    const change: LibraryChange = {
      table,
      key,
      like,
      values,
      by: actor.name,
      on: today(),
      why: reason.data,
    };
    try {
      await checkChange(libraryChange.parse(change), changes);
      found.push(change);
    } catch (e) {
      if (e instanceof Refusal)
        problems.push({
          row,
          column: e.detail.field,
          value: String(e.detail.value ?? ''),
          reason: e.message,
        });
      else if (e instanceof z.ZodError)
        problems.push({ row, column: 'key', value: key, reason: refusalOf(e, change).message });
      else throw e;
    }
  }
  if (problems.length > 0) return { changed: 0, unchanged: file.rows.length, problems };
  await db.transaction(async (tx) => {
    for (const change of found) await putLibraryChange(tx, { farmId, ...change });
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'import_library',
      subject: table,
      detail: { rows: found.length, why: reason.data },
    });
  });
  return { changed: found.length, unchanged: file.rows.length - found.length, problems };
}
