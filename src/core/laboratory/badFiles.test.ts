import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { labAnswers } from './answers';
import { readLaboratory } from './readLaboratory';
import type { SoilReport } from './samples';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (data: Uint8Array, more: Partial<Parameters<typeof readLaboratory>[1]> = {}) =>
  readLaboratory(data, { kind: null, fields: null, answers: {}, sheet: null, ...more });
const soil = async (text: string, more = {}) => {
  const report = await read(bytes(text), { kind: 'soil', ...more });
  return { ...report, samples: report.samples as SoilReport[] };
};
async function refusal(data: Uint8Array): Promise<string> {
  try {
    await read(data);
    return 'read';
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    return e.message;
  }
}

describe('what is no table of results is told for what it is', () => {
  it.each<[string, Uint8Array, RegExp]>([
    ['nothing', new Uint8Array(), /empty/u],
    ['empty lines', bytes('\n\n  \n;;;\n'), /empty|no table|nothing/u],
    ['a million empty lines', bytes('\n'.repeat(1_000_000)), /empty/u],
    ['prose', bytes('Dear customer, thank you.\nYours\n'), /no results|no table/iu],
    ['a heading only', bytes('Field,Sampled,P Olsen (mg/kg)\n'), /no results/iu],
    ['a PDF', bytes('%PDF-1.7 ...'), /a PDF/u],
    ['an old workbook', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1, 2]), /\.xls/u],
    ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13]), /picture/u],
    [
      'noise',
      new Uint8Array([1, 0, 7, 0, 3, 2, 9, 0, 0, 4]),
      /not a text file|no table|No results/iu,
    ],
    ['51 MB', new Uint8Array(51 * 1024 * 1024).fill(0x41), /51.0 MB; at most 10 MB/u],
    ['500 columns', bytes(`${'P Olsen (mg/kg),'.repeat(500)}x\n1,2\n`), /columns; at most 400/u],
    [
      'a zip of other files',
      zipSync({ 'a.txt': bytes('a'), 'b/c.csv': bytes('x,y') }),
      /2 files in it \(a\.txt, b\/c\.csv\)/u,
    ],
    ['a broken zip', bytes('PK\u0003\u0004 nothing'), /damaged/u],
    [
      'a plan file',
      bytes('{"format":"patient-furrow-plan","version":6}'),
      /patient-furrow-plan file/u,
    ],
    [
      'nested JSON',
      bytes(`{"a":${'['.repeat(5000)}${']'.repeat(5000)}}`),
      /no points with results/u,
    ],
    ['JSON cut off', bytes('{"type":"FeatureColl'), /begins like JSON/u],
  ])('%s', async (_, data, says) => expect(await refusal(data)).toMatch(says));

  it('a workbook that would fill the memory is not unpacked', async () => {
    const big = zipSync({ 'xl/workbook.xml': new Uint8Array(130 * 1024 * 1024) }, { level: 1 });
    expect(await refusal(big)).toMatch(/at most 120 MB/u);
  }, 60_000);
});

describe('what can be read two ways is asked', () => {
  it('a mark that fits both ways, once for the file', async () => {
    const text = 'Field;Sampled;K amm. acetate (mg/kg)\nA;2026-11-12;1,250\nB;2026-11-12;1,164\n';
    const { questions, samples } = await soil(text);
    expect(questions).toMatchObject([
      { about: 'decimal_mark', column: 'K amm. acetate (mg/kg)', cell: '1,250; 1,164' },
    ]);
    expect(samples[0]?.readings).toEqual([]);
    const key = questions[0]?.key ?? '';
    const thousands = await soil(text, { answers: { [key]: '.' } });
    expect(thousands.samples[1]?.readings[0]?.value).toBe(1164);
    const decimals = await soil(text, { answers: { [key]: ',' } });
    // 1.25 mg K is nothing that occurs: then that is asked.
    expect(decimals.questions[0]?.about).toBe('value');
  });
  it('an extractant that the heading does not name', async () => {
    const { questions } = await soil('Field,Sampled,P (mg/kg)\nA,2026-11-12,18\n');
    expect(questions[0]).toMatchObject({ about: 'extractant', column: 'P (mg/kg)', cell: '18' });
    expect(questions[0]?.choices.map((c) => c.answer)).toContain('olsen');
  });
  it('phosphate that may be P2O5 or PO4, nitrate that may be NO3', async () => {
    const { questions } = await soil(
      'Field,Sampled,Depth (cm),Phosphate Olsen (mg/kg),Nitrate (mg/kg)\nA,2026-11-12,0-30,40,44\n',
    );
    expect(questions.map((q) => [q.about, q.column])).toEqual([
      ['form', 'Phosphate Olsen (mg/kg)'],
      ['form', 'Nitrate (mg/kg)'],
    ]);
  });
  it('a small depth that may be inches', async () => {
    const { questions } = await soil('Field,Sampled,Depth,pH H2O\nA,2026-11-12,6,6.1\n');
    expect(questions[0]).toMatchObject({ about: 'depth_unit', cell: '6' });
    const inches = await soil('Field,Sampled,Depth (in),pH H2O\nA,2026-11-12,0-6,6.1\n');
    expect(inches.samples[0]).toMatchObject({ depthTopCm: 0, depthBottomCm: 15.24 });
  });
  it('two columns for one target that disagree; agreeing ones are one', async () => {
    const text = (b: string) =>
      `Field,Sampled,P Olsen (mg/kg),P Olsen (mg/kg)\nA,2026-11-12,18,${b}\n`;
    const twice = await soil(text('31'));
    expect(twice.questions[0]).toMatchObject({ about: 'which_column', cell: '18; 31' });
    expect(twice.samples[0]?.readings).toEqual([]);
    expect((await soil(text('18'))).samples[0]?.readings).toHaveLength(1);
  });
  it('takes answers by key, or as a list of questions', () => {
    expect(labAnswers({ 'ph_in: pH': 'water' })).toEqual({ 'ph_in: pH': 'water' });
    expect(labAnswers([{ about: 'ph_in', column: 'pH', answer: 'water' }])).toEqual({
      'ph_in: pH': 'water',
    });
    expect(() => labAnswers({ 'ph_in: pH': 7 })).toThrow(Refusal);
    expect(() => labAnswers('water')).toThrow(Refusal);
  });
  it('takes the answer to what columns share by any of their names', async () => {
    const text = 'Sample,Store,Sampled,DM (%),N (%),P (%)\nA,Heap,2026-03-05,30,0.8,0.15\n';
    for (const column of ['P (%)', 'N (%), P (%)']) {
      const { questions, samples } = await read(bytes(text), {
        answers: { [`basis: ${column}`]: 'received' },
      });
      expect(column === 'P (%)' ? questions.map((q) => q.column) : questions).toEqual(
        column === 'P (%)' ? ['N (%)'] : [],
      );
      expect(samples).toHaveLength(1);
    }
  });
  it('an answer that is none of the choices does not count', async () => {
    const text = 'Field,Sampled,pH\nA,2026-11-12,6.1\n';
    expect((await soil(text, { answers: { 'ph_in: pH': 'milk' } })).questions).toHaveLength(1);
  });
});

describe('what stays out is told', () => {
  it('Bray 2 is not Bray 1, Mehlich 1 not Mehlich 3', async () => {
    const { leftOut, samples } = await soil(
      'Field,Sampled,P Bray 2 (ppm),K Mehlich 1 (ppm),P Bray 1 (ppm)\nA,2026-11-12,40,90,22\n',
    );
    expect(leftOut.map((l) => l.column)).toEqual(['P Bray 2 (ppm)', 'K Mehlich 1 (ppm)']);
    expect(samples[0]?.readings).toMatchObject([{ extractant: 'bray_1', value: 22 }]);
  });
  it('a field of another farm waits, and so does a cell that cannot be read', async () => {
    const { waiting, samples } = await soil(
      'Field,Sampled,P Olsen (mg/kg)\nelsewhere,2026-11-12,18\nlow fleet,2026-11-12,18 ??x\n',
      { fields: ['Low Fleet'] },
    );
    expect(waiting.map((w) => [w.row, w.column])).toEqual([
      [2, 'Field'],
      [3, 'P Olsen (mg/kg)'],
    ]);
    expect(samples.map((s) => s.field)).toEqual([null, 'Low Fleet']);
  });
  it('half of a limit stands for it, and says so', async () => {
    const { samples } = await soil('Field,Sampled,P Olsen (mg/kg)\nA,2026-11-12,<5\n');
    expect(samples[0]?.readings[0]).toMatchObject({ value: 2.5, belowDetection: true });
  });
  it('flags stay with their figures and change nothing', async () => {
    const { samples } = await soil(
      'Field,Sampled,P Olsen (mg/kg),K amm. acetate (mg/kg)\nA,2026-11-12,18 L,164*\n',
    );
    expect(samples[0]?.readings.map((r) => r.value)).toEqual([18, 164]);
  });
  it('a cell’s own unit goes before its heading’s', async () => {
    const { samples } = await soil('Field,Sampled,P Olsen (mg/kg)\nA,2026-11-12,1.8 mg/100 g\n');
    expect(samples[0]?.readings[0]?.value).toBeCloseTo(18, 9);
  });
});
