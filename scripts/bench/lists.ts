import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { handleOf } from '../../src/data/client';
import { seed } from '../../src/data/seed';
import { at, ms } from './clock';
import { served } from './server';

/** Copies the demo's fields, with all that belongs to them, until a farm has so many. */
const copies = (fields: number): string => `
  create temp table pairs as
    select f.id as old, 'copy-' || n as fresh, n
    from generate_series(1, ${fields}) as n
    join (select id, row_number() over (order by id) as place from fields where farm_id = 'tansy-hollow') f
      on f.place = 1 + n % (select count(*) from fields where farm_id = 'tansy-hollow');
  insert into fields select (jsonb_populate_record(null::fields, to_jsonb(f) || jsonb_build_object('id', p.fresh, 'name', 'Field ' || p.n, 'position', p.n))).*
    from pairs p join fields f on f.id = p.old;
  create temp table seasons as
    select s.id as old, s.id || '-' || p.n as fresh, p.fresh as field from pairs p join field_seasons s on s.field_id = p.old;
  insert into field_seasons select (jsonb_populate_record(null::field_seasons, to_jsonb(s) || jsonb_build_object('id', x.fresh, 'field_id', x.field))).*
    from seasons x join field_seasons s on s.id = x.old;
  insert into organic_applications select (jsonb_populate_record(null::organic_applications, to_jsonb(o) || jsonb_build_object('season_id', x.fresh))).*
    from seasons x join organic_applications o on o.season_id = x.old;
  insert into fertiliser_passes select (jsonb_populate_record(null::fertiliser_passes, to_jsonb(o) || jsonb_build_object('season_id', x.fresh))).*
    from seasons x join fertiliser_passes o on o.season_id = x.old;
  vacuum analyze;`;

async function timesWith(fields: number): Promise<Record<string, number>> {
  const data = fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-bench-'));
  const handle = await handleOf(await PGlite.create(path.join(data, 'pg')));
  await seed(handle.db, 'demo');
  for (const statement of copies(fields)
    .split(';\n')
    .filter((s) => s.trim()))
    await handle.db.execute(statement);
  await handle.close();
  return served({ data }, async (url) => {
    const load = async (route: string) => (await fetch(url + route)).text();
    const start = performance.now();
    type Progress = { fields: number; fresh: number };
    for (;;) {
      const now = (await (
        await fetch(`${url}/farms/tansy-hollow/reckoning.json`)
      ).json()) as Progress;
      if (now.fields === now.fresh) break;
      await new Promise((r) => setTimeout(r, 200));
    }
    const renewed = performance.now() - start;
    const found: Record<string, number> = { renewed };
    for (const route of ['/', '/fields?farm=tansy-hollow']) {
      await load(route);
      await load(route);
      const times: number[] = [];
      for (let i = 0; i < 15; i++) {
        const t = performance.now();
        await load(route);
        times.push(performance.now() - t);
      }
      found[route] = at(
        times.toSorted((a, b) => a - b),
        0.5,
      );
    }
    return found;
  });
}

/**
 * Today and Fields with a hundred fields and with ten thousand: a page of them is read, not all.
 */
export async function lists(): Promise<void> {
  const [few, many] = [await timesWith(100), await timesWith(10_000)];
  console.log(
    `10,000 fields reckoned anew in the background                ${((many.renewed ?? 0) / 1000).toFixed(1)} s`,
  );
  for (const route of Object.keys(few).filter((r) => r !== 'renewed')) {
    const [a, b] = [few[route] ?? 0, many[route] ?? 0];
    console.log(
      `${route.padEnd(30)} with 100 fields ${ms(a)}, with 10,000 ${ms(b)}: ratio ${(b / a).toFixed(2)} (wanted: under 2)`,
    );
  }
}
