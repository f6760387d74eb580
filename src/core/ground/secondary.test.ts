import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { calciumCompare } from './calcium';
import { cations, cationsAl, cecEstimate } from './cations';
import {
  chlorideRate,
  kMgRatio,
  pSaturationRatio,
  stratification,
  sulphurBalance,
  sulphurVotes,
  tetanyRatio,
} from './secondary';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail.field;
    throw e;
  }
  return 'was not refused';
};

describe('sulphur', () => {
  it('of a balance may be negative: nothing is short', () =>
    expect(sulphurBalance({ uptake: 10, om: 4 }).value).toBe(10 - 14 - 4));
  it('counts water by its own strength, 1 mg/L in 100 mm being 1 kg/ha', () =>
    expect(sulphurBalance({ uptake: 20, om: 0, dep: 0, irrMgL: 1, irrMm: 100 })).toEqual({
      value: 19,
      fromOm: 0,
      fromWater: 1,
    }));
  it('votes, since the test is weak: three apply, fewer a strip, none nothing', () => {
    const none = {
      omPct: 3,
      sand: false,
      manured: true,
      demanding: false,
      testLow: false,
      tissueNs: null,
    };
    expect(sulphurVotes(none)).toEqual({ votes: [], verdict: 'none' });
    expect(sulphurVotes({ ...none, omPct: 1.9 })).toEqual({
      votes: ['organic matter below 2 %'],
      verdict: 'strip_trial',
    });
    expect(sulphurVotes({ ...none, omPct: 1.9, sand: true, tissueNs: 15.1 }).verdict).toBe('apply');
    expect(
      sulphurVotes({ ...none, omPct: null, manured: null }).votes,
      'what is not known has no vote',
    ).toEqual([]);
  });
  it.each([
    ['uptake', { uptake: 401, om: 2 }],
    ['om', { uptake: 20, om: -1 }],
    ['cool', { uptake: 20, om: 2, cool: 2 }],
  ] as const)('a bad %s is refused', (field, input) =>
    expect(refused(() => sulphurBalance(input))).toBe(field),
  );
});

describe('small sums of soil and herbage', () => {
  it('chloride stops at 45 and never goes below nothing', () =>
    expect([0, 22, 30, 67, 300].map((profile) => chlorideRate({ profile }).value)).toEqual([
      45, 45, 37, 0, 0,
    ]));
  it.each([
    [2.6, 0.4, 0.14, 'info'],
    [3.2, 0.4, 0.14, 'caution'],
    [1, 0.6, 0.25, 'ok'],
  ] as const)('tetany: K %s, Ca %s, Mg %s is %s', (k, ca, mg, level) =>
    expect(tetanyRatio({ k, ca, mg }).level).toBe(level),
  );
  it('K to Mg in cmol; no ratio without Mg', () => {
    expect(kMgRatio({ kMgKg: 391, mgMgKg: 121.5 })).toBeCloseTo(1, 2);
    expect(kMgRatio({ kMgKg: 100, mgMgKg: 0 })).toBeNull();
  });
  it.each([
    [50, 'ok'],
    [100, 'caution'],
    [160, 'stop'],
  ] as const)('P saturation: %s mg/kg on 700 Al and 200 Fe is %s', (p, level) =>
    expect(pSaturationRatio({ p, al: 700, fe: 200 }).level).toBe(level),
  );
  it('a rich roof: over two is told, over three is a caution', () => {
    expect([
      stratification({ top: 30, below: 15 }).level,
      stratification({ top: 31, below: 15 }).level,
      stratification({ top: 46, below: 15 }).level,
    ]).toEqual(['ok', 'info', 'caution']);
    expect(stratification({ top: 60, below: 15 }).mean_0_15).toBe(30);
  });
  it('refuse nothing as a divisor', () => {
    expect(refused(() => stratification({ top: 5, below: 0 }))).toBe('below');
    expect(refused(() => pSaturationRatio({ p: 5, al: 0, fe: 1 }))).toBe('al');
  });
});

describe('cations', () => {
  it('sum to a CEC, and their shares to a hundred with the acidity', () => {
    const c = cations({ ca: 1400, mg: 180, k: 150, ph: 6.5 });
    expect(c.cec).toBeGreaterThan(1400 / 200.39 + 180 / 121.53 + 150 / 391);
  });
  it('aluminium above pH 5.8 is doubted', () => {
    expect(refused(() => cationsAl({ ca: 1400, mg: 180, k: 150, ph: 6.2, al: 1 }))).toBe('al');
    expect(cationsAl({ ca: 300, mg: 60, k: 60, al: 2 }).alSat).toBeCloseTo(48.3, 1);
  });
  it('a CEC is guessed from clay and organic matter only to doubt a report', () =>
    expect(cecEstimate({ clayPct: 22, omPct: 2.6 })).toBeCloseTo(14, 6));
});

describe('calcium by two systems', () => {
  const soil = { ca: 1400, mg: 180, k: 150, cec: 13.65 };
  it('sufficiency asks for nothing where base saturation asks for a tonne', () => {
    const c = calciumCompare(soil);
    expect([c.suffShortKgHa, Math.round(c.bcsrShortKgHa)]).toEqual([0, 1196]);
    expect(c.limeTHa).toBeCloseTo(c.bcsrShortKgHa / 360, 6);
    expect(c.gypsumTHa).toBeCloseTo(c.bcsrShortKgHa / 220, 6);
  });
  it('both ask on poor sand, by the lower of their own limits', () =>
    expect(
      calciumCompare({ ca: 150, mg: 20, k: 40, cec: 3, sand: true }).suffShortKgHa,
    ).toBeGreaterThan(0));
  it.each([
    ['ph', { ph: 7.4 }],
    ['target', { target: 90 }],
    ['cec', { cec: 0 }],
    ['ca_pct_of_lime', { caPctOfLime: 0 }],
  ] as const)('a bad %s is refused', (field, part) =>
    expect(refused(() => calciumCompare({ ...soil, ...part }))).toBe(field),
  );
});
