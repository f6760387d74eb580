import { PRINTED } from '../book/book';
import { dateAfter } from '../quantity/calendar';
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { Refusal } from '../quantity/refusal';
import { limeMaterialOf, limeMaterials } from '../book/limes';
import { acidityLoad, limeInterval, waterBases } from './acidity';
import {
  byCostInTime,
  compareLime,
  phCurve,
  type ComparisonInput,
  type LimeCandidate,
} from './limeComparison';
import { limeLead } from './limeLead';
import {
  cceDoubt,
  effectiveNeutralisingValue,
  limeCost,
  limePasses,
  limeReacted,
  maxPassTHa,
  predictPh,
} from './limeProduct';
import {
  limeByAdamsEvans,
  limeByAluminium,
  limeByCarbonAndClay,
  limeByMehlich,
  limeBySmp,
  limeByTexture,
  limeRequirement,
  type LimeRequirementInput,
} from './limeRequirement';
import { effectiveMonths } from './wetClock';

const refusal = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  throw new Error('was not refused');
};

describe('lime requirement by each method', () => {
  it('is nothing at the target, whatever the buffer says', () => {
    for (const by of [limeByAdamsEvans, limeBySmp])
      expect(by({ ph: 6.5, target: 6.5, bph: 7 }).value).toBe(0);
    expect(limeByMehlich({ ph: 6.5, target: 6.5, bph: 5.5 }).value).toBe(0);
    expect(limeByTexture({ ph: 7, target: 6.5, tex: 'clay', om: 'low_om_lt_2' }).value).toBe(0);
  });
  it('rises with the acid and never runs backwards', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 4.6, max: 6, noNaN: true }),
        fc.double({ min: 7.05, max: 7.9, noNaN: true }),
        fc.double({ min: 0.01, max: 0.5, noNaN: true }),
        (ph, bph, more) => {
          const at = (x: number, b: number) =>
            limeByAdamsEvans({ ph: x, target: 6.3, bph: b }).value;
          expect(at(ph, bph)).toBeGreaterThanOrEqual(0);
          expect(at(ph, Math.min(8, bph + more))).toBeLessThanOrEqual(at(ph, bph) + 1e-9);
        },
      ),
    ));
  it('SMP goes straight between its targets and falls to nothing at 5.2', () => {
    const at = (target: number) => limeBySmp({ ph: 4.6, target, bph: 6 }).value;
    expect(at(6.25)).toBeCloseTo((at(6) + at(6.5)) / 2, 9);
    expect(at(6.9)).toBeCloseTo((at(6.8) + at(7)) / 2, 9);
    expect(at(5.2)).toBe(0);
    expect(limeBySmp({ ph: 5, target: 6.5, bph: 6.95 })).toMatchObject({
      value: 0,
      notes: [expect.stringContaining('weakly buffered')],
    });
  });
  it.each([
    [
      'a wrong buffer kind',
      () => limeByAdamsEvans({ ph: 5.2, target: 6.3, bph: 6.5 }),
      'buffer_ph_ae',
    ],
    [
      'a target beyond the buffer',
      () => limeByAdamsEvans({ ph: 5.2, target: 6.9, bph: 7.5 }),
      'target',
    ],
    [
      'an SMP buffer above its start',
      () => limeBySmp({ ph: 5.2, target: 6.5, bph: 7.2 }),
      'buffer_ph_smp',
    ],
    ['Mehlich near its limit', () => limeByMehlich({ ph: 6.4, target: 6.5, bph: 6.4 }), 'ph'],
    [
      'peat by carbon and clay',
      () => limeByCarbonAndClay({ ph: 4.8, target: 5.4, oc: 20, clay: 5 }),
      'oc',
    ],
    ['pH 67', () => limeByTexture({ ph: 67, target: 6.5, tex: 'loam', om: 'low_om_lt_2' }), 'ph'],
    ['pH 0.7', () => limeByTexture({ ph: 0.7, target: 6.5, tex: 'loam', om: 'low_om_lt_2' }), 'ph'],
    [
      'a texture that is not in the table',
      () => limeByTexture({ ph: 5, target: 6.5, tex: 'gravel', om: 'low_om_lt_2' }),
      'tex',
    ],
  ])('refuses %s', (_, work, field) => expect(refusal(work).field).toBe(field));
  it('says when the buffering was held to the span of the relation', () =>
    expect(limeByCarbonAndClay({ ph: 5, target: 6, oc: 9, clay: 40 }).notes[0]).toMatch(
      /outside the relation’s 0\.4 to 8/,
    ));
  it('tolerates aluminium up to the crop’s share, and doubles where little is tolerated', () => {
    expect(limeByAluminium({ al: 0.5, ca: 3, mg: 1, ras: 20 }).value).toBe(0);
    expect(limeByAluminium({ al: 2, ca: 1, mg: 0.3, ras: 0 }).value).toBeCloseTo(2 * 2 * 1.3, 9);
  });
});

const field: LimeRequirementInput = {
  ph: 5.6,
  targetPh: 6.5,
  maxPreferredPh: 7.5,
  actBelowPh: 6,
  school: 'auto',
  soilTextureId: 'silt_loam',
  omPct: 2.76,
  clayPct: 22,
  bulkDensityGCm3: null,
  bufferKind: null,
  bufferPh: null,
  lab: null,
  aluminium: null,
  weathered: false,
  depthCm: 20,
};
describe('lime requirement of a field', () => {
  it('lays every method side by side and says what each one lacks', () => {
    const r = limeRequirement(field);
    expect(r.methods.map((m) => [m.key, m.valueTHa === null])).toEqual([
      ['lab', true],
      ['buffer', true],
      ['aluminium', true],
      ['carbon_clay', false],
      ['texture', false],
    ]);
    expect(r.methods[1]?.refused).toMatch(/buffer pH and its kind/);
    expect(r).toMatchObject({ chosen: 'carbon_clay', word: 'need' });
    expect(r.methods[4]?.valueTHa).toBeCloseTo(4.77, 9);
  });
  it('goes by the laboratory first, then the buffer, then carbon and clay, then texture', () => {
    const buffered = { ...field, bufferKind: 'smp', bufferPh: 6.5 } as const;
    expect(limeRequirement(buffered).chosen).toBe('buffer');
    expect(
      limeRequirement({ ...buffered, lab: { rateTHa: 8, referenceEccPct: 60, depthCm: 15 } }),
    ).toMatchObject({ chosen: 'lab', valueTHa: (8 * 0.6 * 20) / 15 });
    expect(limeRequirement({ ...field, clayPct: null }).chosen).toBe('texture');
    expect(limeRequirement({ ...field, clayPct: null, omPct: null })).toMatchObject({
      chosen: null,
      valueTHa: null,
      word: 'unknown',
    });
  });
  it('takes aluminium only where the user says that the soil is weathered', () => {
    const al = {
      ...field,
      targetPh: 5.8,
      ph: 4.8,
      actBelowPh: 5.5,
      aluminium: { alCmolKg: 2, caCmolKg: 1.5, mgCmolKg: 0.5, rasPct: 20 },
    };
    expect(limeRequirement(al).chosen).toBe('carbon_clay');
    expect(limeRequirement({ ...al, weathered: true })).toMatchObject({
      chosen: 'aluminium',
      valueTHa: expect.closeTo(2.34, 9),
    });
  });
  it('never falls back on another method when the school that was asked for cannot be worked out', () =>
    expect(limeRequirement({ ...field, school: 'buffer' })).toMatchObject({
      chosen: null,
      word: 'unknown',
    }));
  it('scales with the depth of mixing', () =>
    expect(limeRequirement({ ...field, depthCm: 5 }).valueTHa).toBeCloseTo(
      (limeRequirement(field).valueTHa ?? 0) / 4,
      9,
    ));
  it('calls lime between the limit and the target optional, and under half a tonne not worth a trip', () => {
    expect(limeRequirement({ ...field, ph: 6.1 }).word).toBe('optional');
    expect(limeRequirement({ ...field, ph: 6.45 }).word).toBe('not_worth_a_trip');
    expect(limeRequirement({ ...field, ph: 6.6 })).toMatchObject({ word: 'none', valueTHa: 0 });
  });
  it('measures how far the methods lie apart', () =>
    expect(
      limeRequirement({ ...field, lab: { rateTHa: 12, referenceEccPct: null, depthCm: null } })
        .disagreement,
    ).toBeCloseTo(12 / 4.77, 2));
  it('refuses a target above what the crops like, and a buffer pH far below the water pH in its own line', () => {
    expect(refusal(() => limeRequirement({ ...field, targetPh: 7.6 })).field).toBe('target_ph');
    expect(
      limeRequirement({ ...field, ph: 6.1, bufferKind: 'mehlich', bufferPh: 4.05 }).methods[1],
    ).toMatchObject({
      valueTHa: null,
      refused: expect.stringContaining('more than 2 below the water pH'),
    });
  });
});

describe('lime products', () => {
  it('are worth what their sieve and water leave of them', () => {
    expect(
      effectiveNeutralisingValue({ cce: 100, p8: 100, p20: 100, p60: 100, dm: 100 }).ecceAsReceived,
    ).toBe(100);
    expect(
      effectiveNeutralisingValue({ cce: 100, p8: 0, p20: 0, p60: 0, dm: 100 }).ecceAsReceived,
    ).toBe(0);
    expect(
      effectiveNeutralisingValue({
        cce: 94,
        p8: 95,
        p20: 70,
        p60: 45,
        dm: 97,
        weights: [0, 0.5, 0.5, 1],
      }).fineness,
    ).toBe(70);
  });
  it.each<[string, Parameters<typeof effectiveNeutralisingValue>[0], string]>([
    ['CCE 0', { cce: 0, p8: 95, p20: 70, p60: 45 }, 'cce'],
    ['CCE 300 %', { cce: 300, p8: 95, p20: 70, p60: 45 }, 'cce'],
    ['a finer sieve that passes more', { cce: 94, p8: 70, p20: 70, p60: 75 }, 'p60'],
    ['more than all', { cce: 94, p8: 101, p20: 70, p60: 45 }, 'p8'],
    ['bone-dry mud', { cce: 94, p8: 95, p20: 70, p60: 45, dm: 2 }, 'dm'],
  ])('refuses %s', (_, input, name) =>
    expect(refusal(() => effectiveNeutralisingValue(input)).field).toBe(name),
  );
  it('react ever further, finer and calcitic ones faster', () => {
    const at = (t: number, km = 1, p60 = 45) => limeReacted({ p8: 95, p20: 70, p60, km, t }).value;
    expect(at(0)).toBe(0);
    expect(at(12)).toBeGreaterThan(at(6));
    expect(at(6, 0.6)).toBeLessThan(at(6));
    expect(at(6, 1, 60)).toBeGreaterThan(at(6));
    expect(at(600)).toBeLessThanOrEqual(1);
  });
  it('match the static weights at about twenty months, as their constants were chosen to', () =>
    expect(limeReacted({ p8: 95, p20: 70, p60: 45, km: 1, t: 20 }).value).toBeCloseTo(0.65, 1));
  it('predict nothing where nothing is needed, and say when they leave the model', () => {
    expect(
      refusal(() => predictPh({ ph: 6.6, target: 6.5, lr: 0, rate: 5, dm: 97, cce: 94, frac: 0.5 }))
        .field,
    ).toBe('lr');
    expect(
      predictPh({ ph: 5.6, target: 6.5, lr: 2, rate: 9.5, dm: 97, cce: 94, frac: 0.5 }).beyondModel,
    ).toBe(true);
  });
  it('are split into passes that the soil bears', () => {
    expect([
      maxPassTHa('sand'),
      maxPassTHa('surface'),
      maxPassTHa('hydrated'),
      maxPassTHa('other'),
      maxPassTHa('other', 8),
    ]).toEqual([2, 2.5, 1, 4, 8]);
    expect(limePasses({ rate: 4 }).value).toBe(1);
    expect(limePasses({ rate: 4.01 }).value).toBe(2);
    expect(limePasses({ rate: 3, kind: 'sand' }).value).toBe(2);
    expect(refusal(() => limePasses({ rate: 3, onePassMax: 20 })).field).toBe('one_pass_max');
  });
  it('cost what a tonne of effect costs, not what a tonne weighs', () => {
    expect(
      limeCost({ price: 10, haul: 5, spread: 5, ecAr: 50, dm: 97, cce: 90, frac: 0 }),
    ).toMatchObject({ perTProduct: 20, perTEcc: 40, perTReacted: null, perHa: null });
    expect(
      refusal(() => limeCost({ price: -1, haul: 5, spread: 5, ecAr: 50, dm: 97, cce: 90, frac: 0 }))
        .field,
    ).toBe('price');
  });
});

describe('the wet clock', () => {
  const week = (rainMm: number, soilTempC: number | null = 12) => ({ days: 7, rainMm, soilTempC });
  it('does not start before 25 mm have fallen on dry soil', () =>
    expect(effectiveMonths({ records: [week(10), week(10)], moist: false })).toMatchObject({
      started: false,
      tEffMonths: 0,
      cumMm: 20,
    }));
  it('runs from the day of spreading on moist soil, and only in part while it dries or freezes', () => {
    const months = (r: ReturnType<typeof week>[]) =>
      effectiveMonths({ records: r, moist: true }).tEffMonths * 30.4;
    expect(months([week(30)])).toBeCloseTo(7, 9);
    expect(months([week(5)])).toBeCloseTo(7 * 0.25, 9);
    expect(months([week(30, 3)])).toBeCloseTo(3.5, 9);
    expect(months([week(30, -1)])).toBe(0);
    expect(months([week(30, null)])).toBeCloseTo(7, 9);
  });
  it('counts irrigated days as moist', () =>
    expect(
      effectiveMonths({ records: [{ ...week(0), irrigationMm: 8 }], moist: true }).tEffMonths *
        30.4,
    ).toBeCloseTo(7, 9));
  it('looks back thirty days, no further', () => {
    const dry = Array.from({ length: 6 }, () => week(0));
    expect(
      effectiveMonths({ records: [week(40), ...dry], moist: true }).tEffMonths * 30.4,
    ).toBeCloseTo(7 + 3 * 7 + 0.25 * 21, 6);
  });
  it('refuses rain below nothing, by record', () =>
    expect(
      refusal(() => effectiveMonths({ records: [week(3), week(-1)], moist: true })).field,
    ).toBe('recs[1].rain_mm'));
});

describe('lead time', () => {
  const base = {
    ph: 5.6,
    target: 6.5,
    act: 6,
    lr: 6.01,
    rate: 9.5,
    dm: 97,
    cce: 94,
    p8: 95,
    p20: 70,
    p60: 45,
    km: 1,
  };
  it('is nothing where the limit is reached already, and longer on a drier clock', () => {
    expect(limeLead({ ...base, ph: 6.1 })).toEqual({ tEffMonths: 0, leadDays: 0 });
    expect(limeLead({ ...base, clockRate: 0.4 }).leadDays).toBe(228);
  });
  it('is not known where product and rate never reach it', () =>
    expect(limeLead({ ...base, rate: 0.5 })).toEqual({ tEffMonths: null, leadDays: null }));
});

describe('a neutralising value', () => {
  it.each([
    [181, 'calcitic_ag', /only magnesium oxide/],
    [19, 'marl', /hardly a lime/],
  ] as const)('of %s %% in %s is doubted', (cce, key, message) =>
    expect(cceDoubt(cce, limeMaterialOf(PRINTED, key).cceAbove180)).toMatch(message),
  );
  it.each([
    [180, 'burnt'],
    [20, 'wood_ash'],
    [230, 'magnesium_oxide'],
  ] as const)('of %s %% in %s is not', (cce, key) =>
    expect(cceDoubt(cce, limeMaterialOf(PRINTED, key).cceAbove180)).toBeNull(),
  );
});

describe('limes against a planting date', () => {
  const input: ComparisonInput = {
    needTHa: 3,
    ph: 5.9,
    targetPh: 6.6,
    actBelowPh: 6.2,
    spreadDate: '2027-02-26',
    plantingDate: '2027-05-25',
    climate: 'moist',
    soil: 'other',
    split: true,
    onePassMaxTHa: null,
    crop: { group: 'faba_bean', omPct: 2, yieldGoal: 4, price: 260 },
  };
  const lime = (materialKey: string, pricePerT = 20): LimeCandidate => ({
    id: materialKey,
    materialKey,
    pricePerT,
    haulPerT: 9,
    spreadPerT: 8,
    analysis: null,
  });
  const [ag, fine, dolomitic] = ['calcitic_ag', 'calcitic_fine', 'dolomitic_coarse'].map((k) =>
    compareLime(PRINTED, lime(k), input),
  );
  it('fine lime is there in time, coarse dolomite is not', () => {
    expect(fine?.phAtPlanting).toBeGreaterThan(ag?.phAtPlanting ?? 9);
    expect(ag?.phAtPlanting).toBeGreaterThan(dolomitic?.phAtPlanting ?? 9);
    expect(dolomitic).toMatchObject({ inTime: false, mgKgHa: expect.any(Number) });
  });
  it('brings the requirement whatever the product is worth', () => {
    for (const r of [ag, fine, dolomitic])
      expect((r?.productTHa ?? 0) * (r?.ecceAsReceivedPct ?? 0)).toBeCloseTo(300, 6);
  });
  it('ends near the target for every lime', () => {
    for (const r of [ag, fine]) expect(Math.abs((r?.ph36 ?? 0) - 6.6)).toBeLessThan(0.15);
  });
  it('ranks by the cost of a tonne of effect, among those that work in time', () => {
    const rows = [
      lime('dolomitic_coarse', 1),
      lime('calcitic_fine', 60),
      lime('fluid_suspension_50', 60),
    ]
      .map((c) => compareLime(PRINTED, c, input))
      .sort(byCostInTime);
    expect(rows.map((r) => r.material.key)).toEqual([
      'calcitic_fine',
      'fluid_suspension_50',
      'dolomitic_coarse',
    ]);
  });
  it('weighs a dear fast lime by the yield that it saves', () =>
    expect((ag?.firstCropTotal ?? 0) - (ag?.costPerHa ?? 0)).toBeCloseTo(
      ag?.lossFirstCrop ?? -1,
      9,
    ));
  it('a split rate works later than the same spread at once', () => {
    const much = { ...input, needTHa: 10 };
    const [split, once] = [
      compareLime(PRINTED, lime('calcitic_fine'), much),
      compareLime(PRINTED, lime('calcitic_fine'), { ...much, split: false }),
    ];
    expect([split.passes, once.passes]).toEqual([3, 1]);
    expect(split.phAtPlanting).toBeLessThan(once.phAtPlanting ?? 0);
  });
  it('tells when the first crop must not be sown at the pH it would find', () => {
    const sour = {
      ...input,
      ph: 4.6,
      needTHa: 8,
      crop: { group: 'alfalfa', omPct: 2, yieldGoal: 9, price: 120 },
    };
    expect(compareLime(PRINTED, lime('dolomitic_coarse'), sour).stopAtPlanting).toBe(true);
    expect(compareLime(PRINTED, lime('dolomitic_coarse'), { ...sour, crop: null })).toMatchObject({
      stopAtPlanting: false,
      lossFirstCrop: null,
      firstCropTotal: null,
    });
    // On organic soil the slope of mineral soils does not hold: no money is told.
    expect(
      compareLime(PRINTED, lime('calcitic_ag'), {
        ...input,
        crop: { group: 'faba_bean', omPct: 30, yieldGoal: 4, price: 260 },
      }).lossFirstCrop,
    ).toBeNull();
  });
  it('the day it must be spread is the last on which it still works in time', () => {
    for (const c of [fine, ag]) {
      const last = c?.latestSpreadDate as string;
      expect(
        compareLime(PRINTED, lime(c?.material.key as string), { ...input, spreadDate: last })
          .inTime,
      ).toBe(true);
      expect(
        compareLime(PRINTED, lime(c?.material.key as string), {
          ...input,
          spreadDate: dateAfter(last, 1),
        }).inTime,
      ).toBe(false);
    }
  });
  it('a certificate wins over the book', () => {
    const own = compareLime(
      PRINTED,
      {
        ...lime('calcitic_ag'),
        analysis: { ccePct: 80, dryMatterPct: 97, p8: 95, p20: 70, p60: 45 },
      },
      input,
    );
    expect(own.productTHa).toBeGreaterThan(ag?.productTHa ?? 99);
  });
  it('knows no pH at planting without a planting date', () =>
    expect(
      compareLime(PRINTED, lime('calcitic_ag'), { ...input, plantingDate: null }),
    ).toMatchObject({
      phAtPlanting: null,
      inTime: null,
      latestSpreadDate: null,
    }));
  it('draws a curve that only rises, and passes through the table’s figures', () => {
    const curve = phCurve(PRINTED, lime('calcitic_ag'), input, 36);
    curve.slice(1).forEach((c, i) => {
      expect(c.ph).toBeGreaterThanOrEqual((curve[i]?.ph ?? 0) - 1e-12);
    });
    expect(curve.find((c) => c.month === 12)?.ph).toBe(ag?.ph12);
    expect(curve[0]).toEqual({ month: 0, date: '2027-02-26', ph: 5.9 });
  });
  it('works for every lime of the library', () => {
    for (const m of limeMaterials(PRINTED).filter((x) => x.isLime === 'yes'))
      expect(Number.isFinite(compareLime(PRINTED, lime(m.key), input).costPerHa), m.key).toBe(true);
  });
});

describe('acid and the years it leaves', () => {
  it('counts grain only by the cycle, and hay by both', () => {
    const grain = { ns: [[100, 1.8, 1]] as const, prods: [[8, 9, false]] as const };
    expect([acidityLoad(grain).product, acidityLoad({ ...grain, mode: 'cycle' }).product]).toEqual([
      0, 72,
    ]);
    expect(acidityLoad({ ns: [], prods: [[10, 27, true]] }).total).toBe(270);
  });
  it('takes bases off, down to a gain', () =>
    expect(
      acidityLoad({ ns: [[50, 1.8, 1]], prods: [], bases: waterBases(300, 200) }).total,
    ).toBeCloseTo(90 - 492, 6));
  it('expects no fall without a load, and lime at once below the limit', () => {
    expect(limeInterval({ bc: 5, ph: 6.5, act: 6, load: -10 })).toEqual({
      value: null,
      verdict: 'no fall expected',
    });
    expect(limeInterval({ bc: 5, ph: 5.5, act: 6, load: 300 })).toEqual({
      value: 0,
      verdict: 'lime is due now',
    });
  });
});
