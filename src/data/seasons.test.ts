import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_FARMS } from '../demo/scenario';
import { planSchema, type Plan } from '../core/document/document';
import type { Db } from './client';
import { savePlanChanges } from './savePlan';
import { loadPlan, loadPlansOf, seasonsOfField, type StoredPlan } from './seasons';
import { seed } from './seed';
import { soilSamplesOf } from './samples';
import { demoDatabase } from './testDatabase';

let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const TODAY = '2027-02-26';
let n = 0;
const writer = { author: 'Ines Calloway', today: TODAY, newId: () => `new-${n++}` };
const save = (before: StoredPlan, after: Plan) =>
  db.transaction((tx) => savePlanChanges(tx, before, after, writer));
const load = async (id: string) =>
  (await loadPlan(db, id, TODAY)) as NonNullable<Awaited<ReturnType<typeof loadPlan>>>;

describe('seasons in the database', () => {
  it('every demo plan comes back as it was written', async () => {
    const stored = await loadPlansOf(
      db,
      DEMO_FARMS.map((f) => f.key),
      TODAY,
    );
    for (const farm of DEMO_FARMS)
      for (const f of farm.fields)
        for (const plan of f.seasons)
          expect(
            stored.find((s) => s.fieldId === f.key && s.plan.season.label === plan.season.label)
              ?.plan,
            `${f.key} ${plan.season.label}`,
          ).toEqual({
            ...plan,
            // Facts of the field, which the demo's seasons come to read as they are stored.
            reads: expect.anything() as unknown,
            leaves: expect.anything() as unknown,
          });
  });
  it('an edit is kept with a new version; nothing changed writes nothing', async () => {
    const before = await load('low-fleet-2026-27');
    const edited: Plan = {
      ...before.plan,
      season: { ...before.plan.season, yieldGoalTHa: 60 },
      passes: before.plan.passes.slice(0, 1),
      organics: [
        ...before.plan.organics,
        { ...(before.plan.organics[0] as Plan['organics'][number]), id: 'one-more' },
      ],
    };
    expect(await save(before, edited)).toBe(before.version + 1);
    const after = await load('low-fleet-2026-27');
    expect(after.plan).toEqual(edited);
    expect(await save(after, after.plan)).toBe(after.version);
  });
  it('another sampling date is another sample: the older one stays in the history', async () => {
    const before = await load('kiln-field-2026-27');
    await save(before, {
      ...before.plan,
      ground: { ...before.plan.ground, sampleDate: '2027-02-20', phWater: 7.2 },
    });
    const dates = (await soilSamplesOf(db, ['tansy-hollow']))
      .filter((s) => s.field.id === 'kiln-field')
      .map((s) => s.sample.date);
    expect(dates.slice(0, 2)).toEqual(['2027-02-20', '2025-10-30']);
  });
  it('a figure of a sample without a date is kept too, and the fact knows who and when', async () => {
    const before = await load('lower-strip-2026-27');
    await save(before, { ...before.plan, ground: { ...before.plan.ground, phWater: 6.1 } });
    const after = await load('lower-strip-2026-27');
    expect(after.plan.ground).toMatchObject({ sampleDate: null, phWater: 6.1 });
    expect(after.history.soil).toEqual({ version: 1, author: 'Ines Calloway', recordedOn: TODAY });
    await save(after, { ...after.plan, ground: { ...after.plan.ground, phWater: 6.2 } });
    expect((await load('lower-strip-2026-27')).history.soil?.version).toBe(2);
  });
  it('the same line id in two seasons is two lines', async () => {
    const [mine, other] = [await load('bay-one-2026-27'), await load('bay-two-2026-27')];
    const same: Plan = {
      ...other.plan,
      passes: [{ ...(mine.plan.passes[0] as Plan['passes'][number]), productKgHa: 1 }],
      organics: mine.plan.organics.map((o) => ({ ...o, rate: 3 })),
    };
    await save(other, same);
    expect((await load('bay-one-2026-27')).plan).toEqual(mine.plan);
    expect((await load('bay-two-2026-27')).plan).toMatchObject({
      passes: same.passes,
      organics: same.organics,
    });
  });
  it('a sample of another field can’t be read', async () => {
    const [mine, other] = [await load('bay-one-2026-27'), await load('rookery-2026-27')];
    await expect(
      save(mine, { ...mine.plan, reads: { ...mine.plan.reads, soil: other.plan.reads.soil } }),
    ).rejects.toThrow(/no sample of this field/);
  });
  it('a failed save leaves nothing half-written', async () => {
    const before = await load('bay-four-2026-27');
    await expect(
      db.transaction(async (tx) => {
        await savePlanChanges(
          tx,
          before,
          {
            ...before.plan,
            passes: [],
            organics: [],
            ground: { ...before.plan.ground, phWater: 4.4 },
          },
          writer,
        );
        throw new Error('power cut');
      }),
    ).rejects.toThrow('power cut');
    expect((await load('bay-four-2026-27')).plan).toEqual(before.plan);
  });
  it('one changed figure is written with fewer than five statements, whichever it is', async () => {
    for (const change of [
      (p: Plan): Plan => ({ ...p, season: { ...p.season, yieldGoalTHa: 71 } }),
      (p: Plan): Plan => ({ ...p, field: { ...p.field, omPct: 4.4 } }),
      (p: Plan): Plan => ({ ...p, ground: { ...p.ground, phWater: 6.9 } }),
      (p: Plan): Plan => ({
        ...p,
        ground: {
          ...p.ground,
          readings: p.ground.readings.map((r) => ({ ...r, value: r.value + 1 })),
        },
      }),
      (p: Plan): Plan => ({
        ...p,
        ground: {
          ...p.ground,
          nitrateLayers: p.ground.nitrateLayers.map((l) => ({ ...l, no3nMgKg: 9 })),
        },
      }),
      (p: Plan): Plan => ({ ...p, passes: p.passes.map((x) => ({ ...x, productKgHa: 99 })) }),
    ]) {
      const before = await load('terrace-long-2026-27');
      let writes = 0;
      await db.transaction((tx) =>
        savePlanChanges(
          new Proxy(tx, {
            get(target, key, receiver) {
              if (key === 'insert' || key === 'update' || key === 'delete') writes += 1;
              return Reflect.get(target, key, receiver) as unknown;
            },
          }),
          before,
          change(before.plan),
          writer,
        ),
      );
      // The entry of the audit comes on top.
      expect(writes).toBeLessThan(4 + 1);
      expect(writes).toBeGreaterThan(0);
    }
  });
  it('rows as an older version left them come up as a plan of today', async () => {
    await db.execute(
      sql`update field_seasons set stand = null, schools = null, irrigation = '{"mm": 200, "no3nMgL": 9, "shareBeforeRunDown": 1}'::jsonb where id = 'kiln-field-2026-27'`,
    );
    await db.execute(
      sql`update organic_applications set document = (document - 'use' - 'day' - 'records' - 'machine') #- '{lab,report}' #- '{lab,earlier}' where season_id = 'kiln-field-2026-27'`,
    );
    await db.execute(sql`update farms set terms = null where id = 'tansy-hollow'`);
    const { plan } = await load('kiln-field-2026-27');
    expect(planSchema.safeParse(plan).error?.issues ?? []).toEqual([]);
    expect(plan).toMatchObject({
      farm: { rawContactDays: 120 },
      schools: { n: null, pk: null },
      irrigation: { mm: 200, so4sMgL: null },
      season: { stand: { companionLegume: false } },
    });
    expect(plan.organics[0]).toMatchObject({
      use: { kind: 'field' },
      lab: { totalNKgT: 3.1, report: null, earlier: null },
    });
  });
  it('seeding twice adds nothing', async () => {
    await seed(db, 'demo');
    expect(await seasonsOfField(db, 'low-fleet')).toHaveLength(2);
  });
});
