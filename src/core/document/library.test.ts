import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { Refusal } from '../quantity/refusal';
import { cropOf } from '../book/crops';
import { fertiliserOf } from '../book/fertilisers';
import { leafStandards, ownRanges, rangeKey } from '../book/leafStandards';
import { withLibrary, type LibraryChange } from '../book/library';
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
  it('hold while they are laid under the work, and not after it, even when the work fails', () => {
    const book = materialOf('sheep_bedded');
    const own = withLibrary([change({})], () => materialOf('sheep_bedded'));
    expect(own).toEqual({
      ...book,
      pKgT: 2.4,
      source: 'the farm’s own: mean of three samples (Odo Merrick, 2027-02-01)',
      confidence: 'medium',
    });
    expect(() =>
      withLibrary([change({})], () => {
        throw new Error('stopped');
      }),
    ).toThrow('stopped');
    expect(materialOf('sheep_bedded')).toBe(book);
  });
  it('reach each table', () => {
    expect(
      withLibrary(
        [
          change({
            table: 'crops',
            key: 'sugar_beet',
            like: 'sugar_beet',
            values: { nCapKgHa: 150 },
          }),
        ],
        () => cropOf('sugar_beet').nCapKgHa,
      ),
    ).toBe(150);
    expect(
      withLibrary(
        [
          change({
            table: 'fertilisers',
            key: 'can_27',
            like: 'can_27',
            values: { nTotalPct: 26.5 },
          }),
        ],
        () => fertiliserOf('can_27').nTotalPct,
      ),
    ).toBe(26.5);
    const lime = limeMaterialOf('calcitic_ag');
    expect(
      withLibrary(
        [change({ table: 'limes', key: lime.key, like: lime.key, values: { ccePct: 88 } })],
        () => limeMaterialOf(lime.key).ccePct,
      ),
    ).toBe(88);
  });
  it('make a row of its own after another, found beside the book’s', () => {
    const own = [change({ key: 'yard_mix', values: { name: 'Yard mix', totalNKgT: 6 } })];
    expect(withLibrary(own, () => materialOf('yard_mix'))).toMatchObject({
      key: 'yard_mix',
      name: 'Yard mix',
      totalNKgT: 6,
      kKgT: materialOf('sheep_bedded').kKgT,
    });
    expect(withLibrary(own, () => materials().length)).toBe(materials().length + 1);
    expect(() => materialOf('yard_mix')).toThrow(Refusal);
    expect(() =>
      withLibrary([change({ key: 'a', like: 'nothing' })], () => materialOf('a')),
    ).toThrow('made after nothing');
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
    expect(assess(own).sums.n.requirement).toBe(195);
    expect(assess(plan).sums.n.requirement).toBe(260);
    expect(JSON.stringify(assess(own).figures)).toContain(
      'the farm’s own: mean of three samples (Odo Merrick, 2027-02-01)',
    );
  });
  it('set limits of a leaf range', async () => {
    const standards = await leafStandards();
    const row = standards.ranges[0];
    if (!row) throw new Error('no ranges');
    const own = ownRanges(standards, [
      change({
        table: 'ranges',
        key: rangeKey(row),
        like: rangeKey(row),
        values: { sufficientLow: row.sufficientLow + 0.1 },
      }),
    ]);
    expect(own.ranges.find((r) => rangeKey(r) === rangeKey(row))?.sufficientLow).toBeCloseTo(
      row.sufficientLow + 0.1,
    );
    expect(own.ranges.length).toBe(standards.ranges.length);
    expect(ownRanges(standards, [])).toBe(standards);
  });
});
