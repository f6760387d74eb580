import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { cropOf } from '../book/crops';
import { barrel } from '../views/barrel';
import { DEMO_FARMS } from '../../demo/scenario';
import type { Plan } from '../document/document';
import type { LimePlan } from '../document/limeDocument';
import { figuresOf } from '../views/figures';
import { assessLime, blankLime } from '../lines/lime';
import type { Problem } from '../lines/problem';
import { secondaryRisks, secondaryWarnings } from '../lines/secondary';

const demo = (key: string): Plan =>
  DEMO_FARMS.flatMap((f) => f.fields).find((f) => f.key === key)?.seasons[0] as Plan;
const lowFleet = demo('low-fleet');
const bayTwo = demo('bay-two');
const withLime = (plan: Plan, part: Partial<LimePlan>): Plan => ({
  ...plan,
  lime: { ...(plan.lime ?? blankLime(plan)), ...part },
});
const limeOf = (plan: Plan) => {
  const problems: Problem[] = [];
  const { a } = figuresOf(PRINTED, { ...plan, lime: null });
  return { assessed: assessLime(PRINTED, plan, a.ground, null, problems), problems };
};
const ids = (plan: Plan) => limeOf(plan).assessed?.warnings.map((w) => w.id) ?? [];

describe('lime of a field', () => {
  it('the low field needs lime, by the method its report allows, to the target of beet', () => {
    const { assessed } = limeOf(lowFleet);
    expect(assessed).toMatchObject({
      target: { ph: 6.9, cropKey: 'sugar_beet' },
      requirement: { word: 'need' },
    });
    expect(
      assessed?.requirement.methods.find((m) => m.key === assessed.requirement.chosen)?.valueTHa,
    ).toBe(assessed?.requirement.valueTHa);
    expect(assessed?.latestSampleDate).toBe('2026-09-05');
  });
  it('one of three limes works in time for the leeks', () => {
    const rows = limeOf(bayTwo).assessed?.rows ?? [];
    expect(rows.map((r) => [r.material.key, r.inTime])).toEqual([
      ['calcitic_fine', true],
      ['dolomitic_ag', false],
      ['calcitic_ag', false],
    ]);
    expect(rows[0]?.firstCropTotal).toBeLessThan(rows[1]?.firstCropTotal ?? 0);
  });
  it('the most sensitive crop of the rotation sets the target', () => {
    expect(limeOf(withLime(bayTwo, { rotation: ['alfalfa'] })).assessed?.target).toMatchObject({
      cropKey: 'alfalfa',
      ph: 6.8,
    });
  });
  it('a crop that wants acid ground and one that does not must be told apart', () => {
    const both = withLime(bayTwo, { rotation: ['blueberry'] });
    expect(limeOf(both).problems[0]?.message).toMatch(/wants acid ground/);
    expect(limeOf(withLime(both, { targetFor: 'leek' })).assessed?.target.cropKey).toBe('leek');
  });
  it('gypsum among the limes is refused by its chemistry, and stops the plan when it is chosen', () => {
    const plan = withLime(bayTwo, {
      candidates: [
        {
          id: 'g',
          materialKey: 'gypsum',
          pricePerT: 30,
          haulPerT: 9,
          spreadPerT: 8,
          analysis: null,
        },
      ],
      chosenId: 'g',
    });
    expect(limeOf(plan).assessed?.refused).toEqual([
      { id: 'g', name: 'gypsum', reason: 'Not a lime: its anion takes up no acid.' },
    ]);
    expect(ids(plan)).toContain('R22');
  });
  it('a sieve that cannot be is refused for that lime alone', () => {
    const [first, second] = blankLime(bayTwo).candidates as [
      LimePlan['candidates'][number],
      LimePlan['candidates'][number],
    ];
    const { assessed } = limeOf(
      withLime(bayTwo, {
        candidates: [
          { ...first, analysis: { ccePct: 94, dryMatterPct: 97, p8: 60, p20: 70, p60: 45 } },
          second,
        ],
      }),
    );
    expect(assessed?.rows).toHaveLength(1);
    expect(assessed?.refused[0]?.reason).toMatch(/2.36|sieve|through/i);
  });
  it('too late for all is said once, with the best of them', () =>
    expect(ids(withLime(bayTwo, { spreadDate: '2027-05-20' }))).toContain('R09'));
  it('caustic lime near ammonium on the surface stops', () => {
    const plan = withLime(
      {
        ...bayTwo,
        passes: [
          {
            id: 'u',
            date: '2027-03-05',
            productId: 'urea_46',
            productKgHa: 100,
            placementId: 'broadcast_surface',
            status: 'planned',
            pricePerT: null,
          },
        ],
      },
      {
        spreadDate: '2027-02-28',
        candidates: [
          {
            id: 'h',
            materialKey: 'hydrated',
            pricePerT: 90,
            haulPerT: 9,
            spreadPerT: 8,
            analysis: null,
          },
        ],
        chosenId: 'h',
      },
    );
    expect(ids(plan)).toContain('R41');
  });
  it('rain starts the clock, not the date', () => {
    const spread = (rainMm: number): LimePlan['spread'] => ({
      date: '2026-11-01',
      materialKey: 'calcitic_ag',
      rateTHa: 4,
      soilMoist: false,
      records: [1, 2].map(() => ({ days: 30, rainMm, irrigationMm: 0, soilTempC: 9 })),
    });
    expect(limeOf(withLime(lowFleet, { spread: spread(4) })).assessed?.clock).toMatchObject({
      started: false,
      tEffMonths: 0,
    });
    expect(ids(withLime(lowFleet, { spread: spread(4) }))).toContain('R10');
    expect(
      limeOf(withLime(lowFleet, { spread: spread(80) })).assessed?.clock?.tEffMonths,
    ).toBeGreaterThan(0);
    expect(limeOf(withLime(lowFleet, { spread: spread(80) })).assessed?.retestDate).toBe(
      '2027-11-01',
    );
  });
  it('forecasts acid by either book-keeping, and lasts from the target for some years', () => {
    const convention = limeOf(lowFleet).assessed?.acid;
    const cycle = limeOf(withLime(lowFleet, { acidBooks: 'cycle' })).assessed?.acid;
    expect(convention).toMatchObject({ product: 0, intervalYears: 0, verdict: 'lime is due now' });
    expect(convention?.yearsFromTarget).toBeGreaterThan(1);
    expect(cycle?.product).toBeGreaterThan(0);
    expect(convention?.total).toBeCloseTo(
      (convention?.nitrogen ?? 0) + (convention?.leaching ?? 0),
      9,
    );
  });
  it('doubts a CEC that its clay and organic matter cannot hold', () => {
    const at = (cecCmolKg: number) =>
      limeOf({ ...lowFleet, field: { ...lowFleet.field, cecCmolKg } }).assessed?.cecDoubt;
    expect(at(19)).toBeNull();
    expect(at(190)).toMatch(/check the unit/);
  });
  it('a method that lacks its inputs says so and gives no figure', () => {
    const buffer = limeOf(lowFleet).assessed?.requirement.methods.find((m) => m.key === 'buffer');
    expect(buffer).toMatchObject({ valueTHa: null, refused: expect.stringMatching(/buffer pH/) });
    const withBuffer = limeOf({
      ...lowFleet,
      ground: { ...lowFleet.ground, bufferKind: 'sikora', bufferPh: 6.2 },
    }).assessed?.requirement.methods.find((m) => m.key === 'buffer');
    expect(withBuffer?.valueTHa).toBeGreaterThan(0);
  });
  it('says nothing before there is a pH or a crop', () => {
    expect(
      limeOf({ ...lowFleet, ground: { ...lowFleet.ground, phWater: null } }).assessed,
    ).toBeNull();
    expect(
      limeOf({ ...lowFleet, season: { ...lowFleet.season, cropKey: null } }).assessed,
    ).toBeNull();
  });
});

describe('the barrel', () => {
  const of = (plan: Plan) => barrel(PRINTED, plan, figuresOf(PRINTED, plan).a);
  it('puts pH first where it stops the crop, and says that P and K wait', () => {
    const b = of(lowFleet);
    expect(b?.staves[0]?.factor).toBe('pH');
    expect(b?.elsewhere).toMatch(/^pH comes first: money for P or K waits/);
    expect(b?.attainableTHa).toBeCloseTo(65 * (b?.shortest?.ry ?? 0), 6);
  });
  it('otherwise ranks by relative yield, the shortest first', () => {
    const b = of({
      ...lowFleet,
      ground: {
        ...lowFleet.ground,
        phWater: 6.9,
        readings: [
          { nutrient: 'p', extractant: 'olsen', value: 3, unit: 'mg_kg', belowDetection: false },
          {
            nutrient: 'k',
            extractant: 'ammonium_acetate',
            value: 60,
            unit: 'mg_kg',
            belowDetection: false,
          },
        ],
      },
    });
    expect(b?.staves.map((s) => s.ry)).toEqual(
      [...(b?.staves ?? [])].map((s) => s.ry).sort((p, q) => p - q),
    );
    expect(b?.elsewhere).toMatch(/Until . is put right|Until .{1,2} is put right/);
    expect(b?.notRead.map((f) => f.factor)).toContain('S');
  });
  it('says when nothing limits', () =>
    expect(
      of({
        ...lowFleet,
        ground: {
          ...lowFleet.ground,
          phWater: 6.9,
          readings: [
            { nutrient: 'p', extractant: 'olsen', value: 60, unit: 'mg_kg', belowDetection: false },
            {
              nutrient: 'k',
              extractant: 'ammonium_acetate',
              value: 400,
              unit: 'mg_kg',
              belowDetection: false,
            },
          ],
        },
      })?.elsewhere,
    ).toMatch(/Nothing holds this crop back/));
  it('tells what a full dose of each would bring, and what it costs', () => {
    const poor: Plan = {
      ...lowFleet,
      ground: {
        ...lowFleet.ground,
        phWater: 6.9,
        readings: [
          { nutrient: 'p', extractant: 'olsen', value: 3, unit: 'mg_kg', belowDetection: false },
          {
            nutrient: 'k',
            extractant: 'ammonium_acetate',
            value: 60,
            unit: 'mg_kg',
            belowDetection: false,
          },
        ],
      },
    };
    const b = of(poor);
    const shortest = b?.repairs.find((r) => r.factor === b.shortest?.factor);
    expect(shortest?.dyLiebigTHa).toBeGreaterThan(0);
    // Elsewhere the shortest stave still decides.
    for (const r of b?.repairs ?? []) {
      expect(r.ryAfter).toBeGreaterThanOrEqual(r.ryNow);
      expect(r.dyProductTHa).toBeGreaterThanOrEqual(-1e-9);
      if (r.factor !== b?.shortest?.factor) expect(r.dyLiebigTHa).toBeCloseTo(0, 9);
    }
    expect(b?.repairs.find((r) => r.factor === 'pH')?.costHa).toBeNull();
    expect(
      of({ ...poor, season: { ...poor.season, cropPricePerT: null } })?.repairs[0]?.valueLiebigHa,
    ).toBeNull();
  });
  it('offers the yield that the other limits allow, with the N that it saves', () => {
    const b = of(lowFleet);
    expect(b?.lowerGoal?.attainableTHa).toBeLessThan(65);
    expect(b?.lowerGoal?.nSavedKgHa).toBeGreaterThan(0);
    expect(
      of({ ...lowFleet, schools: { ...lowFleet.schools, n: 'index_ceiling', smnKgHa: 60 } })
        ?.lowerGoal,
    ).toBeNull();
  });
  it('water or stand is a stave that no fertiliser lengthens', () => {
    const dry = of({
      ...lowFleet,
      ground: { ...lowFleet.ground, phWater: 6.9 },
      season: { ...lowFleet.season, stand: { ...lowFleet.season.stand, otherLimitRy: 0.5 } },
    });
    expect(dry?.shortest?.factor).toBe('water or stand');
    expect(dry?.repairs.map((r) => r.factor)).not.toContain('water or stand');
    for (const r of dry?.repairs ?? []) expect(r.dyLiebigTHa).toBeCloseTo(0, 9);
  });
  it('is not there before crop and goal', () =>
    expect(of({ ...lowFleet, season: { ...lowFleet.season, yieldGoalTHa: null } })).toBeNull());
});

describe('sulphur, magnesium and trace elements', () => {
  const risks = (plan: Plan, leaf: string[] = []) =>
    new Map(
      secondaryRisks(
        plan,
        cropOf(PRINTED, plan.season.cropKey as string),
        figuresOf(PRINTED, plan).a.ground,
        leaf,
      ).map((r) => [r.nutrient, r]),
    );
  it('applies only where two of three agree', () => {
    expect(risks(lowFleet).get('b')).toMatchObject({ testClass: 'low', verdict: 'strip_trial' });
    expect(risks(lowFleet, ['B']).get('b')?.verdict).toBe('apply');
    expect(risks(lowFleet).get('cu')?.verdict).toBe('none');
  });
  it('sand with little organic matter and no manure votes for sulphur', () => {
    const sand: Plan = { ...bayTwo, organics: [], manureHistory: 'none' };
    expect(risks(sand).get('s')).toMatchObject({
      verdict: 'apply',
      triggers: ['organic matter below 2 %', 'sand', 'no manure for three years'],
    });
  });
  it('every nutrient says what to test and how to begin', () => {
    for (const r of risks(lowFleet).values())
      expect(r.whatToTest && r.firstFix && r.rates.length > 0, r.nutrient).toBeTruthy();
  });
  const warned = (plan: Plan) =>
    secondaryWarnings(PRINTED, plan, cropOf(PRINTED, plan.season.cropKey as string)).map(
      (w) => w.id,
    );
  const pass = (productId: string, date: string, placementId = 'broadcast_surface') => [
    {
      id: 'x',
      date,
      productId,
      productKgHa: 100,
      placementId,
      status: 'planned' as const,
      pricePerT: null,
    },
  ];
  it('boron last year on clay before beans is a caution', () => {
    const beans: Plan = {
      ...lowFleet,
      field: { ...lowFleet.field, soilTextureId: 'clay' },
      season: { ...lowFleet.season, cropKey: 'faba_bean' },
    };
    expect(warned({ ...beans, ground: { ...beans.ground, boronLastYearKgHa: 2 } })).toContain(
      'R26',
    );
    expect(warned(beans)).not.toContain('R26');
  });
  it('elemental sulphur a month before the need is too late', () =>
    expect(warned({ ...lowFleet, passes: pass('elemental_s_90', '2027-02-25') })).toContain('R23'));
  it('sulphate in autumn on sand washes out', () =>
    expect(warned({ ...bayTwo, passes: pass('ammonium_sulphate_21', '2026-10-05') })).toContain(
      'R24',
    ));
});
