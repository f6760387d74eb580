import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Db } from '@/data/client';
import { soilSamplesOf, waitingRowsOf } from '@/data/samples';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { importLines, takeBackImport } from './imports';
import { importFile } from './laboratory';
import { deskOf, saveEdit } from './plans';
import { samplingDesk } from './sampling';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
const FARM = 'tansy-hollow';
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const bring = (rows: readonly string[]) =>
  importFile(
    db,
    ines,
    FARM,
    'Vale testing house',
    'vale.csv',
    new TextEncoder().encode(rows.join('\n')),
    { answers: {}, anew: false },
  );
const planOf = async (field: string) => (await deskOf(db, ines, field, null))!.stored;
const newest = async () => (await importLines(db, ines))[0]!;

describe('an import taken back', () => {
  it('takes samples, nitrate and waiting rows along, and each season reads what it read before', async () => {
    const before = {
      samples: (await soilSamplesOf(db, [FARM])).length,
      waiting: (await waitingRowsOf(db, [FARM])).length,
      kiln: (await planOf('kiln-field')).plan,
      rookery: (await planOf('rookery')).plan,
    };
    await bring([
      'Field,Sample,Sampled,Depth (cm),pH H2O,NO3-N (mg/kg)',
      'Kiln Field,K-1,2027-02-20,0-30,6.6,9',
      'Kiln Field,K-1,2027-02-20,30-60,6.9,6',
      'Rookery,R-1,2027-02-20,0-20,6.4,',
      'Rookery,R-2,2027-02-20,0-20,66,',
    ]);
    const line = await newest();
    expect(line).toMatchObject({
      farm: 'Tansy Hollow',
      fileName: 'vale.csv',
      author: 'Ines Calloway',
      samples: 3,
      profiles: 1,
      waiting: 1,
    });
    expect((await planOf('kiln-field')).plan.ground).toMatchObject({
      phWater: 6.6,
      nitrateSampleDate: '2027-02-20',
    });
    expect(await takeBackImport(db, ines, line.id)).toEqual({ samples: 3, leaves: 0, changed: 0 });
    expect((await soilSamplesOf(db, [FARM])).length).toBe(before.samples);
    expect((await waitingRowsOf(db, [FARM])).length).toBe(before.waiting);
    expect((await planOf('kiln-field')).plan.ground).toEqual(before.kiln.ground);
    expect((await planOf('kiln-field')).plan.reads).toEqual(before.kiln.reads);
    expect((await planOf('rookery')).plan.ground).toEqual(before.rookery.ground);
    await expect(takeBackImport(db, ines, line.id)).rejects.toThrow(/somebody took it back/);
  });
  it('leaves alone what a season reads by now, and counts what was changed since', async () => {
    await bring(['Field,Sampled,Depth (cm),pH H2O', 'Kiln Field,2027-02-21,0-20,6.5']);
    const line = await newest();
    const { seasonId, plan } = await planOf('kiln-field');
    await saveEdit(db, ines, seasonId, plan, {
      ...plan,
      ground: { ...plan.ground, phWater: 6.7 },
    });
    await bring(['Field,Sampled,Depth (cm),pH H2O', 'Kiln Field,2027-02-24,0-20,6.1']);
    expect(await takeBackImport(db, ines, line.id)).toEqual({ samples: 1, leaves: 0, changed: 1 });
    expect((await planOf('kiln-field')).plan.ground).toMatchObject({
      sampleDate: '2027-02-24',
      phWater: 6.1,
    });
    // What the second import had found before it is gone: then the newest that is there counts.
    await takeBackImport(db, ines, (await newest()).id);
    expect((await planOf('kiln-field')).plan.ground.sampleDate).toBe('2025-10-30');
  });
  it('works out the mean of a survey anew, or takes it along', async () => {
    const means = async () =>
      (await samplingDesk(db, ines, 'low-fleet')).samples.filter((s) => s.sample.kind === 'mean');
    const earlier = await means();
    const { plan } = await planOf('low-fleet');
    await bring(['Sample,Sampled,Depth (cm),pH H2O', 'LF26-01,2027-02-22,0-20,7.4']);
    expect((await means()).length).toBeGreaterThanOrEqual(earlier.length);
    await takeBackImport(db, ines, (await newest()).id);
    expect((await means()).map((m) => m.sample.id)).toEqual(earlier.map((m) => m.sample.id));
    expect((await planOf('low-fleet')).plan.ground.phWater).toBe(plan.ground.phWater);
  });
  it('of one file by two people at once brings it in once', async () => {
    const rows = ['Field,Sample,Sampled,Depth (cm),pH H2O', 'Rookery,T-1,2027-02-25,0-20,6.5'];
    const both = await Promise.allSettled([bring(rows), bring(rows)]);
    const refused = both.filter((r) => r.status === 'rejected');
    for (const r of refused) expect(r.reason).toMatchObject({ detail: { code: 'conflict' } });
    const twins = (await soilSamplesOf(db, [FARM])).filter((s) => s.sample.label === 'T-1');
    expect(twins).toHaveLength(1);
  });
  it('is the advisor’s to do', async () => {
    await bring(['Field,Sampled,Depth (cm),pH H2O', 'Rookery,2027-02-23,0-20,6.5']);
    await expect(takeBackImport(db, odo, (await newest()).id)).rejects.toThrow(NotAllowed);
    expect(await importLines(db, odo)).toEqual([]);
  });
});
