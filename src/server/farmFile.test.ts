import { eq } from 'drizzle-orm';
import fs from 'node:fs';
import { describe, expect, it, beforeAll, afterAll } from 'vitest';
import { DEFAULT_TERMS } from '@/core/document/farmTerms';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { farms, type StoredTerms } from '@/data/schema';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { camelKeys } from '@/core/quantity/names';
import schema4 from '@/core/document/versions/4.schema.json';
import { exportFarm, FARM_VERSION, importFarm } from './farmFile';
import { propose } from './plans';
import { farmsAllowed } from './authorise';
import { fieldList } from './summaries';
import { assessedFields } from './testFields';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
const ODO = { id: 'odo-merrick', name: 'Odo Merrick' };
const refused = async (work: Promise<unknown>) =>
  work.then(
    () => null,
    (e: unknown) => (e instanceof Refusal ? e.detail : Promise.reject(e as Error)),
  );

describe('a farm as a file', () => {
  let db: Db;
  let close: () => Promise<void>;
  beforeAll(async () => {
    ({ db, close } = await demoDatabase());
    await propose(db, INES, 'low-fleet-2026-27');
  });
  afterAll(() => close());
  it.each(['tansy-hollow', 'kestrel-terrace', 'quern-orchard'])(
    '%s comes back equal, with figures, samples, versions and all',
    async (farmId) => {
      const first = await exportFarm(db, INES, farmId);
      const copy = await importFarm(db, INES, first.text, `${first.name} copy`);
      const second = await exportFarm(db, INES, copy);
      expect(JSON.parse(second.text)).toEqual({
        ...JSON.parse(first.text),
        farm: { ...JSON.parse(first.text).farm, name: `${first.name} copy` },
      });
      const listed = async (id: string) =>
        (await fieldList(db, INES, { offset: 0, limit: 50, search: '' }, id)).rows.map(
          ({ summary, version }) => ({
            ...summary,
            fieldId: '',
            glance: summary?.glance?.strata.map(({ id: _, ...s }) => s),
            manures: summary?.manures.map((m) => ({ ...m, storeId: null })),
            version: version?.status,
          }),
        );
      expect(await listed(copy)).toEqual(await listed(farmId));
      const all = await assessedFields(db, INES);
      const sums = (id: string) => all.filter((f) => f.farmId === id).map((f) => f.assessment.sums);
      expect(sums(copy)).toEqual(sums(farmId));
    },
  );
  it('holds no id of the database and no other farm', async () => {
    const { text } = await exportFarm(db, INES, 'tansy-hollow');
    expect(text).not.toMatch(/low-fleet"|kestrel|quern/);
    expect(text).toContain('"proposedBy": "Ines Calloway"');
  });
  it.each([1, 2, 3, 4, 5, 6, 7])(
    'of version %i, as it was written then, is read and gives the same figures',
    async (version) => {
      const text = fs.readFileSync(
        new URL(`./farmFileVersions/${version}.farm.json`, import.meta.url),
        'utf8',
      );
      const copy = await importFarm(db, INES, text, `Kestrel of version ${version}`);
      const all = await assessedFields(db, INES);
      const sums = (id: string) => all.filter((f) => f.farmId === id).map((f) => f.assessment.sums);
      expect(sums(copy)).toEqual(sums('kestrel-terrace'));
    },
  );
  it('whose dressings are of an older version of the plan goes up the plan’s own steps', async () => {
    const file = JSON.parse((await exportFarm(db, INES, 'kestrel-terrace')).text);
    file.planVersion = 4;
    const of4 = file.rows.organicApplications as { document: Record<string, unknown> }[];
    const words = Object.keys(camelKeys(schema4.properties.organics.items.properties) as object);
    for (const { document } of of4) {
      expect(document.lab).toBeNull();
      expect(document.records).toBeNull();
      for (const k of Object.keys(document)) if (!words.includes(k)) delete document[k];
      expect(document).not.toHaveProperty('areaFrac');
    }
    const copy = await importFarm(db, INES, JSON.stringify(file), 'Kestrel with dressings of 4');
    const all = await assessedFields(db, INES);
    const sums = (id: string) => all.filter((f) => f.farmId === id).map((f) => f.assessment.sums);
    expect(sums(copy)).toEqual(sums('kestrel-terrace'));
    (of4[0] as { document: Record<string, unknown> }).document.rate = -1;
    await expect(importFarm(db, INES, JSON.stringify(file), 'Faulty')).rejects.toMatchObject({
      detail: { field: 'organics[0].rate', value: -1, allowed: '0 or more' },
    });
    file.planVersion = 0;
    await expect(importFarm(db, INES, JSON.stringify(file), 'Faulty')).rejects.toThrow(
      'no version 0 of the plan',
    );
  });
  it('of an older version is checked as what it says it is', async () => {
    const old = JSON.parse(
      fs.readFileSync(new URL('./farmFileVersions/2.farm.json', import.meta.url), 'utf8'),
    );
    old.rows.fields[0].version = 1;
    expect(await refused(importFarm(db, INES, JSON.stringify(old), 'Too new'))).toMatchObject({
      code: 'unknown_field',
      field: 'rows.fields[0].version',
    });
  });
  it('of a data directory that an older program wrote holds today’s terms, and comes back', async () => {
    const of = eq(farms.id, 'quern-orchard');
    const [before] = await db.select().from(farms).where(of);
    const { library: _, ownLeaf: __, currency: ___, climate: ____, ...older } = DEFAULT_TERMS;
    await db
      .update(farms)
      .set({ terms: older as StoredTerms })
      .where(of);
    const { text } = await exportFarm(db, INES, 'quern-orchard');
    const id = await importFarm(db, INES, text, 'Quern of before');
    const [copy] = await db.select().from(farms).where(eq(farms.id, id));
    expect(copy?.terms).toMatchObject({
      ...older,
      currency: null,
      ownLeaf: { standards: [], norms: [], similar: [] },
    });
    await db
      .update(farms)
      .set({ terms: before?.terms ?? null })
      .where(of);
  });
  it('is for those who may see the farm', async () => {
    await expect(exportFarm(db, ODO, 'kestrel-terrace')).rejects.toThrow(NotAllowed);
  });
  it('a faulty file names field, value and range, and leaves nothing behind', async () => {
    const before = (await farmsAllowed(db, INES, 'read')).length;
    const good = JSON.parse((await exportFarm(db, INES, 'quern-orchard')).text);
    const broken = (change: (f: typeof good) => void) => {
      const f = structuredClone(good);
      change(f);
      return refused(importFarm(db, INES, JSON.stringify(f), 'Broken'));
    };
    expect(await refused(importFarm(db, INES, '{', null))).toMatchObject({ field: 'file' });
    expect(await refused(importFarm(db, INES, '{"format":"else"}', null))).toMatchObject({
      field: 'format',
    });
    expect(
      await broken((f) => {
        f.version = FARM_VERSION + 1;
      }),
    ).toMatchObject({ code: 'newer_version' });
    expect(
      await broken((f) => {
        f.rows.seasons[0].fieldId = 'fields-99999';
      }),
    ).toMatchObject({ field: 'rows.seasons[0].fieldId', value: 'fields-99999' });
    expect(
      await broken((f) => {
        f.rows.seasons[0].surprise = 1;
      }),
    ).toMatchObject({ code: 'unknown_field', field: 'rows.seasons[0].surprise' });
    expect(
      await broken((f) => {
        f.rows.soilSamples[0].phWater = 67;
      }),
    ).toMatchObject({ code: 'out_of_range', field: 'ground.phWater', value: 67 });
    expect(
      await broken((f) => {
        f.rows.organicApplications[0].document.rate = 4000;
      }),
    ).toMatchObject({ code: 'out_of_range', value: 4000 });
    expect(
      await broken((f) => {
        f.rows.stores[0].materialKey = 'dragon_dung';
      }),
    ).toMatchObject({ code: 'unknown_id', value: 'dragon_dung' });
    expect(
      await broken((f) => {
        f.rows.libraryChanges = [
          {
            table: 'crops',
            key: 'pear',
            like: 'pear',
            values: { nReqKgT: 5000 },
            by: 'x',
            on: '2027-01-01',
            why: 'a test',
          },
        ];
      }),
    ).toMatchObject({ code: 'out_of_range', field: 'nReqKgT' });
    expect(
      await broken((f) => {
        f.rows.libraryChanges = [
          {
            table: 'crops',
            key: 'a',
            like: 'b',
            values: {},
            by: 'x',
            on: '2027-01-01',
            why: 'a test',
          },
        ];
      }),
    ).toMatchObject({ code: 'unknown_id' });
    expect(
      await refused(importFarm(db, INES, JSON.stringify(good), 'Quern Orchard')),
    ).toMatchObject({
      field: 'name',
      value: 'Quern Orchard',
    });
    expect((await farmsAllowed(db, INES, 'read')).length).toBe(before);
  });
});
