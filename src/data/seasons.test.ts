import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_FARMS } from '../demo/scenario';
import { planSchema, type Plan } from '../core/document/document';
import type { Db } from './client';
import { loadPlan, loadPlansOf, savePlan, seasonsOfField } from './seasons';
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
const newId = () => `new-${n++}`;
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
          ).toEqual(
            plan.ground.sampleDate === null
              ? { ...plan, ground: { ...plan.ground, laboratory: null } }
              : plan,
          );
  });
  it('an edit is kept with a new version, and an edit of an older version is not written', async () => {
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
    expect(
      await db.transaction((tx) => savePlan(tx, before.seasonId, before.version, edited, newId)),
    ).toBe(before.version + 1);
    expect((await load('low-fleet-2026-27')).plan).toEqual(edited);
    expect(
      await db.transaction((tx) =>
        savePlan(tx, before.seasonId, before.version, before.plan, newId),
      ),
    ).toBeNull();
  });
  it('another sampling date is another sample: the older one stays in the history', async () => {
    const before = await load('kiln-field-2026-27');
    await db.transaction((tx) =>
      savePlan(
        tx,
        before.seasonId,
        before.version,
        {
          ...before.plan,
          ground: { ...before.plan.ground, sampleDate: '2027-02-20', phWater: 7.2 },
        },
        newId,
      ),
    );
    const dates = (await soilSamplesOf(db, ['tansy-hollow']))
      .filter((s) => s.field.id === 'kiln-field')
      .map((s) => s.sample.date);
    expect(dates.slice(0, 2)).toEqual(['2027-02-20', '2025-10-30']);
  });
  it('a row of another season cannot be taken over by its id', async () => {
    const [mine, other] = [await load('bay-one-2026-27'), await load('bay-two-2026-27')];
    const stolen: Plan = {
      ...other.plan,
      passes: [{ ...(mine.plan.passes[0] as Plan['passes'][number]), productKgHa: 1 }],
    };
    await db.transaction((tx) => savePlan(tx, other.seasonId, other.version, stolen, newId));
    expect((await load('bay-one-2026-27')).plan.passes[0]?.productKgHa).toBe(330);
  });
  it('a failed save leaves nothing half-written', async () => {
    const before = await load('bay-four-2026-27');
    await expect(
      db.transaction(async (tx) => {
        await savePlan(
          tx,
          before.seasonId,
          before.version,
          { ...before.plan, passes: [], organics: [] },
          newId,
        );
        throw new Error('power cut');
      }),
    ).rejects.toThrow('power cut');
    expect((await load('bay-four-2026-27')).plan).toEqual(before.plan);
  });
  it('rows as an older version left them come up as a plan of today', async () => {
    await db.execute(
      sql`update field_seasons set stand = null, schools = null, irrigation = '{"mm": 200, "no3nMgL": 9, "shareBeforeRunDown": 1}'::jsonb where id = 'kiln-field-2026-27'`,
    );
    await db.execute(
      sql`update organic_applications set "use" = null, day = null, records = null, machine = null, lab = lab - 'report' - 'earlier' where season_id = 'kiln-field-2026-27'`,
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
