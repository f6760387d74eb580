import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { bringBack, removedLines } from './drawer';
import { exportFarm, importFarm } from './farmFile';
import { importFile } from './laboratory';
import { deskOf, saveEdit } from './plans';
import { samplesOverview } from './samples';
import { correctSample, moveSample, removeSample, sampleDesk, takeOver } from './soilSample';

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
    'v.csv',
    new TextEncoder().encode(rows.join('\n')),
    {
      answers: {},
      anew: false,
    },
  );
const planOf = async (field: string) => (await deskOf(db, ines, field, null))!.stored.plan;
const readBy = async (field: string) => (await planOf(field)).reads.soil?.id ?? '';
const desk = async (id: string) => (await sampleDesk(db, ines, id))!;
const refusal = async (work: Promise<unknown>) => {
  const e: unknown = await work.catch((x: unknown) => x);
  if (!(e instanceof Refusal)) throw e;
  return e.detail;
};

describe('several samples of one field and day', () => {
  it('are their mean with its spread, never the last row', async () => {
    await bring([
      'Field,Sample,Sampled,Depth (cm),pH H2O,P Olsen (mg/kg),OM %,Clay %',
      'Kiln Field,K-1,2027-02-20,0-20,6.2,14,3.1,22',
      'Kiln Field,K-2,2027-02-20,0-20,6.8,20,3.5,26',
      'Kiln Field,K-3,2027-02-20,0-20,6.5,17,3.0,24',
    ]);
    const plan = await planOf('kiln-field');
    expect(plan.reads.soil).toMatchObject({ because: 'mean' });
    expect(plan.ground).toMatchObject({ phWater: 6.5, nPoints: 3, sampleDate: '2027-02-20' });
    expect(plan.ground.readings).toMatchObject([{ nutrient: 'p', value: 17 }]);
    const mean = await desk(await readBy('kiln-field'));
    expect(mean).toMatchObject({ kind: 'mean', mayEdit: false });
    expect(mean.members).toHaveLength(3);
    expect(mean.spread[0]).toMatchObject({ label: 'pH in water', min: 6.2, max: 6.8, n: 3 });
    expect((await refusal(correctSample(db, ines, mean.id, 1, mean.sample))).message).toMatch(
      /worked out of its samples/u,
    );
  });
  it('follow a correction of one of them; its old figures stay in its history', async () => {
    const mean = await desk(await readBy('kiln-field'));
    const one = await desk(mean.members.find((m) => m.label === 'K-2')?.id ?? '');
    const version = await correctSample(db, ines, one.id, one.version, {
      ...one.sample,
      phWater: 6.5,
    });
    expect((await planOf('kiln-field')).ground.phWater).toBe(6.4);
    const after = await desk(one.id);
    expect(after).toMatchObject({ version, author: 'Ines Calloway', sample: { phWater: 6.5 } });
    expect(after.earlier).toMatchObject([{ version: 1, phWater: 6.8 }]);
    // Two people at one sample: the second is told, nothing is lost.
    expect((await refusal(correctSample(db, ines, one.id, one.version, one.sample))).code).toBe(
      'conflict',
    );
    expect((await desk(one.id)).sample.phWater).toBe(6.5);
  });
  it('lose one that belongs to another field, and the season there reads it', async () => {
    const mean = await desk(await readBy('kiln-field'));
    const one = mean.members.find((m) => m.label === 'K-1')?.id ?? '';
    await moveSample(db, ines, one, 'rookery');
    expect((await planOf('kiln-field')).ground.phWater).toBe(6.5);
    expect((await desk(mean.id)).members).toHaveLength(2);
    expect(await readBy('rookery')).toBe(one);
    expect((await refusal(moveSample(db, ines, one, 'elsewhere'))).field).toBe('field');
  });
  it('are no mean any more when one is left; taken away, it comes back', async () => {
    const mean = await desk(await readBy('kiln-field'));
    const [a, b] = mean.members;
    await removeSample(db, ines, a?.id ?? '');
    expect(await sampleDesk(db, ines, mean.id)).toBeNull();
    expect(await readBy('kiln-field')).toBe(b?.id);
    const [gone] = await removedLines(db, ines, FARM);
    expect(gone).toMatchObject({ kind: 'sample' });
    await bringBack(db, ines, FARM, gone?.id ?? '');
    expect((await desk(await readBy('kiln-field'))).members).toHaveLength(2);
  });
});

describe('one sample', () => {
  it('tells the field of its ground, which takes it over when told to', async () => {
    const id = await readBy('rookery');
    const offers = (await desk(id)).offers;
    expect(offers.map((o) => o.column)).toContain('clayPct');
    await takeOver(db, ines, id, 'clayPct');
    expect((await planOf('rookery')).field.clayPct).toBe(22);
    expect((await desk(id)).offers.map((o) => o.column)).not.toContain('clayPct');
    expect((await refusal(takeOver(db, ines, id, 'clayPct'))).code).toBe('unknown_id');
  });
  it('keeps its history also where it is changed at Ground', async () => {
    const stored = (await deskOf(db, ines, 'rookery', null))!.stored;
    const { plan, seasonId } = stored;
    const changed = { ...plan, ground: { ...plan.ground, phWater: 6.9 } };
    expect(await saveEdit(db, ines, seasonId, plan, changed)).toMatchObject({ ok: true });
    const after = await desk(plan.reads.soil?.id ?? '');
    expect(after.sample.phWater).toBe(6.9);
    expect(after.earlier[0]).toMatchObject({ phWater: 6.2 });
  });
  it('refuses what cannot be, and who may not', async () => {
    const one = await desk(await readBy('rookery'));
    const put = (part: object) =>
      refusal(correctSample(db, ines, one.id, one.version, { ...one.sample, ...part }));
    expect((await put({ phWater: 66 })).field).toBe('phWater');
    expect((await put({ date: '2031-01-01' })).field).toBe('date');
    expect((await put({ depthFromCm: 30, depthCm: 20 })).field).toBe('depthCm');
    await expect(removeSample(db, odo, one.id)).rejects.toThrow(NotAllowed);
    await expect(sampleDesk(db, { id: 'wanda-ostrow', name: 'W' }, one.id)).rejects.toThrow(
      NotAllowed,
    );
    expect(await sampleDesk(db, ines, 'nowhere')).toBeNull();
  });
  it('goes with the farm file, history, place and waiting rows and all', async () => {
    await bring(['Field,Sample,Sampled,Depth (cm),pH H2O', 'Rookery,R-9,2027-02-21,0-20,66']).catch(
      () => undefined,
    );
    const { text } = await exportFarm(db, ines, FARM);
    const id = await importFarm(db, ines, text, 'Twin');
    const again = JSON.parse((await exportFarm(db, ines, id)).text) as { farm: { name: string } };
    const first = JSON.parse(text) as { farm: { name: string } };
    expect(again).toEqual({ ...first, farm: { ...first.farm, name: 'Twin' } });
  });
  it('stands in a list by pages, found by its field', async () => {
    const asked = { offset: 0, limit: 2, search: '' };
    const page = await samplesOverview(db, ines, asked);
    expect(page.samples).toHaveLength(2);
    expect(page.found).toBeGreaterThan(5);
    const rookery = await samplesOverview(db, ines, { ...asked, limit: 50, search: 'ROOKE' });
    expect(new Set(rookery.samples.map((s) => s.fieldName))).toEqual(new Set(['Rookery']));
    expect((await samplesOverview(db, ines, { ...asked, search: '%' })).found).toBe(0);
  });
});
