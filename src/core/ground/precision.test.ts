import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { Refusal } from '../quantity/refusal';
import { classProbability, coresNeeded, precision, realChange, zonesDiffer } from './precision';

const p = { mean: 18, cvField: 0.45, cvLab: 0.08, nCores: 15 };
const field = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  throw new Error('was not refused');
};

describe('precision of a composite', () => {
  it('halves its field error with four times the cores', () => {
    const noLab = { ...p, cvLab: 0 };
    expect(precision({ ...noLab, nCores: 60 }).se).toBeCloseTo(precision(noLab).se / 2, 9);
  });
  it('never falls below the error of the laboratory, which duplicates lower', () => {
    expect(precision({ ...p, nCores: 100_000 }).seRel).toBeGreaterThanOrEqual(0.08);
    expect(precision({ ...p, nCores: 100_000, nLab: 4 }).seRel).toBeCloseTo(0.04, 3);
  });
  it('takes pH in pH units, whatever the mean', () => {
    const at = (mean: number) =>
      precision({ mean, cvField: 0.3, cvLab: 0.07, nCores: 16, isSd: true }).se;
    expect(at(5)).toBeCloseTo(Math.hypot(0.075, 0.07), 9);
    expect(at(7)).toBe(at(5));
  });
  it('says what an interval means: nine samples in ten', () =>
    expect(precision(p).hi - p.mean).toBeCloseTo(1.645 * precision(p).se, 9));
  it('refuses by field', () => {
    expect(field(() => precision({ ...p, nCores: 0 }))).toMatchObject({
      field: 'n_cores',
      value: 0,
      allowed: '1 to 100000',
    });
    expect(field(() => precision({ ...p, cvField: -1 }))).toMatchObject({
      field: 'cv_field',
      value: -1,
    });
    expect(field(() => precision({ ...p, mean: Number.NaN }))).toMatchObject({
      code: 'not_a_number',
      field: 'mean',
    });
  });
});

describe('cores for a wish', () => {
  it('reaches it, and one core fewer does not', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0, max: 0.05, noNaN: true }),
        fc.double({ min: 0.15, max: 0.6, noNaN: true }),
        (cvField, cvLab, E) => {
          const { n } = coresNeeded({ cvField, cvLab, E });
          const half = (nCores: number) =>
            1.645 * precision({ mean: 1, cvField, cvLab, nCores }).seRel;
          expect(half(n)).toBeLessThanOrEqual(E + 1e-6);
          if (n > 1) expect(half(n - 1)).toBeGreaterThan(E - 1e-6);
        },
      ),
    ));
  it('says that more cores cannot beat the laboratory, and what would', () => {
    expect(field(() => coresNeeded({ cvField: 0.45, cvLab: 0.15, E: 0.2 }))).toMatchObject({
      code: 'infeasible',
      field: 'E',
      message: expect.stringMatching(/laboratory alone errs by 24\.7 %.*duplicate/),
    });
    expect(coresNeeded({ cvField: 0.45, cvLab: 0.15, E: 0.2, nLab: 4 }).n).toBeGreaterThan(1);
  });
});

describe('chance of each class', () => {
  const limits = [11, 16, 21, 31];
  it('sums to one, on either scale', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 20, noNaN: true }),
        fc.boolean(),
        (mean, se, logNormal) => {
          const c = classProbability({ mean, se, limits, logNormal });
          expect(Object.values(c).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
          for (const x of Object.values(c)) expect(x).toBeGreaterThanOrEqual(-1e-12);
        },
      ),
    ));
  it('is certain without an error, and a value on the limit belongs to the upper class', () =>
    expect(classProbability({ mean: 16, se: 0, limits })).toMatchObject({ medium: 1, low: 0 }));
  it('leans to the low side for very uneven P', () => {
    const [plain, log] = [
      classProbability({ mean: 16, se: 8, limits }),
      classProbability({ mean: 16, se: 8, limits, logNormal: true }),
    ];
    expect(log.low + log.very_low).toBeGreaterThan(plain.low + plain.very_low);
  });
  it('refuses limits that do not rise', () =>
    expect(
      field(() => classProbability({ mean: 16, se: 1, limits: [11, 11, 21, 31] })),
    ).toMatchObject({ field: 'limits' }));
});

describe('change and zones', () => {
  it('sees a change only above the common error', () => {
    expect(realChange({ x1: 18, se1: 2.54, x2: 24.4, se2: 2.9 }).changed).toBe(true);
    expect(realChange({ x1: 18, se1: 2.54, x2: 24.3, se2: 2.9 })).toMatchObject({
      changed: false,
      verdict: 'no change that this sampling can see',
    });
    expect(realChange({ x1: 24.4, se1: 2.54, x2: 18, se2: 2.9 }).verdict).toMatch(
      /changed by -6\.40/,
    );
  });
  it('keeps zones apart beyond twice the common error', () => {
    expect(zonesDiffer({ mean: 10, se: 1 }, { mean: 13, se: 1 })).toBe(true);
    expect(zonesDiffer({ mean: 10, se: 1 }, { mean: 12.8, se: 1 })).toBe(false);
  });
});
