import { toldThroughout } from '../why/said';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { classify } from './classify';
import { convertExtractant, estimatesOf } from './extractants';
import { phGate, planningPh } from './ph';
import { relativeYield } from './relativeYield';

const refused = (f: () => unknown) => {
  try {
    f();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  return null;
};
const k = { nutrient: 'k', extractant: 'ammonium_acetate', unit: 'mg_kg' } as const;

describe('class of a soil test', () => {
  it.each([
    [{ cecCmolKg: 5 }, 'medium'],
    [{ cecCmolKg: 15 }, 'low'],
    [{ cecCmolKg: 30 }, 'very_low'],
    [{}, 'low'],
  ])('120 mg/kg K at %j is %s', (more, cls) =>
    expect(classify({ ...k, value: 120, ...more }).cls).toBe(cls),
  );
  it('says when it assumed a CEC', () =>
    expect(classify({ ...k, value: 120 }).assumed).toHaveLength(1));
  it('vegetables want more P than field crops', () => {
    const p = { nutrient: 'p', extractant: 'olsen', value: 15, unit: 'mg_kg', ph: 6.5 };
    expect(classify(p).cls).toBe('high');
    expect(classify({ ...p, cropGroup: 'vegetables_intensive' }).cls).toBe('low');
  });
  it('halves pounds per acre, and reads volume tests on their own row', () => {
    expect(
      classify({ nutrient: 'p', extractant: 'olsen', value: 26, unit: 'lb_ac' }),
    ).toMatchObject({ value: 13, cls: 'medium' });
    expect(classify({ nutrient: 'p', extractant: 'olsen', value: 18, unit: 'mg_l' })).toMatchObject(
      { scheme: 'volume_index', cls: 'medium' },
    );
  });
  it.each([
    [{ extractant: 'magic' }, 'extractant'],
    [{ unit: 'oz' }, 'unit'],
    [{ value: -1 }, 'value'],
    [{ value: 9000 }, 'value'],
    [{ omPct: 40 }, 'om_pct'],
  ])('refuses %j', (bad, field) =>
    expect(refused(() => classify({ ...k, value: 120, ...bad }))?.field).toBe(field),
  );
  it('does not class iron below pH 7', () =>
    expect(
      refused(() =>
        classify({ nutrient: 'fe', extractant: 'dtpa', value: 3, unit: 'mg_kg', ph: 6.5 }),
      )?.field,
    ).toBe('ph'));
});

describe('pH', () => {
  it.each([
    [{ phCacl2: 5.2 }, 5.8, 'estimated'],
    [{ phKcl: 4.9 }, 5.9, 'estimated'],
    [{ phWater: 5.5, moisture: 'dry' }, 5.5, 'dry_sample'],
    [{ phWater: 6, phCacl2: 6.3 }, 6, 'negative_offset'],
    [{ phWater: 6, phCacl2: 5.4 }, 6, 'ok'],
  ] as const)('%j -> %d %s', (r, ph, flag) => {
    const p = planningPh(r);
    expect(p.ph).toBeCloseTo(ph, 9);
    expect(p.flag).toBe(flag);
  });
  it('without any reading it asks for one', () =>
    expect(refused(() => planningPh({}))?.code).toBe('missing'));
  it.each([
    ['blueberry_cranberry', 4.0, 'caution'],
    ['blueberry_cranberry', 4.6, 'ok'],
    ['blueberry_cranberry', 5.6, 'caution'],
    ['blueberry_cranberry', 6.2, 'stop'],
    ['wheat', 6.2, 'info'],
    ['wheat', 7, 'ok'],
    ['wheat', 8.2, 'caution'],
    ['wheat', 8.7, 'stop'],
    ['potato_scab_risk', 6.4, 'info'],
    ['barley', 5.5, 'stop'],
  ])('%s at %d: %s', (crop, ph, level) => expect(phGate({ ph, crop }).level).toBe(level));
  it('humose soil caps the target', () =>
    expect(phGate({ ph: 5.8, crop: 'sugar_beet', omPct: 15 })).toMatchObject({
      targetPh: 6,
      actBelowPh: 5.6,
      level: 'info',
    }));
  it('a response curve without a response is bad data', () =>
    expect(refused(() => relativeYield({ test: 5, crit95: 10, ry0: 96 }))?.field).toBe('ry0'));
});

describe('a reading on another scale', () => {
  const bray = { nutrient: 'p', extractant: 'bray_1', value: 20, unit: 'mg_kg' };
  it('is an estimate with its span, and says what to do first', () => {
    const [col, icp, olsen] = estimatesOf({ ...bray, ph: 6.5 });
    expect([col, icp, olsen].map((e) => [e?.to, e?.value])).toEqual([
      ['mehlich_3_col', 20],
      ['mehlich_3_icp', 27],
      ['olsen', 13],
    ]);
    expect(toldThroughout(icp?.warning)).toMatchObject({
      id: 'R32',
      message: 'Converted from Bray-1: 27, could be 24-34.',
    });
  });
  it('is not given where the regression does not hold, nor where the pH that decides is not known', () => {
    expect(estimatesOf({ ...bray, ph: 7.4 })).toEqual([]);
    expect(
      estimatesOf({ ...bray, ph: 5.2 }).map((e) => e.to),
      'below 5.5 not to Olsen',
    ).toEqual(['mehlich_3_col', 'mehlich_3_icp']);
    expect(estimatesOf({ ...bray, ph: null })).toEqual([]);
    expect(
      estimatesOf({ nutrient: 'k', extractant: 'mehlich_3', value: 120, unit: 'mg_kg', ph: null }),
    ).toHaveLength(1);
    expect(
      estimatesOf({ nutrient: 'ca', extractant: 'mehlich_3', value: 1200, unit: 'mg_kg', ph: 7 }),
      'limy soil',
    ).toEqual([]);
  });
  it('is never guessed from a weak extract or another unit', () => {
    expect(estimatesOf({ ...bray, extractant: 'morgan', ph: 6.5 })).toEqual([]);
    expect(estimatesOf({ ...bray, unit: 'lb_ac', ph: 6.5 })).toEqual([]);
    expect(refused(() => convertExtractant({ key: 'morgan_any', value: 5 }))?.message).toMatch(
      /no conversion/,
    );
  });
});
