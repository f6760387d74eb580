import { PRINTED } from '@/core/book/book';
import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { assess } from '@/core/assessment/assess';
import { DEMO_FARMS } from '@/demo/scenario';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import type { Plan } from '@/core/document/document';
import { buildSheet } from '@/core/views/sheet';
import { farmTotals, sumRows } from '@/core/farm/farmTotals';
import { farmFieldRow } from '@/core/farm/wholeFarm';
import { farmWorkbook, sheetWorkbook } from './xlsx';

const read = async (file: Uint8Array) => {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(file.buffer as ArrayBuffer);
  return book;
};

describe('workbooks', () => {
  const plan = terraceShortWorked();
  it('hold the lines of the sheet, and the spreadsheet’s own sum is the sheet’s', async () => {
    const sheet = buildSheet(PRINTED, plan, assess(PRINTED, plan));
    const page = (await read(await sheetWorkbook(sheet))).getWorksheet('Plan');
    const row = sheet.rows.length + 2;
    expect(page?.getCell(`D${row}`).formula).toBe(`SUM(D2:D${row - 1})`);
    expect(page?.getCell(`D${row}`).result).toBe(
      sheet.totals.find((t) => t.kind === 'to_bring')?.n,
    );
    expect(page?.getCell('D2').value).toBe(260);
  });
  it('never run what somebody typed', async () => {
    const evil: Plan = {
      ...plan,
      struck: [{ line: 'legume_table_year1', reason: '=HYPERLINK("http://x")' }],
      farm: { ...plan.farm, name: '=1+1' },
    };
    const book = await read(await sheetWorkbook(buildSheet(PRINTED, evil, assess(PRINTED, evil))));
    const typed: string[] = [];
    book.eachSheet((s) =>
      s.eachRow((r) =>
        r.eachCell((c) => {
          if (c.formula && !c.formula.startsWith('SUM(')) typed.push(c.formula);
          if (typeof c.value === 'string' && /^[=+@]/.test(c.value)) typed.push(c.value);
        }),
      ),
    );
    expect(typed).toEqual([]);
    expect(
      book
        .getWorksheet('Plan')
        ?.getColumn(2)
        .values.some((v) => v === "'=1+1"),
    ).toBe(true);
  });
  it.each(['=', '+', '-', '@'])('keep a text that begins with %j as text', async (sign) => {
    const evil: Plan = { ...plan, farm: { ...plan.farm, name: `${sign}1+1` } };
    const book = await read(await sheetWorkbook(buildSheet(PRINTED, evil, assess(PRINTED, evil))));
    const found: unknown[] = [];
    book.eachSheet((s) => s.eachRow((r) => r.eachCell((c) => found.push(c.value))));
    expect(found).toContain(`'${sign}1+1`);
  });
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
    const book = await read(await farmWorkbook('Tansy Hollow', rows, t));
    expect(book.getWorksheet('Fields')?.getCell(`B${rows.length + 2}`).result).toBeCloseTo(
      t.areaHa,
      6,
    );
    expect(book.getWorksheet('Manure')?.getCell('C2').value).toBe(420);
  });
});
