import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { pkIndexOf, recBuildMaintain, recIndex, recSufficiency, roundHalfUp } from './pkSchools';
import { pkOutlook, PK_STRATEGIES, type PkSimulation } from './pkSimulation';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail.field;
    throw e;
  }
  throw new Error('was not refused');
};
const limits = { l1: 16, l2: 21, l3: 31, removal: 30, build: 9, years: 6 };

describe('P and K by school', () => {
  it('sufficiency falls to nothing at the critical level, and skips what nobody can spread', () => {
    expect([0, 16, 17, 40].map((test) => recSufficiency({ test, crit95: 17, rmax: 45 }))).toEqual([
      45, 0, 0, 0,
    ]);
    expect(recSufficiency({ test: 15, crit95: 17, rmax: 45 })).toBe(5);
    expect(recSufficiency({ test: 100, crit95: 120, rmax: 80, nutrient: 'k' })).toBe(0);
  });
  it('a band needs less', () =>
    expect(recSufficiency({ test: 5, crit95: 17, rmax: 45, bandFactor: 0.67 })).toBe(
      roundHalfUp(45 * (1 - 5 / 17) * 0.67),
    ));
  it('build-up never rises with the test', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 40, noNaN: true }), (test) => {
        expect(recBuildMaintain({ ...limits, test: test + 0.5 })).toBeLessThanOrEqual(
          recBuildMaintain({ ...limits, test }) + 1e-9,
        );
      }),
    ));
  it('holds its yearly cap, and builds no K on sand that leaks it', () => {
    expect(recBuildMaintain({ ...limits, test: 1, years: 1 })).toBe(45);
    expect(recBuildMaintain({ ...limits, test: 2, nutrient: 'k', leachingSand: true })).toBe(50);
  });
  it('the index adds below three and takes off above', () => {
    expect([1, 2, 3, 4].map((idx) => recIndex({ idx, removal: 20, nutrient: 'p' }))).toEqual([
      46, 33, 20, 0,
    ]);
    expect(recIndex({ idx: 4, removal: 60, nutrient: 'k', cls: 'very_high' })).toBe(0);
  });
  it('places a test between its limits; a value on a limit belongs above', () =>
    expect([10, 11, 16, 21].map((t) => pkIndexOf(t, 11, 16, 21))).toEqual([1, 2, 3, 4]));
  it.each<[string, () => unknown]>([
    ['build', () => recBuildMaintain({ ...limits, test: 5, build: 2 })],
    ['l1', () => recBuildMaintain({ ...limits, test: 5, l1: 30 })],
    ['idx', () => recIndex({ idx: 5, removal: 1, nutrient: 'p' })],
    ['idx', () => recIndex({ idx: 1.5, removal: 1, nutrient: 'p' })],
    ['crit95', () => recSufficiency({ test: 5, crit95: 0, rmax: 45 })],
  ])('a bad %s is refused', (field, work) => expect(refused(work)).toBe(field));
});

const loam: PkSimulation = {
  yieldPot: 11,
  price: 180,
  cost: 3,
  conc: 2.8,
  start: 10,
  crit95: 17,
  ry0: 60,
  rmax: 45,
  build: 9,
  draw: 14,
  floor: 3,
  l0: 11,
  l1: 16,
  l2: 21,
  l3: 31,
  years: 6,
  horizon: 10,
  discount: 0.06,
  passCost: 12,
  tenure: 1,
  phi: 0.6,
  sigmaCrop: 0.22,
  sigmaFert: 0.3,
  rho: 0.4,
  cvYield: 0.15,
  runs: 40,
  seed: 7,
  shocks: true,
};
describe('P and K over years', () => {
  it('is the same for the same seed, and spreads as percentiles do', () => {
    const [a, b] = [pkOutlook(loam), pkOutlook(loam)];
    expect(a).toEqual(b);
    for (const s of PK_STRATEGIES) {
      const r = a.spread?.[s];
      expect(r && r.p10 <= r.p50 && r.p50 <= r.p90).toBe(true);
    }
  });
  it('without any P the test falls, and never below its floor', () => {
    const { tests } = pkOutlook({ ...loam, horizon: 50, shocks: false }).calm.none;
    expect(Math.min(...tests)).toBeGreaterThanOrEqual(3);
    expect(tests[49]).toBeLessThan(tests[0] as number);
  });
  it('on a yearly lease what is built up belongs to somebody else', () => {
    const own = pkOutlook({ ...loam, shocks: false });
    const lease = pkOutlook({ ...loam, shocks: false, tenure: 0 });
    expect(lease.calm.build_maintain.terminal).toBe(0);
    expect(own.calm.build_maintain.terminal).toBeGreaterThan(0);
  });
  it('says when building up has paid, or that it has not within the years', () => {
    expect(pkOutlook({ ...loam, shocks: false, horizon: 1 }).passesInYear).toBeNull();
    const year = pkOutlook({ ...loam, shocks: false, horizon: 30 }).passesInYear;
    expect(year === null || year > 1).toBe(true);
  });
  it('tells how far it is', () => {
    const seen: number[] = [];
    pkOutlook({ ...loam, runs: 5 }, (r) => seen.push(r));
    expect(seen).toEqual([1, 2, 3, 4, 5]);
  });
  it.each<[string, Partial<PkSimulation>]>([
    ['N', { horizon: 0 }],
    ['floor', { floor: 20 }],
    ['ry0', { ry0: 96 }],
    ['price', { price: 0 }],
    ['runs', { runs: 0 }],
  ])('a bad %s is refused', (field, part) =>
    expect(refused(() => pkOutlook({ ...loam, ...part }))).toBe(field),
  );
});
