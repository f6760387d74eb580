import { HyperFormula } from 'hyperformula';
import readExcelFile from 'read-excel-file/node';
import { describe, expect, it } from 'vitest';
import { assess } from '@/core/assessment/assess';
import { PRINTED } from '@/core/book/book';
import type { Plan } from '@/core/document/document';
import { farmTotals, sumRows } from '@/core/farm/farmTotals';
import { farmFieldRow } from '@/core/farm/wholeFarm';
import { buildSheet } from '@/core/views/sheet';
import { DEMO_FARMS } from '@/demo/scenario';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { farmTables, sheetTables, workbookOf, type Table } from './xlsx';

const plan = terraceShortWorked();
const sheetOf = (p: Plan) => buildSheet(PRINTED, p, assess(PRINTED, p));
const read = async (tables: readonly Table[]) =>
  readExcelFile(Buffer.from(await workbookOf(tables)));
/** A table as a spreadsheet works it out. */
const workedOut = ({ head, rows }: Table) => {
  const engine = HyperFormula.buildFromArray(
    [head, ...rows.map((r) => r.cells)].map((row) =>
      row.map((v) => (v !== null && typeof v === 'object' ? ('day' in v ? v.day : v.formula) : v)),
    ),
    { licenseKey: 'gpl-v3' },
  );
  const values = engine.getSheetValues(0);
  engine.destroy();
  return values;
};
const tableOf = (tables: readonly Table[], name: string): Table =>
  tables.find((t) => t.name === name) ??
  (() => {
    throw new Error(`no table ${name}`);
  })();

const isPart = (kind: string): boolean => ['passes', 'left'].includes(kind);

describe('workbooks', () => {
  it('hold the lines of the sheet, and the spreadsheet’s own sum is the sheet’s', async () => {
    const sheet = sheetOf(plan);
    const lines = tableOf(sheetTables(sheet), 'Plan');
    const above = sheet.rows.length + sheet.totals.filter((t) => isPart(t.kind)).length;
    const sum = workedOut(lines)[above + 1];
    const still = sheet.totals.find((t) => t.kind === 'still_to_apply');
    expect(sum?.[0]).toBe('Sum: still to apply, below 0 over');
    expect(sum?.[3]).toBe(still?.n);
    const [page, ...others] = await read(sheetTables(sheet));
    expect(page?.sheet).toBe('Plan');
    expect(page?.data[1]?.[3]).toBe(260);
    expect(page?.data[above + 2]?.slice(3)).toEqual([still?.n, still?.p, still?.k, still?.s]);
    expect(others.map((o) => o.sheet)).toEqual(['Jobs', 'Not known', 'To settle', 'Why']);
  });
  it.each(['=HYPERLINK("http://x")', '+1+1', '-1+1', '@SUM(A1)', '\t=1'])(
    'keep %j as text: what somebody typed never runs',
    async (text) => {
      const evil: Plan = {
        ...plan,
        struck: [{ line: 'legume_table_year1', reason: text }],
        farm: { ...plan.farm, name: text },
      };
      const tables = sheetTables(sheetOf(evil));
      const formulas = tables.flatMap((t) =>
        t.rows.flatMap((r) =>
          r.cells.flatMap((v) => (typeof v === 'object' && v && 'formula' in v ? [v.formula] : [])),
        ),
      );
      expect(formulas.every((f) => /^=SUM\([A-Z]\d+:[A-Z]\d+\)$/.test(f))).toBe(true);
      const cells = (await read(tables)).flatMap((s) => s.data.flat());
      expect(cells).toContain(`'${text}`);
      expect(cells.filter((v) => typeof v === 'string' && /^[=+@\t]/.test(v))).toEqual([]);
    },
  );
  it('hold the whole farm', async () => {
    const farm = DEMO_FARMS[0];
    const rows = farm.fields.map((f) =>
      farmFieldRow(PRINTED, { fieldId: f.key, plan: f.seasons[0] as Plan }),
    );
    const t = farmTotals(
      sumRows(rows),
      farm.stores.map(({ key, ...s }) => ({ id: key, materialName: s.materialKey, ...s })),
      farm.farm,
    );
    const tables = farmTables('Tansy Hollow', rows, t);
    expect(workedOut(tableOf(tables, 'Fields'))[rows.length + 1]?.[1]).toBeCloseTo(t.areaHa, 6);
    const manure = (await read(tables)).find((s) => s.sheet === 'Manure');
    expect(manure?.data[1]?.[2]).toBe(420);
  });
});
