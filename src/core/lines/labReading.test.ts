import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { materialOf } from '../book/organicMaterials';
import {
  asCandidate,
  belowLimit,
  bookRatios,
  printedFigure,
  reportFactor,
  reread,
  runningMean,
  slipOf,
  withPrinted,
} from './labReading';
import { AS_KG_T, BLANK_LAB } from '../document/organicDefaults';

const slurry = materialOf(PRINTED, 'dairy_slurry_medium');
describe('how a report was written', () => {
  it('lb per 1000 US gallons of P2O5', () => {
    // 1 lb/1000 gal = 0.1198264 kg/m3; / 1.010 t/m3; / 2.2914.
    expect(
      reportFactor('pKgT', { ...AS_KG_T, unit: 'lb_1000gal', oxides: true }, 6, 1010),
    ).toBeCloseTo(0.1198264 / 1.01 / 2.2914, 9);
    expect(
      reportFactor('totalNKgT', { ...AS_KG_T, unit: 'lb_1000gal', oxides: true }, 6, 1010),
    ).toBeCloseTo(0.1198264 / 1.01, 9);
  });
  it('reading again keeps what the laboratory printed: 21.8 lb per 1000 gal typed as kg/t', () => {
    const typed = { ...BLANK_LAB, totalNKgT: 21.8, pKgT: 4.4 };
    const read = reread(typed, { ...AS_KG_T, unit: 'lb_1000gal' }, slurry);
    expect(read.totalNKgT).toBeCloseTo(2.586, 3);
    expect(reread(read, AS_KG_T, slurry).totalNKgT).toBeCloseTo(21.8, 9);
    expect(read.kKgT).toBeNull();
  });
  it('dry basis needs dry matter, and never goes by volume', () => {
    expect(
      reread(
        { ...BLANK_LAB, totalNKgT: 25, dmPct: 30 },
        { ...AS_KG_T, basis: 'dry' },
        materialOf(PRINTED, 'sheep_bedded'),
      ).totalNKgT,
    ).toBeCloseTo(7.5, 9);
    expect(() => reportFactor('pKgT', { ...AS_KG_T, basis: 'dry' }, null, 600)).toThrow(
      'dry matter',
    );
    expect(() =>
      reread({ ...BLANK_LAB, totalNKgT: 2 }, { ...AS_KG_T, unit: 'kg_m3', basis: 'dry' }, slurry),
    ).toThrow('M10');
  });
  it('a slip is found, and read right with one word', () => {
    const typed = { ...BLANK_LAB, totalNKgT: 21.8, nh4NKgT: 10, pKgT: 4.4, kKgT: 17.6, dmPct: 6 };
    const slip = slipOf(typed, slurry);
    expect(slip?.candidates).toEqual(['lb_1000gal']);
    const right = reread(
      typed,
      asCandidate(AS_KG_T, slip?.candidates?.[0] ?? '') ?? AS_KG_T,
      slurry,
    );
    expect(slipOf(right, slurry)?.candidates).toBeNull();
    expect(asCandidate(AS_KG_T, 'sheet_was_dry_basis')).toMatchObject({ basis: 'dry' });
    expect(asCandidate({ ...AS_KG_T, basis: 'dry' }, 'sheet_was_as_received')).toMatchObject({
      basis: 'as_received',
    });
    expect(asCandidate(AS_KG_T, 'unexplained')).toBeNull();
    expect(slipOf(BLANK_LAB, slurry)).toBeNull();
  });
  it('stands beside the book by its ratios', () => {
    expect(bookRatios({ ...BLANK_LAB, totalNKgT: 5.2 }, slurry).map((r) => r.ratio)).toEqual([
      2,
      null,
      null,
      null,
      null,
      null,
    ]);
  });
  it('Kjeldahl N leaves the nitrate out, organic N all mineral N; ammonium and nitrate may be whole ions', () => {
    const kjeldahl = withPrinted(
      { ...BLANK_LAB, no3NKgT: 0.4, report: { ...AS_KG_T, totalAs: 'kjeldahl' } },
      'totalNKgT',
      8,
      slurry,
    );
    expect(kjeldahl.totalNKgT).toBeCloseTo(8.4, 9);
    // The printed Kjeldahl figure stays when the nitrate is put right beside it.
    const nitrate = withPrinted(kjeldahl, 'no3NKgT', 1, slurry);
    expect([nitrate.totalNKgT, printedFigure(nitrate, 'totalNKgT', slurry)]).toEqual([9, 8]);
    const organic = withPrinted(
      withPrinted(
        { ...BLANK_LAB, report: { ...AS_KG_T, totalAs: 'organic', nh4As: 'nh4' } },
        'nh4NKgT',
        2,
        slurry,
      ),
      'totalNKgT',
      1.5,
      slurry,
    );
    expect(organic.nh4NKgT).toBeCloseTo(2 / 1.2878, 9);
    expect(organic.totalNKgT).toBeCloseTo(1.5 + 2 / 1.2878, 9);
    expect(reportFactor('no3NKgT', { ...AS_KG_T, no3As: 'no3' }, 6, 1010)).toBeCloseTo(
      1 / 4.4268,
      9,
    );
    // Read as total after all: what was printed stays.
    expect(reread(organic, { ...AS_KG_T, nh4As: 'nh4' }, slurry)).toMatchObject({ totalNKgT: 1.5 });
  });
  it('below a limit half of it counts, and nothing where it is nothing beside the book', () => {
    expect([belowLimit(0.5, 1.2), belowLimit(0.05, 1.2), belowLimit(0.05, 0)]).toEqual([
      0.25, 0, 0.025,
    ]);
    const below = withPrinted(BLANK_LAB, 'no3NKgT', 0.025, slurry, true);
    expect(below.report?.below).toEqual(['no3NKgT']);
    expect(withPrinted(below, 'no3NKgT', 0.2, slurry).report?.below).toEqual([]);
  });
  it('a density of the sheet goes before the book’s', () =>
    expect(
      reportFactor('pKgT', { ...AS_KG_T, unit: 'kg_m3', densityKgM3: 900 }, 6, 1010),
    ).toBeCloseTo(1 / 0.9, 9));
  it('the mean of the last three stands in for the newest where they agree within 20 %', () => {
    const labs = [8, 7.6, 7.2, 20].map((totalNKgT) => ({
      ...BLANK_LAB,
      totalNKgT,
      pKgT: totalNKgT === 7.6 ? null : 1.5,
    }));
    expect(runningMean(labs)).toMatchObject({
      n: 3,
      agrees: true,
      lab: { totalNKgT: 7.6, pKgT: 1.5, kKgT: null },
    });
    expect(
      runningMean([
        { ...BLANK_LAB, totalNKgT: 8 },
        { ...BLANK_LAB, totalNKgT: 12.1 },
      ]),
    ).toMatchObject({ agrees: false });
    expect(runningMean(labs.slice(0, 1))).toBeNull();
  });
});
