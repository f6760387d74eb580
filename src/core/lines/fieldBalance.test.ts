import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { offtake } from '../budget/offtake';
import { cropOf } from '../book/crops';
import { assess } from '../assessment/assess';
import { pass, spread } from '../../demo/build';
import { kestrelTerrace } from '../../demo/kestrelTerrace';
import { quernOrchard } from '../../demo/quernOrchard';
import { tansyHollow } from '../../demo/tansyHollow';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from '../document/document';
import { fieldBalance } from './fieldBalance';
import { planOfftake } from './planOfftake';

const of = (plan: Plan) =>
  fieldBalance(PRINTED, plan, cropOf(PRINTED, plan.season.cropKey ?? ''), assess(PRINTED, plan));
const worked = terraceShortWorked();
const bare: Plan = {
  ...worked,
  organics: [],
  passes: [],
  irrigation: null,
  season: { ...worked.season, depositionNKgHa: null },
  previous: { kind: 'other', cropName: 'Rye' },
};
const season = (plan: Plan, part: Partial<Plan['season']>): Plan => ({
  ...plan,
  season: { ...plan.season, ...part },
});
const stand = (plan: Plan, part: Partial<Plan['season']['stand']>): Plan =>
  season(plan, { stand: { ...plan.season.stand, ...part } });
const demo = [tansyHollow, kestrelTerrace, quernOrchard]
  .flatMap((f) => f.fields.flatMap((x) => x.seasons))
  .filter((p) => p.season.cropKey && p.season.yieldGoalTHa !== null);

describe('what comes into the field and what leaves it', () => {
  it('in less out is what stays, for every demo field', () => {
    for (const p of demo) {
      const b = of(p);
      expect(b.inputs.reduce((s, x) => s + x.kgHa, 0) - b.nOutKgHa, p.field.name).toBeCloseTo(
        b.surplusKgHa,
        9,
      );
    }
  });
  it('nothing brought has no efficiency, and is taken from the soil', () =>
    expect(of(bare)).toMatchObject({
      inputs: [],
      nuePct: null,
      reading: 'undefined',
      surplusKgHa: -planOfftake(PRINTED, bare, cropOf(PRINTED, 'sugar_beet')).offtakeNKgHa,
    }));
  it('counts manure by all its N, over the share of the field that it lies on', () => {
    const manured = (areaFrac: number) =>
      of({
        ...bare,
        organics: [
          spread('d', {
            date: '2027-03-05',
            materialKey: 'sheep_bedded',
            rate: 20,
            methodKey: 'solid_broadcast',
            areaFrac,
          }),
        ],
      });
    const all = manured(1).inputs[0]?.kgHa ?? 0;
    expect(all).toBeCloseTo(
      20 *
        (assess(PRINTED, {
          ...bare,
          organics: [
            spread('d', {
              date: '2027-03-05',
              materialKey: 'sheep_bedded',
              rate: 20,
              methodKey: 'solid_broadcast',
            }),
          ],
        }).organics[0]?.analysis.totalNKgT ?? 0),
      9,
    );
    expect(manured(0.25).inputs[0]?.kgHa).toBeCloseTo(all / 4, 9);
  });
  it('more fertiliser always leaves more behind, kilogram for kilogram', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 600 }),
        fc.integer({ min: 0, max: 600 }),
        (kg, more) => {
          const at = (productKgHa: number) => {
            const p = {
              ...bare,
              passes: [pass('a', '2027-03-28', 'can_27', productKgHa, 'broadcast_surface')],
            };
            return [of(p).surplusKgHa, assess(PRINTED, p).sums.n.planned] as const;
          };
          const [[low, n1], [high, n2]] = [at(kg), at(kg + more)];
          expect(high - low).toBeCloseTo(n2 - n1, 6);
        },
      ),
      { numRuns: 20 },
    ));
  it('an absurd dressing is told as it is, not cut off', () => {
    const b = of({
      ...bare,
      organics: [
        spread('d', {
          date: '2027-03-05',
          materialKey: 'sheep_bedded',
          rate: 400,
          methodKey: 'solid_broadcast',
        }),
      ],
    });
    expect(b.nInKgHa).toBeGreaterThan(2000);
    expect(b.nInKgHa - b.nOutKgHa).toBeCloseTo(b.surplusKgHa, 9);
  });
  it('reads its efficiency', () => {
    const fed = (productKgHa: number) =>
      of({ ...bare, passes: [pass('a', '2027-03-28', 'can_27', productKgHa, 'broadcast_surface')] })
        .reading;
    expect([fed(100), fed(600), fed(1400)]).toEqual(['mining', 'normal', 'low']);
  });
  it('N from the air counts in: of a ley its legume share, of failed nodules none', () => {
    const bean = season(bare, { cropKey: 'faba_bean', yieldGoalTHa: 4 });
    const air = (p: Plan) => of(p).inputs.find((x) => x.key === 'fixation')?.kgHa ?? 0;
    expect(air(bean)).toBeGreaterThan(100);
    expect(air(stand(bean, { nodulesFailed: true }))).toBe(0);
    const ley = (legumeShare: number | null) =>
      air(season(bare, { cropKey: 'grass_clover_ley', yieldGoalTHa: 9, legumeShare }));
    expect(ley(0.4)).toBeCloseTo(2 * ley(0.2), 9);
    expect(ley(null)).toBe(0);
  });
  it('a weighed green manure brings what its legumes fixed, rye nothing', () => {
    const after = (speciesKey: string) =>
      of({
        ...bare,
        previous: {
          kind: 'green_manure',
          weighed: null,
          dmTHa: 4,
          species: [{ speciesKey, share: 1, stage: 'early_flower', nPct: null }],
          removedFracTops: 0,
          placement: 'ploughed_in',
          killDate: null,
          killTiming: null,
          weeksTo80pctUptake: null,
        },
      }).inputs.find((x) => x.key === 'greenManure')?.kgHa ?? 0;
    expect(after('hairy_vetch')).toBeGreaterThan(50);
    expect(after('cereal_rye')).toBe(0);
  });
});

describe('what leaves beside the product', () => {
  const rye = season(bare, { cropKey: 'rye', yieldGoalTHa: 6, strawRemovedFrac: 1 });
  it('straw leaves with its K, less where rain washed it', () => {
    const k = (p: Plan) => planOfftake(PRINTED, p, cropOf(PRINTED, 'rye')).offtakeKKgHa;
    const grain = k(season(rye, { strawRemovedFrac: 0 }));
    expect(k(rye)).toBeGreaterThan(grain);
    expect(k(stand(rye, { strawWashed: true })) - grain).toBeCloseTo(0.6 * (k(rye) - grain), 9);
    // The requirement by replacement follows.
    expect(assess(PRINTED, stand(rye, { strawWashed: true })).sums.k.requirement).toBeLessThan(
      assess(PRINTED, rye).sums.k.requirement,
    );
  });
  it('prunings leave an orchard; a crop with straw has none', () => {
    const pear = season(bare, { cropKey: 'pear', yieldGoalTHa: 30 });
    expect(
      planOfftake(PRINTED, stand(pear, { pruningsTDmHa: 2 }), cropOf(PRINTED, 'pear')).offtakeNKgHa,
    ).toBeCloseTo(
      offtake(PRINTED, { cropKey: 'pear', yieldTHa: 30, pruningsTDmHa: 2 }).offtakeNKgHa,
      12,
    );
    expect(
      planOfftake(PRINTED, stand(rye, { pruningsTDmHa: 2 }), cropOf(PRINTED, 'rye')).offtakeNKgHa,
    ).toBe(planOfftake(PRINTED, rye, cropOf(PRINTED, 'rye')).offtakeNKgHa);
  });
});
