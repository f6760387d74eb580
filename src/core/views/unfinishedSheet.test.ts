import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from '../document/document';
import { sheetOfPlan } from './figures';
import { sheetCsv } from './sheetCsv';
import { NOT_KNOWN, totalOf } from './sheetLines';

const plan = terraceShortWorked();
const without = (part: Partial<Plan['season']>): Plan => ({
  ...plan,
  season: { ...plan.season, ...part },
});
const totals = (p: Plan): Record<string, string[]> =>
  Object.fromEntries(
    (parse(sheetCsv(sheetOfPlan(p)), { relax_column_count: true }) as string[][])
      .filter((r) => ['still_to_apply', 'passes', 'over'].includes(r[2] ?? ''))
      .map((r) => [r[2] ?? '', r.slice(3)]),
  );

describe('the sheet of a plan that is not finished', () => {
  it('without a crop says not known, never 0, of what hangs on the requirement', () => {
    const { still_to_apply: still, passes } = totals(without({ cropKey: null }));
    expect(still).toEqual([NOT_KNOWN, NOT_KNOWN, NOT_KNOWN, NOT_KNOWN]);
    // What is planned is known by itself.
    expect(passes?.every((v) => /^-?\d+$/u.test(v))).toBe(true);
  });
  it('says its figures where the requirement is known', () => {
    const sheet = sheetOfPlan(plan);
    for (const t of sheet.totals) expect(totalOf(sheet, t, 'n')).toBe(t.n);
    expect(Object.values(totals(plan)).flat()).not.toContain(NOT_KNOWN);
  });
});
