import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ratios } from '../book/leafRatios';
import { soilTissueCells } from '../book/soilTissue';
import { dilutionCurves, nutritionIndex } from './dilution';
import { dris } from './dris';
import { elementsOf, leafRatio } from './ratios';
import { sapAct, sapReading, type SapClass } from './sap';
import { soilTissue } from './soilMatrix';
import { leafTrend } from './trend';

const refusedBy = (field: string) =>
  expect.objectContaining({ detail: expect.objectContaining({ field }) as unknown }) as Error;

describe('ratios', () => {
  it.each(ratios().map((r) => r.ratioId))('%s is taken from the nutrients of its formula', (id) => {
    const row = ratios().find((r) => r.ratioId === id) as ReturnType<typeof ratios>[0];
    const values = Object.fromEntries(elementsOf(row).map((e) => [e, 1]));
    const { ratio, sdLn } = leafRatio({ ratioId: id, values });
    expect(Number.isFinite(ratio) && ratio > 0).toBe(true);
    expect(sdLn).toBeGreaterThan(0);
    for (const e of elementsOf(row))
      expect(() => leafRatio({ ratioId: id, values: { ...values, [e]: null } })).toThrow(
        refusedBy(e.toLowerCase()),
      );
  });
  it('P of a fed shoot by its N', () =>
    expect(leafRatio({ ratioId: 'R_PC_WHEAT', values: { P: 0.415, N: 3 } }).ratio).toBeCloseTo(
      1,
      9,
    ));
  it('P against zinc is taken in one unit', () =>
    expect(leafRatio({ ratioId: 'R_PZN_MAIZE', values: { P: 0.3, Zn: 30 } }).ratio).toBeCloseTo(
      100,
      9,
    ));
  it('an alert needs more than its own uncertainty', () => {
    const level = (s: number) =>
      leafRatio({ ratioId: 'R_NS_CEREAL', values: { N: 3.5, S: s } }).level;
    expect([
      level(0.15),
      level(0.2),
      level(0.22),
      level(0.3),
      level(0.42),
      level(0.48),
      level(0.7),
    ]).toEqual([
      'caution',
      'borderline_high',
      'info_high',
      'ok',
      'info_low',
      'info_low',
      'caution',
    ]);
  });
});

describe('balance against norms', () => {
  const value = fc.double({ min: 0.05, max: 8, noNaN: true });
  it('the indices of a whole set add up to nothing', () =>
    fc.assert(
      fc.property(value, value, value, (N, P, K) => {
        const r = dris({ normSet: 'EXAMPLE_ONLY', values: { N, P, K } });
        const sum = Object.values(r.index).reduce((s, v) => s + v, 0);
        expect(sum).toBeCloseTo(0, 6);
        expect(r.skipped).toEqual([]);
      }),
    ));
  it('what was not measured has no index', () => {
    const r = dris({ normSet: 'EXAMPLE_ONLY', values: { N: 2.8, P: 0.3, K: null } });
    expect('K' in r.index).toBe(false);
  });
  it('one nutrient alone, a zero and an unknown set are refused', () => {
    expect(() => dris({ normSet: 'EXAMPLE_ONLY', values: { N: 2 } })).toThrow(refusedBy('values'));
    expect(() => dris({ normSet: 'EXAMPLE_ONLY', values: { N: 0, P: 1 } })).toThrow(
      refusedBy('values.N'),
    );
    expect(() => dris({ normSet: 'OURS', values: { N: 2, P: 1 } })).toThrow(refusedBy('norm_set'));
  });
});

describe('soil beside leaf', () => {
  const soil = ['low', 'adequate', 'high'];
  const leaf = ['deficient', 'low', 'marginal', 'sufficient', 'ample', 'high', 'toxic_risk'];
  it.each(soil.flatMap((s) => leaf.map((l) => [s, l] as const)))(
    '%s and %s have one general cell',
    (s, l) =>
      expect(soilTissue({ nutrient: 'Mo', soilClass: s, tissueClass: l }).cell.nutrient).toBe(
        'any',
      ),
  );
  it('a special cell is asked, then holds or is gone', () => {
    const zinc = { nutrient: 'Zn', soilClass: 'adequate', tissueClass: 'low' };
    expect(soilTissue(zinc).asked.map((r) => r.cellId)).toEqual(['M12']);
    const yes = soilTissue({ ...zinc, answers: { M12: true } });
    expect([yes.specific.length, yes.asked.length]).toEqual([1, 0]);
    const no = soilTissue({ ...zinc, answers: { M12: false } });
    expect([no.specific.length, no.asked.length]).toEqual([0, 0]);
  });
  it('every special cell can be reached', () => {
    for (const r of soilTissueCells().filter((c) => c.nutrient !== 'any'))
      expect(
        soilTissue({
          nutrient: r.nutrient,
          soilClass: r.soilClass === 'any' ? 'low' : r.soilClass,
          tissueClass: r.tissueClass,
        }).asked.map((c) => c.cellId),
      ).toContain(r.cellId);
  });
  it('an unknown class is refused by its name', () =>
    expect(() => soilTissue({ nutrient: 'K', soilClass: 'rich', tissueClass: 'low' })).toThrow(
      refusedBy('soil_class'),
    ));
});

describe('sap', () => {
  it('nitrate and nitrate-N of one sap read the same', () => {
    const at = { crop: 'potato', bbch: 35 };
    const one = sapReading({ ...at, meterReads: 'NO3-N', readingMgL: 1300 });
    const other = sapReading({ ...at, meterReads: 'NO3', readingMgL: 1300 * 4.4267 });
    expect(other.mgL).toBeCloseTo(one.mgL, 0);
    expect(other.cls).toBe(one.cls);
  });
  it('diluted sap is read as it was', () =>
    expect(
      sapReading({ crop: 'tomato', bbch: 62, meterReads: 'NO3-N', readingMgL: 70, dilution: 10 })
        .mgL,
    ).toBe(700));
  it('a stage without a row has a figure and no class', () =>
    expect(
      sapReading({ crop: 'potato', bbch: 5, meterReads: 'K', readingMgL: 4000 }),
    ).toMatchObject({
      mgL: 4000,
      cls: null,
    }));
  it('one reading is weather, two that are low in a week are not', () => {
    const at = (day: number, cls: SapClass, mgL = 500) => ({
      day,
      reading: { cls, mgL, low: 600 },
    });
    expect(sapAct([])).toBe('wait');
    expect(sapAct([at(0, 'low')])).toBe('one_is_weather');
    expect(sapAct([at(0, 'low'), at(5, 'low')])).toBe('act');
    expect(sapAct([at(0, 'low'), at(2, 'low')])).toBe('one_is_weather');
    expect(sapAct([at(0, 'low'), at(5, 'in_range')])).toBe('wait');
    expect(sapAct([at(0, 'low', 250)])).toBe('act');
  });
});

describe('N nutrition by biomass', () => {
  it.each(dilutionCurves().map((c) => c.curveId))(
    '%s: more biomass never needs a higher content',
    (id) => {
      const c = dilutionCurves().find((x) => x.curveId === id) as ReturnType<
        typeof dilutionCurves
      >[0];
      const critical = Array.from(
        { length: 20 },
        (_, k) =>
          nutritionIndex({ curve: id, biomassTHa: 0.5 + (k * c.wMaxTHa) / 20, nPct: 3 })
            .criticalNPct,
      );
      critical.slice(1).forEach((v, k) => {
        expect(v).toBeLessThanOrEqual((critical[k] ?? 0) + 1e-9);
      });
    },
  );
  it('a fed crop lacks nothing', () => {
    const { criticalNPct } = nutritionIndex({ curve: 'maize', biomassTHa: 6, nPct: 2 });
    expect(nutritionIndex({ curve: 'maize', biomassTHa: 6, nPct: criticalNPct })).toMatchObject({
      nni: 1,
      cls: 'near_optimal',
      deficitKgHa: 0,
    });
  });
});

describe('years', () => {
  const years = [2019, 2020, 2021, 2022, 2023];
  it('a level line has no trend, and order of the list means nothing', () => {
    expect(leafTrend({ years, values: [2, 2, 2, 2, 2], combinedCvPct: 5 }).cls).toBe('no_trend');
    const one = leafTrend({ years, values: [1, 1.2, 1.4, 1.6, 1.8], combinedCvPct: 5 });
    const other = leafTrend({
      years: years.toReversed(),
      values: [1.8, 1.6, 1.4, 1.2, 1],
      combinedCvPct: 5,
    });
    expect(other).toEqual(one);
    expect(one.cls).toBe('rising');
  });
  it('years to a limit are told of a sure trend only, and up to five', () => {
    const falling = [2, 1.8, 1.6, 1.4, 1.2];
    expect(
      leafTrend({ years, values: falling, combinedCvPct: 5, limit: 1 }).yearsToLimit,
    ).toBeCloseTo(1, 6);
    expect(
      leafTrend({ years, values: falling, combinedCvPct: 5, limit: 0.1 }).yearsToLimit,
    ).toBeNull();
    expect(
      leafTrend({ years, values: falling, combinedCvPct: 90, limit: 1 }).yearsToLimit,
    ).toBeNull();
  });
  it('beyond ten years the limit goes on growing', () => {
    const many = Array.from({ length: 14 }, (_, k) => 2010 + k);
    const zigzag = many.map((_, k) => 2 + (k % 2 === 0 ? 0.2 : -0.2) + k * 0.001);
    expect(leafTrend({ years: many, values: zigzag, combinedCvPct: 1 }).cls).not.toBe('rising');
    expect(
      leafTrend({ years: many, values: many.map((_, k) => 2 + k / 10), combinedCvPct: 5 }).cls,
    ).toBe('rising');
  });
  it('few years, no years, a year twice, a zero', () => {
    expect(leafTrend({ years: [2020, 2021], values: [1, 2], combinedCvPct: 5 }).cls).toBe(
      'too_few_years',
    );
    expect(leafTrend({ years: [], values: [], combinedCvPct: 5 })).toMatchObject({
      n: 0,
      slopePerYear: null,
    });
    expect(() => leafTrend({ years: [2020, 2020], values: [1, 2], combinedCvPct: 5 })).toThrow(
      refusedBy('years'),
    );
    expect(() => leafTrend({ years: [2020], values: [1, 2], combinedCvPct: 5 })).toThrow(
      refusedBy('values'),
    );
    expect(() => leafTrend({ years: [2020], values: [0], combinedCvPct: 5 })).toThrow(
      refusedBy('values'),
    );
  });
});
