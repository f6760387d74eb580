import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { eonrManySiteYears, eonrQuadratic, fitQuadraticPlateau, flatOptimum } from './response';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail.field;
    throw e;
  }
  return 'was not refused';
};
const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const curve = {
  a: 5,
  b: 0.03,
  c: -7e-5,
  priceNPerKg: 1,
  priceCropPerT: 200,
  nHighestTrialKgHa: 240,
};
const RATES = [0, 40, 80, 120, 160, 200, 240];
const plateau = (nJoin: number, yMax: number, g: number) =>
  RATES.map((n) => [n, yMax - g * Math.max(0, nJoin - n) ** 2] as const);

describe('the economic optimum of a curve that bends', () => {
  it('earns no less than any other rate that was tried', () =>
    fc.assert(
      fc.property(
        between(0.005, 0.06),
        between(2e-5, 2e-4),
        between(0.3, 3),
        between(80, 400),
        between(100, 300),
        (b, bend, priceNPerKg, priceCropPerT, highest) => {
          const net = (n: number) => (b * n - bend * n * n) * priceCropPerT - n * priceNPerKg;
          const best = eonrQuadratic({
            a: 5,
            b,
            c: -bend,
            priceNPerKg,
            priceCropPerT,
            nHighestTrialKgHa: highest,
          });
          expect(best.netGainPerHa).toBeCloseTo(net(best.eonrKgHa), 6);
          for (let n = 0; n <= highest; n += 5)
            expect(best.netGainPerHa).toBeGreaterThanOrEqual(net(n) - 1e-6);
        },
      ),
    ));
  it('falls as N gets dearer, and is nothing where the first kilogram does not pay', () => {
    const at = (priceNPerKg: number) => eonrQuadratic({ ...curve, priceNPerKg }).eonrKgHa;
    const rates = [0.5, 1, 1.5, 2, 3].map(at);
    expect(rates).toEqual([...rates].sort((p, q) => q - p));
    expect(at(6.01)).toBe(0);
  });
  it('stops at the highest rate tried and says so', () => {
    expect(eonrQuadratic({ ...curve, nHighestTrialKgHa: 150 })).toMatchObject({
      eonrKgHa: 150,
      clamped: true,
      cautionN22: true,
    });
    expect(eonrQuadratic(curve)).toMatchObject({ clamped: false, cautionN22: false });
  });
  it('speaks up where the prices look like another unit', () => {
    expect(eonrQuadratic({ ...curve, priceNPerKg: 0.2 }).cautionN22).toBe(true);
    expect(eonrQuadratic({ ...curve, priceNPerKg: 3.2 }).cautionN22).toBe(true);
  });
  it.each<[string, Partial<typeof curve>]>([
    ['response', { b: 0 }],
    ['response', { c: 0 }],
    ['response', { c: 1e-5 }],
    ['price', { priceNPerKg: 0 }],
    ['price', { priceCropPerT: Number.NaN }],
    ['n_highest_trial_kg_ha', { nHighestTrialKgHa: 0 }],
    ['n_highest_trial_kg_ha', { nHighestTrialKgHa: 601 }],
  ])('a bad %s is refused by its name', (field, part) =>
    expect(refused(() => eonrQuadratic({ ...curve, ...part }))).toBe(field),
  );
});

describe('a plateau fitted to a trial', () => {
  const fit = (points: readonly (readonly number[])[]) =>
    fitQuadraticPlateau({ points, priceNPerKg: 1, priceCropPerT: 200 });
  it('finds again the curve that the points were drawn from', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 90, max: 220 }),
        between(8, 12),
        between(5e-5, 1.5e-4),
        (nJoin, yMax, g) => {
          const r = fit(plateau(nJoin, yMax, g));
          expect(r.nJoinKgHa).toBe(nJoin);
          expect(r.yMaxTHa).toBeCloseTo(yMax, 6);
          expect(r.g).toBeCloseTo(g, 9);
          expect(r.r2).toBeCloseTo(1, 6);
          expect(r.eonrKgHa).toBeCloseTo(Math.max(0, nJoin - 0.005 / (2 * g)), 4);
        },
      ),
    ));
  it('does not mind the order of the plots, nor a trial told twice', () => {
    const points = plateau(170, 8, 1e-4).map(([n, y], k) => [n, y + (k % 2 ? 0.1 : -0.1)] as const);
    const once = fit(points);
    expect(fit([...points].reverse()).eonrKgHa).toBeCloseTo(once.eonrKgHa, 9);
    expect(fit([...points, ...points]).eonrKgHa).toBeCloseTo(once.eonrKgHa, 9);
  });
  it('calls few points of one site-year weak, and the same of three not', () => {
    const points = plateau(170, 8, 1e-4);
    expect(fit(points)).toMatchObject({ weak: true, why: { confidence: 'low' } });
    expect(
      fitQuadraticPlateau({ points, priceNPerKg: 1, priceCropPerT: 200, siteYears: 3 }),
    ).toMatchObject({ weak: false, why: { confidence: 'medium' } });
  });
  it.each<[string, readonly (readonly number[])[]]>([
    ['four points', plateau(170, 8, 1e-4).slice(0, 4)],
    [
      'three rates',
      [
        [0, 4],
        [0, 4.1],
        [100, 7],
        [100, 7.2],
        [200, 8],
      ],
    ],
    ['no plot near zero', plateau(170, 8, 1e-4).slice(1)],
    ['yield that does not rise', RATES.map((n) => [n, 8 - n * 0.005])],
  ])('%s cannot be fitted', (_, points) => expect(refused(() => fit(points))).toBe('points'));
  it('names the plot that cannot be', () =>
    expect(
      refused(() =>
        fit([
          [0, 4],
          [60, -1],
          [120, 7],
          [180, 8],
          [240, 8],
        ]),
      ),
    ).toBe('points[1]'));
});

describe('how near the optimum is near enough', () => {
  it('loses just the money named at the edge of the flat part', () =>
    fc.assert(
      fc.property(
        between(5e-5, 2e-4),
        between(80, 400),
        between(1, 40),
        (g, priceCropPerT, lossPerHa) => {
          const edge = flatOptimum({ g, priceCropPerT, lossPerHa }).halfWidthKgHa;
          // Around its optimum the return of a plateau curve falls with g times the price times the
          // square of the distance.
          expect(g * priceCropPerT * edge ** 2).toBeCloseTo(lossPerHa, 6);
        },
      ),
    ));
  it('of several site-years lies among their own optima, and moves with the prices', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ yMax: between(4, 12), g: between(5e-5, 2e-4), nJoin: between(80, 240) }),
          { minLength: 1, maxLength: 6 },
        ),
        (fits) => {
          const [cheap, dear] = [1, 3].map((priceNPerKg) =>
            eonrManySiteYears({ fits, priceNPerKg, priceCropPerT: 200 }),
          ) as [ReturnType<typeof eonrManySiteYears>, ReturnType<typeof eonrManySiteYears>];
          for (const r of [cheap, dear]) {
            expect(r.nBestKgHa).toBeGreaterThanOrEqual(Math.floor(r.eonrMinKgHa));
            expect(r.nBestKgHa).toBeLessThanOrEqual(Math.ceil(r.eonrMaxKgHa));
          }
          expect(dear.nBestKgHa).toBeLessThanOrEqual(cheap.nBestKgHa);
        },
      ),
    ));
  it('needs a site-year, and a bend in each', () => {
    expect(refused(() => eonrManySiteYears({ fits: [], priceNPerKg: 1, priceCropPerT: 200 }))).toBe(
      'fits',
    );
    expect(
      refused(() =>
        eonrManySiteYears({
          fits: [{ yMax: 8, g: 0, nJoin: 150 }],
          priceNPerKg: 1,
          priceCropPerT: 200,
        }),
      ),
    ).toBe('response');
    expect(refused(() => flatOptimum({ g: 0, priceCropPerT: 200 }))).toBe('g');
  });
});
