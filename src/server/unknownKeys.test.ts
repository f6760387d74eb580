import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Plan } from '@/core/document/document';
import { writePlanFile } from '@/core/document/seasonFile';
import { Refusal } from '@/core/quantity/refusal';
import { bookOf } from '@/core/book/book';
import { figuresOf } from '@/core/views/figures';
import type { Db } from '@/data/client';
import { farms, fertiliserPasses, fields, fieldSeasons, organicApplications } from '@/data/schema';
import { loadPlan, type StoredPlan } from '@/data/seasons';
import { demoDatabase } from '@/data/testDatabase';
import { importFarm, exportFarm } from './farmFile';
import { overrideRow, resetRow } from './library';
import { importPlanFile, saveEdit } from './plans';
import { fieldList } from './summaries';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const SEASON = 'low-fleet-2026-27';
const load = async () => (await loadPlan(db, SEASON, '2027-02-26')) as StoredPlan;
const refused = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (e: unknown) => (e instanceof Refusal ? e.detail : Promise.reject(e as Error)),
  );
/**
 * Every page of the field is drawn: what is wrong stands in one line of its own, and the farm's
 * list goes on.
 */
async function drawn(field: string, value: string) {
  const { plan } = await load();
  const { a } = figuresOf(bookOf(plan.farm.library), plan, true);
  expect(a.problems.find((p) => p.field === field)).toMatchObject({
    code: 'unknown_id',
    value,
    message: expect.stringContaining(value) as string,
  });
  const { rows } = await fieldList(db, INES, { offset: 0, limit: 50, search: '' });
  expect(rows.length).toBeGreaterThan(10);
  expect(rows.filter((r) => r.summary === null)).toEqual([]);
  return a;
}

describe('a key that the book does not know, as it may stand in a data directory', () => {
  it('a product: its pass is left out, the others stay', async () => {
    const { plan } = await load();
    const of = eq(fertiliserPasses.seasonId, SEASON);
    await db.update(fertiliserPasses).set({ productId: 'dragon_salt' }).where(of);
    const a = await drawn('passes[0].product_id', 'dragon_salt');
    expect(a.supply.passes).toEqual([]);
    expect(a.lines.length).toBeGreaterThan(3);
    // The door that puts it right is open, and so is every other figure.
    const now = await load();
    const other = { ...now.plan, season: { ...now.plan.season, yieldGoalTHa: 66 } };
    expect(await saveEdit(db, INES, SEASON, now.plan, other)).toMatchObject({ ok: true });
    const repaired = { ...other, passes: plan.passes };
    expect(await saveEdit(db, INES, SEASON, other, repaired)).toMatchObject({ ok: true });
  });
  it('a material, a crop, a soil, a climate', async () => {
    const { plan } = await load();
    await db
      .update(organicApplications)
      .set({ materialKey: 'dragon_dung' })
      .where(eq(organicApplications.seasonId, SEASON));
    expect((await drawn('organics[0].material_key', 'dragon_dung')).organics).toEqual([]);
    await db.update(fieldSeasons).set({ cropKey: 'mandrake' }).where(eq(fieldSeasons.id, SEASON));
    expect((await drawn('season.crop_key', 'mandrake')).lines).toEqual([]);
    await db.update(fieldSeasons).set({ cropKey: 'sugar_beet' }).where(eq(fieldSeasons.id, SEASON));
    await db.update(fields).set({ soilTextureId: 'moon_dust' }).where(eq(fields.id, 'low-fleet'));
    expect((await drawn('field.soil_texture_id', 'moon_dust')).sums.n.requirement).toBe(0);
    await db
      .update(fields)
      .set({ soilTextureId: plan.field.soilTextureId })
      .where(eq(fields.id, 'low-fleet'));
    await db.update(farms).set({ climateId: 'venus' }).where(eq(farms.id, 'tansy-hollow'));
    await drawn('field.climate_id', 'venus');
    await db
      .update(farms)
      .set({ climateId: plan.field.climateId })
      .where(eq(farms.id, 'tansy-hollow'));
    const now = await load();
    await saveEdit(db, INES, SEASON, now.plan, { ...now.plan, organics: plan.organics });
  });
});

describe('comes in by no door', () => {
  it('not by an edit', async () => {
    const { plan } = await load();
    const bad: Plan = { ...plan, passes: plan.passes.map((p) => ({ ...p, productId: 'x_y' })) };
    expect(await refused(saveEdit(db, INES, SEASON, plan, bad))).toMatchObject({
      code: 'unknown_id',
      field: 'passes[0].product_id',
      value: 'x_y',
    });
  });
  it.each([
    ['season.crop_key', (p: Plan): Plan => ({ ...p, season: { ...p.season, cropKey: 'x_y' } })],
    [
      'field.soil_texture_id',
      (p: Plan): Plan => ({ ...p, field: { ...p.field, soilTextureId: 'x_y' } }),
    ],
    [
      'passes[0].product_id',
      (p: Plan): Plan => ({ ...p, passes: p.passes.map((x) => ({ ...x, productId: 'x_y' })) }),
    ],
  ])('not by a plan file: %s', async (field, change) => {
    const { plan, version } = await load();
    const text = writePlanFile(change(plan));
    expect(await refused(importPlanFile(db, INES, SEASON, text, version))).toMatchObject({
      field,
      value: 'x_y',
    });
    expect((await load()).version).toBe(version);
  });
  it('not by a farm file', async () => {
    const file = JSON.parse((await exportFarm(db, INES, 'quern-orchard')).text);
    file.farm.climateId = 'venus';
    expect(await refused(importFarm(db, INES, JSON.stringify(file), 'Venus'))).toMatchObject({
      code: 'unknown_id',
      value: 'venus',
    });
  });
});

describe('a row of the farm’s own that is in use', () => {
  it('is not taken back in silence; the row it was made like can take its place', async () => {
    await overrideRow(db, INES, 'tansy-hollow', {
      table: 'fertilisers',
      key: 'our_can',
      like: 'can_27',
      values: { nTotalPct: 26 },
      why: 'the label of this year',
    });
    const { plan } = await load();
    const passes = plan.passes.map((p) => ({ ...p, productId: 'our_can' }));
    await saveEdit(db, INES, SEASON, plan, { ...plan, passes });
    expect(
      await refused(resetRow(db, INES, 'tansy-hollow', 'fertilisers', 'our_can')),
    ).toMatchObject({ code: 'conflict', message: expect.stringContaining('Low Fleet') as string });
    expect((await load()).plan.passes[0]?.productId).toBe('our_can');
    await resetRow(db, INES, 'tansy-hollow', 'fertilisers', 'our_can', true);
    const after = (await load()).plan;
    expect(after.passes.map((p) => p.productId)).toEqual(after.passes.map(() => 'can_27'));
    expect(after.farm.library.some((c) => c.key === 'our_can')).toBe(false);
  });
});
