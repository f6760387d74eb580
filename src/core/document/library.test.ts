import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { Refusal } from '../quantity/refusal';
import { cropOf } from '../book/crops';
import { fertiliserOf } from '../book/fertilisers';
import { leafStandards, rangeKey } from '../book/leafStandards';
import { bookOf, PRINTED, type LibraryChange } from '../book/book';
import { limeMaterialOf } from '../book/limes';
import { materialOf, materials } from '../book/organicMaterials';

const change = (part: Partial<LibraryChange>): LibraryChange => ({
  table: 'materials',
  key: 'sheep_bedded',
  like: 'sheep_bedded',
  values: { pKgT: 2.4 },
  by: 'Odo Merrick',
  on: '2027-02-01',
  why: 'mean of three samples',
  ...part,
});

describe('a farm’s own values of the library', () => {
  it('hold in the farm’s book, and in no other', () => {
    const printed = materialOf(PRINTED, 'sheep_bedded');
    expect(materialOf(bookOf([change({})]), 'sheep_bedded')).toEqual({
      ...printed,
      pKgT: 2.4,
      source: 'the farm’s own: mean of three samples (Odo Merrick, 2027-02-01)',
      confidence: 'medium',
    });
    expect(materialOf(PRINTED, 'sheep_bedded')).toBe(printed);
    expect(materialOf(bookOf([]), 'sheep_bedded')).toBe(printed);
  });
  it('reach each table', () => {
    const lime = limeMaterialOf(PRINTED, 'calcitic_ag');
    const book = bookOf([
      change({
        table: 'crops',
        key: 'sugar_beet',
        like: 'sugar_beet',
        values: { nCapKgHa: 150 },
      }),
      change({ table: 'fertilisers', key: 'can_27', like: 'can_27', values: { nTotalPct: 26.5 } }),
      change({ table: 'limes', key: lime.key, like: lime.key, values: { ccePct: 88 } }),
    ]);
    expect(cropOf(book, 'sugar_beet').nCapKgHa).toBe(150);
    expect(fertiliserOf(book, 'can_27').nTotalPct).toBe(26.5);
    expect(limeMaterialOf(book, lime.key).ccePct).toBe(88);
  });
  it('make a row of its own after another, found beside the book’s', () => {
    const book = bookOf([change({ key: 'yard_mix', values: { name: 'Yard mix', totalNKgT: 6 } })]);
    expect(materialOf(book, 'yard_mix')).toMatchObject({
      key: 'yard_mix',
      bookKey: 'sheep_bedded',
      name: 'Yard mix',
      totalNKgT: 6,
      kKgT: materialOf(PRINTED, 'sheep_bedded').kKgT,
    });
    expect(materials(book).length).toBe(materials(PRINTED).length + 1);
    expect(() => materialOf(PRINTED, 'yard_mix')).toThrow(Refusal);
    expect(() => materialOf(bookOf([change({ key: 'a', like: 'nothing' })]), 'a')).toThrow(
      'Unknown material a',
    );
  });
  it('lean on each other in any order, and never on themselves', () => {
    const [mix, later] = [
      change({ key: 'yard_mix', values: { totalNKgT: 6 } }),
      change({ key: 'old_mix', like: 'yard_mix', values: { pKgT: 1 } }),
    ];
    for (const own of [
      [mix, later],
      [later, mix],
    ])
      expect(materialOf(bookOf(own), 'old_mix')).toMatchObject({
        totalNKgT: 6,
        pKgT: 1,
        bookKey: 'sheep_bedded',
      });
    const circle = [change({ key: 'a', like: 'b' }), change({ key: 'b', like: 'a' })];
    expect(() => materialOf(bookOf(circle), 'a')).toThrow(Refusal);
    expect(materialOf(bookOf(circle), 'sheep_bedded')).toEqual(materialOf(PRINTED, 'sheep_bedded'));
  });
  it('one that leans on nothing costs only what uses it, and is named', () => {
    const plan = terraceShortWorked();
    const own = {
      ...plan,
      farm: { ...plan.farm, library: [change({ key: 'a', like: 'nothing' })] },
    };
    const a = assess(bookOf(own.farm.library), own);
    expect(a.problems).toMatchObject([
      { code: 'unknown_id', field: 'farm.library[0].like', value: 'nothing' },
    ]);
    expect(a.sums).toEqual(assess(PRINTED, plan).sums);
  });
  it('change the sheet, and the why names who, when and why', () => {
    const plan = terraceShortWorked();
    const own = {
      ...plan,
      farm: {
        ...plan.farm,
        library: [
          change({ table: 'crops', key: 'sugar_beet', like: 'sugar_beet', values: { nReqKgT: 3 } }),
        ],
      },
    };
    expect(assess(bookOf(own.farm.library), own).sums.n.requirement).toBe(195);
    expect(assess(PRINTED, plan).sums.n.requirement).toBe(260);
    expect(JSON.stringify(assess(bookOf(own.farm.library), own).figures)).toContain(
      'the farm’s own: mean of three samples (Odo Merrick, 2027-02-01)',
    );
  });
  it('set limits of a leaf range', () => {
    const { ranges } = leafStandards(PRINTED);
    const row = ranges[0];
    if (!row) throw new Error('no ranges');
    const own = leafStandards(
      bookOf([
        change({
          table: 'ranges',
          key: rangeKey(row),
          like: rangeKey(row),
          values: { sufficientLow: row.sufficientLow + 0.1 },
        }),
      ]),
    );
    expect(own.ranges.find((r) => rangeKey(r) === rangeKey(row))?.sufficientLow).toBeCloseTo(
      row.sufficientLow + 0.1,
    );
    expect(own.ranges.length).toBe(ranges.length);
  });
});
