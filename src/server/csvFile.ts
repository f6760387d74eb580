import { parse } from 'csv-parse/sync';
import { refuse } from '@/core/quantity/refusal';

export interface CsvFile {
  headers: string[];
  delimiter: string;
  rows: { row: number; cells: Record<string, string> }[];
}
const MAX_BYTES = 5 * 1024 * 1024;
const MAX_ROWS = 20_000;
const DELIMITERS = [',', ';', '\t', '|'] as const;

function decode(bytes: Uint8Array): string {
  if (bytes.length === 0) refuse('missing', 'file', 'The file is empty.');
  if (bytes.length > MAX_BYTES)
    refuse(
      'out_of_range',
      'file',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; at most 5 MB are read. Split it.`,
      { value: bytes.length, allowed: 'up to 5 MB' },
    );
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff))
    refuse('inconsistent', 'file', 'The file is in UTF-16. Save it as CSV UTF-8 and try again.');
  if (bytes.includes(0))
    refuse(
      'inconsistent',
      'file',
      'This is not a text file. Save the sheet as CSV UTF-8 and try again.',
    );
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return refuse(
      'inconsistent',
      'file',
      'The file is not in UTF-8, so some letters would be garbled. Save it as CSV UTF-8 and try again.',
    );
  }
}

/** The delimiter that splits the heading into most columns. */
function delimiterOf(text: string): string {
  const heading = text.split(/\r?\n/).find((l) => l.trim() !== '') ?? '';
  const best = DELIMITERS.map((d) => ({ d, n: heading.split(d).length })).sort(
    (a, b) => b.n - a.n,
  )[0];
  if (!best || best.n < 2)
    refuse(
      'inconsistent',
      'file',
      `No comma, semicolon, tab or bar was found in the heading "${heading.slice(0, 60)}": is this a CSV file with a heading?`,
    );
  return best.d;
}

/**
 * Reads a CSV file strictly: size, encoding, delimiter, quotes, and the same number of cells in
 * each row.
 *
 * @throws Refusal that says what is wrong with the file and what to do
 */
export function readCsv(bytes: Uint8Array): CsvFile {
  const text = decode(bytes);
  if (text.replace('\ufeff', '').trim() === '') refuse('missing', 'file', 'The file is empty.');
  const delimiter = delimiterOf(text);
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(text, {
      delimiter,
      bom: true,
      skip_empty_lines: true,
      relax_column_count: true,
      info: true,
    }) as unknown as typeof records;
  } catch (e) {
    return refuse(
      'inconsistent',
      'file',
      `The file is malformed: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  const [head, ...body] = records;
  const headers = (head?.record ?? []).map((h) => h.trim());
  if (headers.some((h) => h === ''))
    refuse('inconsistent', 'file', `Column ${headers.indexOf('') + 1} has no heading.`);
  const twice = headers.find((h, i) => headers.indexOf(h) !== i);
  if (twice) refuse('inconsistent', 'file', `The heading ${twice} stands twice.`);
  if (body.length === 0) refuse('missing', 'file', 'The file has a heading but no rows.');
  if (body.length > MAX_ROWS)
    refuse(
      'out_of_range',
      'file',
      `The file has ${body.length} rows; at most ${MAX_ROWS} are read.`,
    );
  const wide = body.find((r) => r.record.length !== headers.length);
  if (wide)
    refuse(
      'inconsistent',
      'file',
      `Line ${wide.info.lines} has ${wide.record.length} cells, the heading has ${headers.length}: a wrong delimiter, or a quote that is not closed?`,
    );
  return {
    headers,
    delimiter,
    rows: body.map((r) => ({
      row: r.info.lines,
      cells: Object.fromEntries(headers.map((h, i) => [h, r.record[i] ?? ''])),
    })),
  };
}
