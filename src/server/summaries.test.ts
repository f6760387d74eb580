import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { bookOf } from '@/core/book/book';
import { farmTotals, sumRows } from '@/core/farm/farmTotals';
import { fieldSummary } from '@/core/farm/fieldSummary';
import { farmFieldRow } from '@/core/farm/wholeFarm';
import type { Db } from '@/data/client';
import { fields, fieldSeasons, fieldSummaries } from '@/data/schema';
import {
  freshnessOf,
  putSummaries,
  staleFields,
  summariesOf,
  type FieldState,
} from '@/data/summaries';
import { demoDatabase } from '@/data/testDatabase';
import { storesNamed } from './farm';
import { removeField } from './drawer';
import { createFields } from './ownFields';
import { fieldsAsked, pageOf } from './paging';
import { decide, deskOf, farmPlans, propose, saveEdit } from './plans';
import { farmFreshness, farmList, fieldList, foundFields, renewFarm, wholeFarm } from './summaries';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
const FARM = 'tansy-hollow';
const ALL = { offset: 0, limit: 50, search: '' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const staleNow = async () => {
  const { rows } = (await db.execute<{ field_id: string }>(
    sql`select field_id from field_summaries where reckoned is distinct from touched order by 1`,
  )) as unknown as { rows: { field_id: string }[] };
  return rows.map((r) => r.field_id);
};
const renewed = async () => {
  for (const { id } of (await fieldList(db, INES, ALL)).farms) await renewFarm(db, id);
  expect(await staleNow()).toEqual([]);
};

describe('what lists show', () => {
  it('is what each field’s own plan says, and so are the sums', async () => {
    const farm = await farmList(db, INES, FARM, ALL);
    const plans = (await farmPlans(db, INES, FARM)) ?? [];
    expect(farm?.list.rows.map((r) => r.summary)).toEqual(
      plans.map((f) => JSON.parse(JSON.stringify(fieldSummary(bookOf(f.plan.farm.library), f)))),
    );
    const rows = plans.map((f) => farmFieldRow(bookOf(f.plan.farm.library), f));
    expect(farm?.sums).toEqual(JSON.parse(JSON.stringify(sumRows(rows))));
    const file = await wholeFarm(db, INES, FARM);
    if (!farm || !file) throw new Error('no farm');
    expect(file.totals).toEqual(farmTotals(sumRows(rows), storesNamed(farm.desk), farm.desk.terms));
    expect(file.rows.map((r) => r.name)).toEqual(farm.list.rows.map((r) => r.name));
  });
  it('goes by pages that miss and repeat no field, and by name', async () => {
    const every = (await fieldList(db, INES, ALL)).rows.map((r) => r.fieldId);
    const paged = [];
    for (let offset = 0; offset < every.length; offset += 4)
      paged.push(...(await fieldList(db, INES, { offset, limit: 4, search: '' })).rows);
    expect(paged.map((r) => r.fieldId)).toEqual(every);
    expect(await fieldList(db, INES, { ...ALL, search: 'low fl' })).toMatchObject({
      found: 1,
      rows: [{ fieldId: 'low-fleet' }],
    });
    expect((await fieldList(db, INES, { ...ALL, search: '%' })).rows).toEqual([]);
    expect(pageOf({ page: '3', q: ' x ' })).toEqual({ offset: 100, limit: 50, search: 'x' });
    expect(pageOf({ page: '-1', q: ['a', 'b'] })).toEqual({ offset: 0, limit: 50, search: '' });
  });
  it('is narrowed to a state, by crop, and put in order', async () => {
    const all = (await fieldList(db, INES, ALL)).rows;
    const only = async (state: FieldState) =>
      (await fieldList(db, INES, { ...ALL, state })).rows.map((r) => r.fieldId);
    const ids = (keep: (r: (typeof all)[number]) => boolean) =>
      all.filter(keep).map((r) => r.fieldId);
    expect(await only('stopped')).toEqual(ids((r) => (r.summary?.stops ?? 0) > 0));
    expect(await only('no_crop')).toEqual(ids((r) => r.summary?.cropName == null));
    expect(await only('not_proposed')).toEqual(ids((r) => r.version === null));
    const beet = await fieldList(db, INES, { ...ALL, search: 'BEET' });
    expect(new Set(beet.rows.map((r) => r.summary?.cropName))).toEqual(
      new Set(['Sugar beet (roots)']),
    );
    expect(beet.found).toBe(beet.rows.length);
    const most = (await fieldList(db, INES, { ...ALL, sort: 'n' }, FARM)).rows.map(
      (r) => r.summary?.stillToApply ?? -1,
    );
    expect(most).toEqual(most.toSorted((a, b) => b - a));
    expect(fieldsAsked({ state: 'agreed', sort: 'name', farm: 'x' })).toMatchObject({
      state: 'agreed',
      sort: 'name',
      farm: 'x',
    });
    expect(fieldsAsked({ state: 'nonsense', sort: '1' })).toMatchObject({
      state: null,
      sort: 'list',
      farm: null,
    });
  });
  it('has numbers in names as numbers', async () => {
    await createFields(db, INES, {
      farmId: FARM,
      fields: ['Strip 10', 'Strip 9', 'Strip 9a', 'Strip 100', 'strip 1'].map((name) => ({
        name,
        areaHa: 1,
        soilTextureId: 'loam',
      })),
    });
    const names = (await fieldList(db, INES, { ...ALL, search: 'strip', sort: 'name' }, FARM)).rows;
    expect(names.map((r) => r.name)).toEqual([
      'strip 1',
      'Strip 9',
      'Strip 9a',
      'Strip 10',
      'Strip 100',
    ]);
    expect((await foundFields(db, INES, 'strip tansy')).fields.map((f) => f.name)).toEqual(
      names.map((r) => r.name),
    );
    for (const r of names) await removeField(db, INES, r.fieldId);
  });
  it('says whose turn it is, and what was changed since it was agreed', async () => {
    const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
    const line = async () =>
      (await fieldList(db, INES, { ...ALL, search: 'Rookery' })).rows[0]?.version;
    const { stored } = (await deskOf(db, INES, 'rookery', null))!;
    await propose(db, INES, stored.seasonId);
    const waits = await fieldList(db, INES, { ...ALL, state: 'to_answer' });
    expect(waits.rows.map((r) => r.fieldId)).toContain('rookery');
    expect(waits.farms.find((f) => f.id === FARM)?.answers).toEqual({
      farmers: ['Odo Merrick'],
      advisors: ['Ines Calloway'],
    });
    const [version] = (await deskOf(db, INES, 'rookery', null))!.versions;
    await decide(db, odo, version?.id ?? '', true, '');
    expect(await line()).toMatchObject({ status: 'agreed', changed: false });
    const { plan } = stored;
    const goal = (plan.season.yieldGoalTHa ?? 1) + 1;
    await saveEdit(db, INES, stored.seasonId, plan, {
      ...plan,
      season: { ...plan.season, yieldGoalTHa: goal },
    });
    expect(await line()).toMatchObject({ status: 'agreed', changed: true });
    expect(
      (await fieldList(db, INES, { ...ALL, state: 'changed' })).rows.map((r) => r.fieldId),
    ).toContain('rookery');
  });
  it('is nobody else’s to see', async () => {
    const wanda = { id: 'nobody', name: 'Nobody' };
    expect(await farmFreshness(db, wanda, FARM)).toBeNull();
    expect(await wholeFarm(db, wanda, FARM)).toBeNull();
    expect((await fieldList(db, wanda, ALL, FARM)).rows).toEqual([]);
  });
});

describe('a write makes stale what rests on it, by whichever door it came', () => {
  const of = (table: string) => `in season low-fleet-2026-27: ${table}`;
  it.each([
    [of('season'), `update field_seasons set yield_goal_t_ha = 61 where id = 'low-fleet-2026-27'`],
    [of('field'), `update fields set om_pct = 3.3 where id = 'low-fleet'`],
    [
      of('dressing'),
      `insert into organic_applications select * from (select (jsonb_populate_record(null::organic_applications, to_jsonb(o) || '{"id": "more", "season_id": "low-fleet-2026-27"}')).* from organic_applications o limit 1) x`,
    ],
    [of('dressing gone'), `delete from organic_applications where id = 'more'`],
    [
      of('pass'),
      `insert into fertiliser_passes (id, season_id, position, date, product_id, product_kg_ha, placement_id, status) values ('p', 'low-fleet-2026-27', 9, '2027-03-01', 'can_27', 100, 'broadcast', 'planned')`,
    ],
    [of('pass gone'), `delete from fertiliser_passes where id = 'p'`],
    [of('soil sample'), `update soil_samples set ph_water = 6.1 where field_id = 'low-fleet'`],
    [
      of('soil result'),
      `update soil_results set value = value + 1 where sample_id in (select id from soil_samples where field_id = 'low-fleet')`,
    ],
    [
      of('nitrate'),
      `insert into nitrate_profiles (id, field_id, layers) values ('n', 'low-fleet', '[]')`,
    ],
    [
      of('leaf'),
      `insert into tissue_samples (id, field_id, crop_key, date, part, bbch, washed, spray_elements, role) values ('t', 'low-fleet', 'pear', '2027-06-01', 'leaf', 30, 'no', '[]', 'survey')`,
    ],
    [of('leaf result'), `insert into tissue_results values ('t', 'N', '2.1', 'pct')`],
    [of('leaf gone'), `delete from tissue_samples where id = 't'`],
    [of('previous crop'), `delete from previous_crops where season_id = 'low-fleet-2026-27'`],
    [
      of('new season'),
      `insert into field_seasons select (jsonb_populate_record(null::field_seasons, to_jsonb(s) || '{"id": "next", "label": "2027/28", "start_date": "2027-10-01"}')).* from field_seasons s where id = 'low-fleet-2026-27'`,
    ],
    [of('season gone'), `delete from field_seasons where id = 'next'`],
  ])('%s', async (_, write) => {
    await renewed();
    const result = (await db.execute(sql.raw(write))) as unknown as { affectedRows: number };
    expect(await staleNow()).toEqual(result.affectedRows > 0 ? ['low-fleet'] : []);
  });
  it('a farm’s price, and a value of its own: every field of that farm, and no other', async () => {
    const own = (await farmPlans(db, INES, FARM))?.map((f) => f.fieldId).toSorted();
    for (const write of [
      `update farms set n_price_per_kg = 9 where id = '${FARM}'`,
      `insert into library_changes values ('${FARM}', 'crops', 'winter_wheat', 'winter_wheat', '{}', 'x', '2027-01-01', 'a test')`,
      `delete from library_changes where why = 'a test'`,
    ]) {
      await renewed();
      await db.execute(sql.raw(write));
      expect(await staleNow()).toEqual(own);
    }
    await db.execute(sql`update farms set n_price_per_kg = 1.2 where id = ${FARM}`);
  });
});

describe('a summary is of now, or it is reckoned again', () => {
  it('what is written while it is reckoned leaves it stale', async () => {
    await renewed();
    const day = { day: '2027-02-26', program: 'source' };
    await db.update(fields).set({ omPct: 2.9 }).where(eq(fields.id, 'low-fleet'));
    const [stale] = await staleFields(db, FARM, { day: await reckonedDay(), program: 'source' }, 9);
    if (!stale) throw new Error('not stale');
    await db.update(fields).set({ omPct: 3.1 }).where(eq(fields.id, 'low-fleet'));
    await putSummaries(db, [{ ...stale, seasonId: 'low-fleet-2026-27', document: null }], day);
    expect(await staleNow()).toEqual(['low-fleet']);
    const listed = (await fieldList(db, INES, ALL, FARM)).rows.find(
      (r) => r.fieldId === 'low-fleet',
    );
    expect(listed?.summary).not.toBeNull();
    // An older one that comes late does not replace it.
    await putSummaries(db, [{ ...stale, seasonId: null, document: null }], day);
    expect((await summariesOf(db, FARM)).some((s) => s.fieldId === 'low-fleet')).toBe(true);
  });
  const reckonedDay = async () =>
    (await db.select().from(fieldSummaries).where(eq(fieldSummaries.fieldId, 'steep-bank')))[0]
      ?.reckonedOn ??
    (await db.select().from(fieldSummaries))[0]?.reckonedOn ??
    '';
  it('another day and another program make all of them stale', async () => {
    await renewed();
    const day = await reckonedDay();
    const fresh = async (of: string, program: string) =>
      (await freshnessOf(db, FARM, { day: of, program })).fresh;
    expect(await fresh(day, 'source')).toBeGreaterThan(5);
    expect(await fresh('2031-01-01', 'source')).toBe(0);
    expect(await fresh(day, 'another')).toBe(0);
    vi.stubEnv('FURROW_PROGRAM', 'another');
    await renewFarm(db, FARM);
    expect(await fresh(day, 'another')).toBe((await farmPlans(db, INES, FARM))?.length);
    vi.unstubAllEnvs();
  });
  it('a plan that can’t be reckoned costs only its own line', async () => {
    await db.execute(sql`update field_seasons set struck = '5' where id = 'low-fleet-2026-27'`);
    const told = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const farm = await farmList(db, INES, FARM, ALL);
    expect(farm?.list.rows.find((r) => r.fieldId === 'low-fleet')?.summary).toBeNull();
    expect(farm?.list.rows.filter((r) => r.summary).length).toBe((farm?.list.found ?? 0) - 1);
    expect(farm?.sums?.fields).toBe((farm?.list.found ?? 0) - 1);
    expect(told).toHaveBeenCalledOnce();
    told.mockRestore();
    await db
      .update(fieldSeasons)
      .set({ struck: [] })
      .where(eq(fieldSeasons.id, 'low-fleet-2026-27'));
    expect((await farmList(db, INES, FARM, ALL))?.sums?.fields).toBe(farm?.list.found);
  });
});
