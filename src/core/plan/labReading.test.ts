import { describe, expect, it } from 'vitest';
import { materialOf } from '../reference/organicMaterials';
import { asCandidate, AS_KG_T, bookRatios, reportFactor, reread, slipOf } from './labReading';
import { BLANK_LAB } from './organicDefaults';

const slurry = materialOf('dairy_slurry_medium');
describe('how a report was written', () => {
  it('lb per 1000 US gallons of P2O5', () => {
    // 1 lb/1000 gal = 0.1198264 kg/m3; / 1.010 t/m3; / 2.2914.
    expect(reportFactor('pKgT', { ...AS_KG_T, unit: 'lb_1000gal', oxides: true }, 6, 1010)).toBeCloseTo(0.1198264 / 1.01 / 2.2914, 9);
    expect(reportFactor('totalNKgT', { ...AS_KG_T, unit: 'lb_1000gal', oxides: true }, 6, 1010)).toBeCloseTo(0.1198264 / 1.01, 9);
  });
  it('reading again keeps what the laboratory printed: 21.8 lb per 1000 gal typed as kg/t', () => {
    const typed = { ...BLANK_LAB, totalNKgT: 21.8, pKgT: 4.4 };
    const read = reread(typed, { ...AS_KG_T, unit: 'lb_1000gal' }, slurry);
    expect(read.totalNKgT).toBeCloseTo(2.586, 3);
    expect(reread(read, AS_KG_T, slurry).totalNKgT).toBeCloseTo(21.8, 9);
    expect(read.kKgT).toBeNull();
  });
  it('dry basis needs dry matter, and never goes by volume', () => {
    expect(reread({ ...BLANK_LAB, totalNKgT: 25, dmPct: 30 }, { ...AS_KG_T, basis: 'dry' }, materialOf('sheep_bedded')).totalNKgT).toBeCloseTo(7.5, 9);
    expect(() => reportFactor('pKgT', { ...AS_KG_T, basis: 'dry' }, null, 600)).toThrow('dry matter');
    expect(() => reread({ ...BLANK_LAB, totalNKgT: 2 }, { ...AS_KG_T, unit: 'kg_m3', basis: 'dry' }, slurry)).toThrow('M10');
  });
  it('a slip is found, and read right with one word', () => {
    const typed = { ...BLANK_LAB, totalNKgT: 21.8, nh4NKgT: 10, pKgT: 4.4, kKgT: 17.6, dmPct: 6 };
    const slip = slipOf(typed, slurry);
    expect(slip?.candidates).toEqual(['lb_1000gal']);
    const right = reread(typed, asCandidate(AS_KG_T, slip?.candidates?.[0] ?? '') ?? AS_KG_T, slurry);
    expect(slipOf(right, slurry)?.candidates).toBeNull();
    expect(asCandidate(AS_KG_T, 'sheet_was_dry_basis')).toMatchObject({ basis: 'dry' });
    expect(asCandidate({ ...AS_KG_T, basis: 'dry' }, 'sheet_was_as_received')).toMatchObject({ basis: 'as_received' });
    expect(asCandidate(AS_KG_T, 'unexplained')).toBeNull();
    expect(slipOf(BLANK_LAB, slurry)).toBeNull();
  });
  it('stands beside the book by its ratios', () => {
    expect(bookRatios({ ...BLANK_LAB, totalNKgT: 5.2 }, slurry).map((r) => r.ratio)).toEqual([2, null, null, null, null, null]);
  });
});
