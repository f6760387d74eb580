import { PRINTED } from '../book/book';
import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { buildSheet } from './sheet';
import { sheetCsv } from './sheetCsv';
import type { Plan } from '../document/document';

const rowsOf = (plan: Plan) =>
  parse(sheetCsv(buildSheet(PRINTED, plan, assess(PRINTED, plan))), {
    relax_column_count: true,
    skip_empty_lines: true,
  }) as string[][];
const worked = terraceShortWorked();

describe('the sheet as CSV', () => {
  it('adds up in each column, to what is still to apply or over', () => {
    const rows = rowsOf(worked);
    const first = rows.findIndex((r) => r[0] === 'Line');
    const at = (kind: string) => rows.findIndex((r) => r[2] === kind);
    const end = (kind: string, column: number) => Number(rows[at(kind)]?.[column] ?? 0);
    const lines = rows.slice(first + 1, at('still_to_apply'));
    for (const column of [3, 4, 5, 6])
      expect(
        lines.reduce((s, r) => s + Number(r[column] ?? 0), 0),
        `column ${column}`,
      ).toBe(end('still_to_apply', column) - end('over', column));
    expect(rows[at('still_to_apply')]).toEqual([
      'Still to apply, at most',
      '',
      'still_to_apply',
      '1',
      '0',
      '0',
      '30',
    ]);
  });
  it('names field, season and jobs by their days, manure and passes alike', () => {
    const rows = rowsOf(worked);
    expect(rows.slice(0, 3).map((r) => r[1])).toEqual(['Tansy Hollow', 'Terrace Short', '2026/27']);
    const jobs = rows.filter((r) => r[0]?.startsWith('2027-'));
    expect(jobs.map((r) => r[2])).toEqual(['manure or compost', 'fertiliser', 'fertiliser']);
    expect(jobs.map((r) => r[0])).toEqual(jobs.map((r) => r[0] ?? '').toSorted());
  });
  it('a struck line stays with its reason and counts nothing', () => {
    const row = rowsOf({
      ...worked,
      struck: [{ line: 'legume_table_year1', reason: 'the stand died' }],
    }).find((r) => r[1]?.startsWith('struck out')) as string[];
    expect(row.slice(1, 4)).toEqual(['struck out: the stand died', 'credit', '']);
  });
  it('no name of a farm or field runs as a formula', () => {
    const rows = rowsOf({
      ...worked,
      farm: { ...worked.farm, name: '=HYPERLINK("x")' },
      field: { ...worked.field, name: '+1' },
    });
    expect(rows[0]?.[1]).toBe('\'=HYPERLINK("x")');
    expect(rows[1]?.[1]).toBe("'+1");
  });
});
