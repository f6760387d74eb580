import fs from 'node:fs';
import { stringify } from 'csv-stringify/sync';
import { Refusal } from '../src/core/quantity/refusal';

/** How results are written: for people, in one line, or as rows. */
export interface Written {
  compact: boolean;
  csv: boolean;
}

const isRow = (v: unknown): v is Record<string, unknown> =>
  v !== null && typeof v === 'object' && !Array.isArray(v);
/** Rows of a result: a list is its rows, a result with one list of rows gives those. */
function rowsOf(value: unknown): Record<string, unknown>[] {
  if (Array.isArray(value)) return value.map((v: unknown) => (isRow(v) ? v : { value: v }));
  if (!isRow(value)) return [{ value }];
  const lists = Object.values(value).filter((v) => Array.isArray(v) && v.some(isRow));
  return lists.length === 1 ? rowsOf(lists[0]) : [value];
}
const cell = (v: unknown): unknown => (v !== null && typeof v === 'object' ? JSON.stringify(v) : v);

/** Writes a result to standard output. */
export function say(value: unknown, how: Written): void {
  if (!how.csv) {
    process.stdout.write(`${JSON.stringify(value, null, how.compact ? 0 : 2)}\n`);
    return;
  }
  const rows = rowsOf(value).map(({ why: _why, ...row }) =>
    Object.fromEntries(Object.entries(row).map(([k, v]) => [k, cell(v)])),
  );
  const columns = [...new Set(rows.flatMap((r) => Object.keys(r)))];
  process.stdout.write(stringify(rows, { header: true, columns }));
}

/** A file, or standard input for `-`. */
export function bytesOf(file: string, what: string): Buffer {
  if (file !== '-' && !fs.existsSync(file))
    throw new Refusal({
      code: 'not_found',
      field: what,
      value: file,
      message: `No file ${file}.`,
    });
  return fs.readFileSync(file === '-' ? 0 : file);
}
/** The same as text; a byte-order mark is no part of it. */
export const textOf = (file: string, what: string): string =>
  bytesOf(file, what)
    .toString('utf8')
    .replace(/^\uFEFF/u, '');

export const json = (text: string, field: string): unknown => {
  try {
    return JSON.parse(text);
  } catch (e) {
    throw new Refusal({
      code: 'malformed',
      field,
      message: `${field} is not JSON: ${e instanceof Error ? e.message : String(e)}`,
    });
  }
};
