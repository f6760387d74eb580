import { describe, expect, it } from 'vitest';
import { readSurvey, type SurveyContext, type SurveyValue } from './surveyReading';

const context: SurveyContext = {
  cropGroup: null,
  targetGroup: 'sugar_beet',
  omPct: 2.6,
  cecCmolKg: 14,
  ph: new Map([
    ['a', 6.4],
    ['b', 6.4],
  ]),
  coresPerSample: 15,
};
const points = (...values: number[]): SurveyValue[] =>
  values.map((value, i) => ({
    label: 'abcdef'[i] as string,
    areaHa: i + 1,
    value,
    belowDetection: false,
  }));
const OLSEN = { nutrient: 'p', extractant: 'olsen', unit: 'mg_kg' };
const PH = { nutrient: 'ph', extractant: 'water', unit: '' };

describe('a survey read point by point', () => {
  it('classes each point, with the chance of each class, and the mean by the ground', () => {
    const r = readSurvey(OLSEN, points(6, 13, 60), context);
    expect(r.points.map((p) => p.cls)).toEqual(['low', 'medium', 'very_high']);
    for (const p of r.points)
      expect(Object.values(p.chance ?? {}).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);
    expect(r.mean?.mean).toBeCloseTo((6 + 26 + 180) / 6, 9);
    expect(r.areaByClass).toEqual({ low: 1, medium: 2, very_high: 3 });
    expect([...r.areaByStep]).toEqual([
      [2, 1],
      [3, 2],
      [5, 3],
    ]);
  });
  it('says why a point has no class, and leaves it off the areas', () => {
    const r = readSurvey(
      { nutrient: 'p', extractant: 'unknown', unit: 'mg_kg' },
      points(20),
      context,
    );
    expect(r.points[0]).toMatchObject({
      cls: null,
      mapStep: null,
      refused: expect.stringMatching(/extractant/),
    });
    expect(r.areaByStep.size).toBe(0);
  });
  it('reads pH against the crop, and maps it in steps that show a pattern though all of it is too acid', () => {
    const r = readSurvey(PH, points(4.9, 5.2, 5.9, 6.2, 7.9), context);
    expect(r.points.map((p) => p.cls)).toEqual(['very_low', 'very_low', 'very_low', 'low', 'high']);
    expect(r.points.map((p) => p.mapStep)).toEqual([1, 2, 3, 4, 5]);
    expect(r.points[0]?.chance).toBeNull();
  });
  it('a value on the end of a step belongs to the upper one', () =>
    expect(readSurvey(PH, points(5, 5.4, 6, 7.3), context).points.map((p) => p.mapStep)).toEqual([
      2, 3, 4, 5,
    ]));
  it('has no class of pH without a crop, yet a map', () =>
    expect(readSurvey(PH, points(5.2), { ...context, targetGroup: null }).points[0]).toMatchObject({
      cls: null,
      mapStep: 2,
    }));
  it('has no mean with a point below detection', () =>
    expect(
      readSurvey(
        OLSEN,
        [...points(9), { label: 'b', areaHa: 1, value: 2, belowDetection: true }],
        context,
      ),
    ).toMatchObject({ mean: null, meanClass: null }));
});
