import { strFromU8, unzipSync } from 'fflate';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { importLibrary, tableOf } from './library';
import { farmOpenTables, farmPackage, libraryPackage, openCsv, openTableOf } from './openTables';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const wanda = { id: 'wanda-ostrow', name: 'Wanda Ostrow' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());

interface Descriptor {
  licenses?: unknown[];
  resources: {
    name: string;
    path: string;
    schema: { fields: { name: string; type: string; unit?: string }[]; primaryKey: string[] };
  }[];
}
const unpack = (bytes: Uint8Array) => {
  const files = Object.fromEntries(
    Object.entries(unzipSync(bytes)).map(([n, b]) => [n, strFromU8(b)]),
  );
  return { files, about: JSON.parse(files['datapackage.json'] ?? '') as Descriptor };
};
const records = (csv: string) => parse(csv, { columns: true }) as Record<string, string>[];

describe('a farm as tables', () => {
  it('has every record once, each cell of the type that its description gives', async () => {
    const found = (await farmOpenTables(db, ines, 'tansy-hollow'))!;
    const { files, about } = unpack(farmPackage(found));
    for (const { path, schema } of about.resources) {
      const rows = records(files[path] ?? '');
      const keys = rows.map((r) => schema.primaryKey.map((k) => r[k]).join('|'));
      expect([path, new Set(keys).size]).toEqual([path, rows.length]);
      for (const r of rows)
        for (const f of schema.fields) {
          const v = r[f.name] ?? '';
          if (v === '') continue;
          const fits = {
            number: /^-?\d+(\.\d+)?(e-?\d+)?$/u,
            integer: /^-?\d+$/u,
            date: /^\d{4}-\d{2}-\d{2}$/u,
            boolean: /^(true|false)$/u,
            string: /./u,
          }[f.type];
          expect([path, f.name, v, fits?.test(v)]).toEqual([path, f.name, v, true]);
        }
    }
    expect(about.resources.map((r) => r.name)).toEqual(found.tables.map((t) => t.name));
    expect(JSON.parse(files['fields.geojson'] ?? '')).toMatchObject({
      type: 'FeatureCollection',
      features: { length: 8 },
    });
  });
  it('writes nothing where nothing is known, never 0', async () => {
    const found = (await farmOpenTables(db, ines, 'tansy-hollow'))!;
    const seasons = records(openCsv(openTableOf(found, 'seasons')));
    const empty = seasons.find((s) => s.field === 'Terrace Short' && s.season === '2026/27');
    expect(empty).toMatchObject({ crop_key: '', yield_goal_t_ha: '', harvested_t_ha: '' });
  });
  it('is for who may see the farm, and has no other table', async () => {
    await expect(farmOpenTables(db, wanda, 'tansy-hollow')).rejects.toThrow(NotAllowed);
    expect(await farmOpenTables(db, ines, 'nowhere')).toBeNull();
    const found = (await farmOpenTables(db, ines, 'tansy-hollow'))!;
    expect(() => openTableOf(found, 'people')).toThrow(Refusal);
  });
});

describe('the library as a data package', () => {
  it('has units and terms, and each table comes back in unchanged', async () => {
    const { files, about } = unpack(await libraryPackage(db, ines, 'tansy-hollow'));
    expect(about.licenses).toHaveLength(1);
    const crops = about.resources.find((r) => r.name === 'crops');
    expect(crops?.schema.fields).toContainEqual({
      name: 'nReqKgT',
      type: 'number',
      title: 'N required',
      unit: 'kg/t',
    });
    for (const { name, path } of about.resources)
      expect(
        await importLibrary(
          db,
          ines,
          'tansy-hollow',
          tableOf(name),
          new TextEncoder().encode(files[path] ?? ''),
          'brought back',
        ),
      ).toMatchObject({ changed: 0, problems: [] });
  });
});
