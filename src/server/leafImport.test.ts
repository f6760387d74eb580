import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { UNSAID_OF_LEAF } from '@/core/facts/leafSample';
import type { Db } from '@/data/client';
import { leafFactsOf } from '@/data/samples';
import { fieldSeasons } from '@/data/schema';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { importLeaves, lookAtLeaves } from './leafImport';
import { importLines, takeBackImport } from './imports';
import { addLeaf, dropLeaf } from './leaves';
import { simulatedLeaves } from './simulatedLaboratory';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const stranger = { id: 'nobody-here', name: 'Nobody' };
const FARM = 'tansy-hollow';
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const file = (rows: readonly string[], answers: Record<string, string> = {}) => ({
  farmId: FARM,
  laboratory: 'Vale testing house',
  fileName: 'leaves.csv',
  bytes: new TextEncoder().encode(rows.join('\n')),
  answers,
});
const HEAD = 'Sample,Field,Part,BBCH,Date,N %,Mg %,Zn mg/kg';
const leavesOf = async (field: string) => (await leafFactsOf(db, [field])).get(field) ?? [];
const taken = (more: object) => ({
  id: 'taken-1',
  date: '2027-02-20',
  part: 'whole_shoot',
  bbch: 31,
  system: null,
  nOrgans: 40,
  washed: 'no',
  sprayElements: [],
  daysSinceSpray: null,
  role: 'survey',
  ...UNSAID_OF_LEAF,
  values: [],
  ...more,
});

describe('a file of leaves for a farm', () => {
  it('good ones come in, the others say why, and nothing is written by looking', async () => {
    const rows = [
      HEAD,
      'T-1,Terrace Long,whole shoot,31,2027-02-20,4.2,0.2,35',
      'T-2,Terrace Long,whole shoot,71,2027-02-20,4.2,0.2,35',
      'X-1,Nowhere,whole shoot,31,2027-02-20,4.2,0.2,35',
    ];
    const look = await lookAtLeaves(db, ines, file(rows));
    expect(look.good.map((g) => g.row)).toEqual([2]);
    expect(look.left.map((l) => l.row)).toEqual([3, 4]);
    expect(await leavesOf('terrace-long')).toEqual([]);
    expect(await importLeaves(db, ines, file(rows))).toEqual({ imported: 1, left: 2 });
    expect((await leavesOf('terrace-long')).map((l) => l.laboratoryNumber)).toEqual(['T-1']);
    // The same file once more brings nothing twice.
    await expect(importLeaves(db, ines, file(rows))).rejects.toThrow(/No leaf of this file/u);
  });
  it('a sample that was taken keeps what was noted, and gets its values', async () => {
    await addLeaf(
      db,
      ines,
      'terrace-long',
      'rye',
      taken({ place: 'knoll', takenBy: 'Odo', laboratoryNumber: 'T-9' }),
    );
    const rows = [HEAD, 'T-9,Terrace Long,whole shoot,31,2027-02-22,4.2,0.2,35'];
    expect((await lookAtLeaves(db, ines, file(rows))).good[0]?.fills).toBe(true);
    await importLeaves(db, ines, file(rows));
    const found = (await leavesOf('terrace-long')).find((l) => l.id === 'taken-1');
    expect(found).toMatchObject({ place: 'knoll', takenBy: 'Odo', nOrgans: 40, version: 2 });
    expect(found?.values).toHaveLength(3);
  });
  it('nothing comes in as long as a question is open; words of a part are remembered', async () => {
    const rows = [HEAD, 'T-3,Terrace Long,shoots cut,31,2027-02-21,4.2,0.2,35'];
    const look = await lookAtLeaves(db, ines, file(rows));
    const part = look.questions.find((q) => q.about === 'part');
    await expect(importLeaves(db, ines, file(rows))).rejects.toThrow(/several ways/u);
    await importLeaves(db, ines, file(rows, { [part?.key ?? '']: 'whole_shoot' }));
    const next = [HEAD, 'T-4,Terrace Long,shoots cut,31,2027-02-21,4.2,0.2,35'];
    expect((await lookAtLeaves(db, ines, file(next))).questions).toEqual([]);
  });
  it('two who bring a file in at once: the second is told, and no leaf comes in twice', async () => {
    const rows = [HEAD, 'T-7,Terrace Long,whole shoot,31,2027-02-23,4.2,0.2,35'];
    const both = await Promise.allSettled([
      importLeaves(db, ines, file(rows)),
      importLeaves(db, ines, file(rows)),
    ]);
    expect(both.map((r) => r.status).toSorted()).toEqual(['fulfilled', 'rejected']);
    const told = both.find((r) => r.status === 'rejected');
    expect(String(told?.reason)).toMatch(/at the same moment|No leaf of this file/u);
    const here = (await leavesOf('terrace-long')).filter((l) => l.laboratoryNumber === 'T-7');
    expect(here).toHaveLength(1);
  });
  it('a field whose crop nobody knows says so, and the other fields’ leaves come in', async () => {
    const rows = [
      HEAD,
      'T-8,Terrace Long,whole shoot,31,2027-02-23,4.2,0.2,35',
      'B-1,Brook Meadow,whole shoot,31,2027-02-23,4.2,0.2,35',
    ];
    const of = eq(fieldSeasons.fieldId, 'brook-meadow');
    const [before] = await db.select().from(fieldSeasons).where(of);
    await db.update(fieldSeasons).set({ cropKey: 'dragon_wheat' }).where(of);
    const look = await lookAtLeaves(db, ines, file(rows));
    expect(look.good.map((g) => g.row)).toEqual([2]);
    expect(look.left[0]?.reasons[0]).toMatch(/not in the library: dragon_wheat/u);
    await db
      .update(fieldSeasons)
      .set({ cropKey: before?.cropKey ?? null })
      .where(of);
  });
  it('is taken back as a whole: its leaves go, and what had waited waits again', async () => {
    await addLeaf(
      db,
      ines,
      'terrace-long',
      'rye',
      taken({ id: 'waited', date: '2027-02-25', place: 'gate', laboratoryNumber: 'T-20' }),
    );
    const before = await leavesOf('terrace-long');
    const rows = [
      HEAD,
      'T-20,Terrace Long,whole shoot,31,2027-02-25,4.2,0.2,35',
      'T-21,Terrace Long,whole shoot,31,2027-02-25,4.1,0.2,35',
    ];
    await importLeaves(db, ines, file(rows));
    const line = (await importLines(db, ines)).find((l) => l.leaves === 2);
    expect(line).toMatchObject({ fileName: 'leaves.csv', samples: 0, author: 'Ines Calloway' });
    await expect(takeBackImport(db, stranger, line?.id ?? '')).rejects.toThrow(NotAllowed);
    expect(await takeBackImport(db, ines, line?.id ?? '')).toEqual({
      samples: 0,
      leaves: 2,
      changed: 0,
    });
    const sorted = (list: typeof before) => list.toSorted((a, b) => a.id.localeCompare(b.id));
    expect(sorted(await leavesOf('terrace-long'))).toEqual(sorted(before));
    await dropLeaf(db, ines, 'terrace-long', 'waited');
  });
  it('another farm’s people may not', async () => {
    const rows = [HEAD, 'T-5,Terrace Long,whole shoot,31,2027-02-21,4.2,0.2,35'];
    await expect(lookAtLeaves(db, stranger, file(rows))).rejects.toThrow(NotAllowed);
    await expect(importLeaves(db, stranger, file(rows))).rejects.toThrow(NotAllowed);
  });
});

describe('the simulated laboratory', () => {
  it('answers what waits, as a file that comes in like a real one; affected plants lack something', async () => {
    const pair = (role: string, id: string) =>
      addLeaf(
        db,
        ines,
        'terrace-long',
        'rye',
        taken({ id, role, date: '2027-02-24', laboratoryNumber: id }),
      );
    await pair('affected', 'bad-1');
    await pair('unaffected', 'good-1');
    const { csv, samples } = await simulatedLeaves(db, ines, FARM);
    expect(samples).toBe(2);
    expect((await simulatedLeaves(db, ines, FARM)).csv).toBe(csv);
    const look = await lookAtLeaves(db, ines, file(csv.trim().split('\n')));
    expect(look.left).toEqual([]);
    expect(look.good.map((g) => g.fills)).toEqual([true, true]);
    await importLeaves(db, ines, file(csv.trim().split('\n')));
    await expect(simulatedLeaves(db, ines, FARM)).rejects.toThrow(/No leaf of this farm waits/u);
    await expect(simulatedLeaves(db, stranger, FARM)).rejects.toThrow(NotAllowed);
  });
});

describe('a leaf that is typed in', () => {
  it('a figure that may be meant otherwise is asked, and stored once it is confirmed', async () => {
    const odd = taken({
      id: 'odd',
      values: [{ nutrient: 'Zn', reported: '0.0035', unit: 'mg/kg' }],
    });
    const first = await addLeaf(db, ines, 'rookery', 'faba_bean', { ...odd, part: 'x' });
    expect(first.refused).not.toBeNull();
    const asked = await addLeaf(db, ines, 'terrace-long', 'rye', odd);
    expect(asked.results[0]?.meant).toMatchObject({ unit: '%', impossible: true });
    expect((await leavesOf('terrace-long')).some((l) => l.id === 'odd')).toBe(false);
    await addLeaf(db, ines, 'terrace-long', 'rye', odd, ['Zn']);
    expect((await leavesOf('terrace-long')).some((l) => l.id === 'odd')).toBe(true);
    // Its values are there: they are not written over.
    await expect(addLeaf(db, ines, 'terrace-long', 'rye', odd, ['Zn'])).rejects.toThrow(
      /its values already/u,
    );
  });
  it('two who give the values of one sample at once: the second is told, nothing is written over', async () => {
    await addLeaf(db, ines, 'terrace-long', 'rye', taken({ id: 'both' }));
    const give = (n: string) =>
      addLeaf(
        db,
        ines,
        'terrace-long',
        'rye',
        taken({ id: 'both', values: [{ nutrient: 'N', reported: n, unit: '%' }] }),
      );
    const replies = await Promise.allSettled([give('4.1'), give('4.4')]);
    expect(replies.map((r) => r.status).toSorted()).toEqual(['fulfilled', 'rejected']);
    const kept = (await leavesOf('terrace-long')).filter((l) => l.id === 'both');
    expect(kept).toHaveLength(1);
  });
  it('a nutrient that stands twice is refused by name', async () => {
    const twice = taken({
      id: 'twice',
      values: [
        { nutrient: 'N', reported: '4', unit: '%' },
        { nutrient: 'N', reported: '5', unit: '%' },
      ],
    });
    await expect(addLeaf(db, ines, 'terrace-long', 'rye', twice)).rejects.toThrow(
      /N stands twice/u,
    );
  });
});
