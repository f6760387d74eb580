import fs from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Db } from '@/data/client';
import { soilSamplesOf, waitingRowsOf } from '@/data/samples';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { readCsv } from './csvFile';
import { discardWaiting, importFile, importWaiting, lookAtFile } from './laboratory';
import { deskOf } from './plans';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const bytes = new Uint8Array(fs.readFileSync('public/examples/senn-soil-2027.csv'));
const text = (t: string) => new TextEncoder().encode(t);
const FARM = 'tansy-hollow';
const SAID = { answers: {}, anew: false };

describe('a laboratory file', () => {
  it('is looked at, imported once, and its faulty rows wait', async () => {
    const look = () => lookAtFile(db, ines, FARM, 'Senn laboratory', bytes, SAID);
    const seen = await look();
    expect(seen).toMatchObject({
      samples: 13,
      readAs: 'UTF-8, semicolon between columns',
      questions: [],
      remembered: false,
      good: 11,
    });
    expect(seen.cells.find((c) => c.column === 'P Olsen (mg/kg)')).toMatchObject({
      row: 2,
      text: '13',
      says: 'P, Olsen, 13 mg/kg',
      means: 'medium',
    });
    // 0.42 cmol of K in a kilogram is 164 mg: a unit that is known is read.
    expect(seen.bad.map((b) => [b.row, b.problems[0]?.column])).toEqual([
      [5, 'pH H2O'],
      [12, 'Sampled'],
    ]);
    // Several of one field and day have a mean besides: it is no sample of the file.
    const inFile = async () =>
      (await soilSamplesOf(db, [FARM])).filter((s) => s.sample.kind !== 'mean').length;
    const before = await inFile();
    const bring = () => importFile(db, ines, FARM, 'Senn laboratory', 'senn.csv', bytes, SAID);
    expect(await bring()).toEqual({ imported: 11, waiting: 2 });
    expect(await inFile()).toBe(before + 11);
    expect((await deskOf(db, ines, 'terrace-short', null))?.stored.plan.ground).toMatchObject({
      sampleDate: '2027-02-24',
      phWater: 6.8,
    });
    expect((await look()).good).toBe(0);
    expect((await bring()).imported).toBe(0);
  });
  it('with a question open brings nothing in; what was answered is remembered, and forgotten', async () => {
    const csv = text('Field,Sampled,pH,P Olsen (mg/kg)\nRookery,03/02/2027,6.1,18\n');
    const look = (said = SAID) => lookAtFile(db, ines, FARM, 'Vale house', csv, said);
    expect((await look()).questions.map((q) => q.about)).toEqual(['date_order', 'ph_in']);
    await expect(
      importFile(db, ines, FARM, 'Vale house', 'v.csv', csv, SAID),
    ).rejects.toMatchObject({ detail: { field: 'Sampled' } });
    const answers = { 'date_order: Sampled': 'dmy', 'ph_in: pH': 'cacl2' };
    const said = { answers, anew: false };
    expect(await look(said)).toMatchObject({ questions: [], good: 1 });
    await importFile(db, ines, FARM, 'Vale house', 'v.csv', csv, said);
    const [sample] = (await soilSamplesOf(db, [FARM])).filter(
      (s) => s.sample.laboratory === 'Vale house',
    );
    expect(sample?.sample).toMatchObject({ date: '2027-02-03', phCacl2: 6.1, phWater: null });
    expect(await look()).toMatchObject({ remembered: true, questions: [], answers });
    expect((await look({ answers: {}, anew: true })).questions).toHaveLength(2);
  });
  it('another kind of report is told for what it is', async () =>
    expect(
      lookAtFile(
        db,
        ines,
        FARM,
        'Senn laboratory',
        new Uint8Array(
          fs.readFileSync('src/core/laboratory/reports/leaf/unit-row-below-heading.xlsx'),
        ),
        SAID,
      ),
    ).rejects.toThrow(/reads as a leaf report/));
  it('a waiting row comes in when it is put right, and says so while it is not', async () => {
    const [row] = (await waitingRowsOf(db, [FARM])).filter((r) => r.cells['pH H2O'] === '65');
    const cells = row?.cells ?? {};
    expect(
      (await importWaiting(db, ines, row?.id ?? '', { ...cells, 'pH H2O': '50' }))?.problems[0]
        ?.reason,
    ).toMatch(/50 is outside/);
    expect(await importWaiting(db, ines, row?.id ?? '', { ...cells, 'pH H2O': '5,0' })).toBeNull();
    const waiting = await waitingRowsOf(db, [FARM]);
    expect(waiting.some((r) => r.id === row?.id)).toBe(false);
    await discardWaiting(db, ines, waiting[0]?.id ?? '');
    expect((await waitingRowsOf(db, [FARM])).length).toBe(waiting.length - 1);
  });
  it('with nitrate by layers fills the nitrate profile, its one home, and the season reads it', async () => {
    const csv = text(
      [
        'Field;Sampled;Label;Depth;NO3-N (mg/kg)',
        'Rookery;2027-02-20;a;0-30;9,0',
        'Rookery;2027-02-20;b;0-30;11,0',
        'Rookery;2027-02-20;a;30-60;6',
        'Rookery;2027-02-20;c;;6',
      ].join('\n'),
    );
    const samples = (await soilSamplesOf(db, [FARM])).length;
    const bring = () => importFile(db, ines, FARM, 'Nitrate laboratory', 'n.csv', csv, SAID);
    expect(await bring()).toEqual({ imported: 3, waiting: 1 });
    expect((await soilSamplesOf(db, [FARM])).length).toBe(samples);
    const desk = await deskOf(db, ines, 'rookery', null);
    expect(desk?.stored.plan).toMatchObject({
      ground: {
        nitrateSampleDate: '2027-02-20',
        nitrateLayers: [
          { topCm: 0, bottomCm: 30, no3nMgKg: 10 },
          { topCm: 30, bottomCm: 60, no3nMgKg: 6 },
        ],
      },
      reads: { nitrate: { because: 'mean' } },
    });
    expect(desk?.stored.history.nitrate).toMatchObject({
      laboratory: 'Nitrate laboratory',
      author: 'Ines Calloway',
      recordedOn: '2027-02-26',
    });
    // Brought in again it is the same fact, and an older profile does not push a newer one aside.
    await bring();
    expect((await deskOf(db, ines, 'rookery', null))?.stored.plan.reads).toEqual(
      desk?.stored.plan.reads,
    );
    const older = text('Field;Sampled;Depth;NO3-N (mg/kg)\nRookery;2027-01-10;0-30;40');
    await importFile(db, ines, FARM, 'Nitrate laboratory', 'o.csv', older, SAID);
    expect((await deskOf(db, ines, 'rookery', null))?.stored.plan.ground.nitrateSampleDate).toBe(
      '2027-02-20',
    );
  });
  it('belongs to a farm that the person may edit', async () => {
    await expect(
      lookAtFile(
        db,
        { id: 'odo-merrick', name: 'Odo Merrick' },
        FARM,
        'Senn laboratory',
        bytes,
        SAID,
      ),
    ).rejects.toThrow(NotAllowed);
    await expect(
      importFile(
        db,
        { id: 'wanda-ostrow', name: 'Wanda Ostrow' },
        FARM,
        'Senn laboratory',
        'x',
        bytes,
        SAID,
      ),
    ).rejects.toThrow(NotAllowed);
  });
  it('answers that are none are refused', async () =>
    expect(
      lookAtFile(db, ines, FARM, 'Senn laboratory', bytes, { answers: { a: 1 }, anew: false }),
    ).rejects.toThrow(/a/));
});

describe('a file that cannot be read', () => {
  it.each([
    ['empty', new Uint8Array(), /empty/],
    ['only a heading', text('a,b\n'), /no rows/],
    ['huge', new Uint8Array(5 * 1024 * 1024 + 1).fill(97), /5\.0 MB; at most 5 MB/],
    ['UTF-16', new Uint8Array([0xff, 0xfe, 97, 0]), /UTF-16/],
    ['Latin-1', new Uint8Array([...text('Feld,Name\n'), 0xe9, 44, 97]), /not in UTF-8/],
    ['binary', new Uint8Array([80, 75, 0, 1, 2]), /not a text file/],
    ['without a delimiter', text('just words\nmore words\n'), /No comma, semicolon/],
    ['an open quote', text('a,b\n"x,1\n'), /malformed|Quote/i],
    ['ragged', text('a,b\n1,2,3\n'), /Line 2 has 3 cells, the heading has 2/],
    ['a heading twice', text('a,a\n1,2\n'), /stands twice/],
    ['an empty heading', text('a,,c\n1,2,3\n'), /Column 2 has no heading/],
  ] as [string, Uint8Array, RegExp][])('%s', (_, content, message) =>
    expect(() => readCsv(content)).toThrow(message),
  );
  it('reads a byte-order mark, semicolons, tabs and quotes', () =>
    expect(readCsv(text('\ufefffield\tvalue\n"A ""B"""\t1,5\n')).rows).toEqual([
      { row: 2, cells: { field: 'A "B"', value: '1,5' } },
    ]));
});
