import ExcelJS from 'exceljs';
import { NUTRIENT_KEYS } from '@/core/lines/line';
import type { SheetDocument } from '@/core/views/sheet';
import type { FarmTotals } from '@/core/farm/farmTotals';
import type { FarmFieldRow } from '@/core/farm/wholeFarm';

const SIGN = { requirement: 1, debit: 1, credit: -1, applied: -1 } as const;
type Cell = string | number | null;
/** Text that a spreadsheet could take for a formula is kept as text: a farm's own words must never run. */
const safe = (v: Cell): Cell => (typeof v === 'string' && /^[=+\-@\t\r]/.test(v) ? `'${v}` : v);

function addTable(
  book: ExcelJS.Workbook,
  name: string,
  widths: readonly number[],
  head: readonly string[],
  rows: readonly (readonly Cell[])[],
): ExcelJS.Worksheet {
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = widths.map((width) => ({ width }));
  sheet.addRow([...head]).font = { bold: true };
  for (const r of rows) sheet.addRow(r.map(safe));
  return sheet;
}
const bytes = async (book: ExcelJS.Workbook): Promise<Uint8Array> =>
  new Uint8Array(await book.xlsx.writeBuffer());

/**
 * The plan sheet as a workbook: lines with their signs and a sum that the spreadsheet works out
 * itself, passes, what is to settle, and the
 * reason and source of each figure.
 */
export async function sheetWorkbook(s: SheetDocument): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const about = addTable(
    book,
    'Plan',
    [26, 40, 14, 12, 12, 12, 12],
    ['Line', 'Detail', 'Kind', 'N, kg/ha', 'P, kg/ha', 'K, kg/ha', 'S, kg/ha'],
    s.rows.map((r) => [
      r.label,
      r.struck ? `struck out: ${r.struck}` : r.detail,
      r.kind,
      ...NUTRIENT_KEYS.map((x) =>
        r[x] === null || r.struck !== null ? null : Math.abs(r[x]) * SIGN[r.kind],
      ),
    ]),
  );
  const last = s.rows.length + 1;
  const sum = about.addRow([
    'Sum of the lines',
    '',
    '',
    ...NUTRIENT_KEYS.map((x, i) => {
      const column = 'DEFG'[i] as string;
      return {
        formula: `SUM(${column}2:${column}${last})`,
        result: s.rows.reduce(
          (t, r) => t + (r[x] === null || r.struck !== null ? 0 : Math.abs(r[x]) * SIGN[r.kind]),
          0,
        ),
      };
    }),
  ]);
  sum.font = { bold: true };
  for (const t of s.totals)
    about.addRow([t.label, '', t.kind, ...NUTRIENT_KEYS.map((x) => t[x])]).font = { bold: true };
  about.addRow([]);
  for (const [label, value] of [
    ['Farm', s.farm],
    ['Field', s.field],
    ['Area, ha', s.areaHa],
    ['Season', s.season],
    ['Crop', s.crop],
    ['As of', s.asOf],
  ] as const)
    about.addRow([label, safe(value)]);
  addTable(
    book,
    'Passes',
    [12, 18, 30, 26, 12, 12, 8, 8, 8, 8, 12],
    [
      'On',
      'Stage',
      'Product',
      'Placement',
      'kg/ha',
      'kg in all',
      'N',
      'P',
      'K',
      'S',
      'Cost per ha',
    ],
    s.passes.map((p) => [
      p.date,
      p.stage,
      p.product,
      p.placement,
      p.rateKgHa,
      p.totalKg,
      p.n,
      p.p,
      p.k,
      p.s,
      p.cost,
    ]),
  );
  addTable(
    book,
    'Manure',
    [12, 34, 16, 10, 12, 50],
    ['On', 'Material', 'Rate', 'State', 'N, kg/ha', 'Detail'],
    s.organics.map((o) => [o.date, o.material, o.rate, o.status, o.n, o.detail]),
  );
  addTable(
    book,
    'To settle',
    [10, 80, 70],
    ['Level', 'What', 'What to do'],
    s.cautions.map((c) => [c.level, c.message, c.action]),
  );
  addTable(
    book,
    'Why',
    [34, 12, 100],
    ['Figure', 'Confidence', 'Steps'],
    s.reasons.map((r) => [r.label, r.confidence, r.text.join('\n')]),
  );
  return bytes(book);
}

/** The table of the whole farm as a workbook: fields, products, and manure in store against manure planned. */
export async function farmWorkbook(
  farm: string,
  rows: readonly FarmFieldRow[],
  t: FarmTotals,
): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const fields = addTable(
    book,
    'Fields',
    [24, 10, 22, 12, 12, 12, 12, 14, 14, 40],
    [
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
    rows.map((r) => [
      r.name,
      r.areaHa,
      r.cropName,
      ...NUTRIENT_KEYS.map((x) => (r.left ? Math.round(r.left[x]) : null)),
      Math.round(r.fertiliserCost),
      Math.round(r.haulCost),
      r.missing,
    ]),
  );
  const last = rows.length + 1;
  fields.addRow([
    farm,
    { formula: `SUM(B2:B${last})`, result: t.areaHa },
    '',
    '',
    '',
    '',
    '',
    {
      formula: `SUM(H2:H${last})`,
      result: rows.reduce((s, r) => s + Math.round(r.fertiliserCost), 0),
    },
    { formula: `SUM(I2:I${last})`, result: rows.reduce((s, r) => s + Math.round(r.haulCost), 0) },
  ]).font = { bold: true };
  addTable(
    book,
    'Products',
    [36, 14, 14],
    ['Product', 'kg', 'Cost'],
    t.products.map((p) => [p.name, Math.round(p.kg), Math.round(p.cost)]),
  );
  addTable(
    book,
    'Manure',
    [30, 34, 14, 14, 14],
    ['Store', 'Material', 'In store, t', 'Planned, t', 'Left, t'],
    t.supply.map((s) => [
      s.name,
      s.material,
      s.inStoreT,
      Math.round(s.plannedT),
      s.leftT === null ? null : Math.round(s.leftT),
    ]),
  );
  return bytes(book);
}
