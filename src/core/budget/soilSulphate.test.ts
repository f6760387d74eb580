import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { creditSoilSulphate } from './soilSulphate';

const layer = (topCm: number, bottomCm: number, so4sMgKg: number) => ({
  topCm,
  bottomCm,
  so4sMgKg,
});
describe('sulphate of the profile (chapter 1, S1)', () => {
  it('counts half of what 0 to 60 cm hold', () => {
    // 6 x 1.35 x 30 x 0.1 = 24.3; 4 x 1.35 x 30 x 0.1 = 16.2; half of 40.5
    const s = creditSoilSulphate({ layers: [layer(0, 30, 6), layer(30, 60, 4)] });
    expect(s.soilSKgHa).toBeCloseTo(40.5);
    expect(s.creditKgHa).toBeCloseTo(20.25);
  });
  it('never counts more than 25 kg, nor what lies below 60 cm', () => {
    expect(creditSoilSulphate({ layers: [layer(0, 60, 50)] }).creditKgHa).toBe(25);
    const shallow = creditSoilSulphate({ layers: [layer(0, 60, 2)] });
    const deep = creditSoilSulphate({ layers: [layer(0, 60, 2), layer(60, 90, 40)] });
    expect(deep.creditKgHa).toBe(shallow.creditKgHa);
  });
  it('counts the part of a layer that lies above 60 cm', () => {
    expect(creditSoilSulphate({ layers: [layer(0, 90, 3)] }).soilSKgHa).toBeCloseTo(
      creditSoilSulphate({ layers: [layer(0, 60, 3)] }).soilSKgHa,
    );
  });
  it('loses what drained since', () => {
    expect(
      creditSoilSulphate({ layers: [layer(0, 30, 6)], leachedFrac: 0.5 }).creditKgHa,
    ).toBeCloseTo(6.075);
  });
  it.each([
    [[], 'layers'],
    [[layer(30, 60, 4)], 'layers'],
    [[layer(0, 30, -1)], 'layers[0].so4s_mg_kg'],
    [[layer(0, 30, 2000)], 'layers[0].so4s_mg_kg'],
  ])('refuses %j by name', (layers, field) => {
    try {
      creditSoilSulphate({ layers });
      expect.unreachable();
    } catch (e) {
      expect((e as Refusal).detail.field).toBe(field);
    }
  });
});
