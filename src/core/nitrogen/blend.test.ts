import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { fertiliserOf, fertilisers } from '../book/fertilisers';
import { Refusal, type RefusalDetail } from '../quantity/refusal';
import { blendLp, type BlendInput } from './blend';
import { availablePct } from './product';
import { solver } from './solver';

const refused = async (i: BlendInput): Promise<RefusalDetail> =>
  blendLp(PRINTED, i).then(
    () => expect.unreachable('a blend was found'),
    (e: unknown) => (e as Refusal).detail,
  );
const STRAIGHTS = ['urea_46', 'can_27', 'ammonium_sulphate_21', 'map_11_52', 'dap_18_46', 'kcl_60'];

/** The cheapest of every subset, each by a plain programme: slow, and without choices in it. */
async function everySubset(i: {
  candidates: string[];
  min: Record<string, number>;
  max: Record<string, number>;
  most: number;
}): Promise<number | null> {
  const solve = await solver();
  const costs = i.candidates
    .reduce<string[][]>((all, id) => [...all, ...all.map((s) => [...s, id])], [[]])
    .filter((s) => s.length > 0 && s.length <= i.most)
    .flatMap((ids) => {
      const found = solve({
        minimise: Object.fromEntries(
          ids.map((id) => [id, fertiliserOf(PRINTED, id).pricePerTDemo / 1000]),
        ),
        rows: (['n', 'p', 'k'] as const).map((x) => ({
          name: x,
          of: Object.fromEntries(
            ids.map((id) => [id, availablePct(fertiliserOf(PRINTED, id))[x] / 100]),
          ),
          min: i.min[x] ?? null,
          max: i.max[x] ?? null,
        })),
        bounds: Object.fromEntries(ids.map((id) => [id, { min: 40, max: 1000 }])),
      });
      return found ? [found.least] : [];
    });
  return costs.length > 0 ? Math.min(...costs) : null;
}

describe('the cheapest blend', () => {
  it('costs what the cheapest of all subsets costs, and keeps every limit', async () => {
    const kg = (max: number) => fc.integer({ min: 0, max });
    await fc.assert(
      fc.asyncProperty(
        fc.record({ n: kg(160), p: kg(30), k: kg(120) }),
        fc.integer({ min: 2, max: 40 }),
        fc.integer({ min: 1, max: 4 }),
        async (min, room, most) => {
          const max = { n: min.n + room, p: min.p + room, k: min.k + room };
          const want = await everySubset({ candidates: STRAIGHTS, min, max, most });
          const found = await blendLp(PRINTED, {
            candidates: STRAIGHTS,
            minKgHa: min,
            maxKgHa: max,
            maxProducts: most,
          }).catch((e: unknown) => {
            expect((e as Refusal).detail.code).toBe('infeasible');
            return null;
          });
          if (min.n === 0 && min.p === 0 && min.k === 0) return;
          expect(found?.costHa ?? null).toSatisfy(
            (cost: number | null) =>
              (cost === null && want === null) ||
              (cost !== null && want !== null && Math.abs(cost - want) < 1e-3),
            `against ${want} for ${JSON.stringify(min)} room ${room} most ${most}`,
          );
          if (!found) return;
          const rates = Object.values(found.productsKgHa);
          expect(rates.length).toBeLessThanOrEqual(most);
          for (const rate of rates) expect(rate).toBeGreaterThanOrEqual(40 - 1e-6);
          for (const x of ['n', 'p', 'k'] as const) {
            expect(found.deliveredKgHa[x]).toBeGreaterThanOrEqual(min[x] - 1e-6);
            expect(found.deliveredKgHa[x]).toBeLessThanOrEqual(max[x] + 1e-6);
          }
        },
      ),
      { numRuns: 25 },
    );
  });
  it('keeps to what is in store, and to own prices', async () => {
    const i = { candidates: ['urea_46', 'can_27'], minKgHa: { n: 80 }, maxProducts: 2 };
    expect(Object.keys((await blendLp(PRINTED, i)).productsKgHa)).toEqual(['urea_46']);
    const few = await blendLp(PRINTED, { ...i, stockKgHa: { urea_46: 100 } });
    expect(few.productsKgHa.urea_46).toBeLessThanOrEqual(100);
    expect(few.deliveredKgHa.n).toBeCloseTo(80, 6);
    const dear = await blendLp(PRINTED, { ...i, pricesPerT: { urea_46: 5000 } });
    expect(Object.keys(dear.productsKgHa)).toEqual(['can_27']);
  });
  it.each([
    [
      'which limits conflict',
      { candidates: ['urea_46', 'kcl_60'], minKgHa: { n: 80, p: 15 }, maxProducts: 2 },
      'P: at least 15 kg/ha wanted, these products reach 0 kg/ha',
    ],
    [
      'that more products are needed',
      {
        candidates: ['urea_46', 'tsp_0_46', 'kcl_60'],
        minKgHa: { n: 80, p: 20, k: 60 },
        maxProducts: 2,
      },
      'it takes 3 products',
    ],
    [
      'that a least rate is in the way',
      { candidates: ['urea_46'], minKgHa: { n: 5 }, maxKgHa: { n: 8 }, maxProducts: 1 },
      'less than 40 kg/ha',
    ],
    [
      'that nothing may be used here',
      { candidates: ['kcl_60'], minKgHa: { k: 50 }, chlorideSensitive: true },
      'kcl_60 are left out',
    ],
  ])('says %s', async (_, i, words) => {
    const detail = await refused(i);
    expect(detail).toMatchObject({ code: 'infeasible', field: 'candidates' });
    expect(detail.message).toContain(words);
  });
  it.each([
    ['an empty list of products', { candidates: [] }, 'candidates'],
    ['an unknown product', { candidates: ['gold_dust'] }, 'candidates'],
    ['an unknown nutrient', { candidates: ['urea_46'], minKgHa: { xy: 3 } }, 'min_kg_ha.xy'],
    ['a negative amount', { candidates: ['urea_46'], minKgHa: { n: -3 } }, 'min_kg_ha.n'],
    [
      'less at most than at least',
      { candidates: ['urea_46'], minKgHa: { n: 50 }, maxKgHa: { n: 20 } },
      'max_kg_ha.n',
    ],
    ['no product at all', { candidates: ['urea_46'], maxProducts: 0 }, 'max_products'],
  ])('refuses %s by name', async (_, i, field) =>
    expect((await refused(i as BlendInput)).field).toBe(field),
  );
  it('of forty products and twelve limits is found', async () => {
    const all = fertilisers(PRINTED)
      .filter((f) => f.nTotalPct + f.pPct + f.kPct > 0)
      .slice(0, 40)
      .map((f) => f.productId);
    const found = await blendLp(PRINTED, {
      candidates: all,
      minKgHa: { n: 120, p: 20, k: 60, s: 15, mg: 5 },
      maxKgHa: { n: 125, p: 30, k: 80, s: 40, cl: 60, mg: 20 },
      maxProducts: 4,
      maxNPerPassKgHa: 130,
    });
    expect(found.deliveredKgHa.s).toBeGreaterThanOrEqual(15 - 1e-6);
    expect(found.costHa).toBeLessThan(400);
  });
});
