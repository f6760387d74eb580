import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { halfAwayFromZero } from '../quantity/rounding';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { LedgerLine } from '../lines/line';
import { sumsOf } from '../assessment/sums';
import { wholeSheet } from './wholeKilograms';

const line = (
  id: string,
  kind: LedgerLine['kind'],
  n: number | null,
  struck: string | null = null,
): LedgerLine => ({
  id,
  label: id,
  detail: '',
  kind,
  evidence: 'measured',
  date: null,
  n,
  p: null,
  k: null,
  s: null,
  error: 0.1,
  why: {},
  struck,
});
const NOTHING = { n: 0, p: 0, k: 0, s: 0 };
const NO_PASSES = {
  passes: [],
  total: NOTHING,
  applied: NOTHING,
  planned: NOTHING,
  cost: 0,
};
const wholeKilograms = (lines: LedgerLine[]) =>
  wholeSheet({ lines, sums: sumsOf(lines, NO_PASSES, null), supply: NO_PASSES, soilFirst: null })
    .amounts;
const sum = (rounded: ReturnType<typeof wholeKilograms>) =>
  [...rounded].reduce(
    (s, [id, r]) => s + (['still_to_apply', 'over'].includes(id) ? 0 : (r.n ?? 0)),
    0,
  );

describe('whole kilograms of the sheet', () => {
  it('add up to the rounded exact sum, where rounding each line would not', () => {
    // Each of these rounds down alone, so the lines would say 0 while 1.2 kg stand under them.
    expect(
      sum(
        wholeKilograms([
          line('a', 'requirement', 0.4),
          line('b', 'debit', 0.4),
          line('c', 'debit', 0.4),
        ]),
      ),
    ).toBe(1);
    expect(
      wholeSheet(assess(PRINTED, terraceShortWorked())).amounts.get('requirement'),
    ).toMatchObject({
      n: 260,
      p: 25,
      k: 123,
      s: 39,
    });
  });
  it('add up for any lines', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ credit: fc.boolean(), h: fc.integer({ min: 0, max: 30_000 }) }), {
          minLength: 1,
          maxLength: 9,
        }),
        (all) => {
          const exact = all.reduce((s, x) => s + (x.credit ? -x.h : x.h), 0);
          expect(
            sum(
              wholeKilograms(
                all.map((x, i) => line(`l${i}`, x.credit ? 'credit' : 'requirement', x.h / 100)),
              ),
            ),
          ).toBe(halfAwayFromZero(exact / 100) || 0);
        },
      ),
    );
  });
  it('are shown even of a line that only rounding takes past the range of a sheet', () => {
    expect(
      wholeKilograms([line('a', 'requirement', 100), line('b', 'credit', 2000.006)]).get('b')?.n,
    ).toBe(-2000);
  });
  it('leave out what is struck or not known', () => {
    const rounded = wholeKilograms([
      line('a', 'requirement', 100),
      line('b', 'credit', 40, 'flooded'),
      line('c', 'credit', null),
    ]);
    expect([rounded.get('a')?.n, rounded.get('b')?.n, rounded.get('c')?.n]).toEqual([
      100,
      null,
      null,
    ]);
  });
});
