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
    const { organics, passes, areaHa, costPerHa, ...same } = file(1);
    expect(sheet).toMatchObject({ ...same, version: SHEET_VERSION, units: 'metric' });
    expect(sheet.area).toEqual({ value: areaHa, unit: 'ha' });
    expect(sheet.cost.fertiliser).toBeCloseTo(Number(costPerHa) * Number(areaHa), 6);
    expect(sheet.jobs.map((j) => j.date)).toEqual(sheet.jobs.map((j) => j.date).toSorted());
    expect(sheet.jobs).toHaveLength((organics as unknown[]).length + (passes as unknown[]).length);
    expect(sheetCsv(sheet)).toMatch(/Requirement, \d+ t\/ha/);
  });
  it.each([2, 3])('of version %i comes up to one that a page can show', (version) =>
    expect(storedSheet(file(version))).toMatchObject({ version: SHEET_VERSION, unknown: [] }),
  );
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
