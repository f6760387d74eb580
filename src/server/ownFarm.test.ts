import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assess } from '@/core/assessment/assess';
import { bookOf } from '@/core/book/book';
import { zippedShapefile } from '@/core/ground/testShapefile';
import { Refusal } from '@/core/quantity/refusal';
import { handleOf, type Db } from '@/data/client';
import { fieldsOf } from '@/data/farms';
import { seed } from '@/data/seed';
import { NotAllowed } from './authorise';
import { bringOutlines, outlinesForFarm } from './bringOutlines';
import { bringBack, removedLines, removeField } from './drawer';
import { exportFarm, importFarm } from './farmFile';
import { createFarm, farmPlace, farmThatBegins, saveFarmPlace } from './ownFarm';
import { createFields, namedFields, renameField } from './ownFields';
import { farmMembers, removeMember, renameMember, saveMember } from './people';
import { deskOf, saveEdit } from './plans';

process.env.FURROW_TODAY = '2026-11-02';
const me = { id: 'me', name: 'Me' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  const handle = await handleOf(await PGlite.create());
  await seed(handle.db, 'own');
  ({ db, close } = handle);
});
afterAll(() => close());

const place = {
  place: 'Upper valley',
  latitudeDeg: -36.5,
  longitudeDeg: 148.2,
  climateId: 'southern_temperate_35s',
  climate: null,
  currency: 'AUD',
};
const farm = (over: object = {}) => ({
  ...place,
  name: 'Long Gully',
  self: { name: 'Tamsin Oduya', role: 'advisor' },
  other: { name: 'Bram Kettle', role: 'farmer' },
  ...over,
});
const refusal = async (work: Promise<unknown>) => {
  const e: unknown = await work.catch((x: unknown) => x);
  if (!(e instanceof Refusal)) throw e;
  return e.detail;
};
let farmId: string;

describe('one’s own farm', () => {
  it('begins with the farm of an empty program, once', async () => {
    expect(await farmThatBegins(db, me)).toBe('my-farm');
    expect((await refusal(createFarm(db, me, farm({ latitudeDeg: null }), 'my-farm'))).field).toBe(
      'latitudeDeg',
    );
    expect((await refusal(createFarm(db, me, farm({ climateId: 'venus' }), 'my-farm'))).field).toBe(
      'climate',
    );
    expect(
      (
        await refusal(
          createFarm(db, me, farm({ self: { name: 'A', role: 'farmer' }, other: null }), 'my-farm'),
        )
      ).message,
    ).toMatch(/Nobody could plan/u);
    // What was refused left nothing behind.
    expect(await farmThatBegins(db, me)).toBe('my-farm');
    farmId = await createFarm(db, me, farm(), 'my-farm');
    expect(farmId).toBe('my-farm');
    expect(await farmThatBegins(db, me)).toBeNull();
    expect(await farmMembers(db, me, farmId)).toEqual([
      { id: expect.any(String), name: 'Bram Kettle', role: 'farmer' },
      { id: 'me', name: 'Tamsin Oduya', role: 'advisor' },
    ]);
  });
  it('takes fields as rows, in a season of its hemisphere, and reckons with its climate', async () => {
    const [id = ''] = await createFields(db, me, {
      farmId,
      fields: [
        { name: 'Creek 10', areaHa: 12, soilTextureId: 'loam' },
        { name: 'Creek 2', areaHa: 8, soilTextureId: 'sandy_loam' },
      ],
    });
    const desk = await deskOf(db, me, id, null);
    expect(desk?.stored.plan).toMatchObject({
      farm: { currency: 'AUD', climate: null },
      field: { latitudeDeg: -36.5, climateId: 'southern_temperate_35s' },
      season: { label: '2026/27', startDate: '2026-04-01' },
    });
    expect(
      (
        await refusal(
          createFields(db, me, {
            farmId,
            fields: [
              { name: 'North', areaHa: 1, soilTextureId: 'loam' },
              { name: 'creek 10', areaHa: 1, soilTextureId: 'loam' },
            ],
          }),
        )
      ).field,
    ).toBe('fields[1].name');
    // All or none.
    expect((await namedFields(db, me, farmId)).map((f) => f.name)).toEqual(['Creek 10', 'Creek 2']);
  });
  it('own normals are what the season is reckoned with; back to the book is the book again', async () => {
    const [field] = await fieldsOf(db, [farmId]);
    const desk = await deskOf(db, me, field?.id ?? '', null);
    const plan = desk?.stored.plan as NonNullable<typeof desk>['stored']['plan'];
    const grown = {
      ...plan,
      field: { ...plan.field, omPct: 3 },
      season: {
        ...plan.season,
        cropKey: 'winter_wheat',
        yieldGoalTHa: 5,
        plantingDate: '2026-05-20',
        harvestDate: '2026-12-10',
      },
    };
    await saveEdit(db, me, desk?.stored.seasonId ?? '', plan, grown);
    const supply = async () => {
      const { plan: now } = (await deskOf(db, me, field?.id ?? '', null))!.stored;
      return assess(bookOf([]), now).lines.find((l) => l.id === 'om_mineralisation')?.n ?? 0;
    };
    const byBook = await supply();
    const warm = {
      name: 'Warm',
      months: Array.from({ length: 12 }, () => ({
        tMeanC: 24,
        tRangeC: null,
        rainMm: 60,
        et0Mm: null,
      })),
    };
    const version = (await farmPlace(db, me, farmId))?.version ?? 0;
    const next = await saveFarmPlace(db, me, farmId, { ...place, climate: warm, version });
    expect(await supply()).toBeGreaterThan(byBook);
    expect((await refusal(saveFarmPlace(db, me, farmId, { ...place, version }))).code).toBe(
      'conflict',
    );
    await saveFarmPlace(db, me, farmId, { ...place, version: next });
    expect(await supply()).toBe(byBook);
  });
  it('a field is renamed, taken away with all that is in it, and comes back as it was', async () => {
    const [field] = await fieldsOf(db, [farmId]);
    const id = field?.id ?? '';
    await renameField(db, me, id, 'Creek ten');
    expect((await refusal(renameField(db, me, id, 'CREEK 2'))).field).toBe('fields[0].name');
    const before = (await deskOf(db, me, id, null))?.stored;
    const file = await exportFarm(db, me, farmId);
    const removed = await removeField(db, me, id);
    expect((await namedFields(db, me, farmId)).map((f) => f.name)).toEqual(['Creek 2']);
    expect(await deskOf(db, me, id, null)).toBeNull();
    expect(await removedLines(db, me, farmId)).toMatchObject([
      { kind: 'field', name: 'Creek ten' },
    ]);
    await bringBack(db, me, farmId, removed);
    expect((await deskOf(db, me, id, null))?.stored).toEqual(before);
    expect((await exportFarm(db, me, farmId)).text).toBe(file.text);
    expect((await refusal(bringBack(db, me, farmId, removed))).message).toMatch(/already/u);
  });
  it('a field does not come back under a name that another has by now', async () => {
    const [id = ''] = await createFields(db, me, {
      farmId,
      fields: [{ name: 'Hill', areaHa: 3, soilTextureId: 'loam' }],
    });
    const removed = await removeField(db, me, id);
    await createFields(db, me, {
      farmId,
      fields: [{ name: 'Hill', areaHa: 4, soilTextureId: 'loam' }],
    });
    expect((await refusal(bringBack(db, me, farmId, removed))).field).toBe('fields[0].name');
    expect(await removedLines(db, me, farmId)).toHaveLength(1);
  });
  it('people are added, renamed and let go; somebody who plans stays', async () => {
    await saveMember(db, me, farmId, { name: 'Ola Pike', role: 'owner' });
    const ola = (await farmMembers(db, me, farmId)).find((m) => m.name === 'Ola Pike');
    await renameMember(db, me, farmId, ola?.id ?? '', 'Ola Pyke');
    expect((await refusal(renameMember(db, me, farmId, ola?.id ?? '', 'Bram Kettle'))).field).toBe(
      'name',
    );
    await removeMember(db, me, farmId, ola?.id ?? '');
    expect(
      (await refusal(saveMember(db, me, farmId, { name: 'Tamsin Oduya', role: 'farmer' }))).field,
    ).toBe('role');
    const bram = { id: (await farmMembers(db, me, farmId))[0]?.id ?? '', name: 'Bram Kettle' };
    await expect(saveMember(db, bram, farmId, { name: 'X', role: 'owner' })).rejects.toThrow(
      NotAllowed,
    );
  });
  it('a backup comes back where a farm of that name stands already', async () => {
    const { text } = await exportFarm(db, me, farmId);
    const id = await importFarm(db, me, text, null);
    expect((await farmPlace(db, me, id))?.place).toBe('Upper valley');
    expect((await namedFields(db, me, id)).map((f) => f.name)).toEqual(
      (await namedFields(db, me, farmId)).map((f) => f.name),
    );
  });
});

describe('twenty fields out of one Shapefile', () => {
  const PRJ =
    'GEOGCS["GCS_WGS_1984",DATUM["D_WGS_1984",SPHEROID["WGS_1984",6378137.0,298.257223563]],PRIMEM["Greenwich",0.0],UNIT["Degree",0.0174532925199433]]';
  const square = (i: number) => {
    const [x, y] = [148.2 + i * 0.01, -36.5];
    return [
      [x, y],
      [x + 0.004, y],
      [x + 0.004, y + 0.004],
      [x, y + 0.004],
      [x, y],
    ];
  };
  it('find their fields by name, make the others, and change no area unasked', async () => {
    const id = await createFarm(
      db,
      { id: 'me', name: 'Tamsin Oduya' },
      farm({ name: 'North Run' }),
    );
    await createFields(db, me, {
      farmId: id,
      fields: [
        { name: 'Paddock 1', areaHa: 16, soilTextureId: 'clay' },
        { name: 'Paddock 2', areaHa: 30, soilTextureId: 'clay' },
      ],
    });
    const shapes = Array.from({ length: 20 }, (_, i) => ({
      name: i === 0 ? 'PADDOCK-1' : `Paddock ${i + 1}`,
      rings: [square(i)],
    }));
    const asked = { crs: null, latitudeFirst: false };
    const file = await outlinesForFarm(db, me, id, zippedShapefile(shapes, PRJ), asked);
    expect(file.doubt).toBeNull();
    expect(file.outlines.map((o) => o.field?.name ?? null).slice(0, 3)).toEqual([
      'Paddock 1',
      'Paddock 2',
      null,
    ]);
    expect(file.outlines[1]?.differs).toBe(true);
    const picks = file.outlines.map((o) =>
      o.field
        ? { to: 'field', fieldId: o.field.id, outline: o.outline }
        : { to: 'new', name: o.name, soilTextureId: 'loam', outline: o.outline },
    );
    await expect(bringOutlines(db, me, id, [...picks, picks[0]])).rejects.toThrow(/Two outlines/u);
    expect(await bringOutlines(db, me, id, picks)).toEqual({ changed: 2, made: 18 });
    const fields = await namedFields(db, me, id);
    expect(fields).toHaveLength(20);
    expect(fields.every((f) => f.areaHa > 15 && f.areaHa < 17)).toBe(true);
  });
});
