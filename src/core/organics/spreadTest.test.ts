import { describe, expect, it } from 'vitest';
import { evenness, testedRate, traysOf } from './spreadTest';

describe('a spreading test', () => {
  it('finds the rate by sheets, load or flow', () => {
    expect(testedRate({ kind: 'sheets', netKg: 21.6, sheets: 3, sheetM2: 3 })).toBeCloseTo(24, 9);
    expect(testedRate({ kind: 'load', load: 13, distanceM: 450, swathM: 12 })).toBeCloseTo(
      24.074,
      3,
    );
    // 12 m3 in 4 minutes is 180 m3/h; at 6 km/h over 12 m that is 25 m3/ha.
    expect(
      testedRate({ kind: 'flow', tankM3: 12, emptyMin: 4, speedKmH: 6, swathM: 12 }),
    ).toBeCloseTo(25, 9);
    expect(() =>
      testedRate({ kind: 'flow', tankM3: 12, emptyMin: 0, speedKmH: 6, swathM: 12 }),
    ).toThrow('empty_min');
  });
  it('reads trays as typed, and names what is no number', () => {
    expect(traysOf('1 3,5; 5\n6')).toEqual([1, 3.5, 5, 6]);
    expect(() => traysOf('1 two 3')).toThrow('2. catch, two');
    expect(() => traysOf('1 -2')).toThrow('-2');
  });
  it('tells the swath from the throw', () => {
    const e = evenness({
      catches: [1, 3, 5, 6, 6, 5, 3, 1],
      pitchM: 1.5,
      machineKind: 'litter_or_compost_spinner',
    });
    expect(e.bySwath.find((s) => s.swathM === 9)?.cvPct).toBeCloseTo(17.1, 1);
    expect(e.effectiveSwathM).toBeLessThan(8 * 1.5);
    expect(e.singlePassCvPct).toBeGreaterThan(e.bySwath[0]?.cvPct ?? 0);
    expect(
      evenness({
        catches: [0, 0, 9, 0, 0],
        pitchM: 1,
        machineKind: 'granular_fertiliser_or_pellet',
      }).effectiveSwathM,
    ).toBeNull();
    expect(() =>
      evenness({ catches: [1, 2], pitchM: 1, machineKind: 'litter_or_compost_spinner' }),
    ).toThrow('three trays');
  });
});
