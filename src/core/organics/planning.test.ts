import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { materials } from '../book/organicMaterials';
import {
  judgeCalibration,
  loadArea,
  overlapCv,
  speedFor,
  spreadCv,
  tankerRate,
  weighSheet,
  type CalibrationTest,
} from './calibration';
import {
  compostAccumulation,
  compostRole,
  harvestInterval,
  layerRate,
  metalLoad,
  preAmendKgHa,
  releaseByCToN,
  ringRate,
  saltLimit,
} from './compost';
import { incropBenefit, incropWindow, standLoss } from './inCrop';
import {
  breakevenKm,
  dilutionEconomics,
  haul,
  machineRate,
  pBuildup,
  rateBalance,
  rateByBasis,
  replacementValue,
} from './rates';
import { groundRules, organicRules, pBasisRules, plantingRules } from './site';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail.field;
    throw e;
  }
  throw new Error('was not refused');
};
const ids = (list: { id: string }[]) => list.map((w) => w.id);

describe('rates of a material', () => {
  it('the smallest of the active bases binds, whatever they are', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 300, noNaN: true }),
        fc.double({ min: 0.1, max: 20, noNaN: true }),
        fc.double({ min: 1, max: 60, noNaN: true }),
        (needN, pan, pOfftake) => {
          const r = rateByBasis({
            needN,
            pan,
            pOfftake,
            pT: 1.5,
            annualNLimit: 170,
            totalNT: 5,
            maxRate: 60,
          });
          expect(r.rate).toBe(
            Math.min(r.rateN, r.rateP ?? Infinity, r.rateLaw ?? Infinity, r.rateMax ?? Infinity),
          );
          expect(r.rate).toBeGreaterThanOrEqual(0);
        },
      ),
    ));
  it('no P in the material: the P basis does not bind', () =>
    expect(rateByBasis({ needN: 100, pan: 2, pOfftake: 20, pT: 0 })).toMatchObject({
      rateP: null,
      mostLimiting: 'rate_n',
    }));
  it('a crop that needs nothing gets nothing', () =>
    expect(rateByBasis({ needN: -5, pan: 2 }).rate).toBe(0));
  it('a multi-year P rate above the N need is marked', () =>
    expect(rateByBasis({ needN: 20, pan: 2, pOfftake: 20, pT: 1, pYears: 3 }).overN).toBe(true));
  it('grass by K', () =>
    expect(rateByBasis({ needN: 200, pan: 2, kOfftake: 120, kT: 4 })).toMatchObject({
      rateK: 30,
      mostLimiting: 'rate_k',
    }));
  it('the machine sets whole passes that add up to the rate', () =>
    fc.assert(
      fc.property(fc.double({ min: 8, max: 300, noNaN: true }), (rate) => {
        const m = machineRate({ rate, mn: 8, mx: 60 });
        expect(m.passes * m.rateSet).toBeCloseTo(rate, 9);
        expect(m.rateSet).toBeLessThanOrEqual(60 + 1e-9);
      }),
    ));
  it('too little for too many years is no way out', () =>
    expect(machineRate({ rate: 1, mn: 8, mx: 60 })).toMatchObject({
      rule: 'R05',
      pYearsNeeded: 8,
      multiYearPossible: false,
    }));
  it.each([
    [20, 'grey'],
    [100, 'green'],
    [124, 'yellow'],
    [126, 'red'],
  ] as const)('%s kg for a need of 100 is %s', (supplied, colour) =>
    expect(rateBalance({ supplied, need: 100 }).colour).toBe(colour),
  );
  it('P that falls never reaches the screen', () =>
    expect(
      pBuildup({ rate: 1, pT: 1, offtake: 20, perMgKg: 14, stp: 40, screen: 100 }).yearsToScreen,
    ).toBeNull());
  it('an hour of hauling is an hour for each tractor that waits', () => {
    const one = haul({ rate: 30, area: 10, capacity: 12, dist: 4 });
    const two = haul({ rate: 30, area: 10, capacity: 12, dist: 4, units: 2 });
    expect(two.hours).toBeCloseTo(one.hours / 2, 9);
    expect(two.cost).toBeCloseTo(one.cost, 9);
  });
  it('what is worth less than its trip stays at home', () =>
    expect(breakevenKm({ valueT: 1, loadT: 10, hourCost: 90, speed: 25, fixedMin: 30 })).toBe(0));
  it('N by the pipe: water costs more than it saves on the road', () => {
    const d = dilutionEconomics({ nh4C: 1.5, dm: 6, water: 1, baseCostM3: 4 });
    expect(d.costPerKgAfter).toBeGreaterThan(d.costPerKgBefore);
  });
  it('only what is used has a value', () => {
    const v = replacementValue({
      rate: 30,
      supplyPerT: { N: 2, P: 1 },
      need: { N: 20, P: -4 },
      price: { N: 1.2, P: 3 },
    });
    expect(v).toMatchObject({ used: { N: 20, P: 0 }, valueHa: 24 });
    expect(v.boughtOutright).toBeGreaterThan(v.valueHa);
  });
  it.each<[string, () => unknown]>([
    ['need_n', () => rateByBasis({ needN: NaN, pan: 1 })],
    ['mn', () => machineRate({ rate: 5, mn: 60, mx: 8 })],
    ['area', () => haul({ rate: 30, area: 0, capacity: 10, dist: 1 })],
    ['supplied', () => rateBalance({ supplied: -1, need: 2 })],
  ])('a bad %s is refused', (field, work) => expect(refused(work)).toBe(field));
});

describe('calibration', () => {
  it('each way of measuring gives the same rate for the same spreading', () => {
    expect(weighSheet({ netKg: 7.5, n: 1, area: 3 })).toBeCloseTo(25, 9);
    expect(loadArea({ loadT: 12, distanceM: 400, swathM: 12 })).toBeCloseTo(25, 9);
    expect(
      speedFor({
        flowM3H: 180,
        rateM3Ha: tankerRate({ flowM3H: 180, speed: 6, swath: 12 }),
        swathM: 12,
      }),
    ).toBeCloseTo(6, 9);
  });
  it('overlap loses nothing: the pattern holds what the trays caught', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.1, max: 10, noNaN: true }), { minLength: 4, maxLength: 15 }),
        fc.integer({ min: 3, max: 10 }),
        (a, m) => {
          const { pattern } = overlapCv({ a, m });
          expect(pattern).toHaveLength(2 * m);
          expect(pattern.reduce((x, y) => x + y, 0)).toBeCloseTo(
            2 * a.reduce((x, y) => x + y, 0),
            6,
          );
        },
      ),
    ));
  it('an even single pass at its own width is even', () =>
    expect(overlapCv({ a: [5, 5, 5, 5], m: 4 }).cvPct).toBe(0));
  const test: CalibrationTest = {
    date: '2026-03-01',
    machineKind: 'solid_manure_spreader',
    target: 25,
    actual: 25,
    cvPct: 18,
    trays: 10,
    ageDays: 30,
    changed: false,
    sightGlass: false,
  };
  it.each<[string, Partial<CalibrationTest>, Partial<CalibrationTest>]>([
    ['C01', { ageDays: 366 }, { ageDays: 365 }],
    ['C01', { changed: true }, {}],
    ['C02', { cvPct: 31 }, { cvPct: 30 }],
    ['C03', { cvPct: 41 }, { cvPct: 40 }],
    ['C04', { actual: 30.1 }, { actual: 30 }],
    ['C05', { trays: 7 }, { trays: 8 }],
    ['C06', { sightGlass: true }, {}],
  ])('%s fires at its bound', (id, fires, silent) => {
    expect(ids(judgeCalibration({ ...test, ...fires }))).toContain(id);
    expect(ids(judgeCalibration({ ...test, ...silent }))).not.toContain(id);
  });
  it.each<[string, () => unknown]>([
    ['xs', () => spreadCv({ xs: [3] })],
    ['xs', () => spreadCv({ xs: [0, 0] })],
    ['m', () => overlapCv({ a: [1, 2, 3], m: 2.5 })],
    ['a', () => overlapCv({ a: [1, 2], m: 2 })],
    ['area', () => weighSheet({ netKg: 3, n: 1, area: 0 })],
    ['machine_kind', () => judgeCalibration({ ...test, date: '2026-03-01', machineKind: 'spoon' })],
  ])('a bad %s is refused', (field, work) => expect(refused(work)).toBe(field));
});

describe('in the standing crop', () => {
  it('loss bends at a tenth of the stand, without a jump; cereals fill half of it', () => {
    expect(standLoss({ stand: 10 })).toBeCloseTo(3, 9);
    expect(standLoss({ stand: 10.001 })).toBeCloseTo(3, 2);
    expect(standLoss({ stand: 20, crop: 'winter_cereal' })).toBeCloseTo(5.5, 9);
  });
  it('pays only for N that is needed', () =>
    expect(
      incropBenefit({
        pan: 3,
        rate: 60,
        needN: 40,
        priceN: 1,
        stand: 0,
        yieldT: 8,
        priceCrop: 200,
        costHa: 0,
      }).gainHa,
    ).toBe(40));
  it('collars decide over the BBCH code, and a thick slurry is named', () => {
    expect(
      ids(incropWindow({ crop: 'maize', technique: 'drag_hose', vStage: 4, bbch: 17 })),
    ).toEqual([]);
    expect(ids(incropWindow({ crop: 'maize', technique: 'drag_hose', bbch: 17 }))).toEqual(['I02']);
    expect(ids(incropWindow({ crop: 'winter_cereal', technique: 'drag_hose', bbch: 12 }))).toEqual([
      'I01',
    ]);
    expect(
      ids(
        incropWindow({
          crop: 'winter_cereal',
          technique: 'trailing_hose_or_dribble',
          bbch: 25,
          dmPct: 12,
        }),
      ),
    ).toContain('I03');
  });
  it('is not offered where it has no window', () => {
    expect(refused(() => incropWindow({ crop: 'maize', technique: 'bucket' }))).toBe('technique');
    expect(refused(() => incropWindow({ crop: 'hops', technique: 'drag_hose' }))).toBe('crop');
  });
});

describe('compost, rings and mulch', () => {
  it.each([
    [29, 1, 'tie_up'],
    [28, 1, 'neutral'],
    [20, 1, 'slow_feed'],
    [15, 2.5, 'feed'],
    [15, 2.4, 'slow_feed'],
    [12, 1, 'feed'],
  ] as const)('C:N %s with %s %% N is %s', (cn, nPctDm, role) =>
    expect(compostRole({ cn, nPctDm })).toBe(role),
  );
  it('on the surface only the contact layer takes N', () => {
    const chips = { totalN: 2.2, cToN: 125, kind: 'wood_chips_or_shavings' };
    expect(Math.abs(releaseByCToN({ ...chips, placement: 'surface' }))).toBeLessThan(
      Math.abs(releaseByCToN(chips)) / 10,
    );
  });
  it('what ties up is made up for, and what releases needs nothing', () =>
    expect([preAmendKgHa(-2, 20), preAmendKgHa(1, 20)]).toEqual([40, 0]));
  it('salt: nothing where the soil has it already, anything where the compost is no saltier', () =>
    expect([
      saltLimit({ limit: 1, ecSoil: 1.2, ecC: 5 }),
      saltLimit({ limit: 2, ecSoil: 0.5, ecC: 1.5 }),
    ]).toEqual([0, 1]));
  it('half the layer is half of everything', () =>
    expect(layerRate(PRINTED, { mm: 10, mat: 'compost_green_waste' }).pKgHa).toBeCloseTo(
      layerRate(PRINTED, { mm: 20, mat: 'compost_green_waste' }).pKgHa / 2,
      9,
    ));
  it('a ring without width, or a mulch dosed by N, is refused', () => {
    const ring = {
      canopy: 2,
      beyond: 0.5,
      clear: 0.5,
      nG: 100,
      pan: 2,
      density: 600,
      treesHa: 400,
      maxCm: 5,
    };
    expect(refused(() => ringRate({ ...ring, clear: 2.5 }))).toBe('ring');
    expect(refused(() => ringRate({ ...ring, pan: 0 }))).toBe('pan');
    expect(ringRate({ ...ring, nG: 5000, pan: 0.5 }).ok).toBe(false);
  });
  it('from the fourth year on the release stays, the P goes on', () => {
    const at = (years: number) =>
      compostAccumulation({
        rate: 30,
        orgN: 7,
        klass: 'compost_green',
        years,
        pT: 1.3,
        pOfftake: 22,
      });
    expect(at(9).nReleaseKgHa).toBe(at(4).nReleaseKgHa);
    expect(at(9).pStockKgHa).toBeGreaterThan(at(4).pStockKgHa);
  });
  it('days and metals', () => {
    expect(harvestInterval({ days: 90, contact: false }).ok).toBe(true);
    expect(metalLoad({ rate: 10, dmPct: 50, mgKgDm: 100 })).toBeCloseTo(0.5, 9);
  });
});

describe('rules of the day and of the land', () => {
  it('unknown is never dry', () => expect(ids(groundRules({}))).toEqual(['S18']));
  it('each ground that carries water off is a stop', () => {
    for (const ground of ['frozen', 'snow', 'saturated'] as const)
      expect(ids(groundRules({ rain48hMm: 0, ground }))).toEqual(['S05']);
  });
  it('rain: caution from 12 mm, stop from 25', () =>
    expect(
      [11, 12, 24, 25].map((rain48hMm) => ids(groundRules({ rain48hMm, ground: 'ok' }))[0]),
    ).toEqual([undefined, 'S04', 'S04', 'S03']));
  it('drains and cracks', () =>
    expect(ids(groundRules({ rain48hMm: 0, ground: 'ok', drainsOpen: true }))).toEqual(['S17']));
  it('P by its own extractant; a P rate needs no screen', () => {
    expect(ids(pBasisRules({ soilTestP: 60, basis: 'N', extractant: 'olsen' }))).toEqual(['R01']);
    expect(ids(pBasisRules({ soilTestP: 60, basis: 'N' }))).toEqual(['R02']);
    expect(pBasisRules({ soilTestP: 200, basis: 'P' })).toEqual([]);
    expect(ids(pBasisRules({ basis: 'N' }))).toEqual(['R03']);
  });
  it('certified land asks of every material, other land of none', () => {
    for (const m of materials(PRINTED)) {
      expect(organicRules(PRINTED, { mat: m.key, certified: false })).toEqual([]);
      expect(
        organicRules(PRINTED, { mat: m.key, certified: true, approval: false }).length,
        m.key,
      ).toBe(['not allowed', 'check certifier', 'restricted'].includes(m.organicStatus) ? 1 : 0);
    }
  });
  it('small seeds wait longer than maize', () => {
    const slurry = { mat: 'finishing_pig_slurry', rateTHa: 35, daysToPlanting: 10 };
    expect(ids(plantingRules(PRINTED, slurry))).toEqual(['S16']);
    expect(ids(plantingRules(PRINTED, { ...slurry, sensitive: true }))).toEqual(['S01']);
    expect(plantingRules(PRINTED, { ...slurry, daysToPlanting: 14 })).toEqual([]);
  });
});
