import { parse } from 'csv-parse/sync';
import { unzipSync } from 'fflate';
import { refuse } from '../quantity/refusal';

// A file as cells: what every make of table is read into before anybody asks what it says.

export interface Cell {
  text: string;
  /** A number as a workbook holds it: its mark is a point, whatever the rest of the file writes. */
  typed: boolean;
}
export interface GridRow {
  /** The line or row of the file, as somebody who opens it counts. */
  row: number;
  cells: Cell[];
  /** Longitude and latitude, where the file has a point for it. */
  at: [number, number] | null;
}
export interface Grid {
  rows: GridRow[];
  /** What it was read as, to be told. */
  readAs: string;
  /** Sheets of a workbook that were not read. */
  otherSheets: string[];
}

const MAX_BYTES = 10 * 1024 * 1024;
const MAX_UNPACKED = 120 * 1024 * 1024;
const MAX_ROWS = 20_000;
const MAX_COLUMNS = 400;
const MAX_CELL = 2000;

const BLANK: Cell = { text: '', typed: false };
/** An apostrophe before a sign keeps a spreadsheet from running a text: it is no part of it. */
const textCell = (text: string): Cell => ({
  text: text.slice(0, MAX_CELL).replace(/^'(?=[=+@-])/u, ''),
  typed: false,
});
/** Blanks of all kinds become one, at the ends none: a no-break blank is one, too. */
export const squeezed = (text: string): string =>
  text.replaceAll(/[\s\u00a0\u2007\u2009\u202f]+/gu, ' ').trim();

const NOT_A_TABLE: readonly (readonly [readonly number[], string])[] = [
  [[0x25, 0x50, 0x44, 0x46], 'a PDF: ask the laboratory for the results as a table'],
  [
    [0xd0, 0xcf, 0x11, 0xe0],
    'an old binary workbook (.xls): open it and save it as .xlsx or as CSV',
  ],
  [[0x89, 0x50, 0x4e, 0x47], 'a picture: the results are wanted as a table'],
  [[0xff, 0xd8, 0xff], 'a picture: the results are wanted as a table'],
  [[0x1f, 0x8b], 'a packed file (gzip): unpack it first'],
];
const startsWith = (bytes: Uint8Array, head: readonly number[]): boolean =>
  head.every((b, i) => bytes[i] === b);

/** The text of a file in any usual encoding. @throws Refusal for what is no text */
function decodeText(bytes: Uint8Array): { text: string; encoding: string } {
  const decode = (label: string, fatal = false) =>
    new TextDecoder(label, { fatal }).decode(bytes).replace(/^\uFEFF/u, '');
  if (startsWith(bytes, [0xff, 0xfe])) return { text: decode('utf-16le'), encoding: 'UTF-16' };
  if (startsWith(bytes, [0xfe, 0xff])) return { text: decode('utf-16be'), encoding: 'UTF-16' };
  const head = bytes.subarray(0, 2000);
  const zeros = [0, 1].map((at) => head.filter((b, i) => i % 2 === at && b === 0).length);
  if ((zeros[1] ?? 0) > head.length / 4) return { text: decode('utf-16le'), encoding: 'UTF-16' };
  if ((zeros[0] ?? 0) > head.length / 4) return { text: decode('utf-16be'), encoding: 'UTF-16' };
  if (bytes.includes(0))
    refuse('malformed', 'file', 'This is not a text file: save the table as CSV or .xlsx.');
  try {
    return { text: decode('utf-8', true), encoding: 'UTF-8' };
  } catch {
    return { text: decode('windows-1252'), encoding: 'Windows-1252' };
  }
}

const DELIMITERS = [';', '\t', ',', '|'] as const;
const NAMED: Readonly<Record<string, string>> = { '\t': 'tab', ',': 'comma', ';': 'semicolon' };

interface Record_ {
  record: string[];
  info: { lines: number };
}
const recordsOf = (text: string, delimiter: string, to?: number): Record_[] =>
  parse(text, {
    delimiter,
    skip_empty_lines: true,
    relax_column_count: true,
    relax_quotes: true,
    info: true,
    max_record_size: 1_000_000,
    ...(to === undefined ? {} : { to }),
  }) as unknown as Record_[];
const lastFilled = (record: readonly string[]): number =>
  record.findLastIndex((c) => c.trim() !== '') + 1;

/** How well a delimiter parts the lines: most of them into one and the same number of columns. */
function fitOf(text: string, delimiter: string): number {
  let counts: number[];
  try {
    counts = recordsOf(text, delimiter, 60)
      .map((r) => r.record.length)
      .filter((n) => n > 0);
  } catch {
    return 0;
  }
  const tally = new Map<number, number>();
  for (const n of counts) if (n > 1) tally.set(n, (tally.get(n) ?? 0) + 1);
  return Math.max(0, ...[...tally].map(([n, times]) => (times / counts.length) * Math.min(n, 12)));
}

function textGrid(bytes: Uint8Array): Grid {
  const { text: decoded, encoding } = decodeText(bytes);
  const text = decoded.replaceAll(/\r\n?/gu, '\n');
  if (text.trim() === '') refuse('missing', 'file', 'The file is empty.');
  if (/[\u0001-\u0008\u000e-\u001f]/u.test(text.slice(0, 4000)))
    refuse('malformed', 'file', 'This is not a text file: save the table as CSV or .xlsx.');
  const said = /^sep=(.)\n/u.exec(text);
  const body = said ? text.slice(said[0].length) : text;
  const best = DELIMITERS.map((d) => ({ d, fit: fitOf(body, d) })).sort((a, b) => b.fit - a.fit)[0];
  const delimiter = said?.[1] ?? (best && best.fit > 0 ? best.d : null);
  if (delimiter === null)
    refuse(
      'inconsistent',
      'file',
      `No comma, semicolon, tab or bar parts the lines, which begin "${text.trim().slice(0, 60)}": this is no table.`,
    );
  let records: Record_[];
  try {
    records = recordsOf(body, delimiter);
  } catch (e) {
    refuse(
      'malformed',
      'file',
      `The file is malformed: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  return {
    rows: records.map(({ record, info }) => ({
      row: info.lines + (said ? 1 : 0),
      cells: record.map((c) => textCell(squeezed(c))),
      at: null,
    })),
    readAs: `${encoding}, ${NAMED[delimiter] ?? delimiter} between columns`,
    otherSheets: [],
  };
}

/** What is packed in a zip, without unpacking it. @throws Refusal where it would fill the memory */
function packedNames(bytes: Uint8Array): string[] {
  const names: string[] = [];
  let size = 0;
  try {
    unzipSync(bytes, {
      filter: (f) => {
        names.push(f.name);
        size += f.originalSize;
        return false;
      },
    });
  } catch {
    refuse('malformed', 'file', 'This packed file is damaged: export the workbook again.');
  }
  if (size > MAX_UNPACKED)
    refuse(
      'out_of_range',
      'file',
      `Unpacked, this workbook has ${(size / 1048576).toFixed(0)} MB; at most 120 MB are read.`,
      { value: size, allowed: 'up to 120 MB' },
    );
  return names;
}

async function workbookGrid(bytes: Uint8Array, wanted: string | null): Promise<Grid> {
  const names = packedNames(bytes);
  if (!names.some((n) => n.endsWith('workbook.xml') || n === 'content.xml'))
    refuse(
      'inconsistent',
      'file',
      `This is a packed file with ${names.length} files in it (${names.slice(0, 3).join(', ')}): bring in the table itself.`,
    );
  const { read, SSF, utils } = await import('@e965/xlsx');
  const book = read(bytes, {
    cellNF: true,
    cellText: false,
    cellHTML: false,
    cellFormula: false,
    dense: true,
    sheetRows: MAX_ROWS + 1,
  });
  const filled = book.SheetNames.filter((n) => book.Sheets[n]?.['!ref']);
  const name = wanted ?? filled[0];
  const sheet = name === undefined ? undefined : book.Sheets[name];
  if (name === undefined || !sheet)
    refuse(
      wanted === null ? 'missing' : 'not_found',
      'sheet',
      wanted === null ? 'The workbook is empty.' : `The workbook has no sheet ${wanted}.`,
      { value: wanted, allowed: book.SheetNames.join(', ') },
    );
  const date1904 = book.Workbook?.WBProps?.date1904 === true;
  const two = (n: number) => String(n).padStart(2, '0');
  const written = (cell: { t: string; v?: unknown; z?: unknown } | undefined): Cell => {
    if (!cell || cell.v === undefined || cell.t === 'e') return BLANK;
    if (typeof cell.v !== 'number') return textCell(squeezed(String(cell.v)));
    const format = typeof cell.z === 'string' ? cell.z : 'General';
    if (SSF.is_date(format)) {
      const d = SSF.parse_date_code(cell.v, { date1904 }) as { y: number; m: number; d: number };
      return { text: `${d.y}-${two(d.m)}-${two(d.d)}`, typed: true };
    }
    // 15 digits are what a workbook keeps: 72.40000000000001 was typed as 72.4.
    const said = (v: number) => String(Number(v.toPrecision(15)));
    return {
      text: format.includes('%') ? `${said(cell.v * 100)} %` : said(cell.v),
      typed: true,
    };
  };
  const range = utils.decode_range(sheet['!ref'] ?? 'A1');
  const data = (sheet['!data'] ?? []) as ({ t: string; v?: unknown; z?: unknown } | undefined)[][];
  return {
    rows: data.map((cells, r) => ({
      row: r + 1,
      cells: Array.from({ length: Math.min(range.e.c, MAX_COLUMNS) + 1 }, (_, c) =>
        written(cells?.[c]),
      ),
      at: null,
    })),
    readAs: `sheet ${name} of a workbook`,
    otherSheets: filled.filter((n) => n !== name),
  };
}

interface Feature {
  properties?: Record<string, unknown> | null;
  geometry?: { type?: string; coordinates?: unknown } | null;
}
const pointOf = (f: Feature): [number, number] | null => {
  const c = f.geometry?.type === 'Point' ? f.geometry.coordinates : null;
  return Array.isArray(c) && typeof c[0] === 'number' && typeof c[1] === 'number'
    ? [c[0], c[1]]
    : null;
};

/** Points with results among their properties. */
function geojsonGrid(bytes: Uint8Array): Grid {
  let json: { type?: string; format?: string; features?: Feature[] };
  try {
    json = JSON.parse(decodeText(bytes).text) as typeof json;
  } catch (e) {
    refuse(
      'malformed',
      'file',
      `The file begins like JSON and is none: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  if (typeof json.format === 'string')
    refuse(
      'inconsistent',
      'file',
      `This is a ${json.format} file, not a laboratory’s: bring it in where plans and farms are brought in.`,
    );
  // Outlines and marks of a sampling plan stand beside its points: they hold no results.
  const features = (json.type === 'FeatureCollection' ? (json.features ?? []) : []).filter(
    (f) =>
      f.geometry?.type === 'Point' &&
      (f.properties?.role === undefined || f.properties.role === 'sample'),
  );
  if (features.length === 0)
    refuse('inconsistent', 'file', 'This JSON holds no points with results (GeoJSON).');
  const headings = [...new Set(features.flatMap((f) => Object.keys(f.properties ?? {})))];
  const cellOf = (v: unknown): Cell =>
    typeof v === 'number'
      ? { text: String(v), typed: true }
      : textCell(squeezed(v === null || v === undefined ? '' : String(v)));
  return {
    rows: [
      { row: 0, cells: headings.map((h) => textCell(h.replaceAll('_', ' '))), at: null },
      ...features.map((f, i) => ({
        row: i + 1,
        cells: headings.map((h) => cellOf(f.properties?.[h])),
        at: pointOf(f),
      })),
    ],
    readAs: 'GeoJSON points',
    otherSheets: [],
  };
}

/** Rows that say something, each without the empty cells at its end. */
const filledRows = (grid: Grid): Grid => ({
  ...grid,
  rows: grid.rows
    .map((r) => ({ ...r, cells: r.cells.slice(0, lastFilled(r.cells.map((c) => c.text))) }))
    .filter((r) => r.cells.length > 0),
});

/**
 * Reads a file into cells: text of any usual encoding and delimiter, a workbook, GeoJSON points.
 *
 * @param sheet name of the sheet of a workbook; null: the first that is not empty
 * @throws Refusal that names what the file is and what to do
 */
export async function readGrid(bytes: Uint8Array, sheet: string | null = null): Promise<Grid> {
  if (bytes.length === 0) refuse('missing', 'file', 'The file is empty.');
  if (bytes.length > MAX_BYTES)
    refuse(
      'out_of_range',
      'file',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; at most 10 MB are read. Split it.`,
      { value: bytes.length, allowed: 'up to 10 MB' },
    );
  const other = NOT_A_TABLE.find(([head]) => startsWith(bytes, head));
  if (other) refuse('inconsistent', 'file', `This is ${other[1]}.`);
  const first = bytes.find((b) => b > 32 && b < 0xef);
  const grid = filledRows(
    startsWith(bytes, [0x50, 0x4b])
      ? await workbookGrid(bytes, sheet)
      : first === 0x7b || first === 0x5b
        ? geojsonGrid(bytes)
        : textGrid(bytes),
  );
  if (grid.rows.length === 0) refuse('missing', 'file', 'The file holds nothing but empty lines.');
  if (grid.rows.length > MAX_ROWS)
    refuse(
      'out_of_range',
      'file',
      `The file has more than ${MAX_ROWS} rows: split it, by field or by year.`,
      { value: grid.rows.length, allowed: `up to ${MAX_ROWS}` },
    );
  const widest = Math.max(...grid.rows.map((r) => r.cells.length));
  if (widest > MAX_COLUMNS)
    refuse('out_of_range', 'file', `The file has ${widest} columns; at most 400 are read.`, {
      value: widest,
      allowed: 'up to 400',
    });
  return grid;
}
