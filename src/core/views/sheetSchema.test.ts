import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_FARMS } from '../../demo/scenario';
import { buildSheet } from './sheet';
import { sheetSchema } from './sheetSchema';

describe('a frozen sheet from a file', () => {
  it('fits as it was written, for every demo plan', () => {
    for (const plan of DEMO_FARMS.flatMap((f) => f.fields.flatMap((x) => x.seasons))) {
      const sheet = JSON.parse(
        JSON.stringify(buildSheet(PRINTED, plan, assess(PRINTED, plan))),
      ) as unknown;
      expect(sheetSchema.parse(sheet)).toEqual(sheet);
    }
  });
  it('that could not be shown is refused', () => {
    const plan = DEMO_FARMS[0].fields[0]?.seasons[0];
    if (!plan) throw new Error('no plan');
    const sheet = buildSheet(PRINTED, plan, assess(PRINTED, plan));
    expect(sheetSchema.safeParse({ ...sheet, rows: 'none' }).success).toBe(false);
    expect(
      sheetSchema.safeParse({
        ...sheet,
        totals: [{ kind: 'to_bring', label: 'x', n: 'many', p: 0, k: 0, s: 0 }],
      }).success,
    ).toBe(false);
  });
});
