import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { describe, expect, it } from 'vitest';
import { sampleListCsv } from '../ground/sampleList';
import type { SamplingPlan } from '../ground/samplingPlan';
import { fileOfRow, sampleKey, soilBringIn, type BringContext } from './bringIn';
import { readHeading } from './headings';
import { columnKey, type Answers } from './questions';
import { readLaboratory } from './readLaboratory';
import { standardHeadings } from './standardHeadings';

const context: BringContext = {
  fieldNames: ['Low Fleet', 'Rookery'],
  today: '2027-02-26',
  known: new Set(),
  points: new Map([
    ['lf-01', { samplingPlanId: 'plan-1', label: 'LF-01', fieldName: 'Low Fleet' }],
  ]),
};
const report = (text: string | Uint8Array, answers: Answers = {}) =>
  readLaboratory(typeof text === 'string' ? new TextEncoder().encode(text) : text, {
    kind: 'soil',
    fields: null,
    answers,
    sheet: null,
  });
const sorted = async (text: string, more: Partial<BringContext> = {}) =>
  soilBringIn(await report(text), { ...context, ...more });
const HEAD = 'Field,Sample,Sampled,Depth,pH H2O,P Olsen (mg/kg)';

describe('samples of a report', () => {
  it('come in whole or wait whole, with all that is wrong', async () => {
    const { good, bad } = await sorted(
      [
        HEAD,
        'low fleet,A,2026-11-12,0-20,6.1,18',
        'Nowhere,B,2026-11-12,0-20,6.1,18',
        'Rookery,C,2027-03-01,0-20,6.1,18',
        'Rookery,D,2026-11-12,0-20,12.5,18',
        'Rookery,E,2026-11-12,20-10,6.1,18',
        'Rookery,F,2026-11-12,deep,6.1,18',
        'Rookery,G,2026-11-12,0-20,,',
      ].join('\n'),
    );
    expect(good).toMatchObject([
      { fieldName: 'Low Fleet', label: 'A', depthFromCm: 0, depthCm: 20, phWater: 6.1 },
    ]);
    expect(bad.map((b) => b.problems.map((p) => p.reason))).toEqual([
      ['Nowhere is not a field of this farm: Low Fleet, Rookery.'],
      ['2027-03-01 lies in the future.'],
      ['pH in water = 12.5 is outside 2.5 to 11.'],
      ['The layer ends above where it begins.'],
      ['deep is not a depth: write 20, 0-20 or 20-40.'],
    ]);
  });
  it('find their field by the point of a plan that the label names', async () => {
    const { good, bad } = await sorted(
      'Sample,Sampled,pH H2O\nLF-01/0-20,2026-11-12,6.1\nXX-9,2026-11-12,6.1\n',
    );
    expect(good[0]).toMatchObject({
      fieldName: 'Low Fleet',
      point: { samplingPlanId: 'plan-1', label: 'LF-01' },
    });
    expect(bad[0]?.problems[0]?.reason).toMatch(/field is missing/u);
  });
  it('are taken once, in the file and in the farm', async () => {
    const row = 'Low Fleet,A,2026-11-12,0-20,6.1,18';
    expect((await sorted(`${HEAD}\n${row}\n${row}\n`)).good).toHaveLength(1);
    const key = sampleKey({
      fieldName: 'Low Fleet',
      date: '2026-11-12',
      label: 'A',
      depthFromCm: 0,
    });
    expect((await sorted(`${HEAD}\n${row}\n`, { known: new Set([key]) })).good).toEqual([]);
  });
  it('are doubted where their figures contradict each other', async () => {
    const { bad } = await sorted(
      [
        'Field,Sampled,pH H2O,pH CaCl2,Buffer pH SMP',
        'Rookery,2026-11-12,5.1,6.4,6.5',
        'Rookery,2026-11-12,7.9,7.2,5.1',
      ].join('\n'),
    );
    expect(bad.map((b) => b.problems[0]?.reason)).toEqual([
      'pH in CaCl2 6.4 lies far above pH in water 5.1.',
      'Buffer pH 5.1 lies more than 2 below pH in water 7.9: one of them is wrong.',
    ]);
  });
  it('of nitrate want a layer', async () => {
    const { good, bad } = await sorted(
      'Field,Sampled,Depth,NO3-N (mg/kg)\nRookery,2026-11-12,0-30,9\nRookery,2026-11-12,,6\n',
    );
    expect(good).toMatchObject([{ no3nMgKg: 9, depthFromCm: 0, depthCm: 30 }]);
    expect(bad[0]?.problems[0]?.reason).toMatch(/belongs to a layer/u);
  });
  it('wait with cells that can be put right and read again, whatever the layout', async () => {
    const long = [
      'Field;Sample;Sampled;Parameter;Result;Unit',
      'Rookery;R-1;12.11.2026;pH H2O;65;',
      'Rookery;R-1;12.11.2026;P Olsen;1,8;mg/100 g',
    ].join('\n');
    const first = await report(long);
    const { bad } = soilBringIn(first, context);
    const cells = bad[0]?.cells ?? {};
    expect(cells['P Olsen (mg/100 g)']).toBe('1,8');
    const again = await readLaboratory(fileOfRow({ ...cells, 'pH H2O': '6,5' }), {
      kind: 'soil',
      fields: null,
      answers: {},
      sheet: null,
      given: first.given,
    });
    const { good } = soilBringIn(again, context);
    expect(good[0]).toMatchObject({ phWater: 6.5, date: '2026-11-12', label: 'R-1' });
    expect(good[0]?.readings[0]?.value).toBeCloseTo(18, 9);
  });
});

it('the list that the program writes, filled in, comes in without a question', async () => {
  const plan = {
    coresPerSample: 15,
    purpose: 'ph_p_k_tilled',
    layers: [
      { fromCm: 0, toCm: 10 },
      { fromCm: 10, toCm: 20 },
    ],
    points: [{ label: 'LF-01', at: [-30, 52], kind: 'point', note: '' }],
  } as unknown as SamplingPlan;
  const list = sampleListCsv({
    farm: '=Tansy Hollow',
    field: 'Low Fleet',
    sampledOn: '2026-11-12',
    plan,
  });
  const rows = parse(list, { columns: true }) as Record<string, string>[];
  const filled = stringify(
    rows.map((r, i) => ({ ...r, 'pH H2O': `6.${i + 1}`, 'P Olsen (mg/kg)': String(18 + i) })),
    { header: true },
  );
  const read = await report(filled);
  expect(read.questions).toEqual([]);
  const { good, bad } = soilBringIn(read, context);
  expect(bad).toEqual([]);
  expect(good).toMatchObject([
    { label: 'LF-01/0-10', depthFromCm: 0, depthCm: 10, phWater: 6.1, nCores: 15 },
    { label: 'LF-01/10-20', depthFromCm: 10, depthCm: 20, phWater: 6.2 },
  ]);
});

describe('what somebody says that a column is', () => {
  it('is a heading that is understood, each in its own way', () => {
    const read = standardHeadings().map(({ answer }) => readHeading(answer).kind);
    expect(read.filter((k) => k === 'unknown' || k === 'long')).toEqual([]);
    expect(new Set(standardHeadings().map((h) => h.answer)).size).toBe(standardHeadings().length);
  });
  it('is read so, by the unit that the column has', async () => {
    const text = 'Field,Sampled,Available phosphorus index (mg/100 g)\nRookery,2026-11-12,1.8\n';
    const column = 'Available phosphorus index (mg/100 g)';
    await expect(report(text)).rejects.toThrow(/No results/u);
    for (const { answer } of standardHeadings().filter((h) => /^P /u.test(h.answer))) {
      const read = await report(text, { [columnKey(column)]: answer });
      const { good } = soilBringIn(read, context);
      expect(good[0]?.readings[0], answer).toMatchObject({ nutrient: 'p', value: 18 });
      expect(answer.toLowerCase()).toContain(
        good[0]?.readings[0]?.extractant.split('_').join(' ').replace(' so4', '') ?? '?',
      );
    }
  });
});
