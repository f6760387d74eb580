import fs from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Db } from '@/data/client';
import { soilSamplesOf, waitingRowsOf } from '@/data/samples';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { readCsv } from './csvFile';
import { checkFile, discardWaiting, importFile, importWaiting, previewFile } from './laboratory';
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

describe('a laboratory file', () => {
  it('is looked at, checked, imported once, and its faulty rows wait', async () => {
    const preview = await previewFile(db, ines, FARM, 'Senn laboratory', bytes);
    expect(preview).toMatchObject({ rows: 13, delimiter: ';', remembered: false });
    expect(preview.mapping.columns['P Olsen (mg/kg)']).toEqual({
      kind: 'nutrient',
      nutrient: 'p',
      extractant: 'olsen',
      unit: 'mg_kg',
    });
    const { good, bad } = await checkFile(db, ines, FARM, bytes, preview.mapping);
    expect([good.length, bad.map((b) => b.row)]).toEqual([10, [5, 8, 12]]);
    expect(bad.map((b) => b.problems[0]?.column)).toEqual([
      'pH H2O',
      'K amm. acetate (mg/kg)',
      'Sampled',
    ]);
    const before = (await soilSamplesOf(db, [FARM])).length;
    expect(
      await importFile(db, ines, FARM, 'Senn laboratory', 'senn.csv', bytes, preview.mapping),
    ).toEqual({ imported: 10, waiting: 3 });
    expect((await soilSamplesOf(db, [FARM])).length).toBe(before + 10);
    expect((await deskOf(db, ines, 'terrace-short', null))?.stored.plan.ground).toMatchObject({
      sampleDate: '2027-02-24',
      phWater: 6.8,
    });
    expect((await previewFile(db, ines, FARM, 'Senn laboratory', bytes)).remembered).toBe(true);
    const again = await importFile(
      db,
      ines,
      FARM,
      'Senn laboratory',
      'senn.csv',
      bytes,
      preview.mapping,
    );
    expect(again.imported).toBe(0);
  });
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
    const { mapping } = await previewFile(db, ines, FARM, 'Nitrate laboratory', csv);
    expect(mapping.columns['NO3-N (mg/kg)']).toEqual({ kind: 'no3n_mg_kg' });
    const samples = (await soilSamplesOf(db, [FARM])).length;
    const bring = () => importFile(db, ines, FARM, 'Nitrate laboratory', 'n.csv', csv, mapping);
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
    await importFile(db, ines, FARM, 'Nitrate laboratory', 'o.csv', older, mapping);
    expect((await deskOf(db, ines, 'rookery', null))?.stored.plan.ground.nitrateSampleDate).toBe(
      '2027-02-20',
    );
  });
  it('belongs to a farm that the person may edit', async () => {
    await expect(
      previewFile(db, { id: 'odo-merrick', name: 'Odo Merrick' }, FARM, 'Senn laboratory', bytes),
    ).rejects.toThrow(NotAllowed);
    await expect(
      importFile(
        db,
        { id: 'wanda-ostrow', name: 'Wanda Ostrow' },
        FARM,
        'Senn laboratory',
        'x',
        bytes,
        {},
      ),
    ).rejects.toThrow(NotAllowed);
  });
  it('with a mapping that is no mapping is refused', async () =>
    expect(
      checkFile(db, ines, FARM, bytes, { columns: { Field: { kind: 'magic' } }, dateOrder: 'dmy' }),
    ).rejects.toThrow(/columns/));
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
