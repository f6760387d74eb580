import fs from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { expect, it } from 'vitest';
import { planSchema } from '../core/document/document';
import type { Db } from './client';
import * as schema from './schema';
import { loadPlan } from './seasons';

const apply = async (client: PGlite, name: string): Promise<void> => {
  for (const part of fs.readFileSync(`drizzle/${name}`, 'utf8').split('--> statement-breakpoint'))
    await client.exec(part);
};

it('a farm of version 3, as it lay in a data directory, comes up as plans of today', async () => {
  const client = await PGlite.create();
  const files = fs
    .readdirSync('drizzle')
    .filter((f) => f.endsWith('.sql'))
    .sort();
  for (const f of files.filter((x) => x < '0003')) await apply(client, f);
  await client.exec(`
    insert into farms (id, name, place, latitude_deg, climate_id, closed_periods, n_price_per_kg) values ('f', 'Old farm', '', 52, 'maritime_cool_52n', '[]', 1.2);
    insert into fields (id, farm_id, name, area_ha, soil_texture_id, tenure, certification) values ('x', 'f', 'Old field', 3, 'loam', 'owned', 'none');
    insert into field_seasons (id, field_id, label, start_date, yield_history_t_ha, straw_removed_frac, eaten_raw, touches_soil, winter_drainage_mm, spring_drainage_mm, moisture_class, manure_history, struck, irrigation, crop_key, yield_goal_t_ha)
      values ('s', 'x', '2026/27', '2026-10-01', '[]', 0, false, false, 150, 30, 'rainfed_normal', 'yes', '[]', '{"mm": 200, "no3nMgL": 9, "shareBeforeRunDown": 1}', 'sugar_beet', 60);
    insert into organic_applications (id, season_id, position, date, material_key, status, crop_year, rate, rate_unit, method_key, lab, coverings, soil, cover)
      values ('o', 's', 0, '2027-03-05', 'sheep_bedded', 'planned', 1, 12, 't_ha', 'solid_broadcast', '{"date": null, "totalNKgT": 8, "nh4NKgT": 1.6, "no3NKgT": null, "pKgT": 1.5, "kKgT": 9, "sKgT": null, "dmPct": 31, "cToN": null}', '[]', 'moist', 'bare');`);
  await client.exec(`
    update field_seasons set nitrate_sample_date = '2027-02-12';
    insert into nitrate_layers (season_id, position, top_cm, bottom_cm, no3n_mg_kg) values ('s', 0, 0, 30, 8), ('s', 1, 30, 60, 5);`);
  for (const f of files.filter((x) => x >= '0003')) await apply(client, f);
  const stored = await loadPlan(drizzle(client, { schema }) as unknown as Db, 's', '2027-02-26');
  expect(planSchema.safeParse(stored?.plan).error?.issues ?? []).toEqual([]);
  expect(stored?.plan).toMatchObject({
    farm: { name: 'Old farm', rawContactDays: 120 },
    field: { fixes: 'none', near: [] },
    organics: [
      { lab: { totalNKgT: 8, report: null }, acidified: false, materialPh: null, areaFrac: 1 },
    ],
    reads: { soil: null, nitrate: { id: 'nitrate-s', because: 'entered' } },
    ground: {
      nitrateSampleDate: '2027-02-12',
      nitrateLayers: [
        { topCm: 0, no3nMgKg: 8 },
        { topCm: 30, no3nMgKg: 5 },
      ],
    },
    irrigation: { kMgL: null },
  });
  expect(
    (
      await client.query<{ irrigation: object; lab: object }>(
        "select irrigation, document -> 'lab' as lab from field_seasons, organic_applications",
      )
    ).rows[0],
  ).toMatchObject({ irrigation: { so4sMgL: null }, lab: { earlier: null } });
  await client.close();
});

it('what a farm of version 4 kept as JSON speaks the words of today', async () => {
  const client = await PGlite.create();
  const files = fs
    .readdirSync('drizzle')
    .filter((f) => f.endsWith('.sql'))
    .sort();
  for (const f of files.filter((x) => x < '0004')) await apply(client, f);
  await client.exec(`
    insert into farms (id, name, place, latitude_deg, climate_id, closed_periods, n_price_per_kg, terms) values ('f', 'Old farm', '', 52, 'maritime_cool_52n', '[]', 1.2, '{"pPricePerKg": 3.1}'), ('g', 'Bare farm', '', 52, 'maritime_cool_52n', '[]', 1.2, null);
    insert into stores (id, farm_id, name, material_key, labs) values ('a', 'f', 'Heap', 'sheep_bedded', '[{"totalNKgT": 8, "report": {"unit": "pct"}}, {"totalNKgT": 7, "report": null}]'), ('b', 'f', 'Pit', 'dairy_slurry_thin', '[]');`);
  for (const f of files.filter((x) => x >= '0004')) await apply(client, f);
  expect(
    (await client.query<{ terms: object }>('select terms from farms order by id')).rows,
  ).toEqual([
    { terms: expect.objectContaining({ pPricePerKg: 3.1, ammoniaSchool: 'curve' }) },
    { terms: null },
  ]);
  expect(
    (await client.query<{ labs: object }>('select labs from stores order by id')).rows,
  ).toEqual([
    {
      labs: [
        {
          totalNKgT: 8,
          report: {
            unit: 'pct',
            totalAs: 'total',
            nh4As: 'n',
            no3As: 'n',
            densityKgM3: null,
            below: [],
          },
        },
        { totalNKgT: 7, report: null },
      ],
    },
    { labs: [] },
  ]);
  await client.close();
});
