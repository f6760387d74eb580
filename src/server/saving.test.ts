import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Plan } from '@/core/document/document';
import type { Db } from '@/data/client';
import { createSeason } from '@/data/savePlan';
import { loadPlan, type StoredPlan } from '@/data/seasons';
import { demoDatabase } from '@/data/testDatabase';
import { saveEdit } from './plans';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const load = async (id: string) => (await loadPlan(db, id, '2027-02-26')) as StoredPlan;

type Change = (p: Plan) => Plan;
/** One change for each table that a save writes. */
const CHANGES: Record<string, Change> = {
  fields: (p) => ({ ...p, field: { ...p.field, omPct: 4.44 } }),
  'soil samples': (p) => ({ ...p, ground: { ...p.ground, phWater: 6.66 } }),
  'soil results': (p) => ({
    ...p,
    ground: { ...p.ground, readings: p.ground.readings.map((r) => ({ ...r, value: 33 })) },
  }),
  'nitrate profiles': (p) => ({
    ...p,
    ground: {
      ...p.ground,
      nitrateSampleDate: '2027-02-20',
      nitrateLayers: [
        { topCm: 0, bottomCm: 30, no3nMgKg: 7, bulkDensityGCm3: null, stonesVolFrac: null },
      ],
    },
  }),
  seasons: (p) => ({ ...p, season: { ...p.season, yieldGoalTHa: 71 } }),
  'previous crops': (p) => ({ ...p, previous: { kind: 'other', cropName: 'Mustard' } }),
  dressings: (p) => ({
    ...p,
    organics: p.organics.map((o, k) => (k === 0 ? { ...o, rate: 11 } : o)),
  }),
  passes: (p) => ({ ...p, passes: p.passes.map((x) => ({ ...x, productKgHa: 111 })) }),
};
const parts = (p: Plan) => ({ ...p, reads: null, leaves: null });

describe('two saves at the same moment', () => {
  const names = Object.keys(CHANGES);
  it.each(names.flatMap((a, i) => names.slice(i + 1).map((b) => [a, b] as const)))(
    'of %s and %s both stay',
    async (a, b) => {
      const { seasonId, plan } = await load('low-fleet-2026-27');
      const [one, two] = [CHANGES[a] as Change, CHANGES[b] as Change];
      const replies = await Promise.all([
        saveEdit(db, INES, seasonId, plan, one(plan)),
        saveEdit(db, INES, seasonId, plan, two(plan)),
      ]);
      expect(replies.map((r) => r.ok)).toEqual([true, true]);
      const now = await load('low-fleet-2026-27');
      expect(parts(now.plan)).toEqual(parts(two(one(plan))));
      await saveEdit(db, INES, seasonId, now.plan, { ...plan, reads: now.plan.reads });
    },
  );
  it.each(names)('of the same figure of %s: one is kept, the other is told', async (name) => {
    const { seasonId, plan } = await load('low-fleet-2026-27');
    const mine = (CHANGES[name] as Change)(plan);
    const theirs: Plan = JSON.parse(
      JSON.stringify(mine)
        .replaceAll('4.44', '5.55')
        .replaceAll('6.66', '7.77')
        .replaceAll('"value":33', '"value":44')
        .replaceAll('"no3nMgKg":7,', '"no3nMgKg":8,')
        .replaceAll('"yieldGoalTHa":71', '"yieldGoalTHa":72')
        .replaceAll('Mustard', 'Phacelia')
        .replaceAll('"rate":11', '"rate":12')
        .replaceAll('"productKgHa":111', '"productKgHa":112'),
    ) as Plan;
    const replies = await Promise.all([
      saveEdit(db, INES, seasonId, plan, mine),
      saveEdit(db, INES, seasonId, plan, theirs),
    ]);
    expect(replies.map((r) => r.ok).toSorted()).toEqual([false, true]);
    const now = await load('low-fleet-2026-27');
    expect(parts(now.plan)).toEqual(parts(replies[0]?.ok ? mine : theirs));
    await saveEdit(db, INES, seasonId, now.plan, { ...plan, reads: now.plan.reads });
  });
});

describe('two seasons of one field, open side by side', () => {
  it('neither writes old values of the field back', async () => {
    const first = await load('rookery-2026-27');
    await db.transaction((tx) =>
      createSeason(
        tx,
        'rookery-2027-28',
        first.fieldId,
        {
          ...first.plan,
          season: { ...first.plan.season, label: '2027/28', startDate: '2027-10-01' },
        },
        { author: null, today: '2027-02-26', newId: () => crypto.randomUUID() },
      ),
    );
    const second = await load('rookery-2027-28');
    await saveEdit(db, INES, first.seasonId, first.plan, {
      ...first.plan,
      field: { ...first.plan.field, omPct: 4.44 },
    });
    const reply = await saveEdit(db, INES, second.seasonId, second.plan, {
      ...second.plan,
      season: { ...second.plan.season, yieldGoalTHa: 3 },
    });
    expect(reply).toMatchObject({ ok: true, plan: { field: { omPct: 4.44 } } });
    expect((await load('rookery-2026-27')).plan.field.omPct).toBe(4.44);
  });
});
