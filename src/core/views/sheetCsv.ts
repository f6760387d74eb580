import { stringify } from 'csv-stringify/sync';
import { NUTRIENT_KEYS } from '../lines/line';
import type { SheetDocument } from './sheet';
import { areaOfSheet, LINE_HEAD, sheetLines, toldTotal } from './sheetLines';

/**
 * The sheet as CSV for a spreadsheet: the lines with their signs, the totals, then the passes.
 * Amounts are whole kilograms of element a hectare
 * and add up in each column; a struck line counts nothing. Cells that a spreadsheet would run as
 * a formula are escaped.
 */
export function sheetCsv(sheet: SheetDocument): string {
  const head = [
    ['Farm', sheet.farm],
    ['Field', sheet.field, `${areaOfSheet(sheet)} ha`],
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
  const passes =
    sheet.passes.length === 0
      ? []
      : [
          [],
          [
            'Pass on',
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
          ...sheet.passes.map((p) => [
            p.date,
            p.product,
            p.placement,
            p.rateKgHa,
            p.totalKg,
            p.n,
            p.p,
            p.k,
            p.s,
            Number(p.cost.toFixed(2)),
          ]),
        ];
  return stringify([...head, LINE_HEAD, ...lines, ...totals, ...passes], { escape_formulas: true });
}
