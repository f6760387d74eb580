import { describe, expect, it } from 'vitest';
import { readLaboratory } from '../laboratory/readLaboratory';
import type { SoilReport } from '../laboratory/samples';
import { classify } from './classify';

const chloride = (value: number, unit: string, more: object = {}) =>
  classify({ nutrient: 'cl', extractant: 'water_or_nitrate_extract', value, unit, ...more });
const read = (text: string, answers = {}) =>
  readLaboratory(new TextEncoder().encode(text), {
    kind: 'soil',
    fields: null,
    answers,
    sheet: null,
  });
const readings = async (text: string, answers = {}) => {
  const { samples, leftOut, questions } = await read(text, answers);
  return {
    readings: (samples as SoilReport[]).flatMap((s) => s.readings),
    leftOut: leftOut.map((l) => l.reason),
    questions,
  };
};

describe('chloride of 0-60 cm', () => {
  it('is classed in the table’s own kg/ha and in lb/ac, which is not halved', () => {
    expect(chloride(17, 'kg_ha').cls).toBe('low');
    expect(chloride(16.9, 'kg_ha').cls).toBe('very_low');
    const acre = chloride(30, 'lb_ac');
    expect(acre.value).toBeCloseTo(33.63, 2);
    expect(acre.cls).toBe('low');
  });
  it('by weight it needs depth and density, and names what is missing', () => {
    expect(chloride(40, 'mg_kg', { depthCm: 60, bulkDensityGCm3: 1.4 }).value).toBeCloseTo(336, 9);
    expect(() => chloride(40, 'mg_kg')).toThrow(/needs the depth/u);
    expect(() => chloride(40, 'mg_kg', { depthCm: 60 })).toThrow(/density/u);
    expect(() => chloride(40, 'mg_kg', { depthCm: 30, bulkDensityGCm3: 1.4 })).toThrow(/30/u);
    expect(() => chloride(40, 'mg_l')).toThrow(/kg\/ha of 0-60 cm/u);
  });
  it('no other nutrient is classed in kg/ha', () =>
    expect(() =>
      classify({ nutrient: 'k', extractant: 'ammonium_acetate', value: 300, unit: 'kg_ha' }),
    ).toThrow(/are of a layer/u));
  it('a report’s kg/ha or lb/ac of 0-60 cm come in as they stand', async () => {
    const head = 'Field,Sample,Date,Depth (cm),pH H2O,Chloride';
    const rows = (unit: string, v: number, depth = '0-60') =>
      `${head} (${unit})\nRookery,A,2027-02-12,${depth},6.4,${v}`;
    expect((await readings(rows('kg/ha', 30))).readings).toEqual([
      {
        nutrient: 'cl',
        extractant: 'water_or_nitrate_extract',
        value: 30,
        unit: 'kg_ha',
        belowDetection: false,
      },
    ]);
    expect((await readings(rows('lb/ac', 30))).readings).toMatchObject([
      { value: 30, unit: 'lb_ac' },
    ]);
    expect((await readings(rows('kg/ha', 30, '0-20'))).leftOut).toContain(
      'chloride is classed in 0-60 cm; this is a layer of 20 cm',
    );
  });
  it('a report by weight asks for the density', async () => {
    const text =
      'Field,Sample,Date,Depth (cm),pH H2O,Chloride (mg/kg)\nRookery,A,2027-02-12,0-60,6.4,5';
    const { questions } = await readings(text);
    expect(questions.map((q) => q.about)).toEqual(['bulk_density']);
    const key = questions[0]?.key ?? '';
    expect((await readings(text, { [key]: '1.4' })).readings).toMatchObject([
      { value: 42, unit: 'kg_ha' },
    ]);
  });
});
