import { describe, expect, it } from 'vitest';
import type { ParsedSample } from './bringIn';
import { againstEarlier, type EarlierFound } from './earlierValues';

const p = (value: number, over: object = {}) => ({
  nutrient: 'p',
  extractant: 'olsen',
  value,
  unit: 'mg_kg' as const,
  belowDetection: false,
  ...over,
});
const sample = (over: Partial<ParsedSample>): ParsedSample => ({
  row: 2,
  fieldName: 'Low Fleet',
  label: 'L-1',
  date: '2027-02-20',
  point: null,
  depthFromCm: 0,
  depthCm: 20,
  nCores: null,
  phWater: 5.2,
  phCacl2: null,
  bufferKind: null,
  bufferPh: null,
  omPct: null,
  ocPct: null,
  clayPct: null,
  stonesPct: null,
  at: null,
  cecCmolKg: null,
  alCmolKg: null,
  no3nMgKg: null,
  so4sMgKg: null,
  readings: [p(18)],
  ...over,
});
const earlier = new Map<string, EarlierFound>([
  ['Low Fleet', { date: '2024-11-12', phWater: 5.1, phCacl2: null, readings: [p(17)] }],
]);
const look = (s: ParsedSample, answers = {}) => againstEarlier([s], earlier, answers, () => ({}));

describe('figures against what the field had before', () => {
  it('that fit come in without a question', () => {
    expect(look(sample({}))).toEqual({ good: [sample({})], bad: [], questions: [] });
    expect(look(sample({ phWater: 6.1, readings: [p(50)] })).questions).toEqual([]);
    expect(look(sample({ phWater: 8, fieldName: 'Another' })).questions).toEqual([]);
  });
  it.each([
    ['a pH far off', { phWater: 7.4 }, 'Low Fleet, pH in water', '7.4, where it was 5.1'],
    ['ten times the P', { readings: [p(180)] }, 'Low Fleet, P (Olsen)', '180, where it was 17'],
    ['a tenth of it', { readings: [p(1.8)] }, 'Low Fleet, P (Olsen)', '1.8, where it was 17'],
  ])('%s is asked', (_, over, column, cell) => {
    const { questions } = look(sample(over));
    expect(questions).toHaveLength(1);
    expect(questions[0]?.column).toBe(column);
    expect(questions[0]?.cell).toContain(cell);
  });
  it('come in or wait as somebody says', () => {
    const far = sample({ phWater: 7.4 });
    const key = look(far).questions[0]?.key ?? '';
    expect(look(far, { [key]: 'so' })).toMatchObject({ good: [far], questions: [] });
    const waits = look(far, { [key]: 'wait' });
    expect(waits).toMatchObject({ good: [], questions: [] });
    expect(waits.bad[0]?.problems[0]?.reason).toMatch(/lies far from 5\.1/u);
  });
  it('by another extractant, unit or depth, or below detection, are no comparison', () => {
    for (const r of [
      p(180, { extractant: 'mehlich_3' }),
      p(180, { unit: 'mg_l' }),
      p(180, { belowDetection: true }),
    ])
      expect(look(sample({ readings: [r] })).questions).toEqual([]);
    expect(look(sample({ phWater: 7.4, depthFromCm: 30, depthCm: 60 })).questions).toEqual([]);
    expect(look(sample({ phWater: 7.4, depthCm: 60 })).questions).toEqual([]);
  });
  it('of one field and figure are one question', () => {
    const many = [7.2, 7.4, 7.6].map((phWater, i) => sample({ row: i + 2, phWater }));
    expect(againstEarlier(many, earlier, {}, () => ({})).questions).toHaveLength(1);
  });
});
