import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import writeExcelFile, { type Row as WrittenRow } from 'write-excel-file/node';
import { NUTRIENT_KEYS } from '@/core/lines/line';
import type { SheetDocument } from '@/core/views/sheet';
import {
  answerWords,
  jobCells,
  jobHead,
  lineHead,
  sheetLines,
  toldTotal,
} from '@/core/views/sheetLines';
import type { FarmTotals } from '@/core/farm/farmTotals';
import type { FarmFieldRow } from '@/core/farm/wholeFarm';

/** A sum that the spreadsheet works out itself. */
interface Formula {
  formula: string;
}
/** A day, kept as a day. */
interface Day {
  day: string;
}
const day = (date: string | null): Cell => (date === null ? null : { day: date });
type Cell = string | number | null | Formula | Day;
/**
 * One sheet of a workbook: its name, the widths of its columns in letters, its heading and its
 * rows.
 */
export interface Table {
  name: string;
  widths: readonly number[];
  head: readonly string[];
  rows: readonly { cells: readonly Cell[]; bold?: boolean }[];
}

/**
 * Text that a spreadsheet could take for a formula is kept as text: a farm's own words must never
 * run.
 */
const safe = (v: string): string => (/^[=+\-@\t\r]/.test(v) ? `'${v}` : v);
const written = (cells: readonly Cell[], bold: boolean): WrittenRow =>
  cells.map((v) => {
    const style = bold ? ({ fontWeight: 'bold' } as const) : {};
    if (v === null) return null;
    if (typeof v === 'string') return { value: safe(v), type: String, ...style };
    if (typeof v === 'number')
      return {
        value: v,
        type: Number,
        format: Number.isInteger(v) ? '#,##0' : '#,##0.0##',
        ...style,
      };
    if ('day' in v)
      return { value: new Date(`${v.day}T00:00:00Z`), type: Date, format: 'yyyy-mm-dd', ...style };
    return { value: v.formula, type: 'Formula' as const, ...style };
  });

/** The tables as an XLSX file, each with its heading kept in sight. */
export async function workbookOf(tables: readonly Table[]): Promise<Uint8Array<ArrayBuffer>> {
  const file = writeExcelFile(
    tables.map(({ name, widths, head, rows }) => ({
      sheet: name,
      orientation: 'landscape' as const,
      columns: widths.map((width) => ({ width })),
      stickyRowsCount: 1,
      data: [written(head, true), ...rows.map((r) => written(r.cells, r.bold ?? false))],
    })),
  );
  return onePageWide(new Uint8Array(await file.toBuffer()));
}
/** Prints every sheet as wide as its paper, its heading on each page. */
function onePageWide(workbook: Uint8Array): Uint8Array<ArrayBuffer> {
  const files = unzipSync(workbook);
  for (const [name, bytes] of Object.entries(files)) {
    if (!/^xl\/worksheets\/sheet\d+\.xml$/u.test(name)) continue;
    const xml = strFromU8(bytes)
      .replace(
        /<worksheet([^>]*)>/u,
        '<worksheet$1><sheetPr><pageSetUpPr fitToPage="1"/></sheetPr>',
      )
      .replace(/<pageSetup[^>]*\/>/u, '')
      .replace(
        '</worksheet>',
        '<pageSetup paperSize="9" orientation="landscape" fitToWidth="1" fitToHeight="0"/></worksheet>',
      );
    files[name] = strToU8(xml);
  }
  return new Uint8Array(zipSync(files));
}
const plain = (rows: readonly (readonly Cell[])[]): Table['rows'] =>
  rows.map((cells) => ({ cells }));
/** `=SUM(...)` over the rows of a table below its heading. */
const sumOver = (column: string, rows: number): Formula => ({
  formula: `=SUM(${column}2:${column}${rows + 1})`,
});

/**
 * The plan sheet as tables: lines with their signs and a sum that the spreadsheet works out itself,
 * jobs by their days, what is not known, what is to settle, and the reason and source of each figure.
 */
export function sheetTables(s: SheetDocument): Table[] {
  const lines = sheetLines(s);
  const isEnd = (t: SheetDocument['totals'][number]) => !['passes', 'left'].includes(t.kind);
  const total = (t: SheetDocument['totals'][number]): Cell[] => [
    t.label,
    '',
    t.kind,
    ...NUTRIENT_KEYS.map((x) => toldTotal(s, t, x)),
  ];
  const counted = [...lines, ...s.totals.filter((t) => !isEnd(t)).map(total)];
  const sums = NUTRIENT_KEYS.map((_, i) => sumOver('DEFG'[i] as string, counted.length));
  const about: [string, Cell][] = [
    ['Farm', s.farm],
    ['Field', s.field],
    [`Area, ${s.area.unit}`, s.area.value],
    ['Season', s.season],
    ['Crop', s.crop],
    ['As of', day(s.asOf)],
  ];
  return [
    {
      name: 'Plan',
      widths: [26, 40, 14, 12, 12, 12, 12],
      head: lineHead(s),
      rows: [
        ...plain(counted),
        { cells: ['Sum: still to apply, below 0 over', '', '', ...sums], bold: true },
        ...s.totals.filter(isEnd).map((t) => ({ cells: total(t), bold: true })),
        ...plain([[], ...about]),
      ],
    },
    {
      name: 'Jobs',
      widths: [12, 10, 18, 30, 24, 10, 8, 12, 10, 8, 9, 9, 9, 9, 34, 34, 11, 16, 14],
      head: jobHead(s),
      rows: plain(s.jobs.map((j) => [day(j.date), ...jobCells(j)])),
    },
    {
      name: 'Not known',
      widths: [34, 50, 60],
      head: ['Credit', 'Usual', 'Find out'],
      rows: plain(s.unknown.map((u) => [u.label, u.usual, u.findOut])),
    },
    {
      name: 'To settle',
      widths: [10, 80, 70],
      head: ['Level', 'What', 'What to do'],
      rows: plain([
        ...s.cautions.map((c) => [c.level, c.message, c.action]),
        ...s.smaller.map((message) => ['smaller', message, '']),
        ...s.answered.map((x) => [x.state, x.message, answerWords(x)]),
      ]),
    },
    {
      name: 'Why',
      widths: [34, 12, 100],
      head: ['Figure', 'Confidence', 'Steps'],
      rows: plain(s.reasons.map((r) => [r.label, r.confidence, r.text.join('\n')])),
    },
  ];
}

/** The table of the whole farm: fields, products, and manure in store against manure planned. */
export function farmTables(farm: string, rows: readonly FarmFieldRow[], t: FarmTotals): Table[] {
  const sum = (column: string) => sumOver(column, rows.length);
  return [
    {
      name: 'Fields',
      widths: [24, 10, 22, 12, 12, 12, 12, 14, 14, 40],
      head: [
        'Field',
        'ha',
        'Crop',
        'N left, kg/ha',
        'P left, kg/ha',
        'K left, kg/ha',
        'S left, kg/ha',
        'Fertiliser',
        'Haulage',
        'Missing',
      ],
      rows: [
        ...plain(
          rows.map((r) => [
            r.name,
            r.areaHa,
            r.cropName,
            ...NUTRIENT_KEYS.map((x) => (r.left ? Math.round(r.left[x]) : null)),
            Math.round(r.fertiliserCost),
            Math.round(r.haulCost),
            r.missing,
          ]),
        ),
        { cells: [farm, sum('B'), '', '', '', '', '', sum('H'), sum('I')], bold: true },
      ],
    },
    {
      name: 'Products',
      widths: [36, 14, 14],
      head: ['Product', 'kg', 'Cost'],
      rows: plain(t.products.map((p) => [p.name, Math.round(p.kg), Math.round(p.cost)])),
    },
    {
      name: 'Manure',
      widths: [30, 34, 14, 14, 14],
      head: ['Store', 'Material', 'In store, t', 'Planned, t', 'Left, t'],
      rows: plain(
        t.supply.map((s) => [
          s.name,
          s.material,
          s.inStoreT,
          Math.round(s.plannedT),
          s.leftT === null ? null : Math.round(s.leftT),
        ]),
      ),
    },
  ];
}
