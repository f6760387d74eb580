import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../../demo/terraceShortWorked';
import { sheetOfPlan } from '../figures';
import { sheetCsv } from '../sheetCsv';
import { SHEET_VERSION } from '../sheet';
import { storedSheet } from './chain';

const file = (version: number) =>
  JSON.parse(
    fs.readFileSync(new URL(`./${version}.sheet.json`, import.meta.url), 'utf8'),
  ) as Record<string, unknown>;

describe('a frozen sheet', () => {
  it('of version 1 reads as it did on its day', () => {
    const sheet = storedSheet(file(1));
    expect(sheet).toEqual({ ...file(1), version: SHEET_VERSION });
    expect(sheetCsv(sheet)).toMatch(/Requirement, \d+ t\/ha/);
  });
  it('of today is itself', () => {
    const today = sheetOfPlan(terraceShortWorked());
    expect(storedSheet(JSON.parse(JSON.stringify(today)))).toEqual(today);
  });
  it.each([
    [{ ...file(1), rows: 'none' }, 'rows'],
    [{ ...file(1), version: 2, areaHa: '4' }, 'areaHa'],
    [{ ...file(1), version: 99 }, 'version'],
    [null, 'farm'],
  ])('that does not fit is refused by name', (raw, field) =>
    expect(() => storedSheet(raw)).toThrow(
      expect.objectContaining({ detail: expect.objectContaining({ field }) }),
    ),
  );
});
