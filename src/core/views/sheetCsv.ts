import { stringify } from 'csv-stringify/sync';
import { NUTRIENT_KEYS } from '../lines/line';
import type { SheetDocument } from './sheet';
import { areaOfSheet, jobCells, jobHead, lineHead, sheetLines, toldTotal } from './sheetLines';

/**
 * The sheet as CSV for a spreadsheet: the lines with their signs, the totals, then the jobs
 * by their days. Amounts are whole figures of element and add up in each column; a struck line counts nothing. Cells that a spreadsheet would run as
 * a formula are escaped.
 */
export function sheetCsv(sheet: SheetDocument): string {
  const head = [
    ['Farm', sheet.farm],
    ['Field', sheet.field, areaOfSheet(sheet)],
    ['Season', sheet.season, sheet.crop],
    ['As of', sheet.asOf],
    [],
  ];
  const lines = sheetLines(sheet);
  const totals = sheet.totals.map((t) => [
    t.label,
    '',
    t.kind,
    ...NUTRIENT_KEYS.map((x) => toldTotal(sheet, t, x)),
  ]);
  const jobs =
    sheet.jobs.length === 0
      ? []
      : [[], jobHead(sheet), ...sheet.jobs.map((j) => [j.date ?? '', ...jobCells(j)])];
  return stringify([...head, lineHead(sheet), ...lines, ...totals, ...jobs], {
    escape_formulas: true,
  });
}
