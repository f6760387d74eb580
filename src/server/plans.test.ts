import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { type Plan } from '@/core/document/document';
import { writePlanFile } from '@/core/document/seasonFile';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { audit } from '@/data/schema';
import { demoDatabase } from '@/data/testDatabase';
import { versionsOf } from '@/data/versions';
import { NotAllowed, type Actor } from './authorise';
import { createFields, seasonOf } from './ownFields';
import {
  decide,
  deskOf,
  importPlanFile,
  lookAtPlanFile,
  propose,
  readVersion,
  saveEdit,
} from './plans';
import { fieldList } from './summaries';
import { UNSAID_OF_LEAF } from '@/core/facts/leafSample';
import { addLeaf, dropLeaf } from './leaves';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
const wanda = { id: 'wanda-ostrow', name: 'Wanda Ostrow' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const list = (actor: Actor) => fieldList(db, actor, { offset: 0, limit: 50, search: '' });
const desk = async (field: string) =>
  (await deskOf(db, ines, field, null)) as NonNullable<Awaited<ReturnType<typeof deskOf>>>;
const goal = (p: Plan, yieldGoalTHa: number): Plan => ({
  ...p,
  season: { ...p.season, yieldGoalTHa },
});

describe('who may do what', () => {
  it('the advisor sees three farms, a farmer only the own', async () => {
    expect((await list(ines)).farms.map((f) => f.name)).toEqual([
      'Kestrel Terrace',
      'Quern Orchard',
      'Tansy Hollow',
    ]);
    expect((await list(odo)).farms.map((f) => f.name)).toEqual(['Tansy Hollow']);
  });
  it('a field of another farm is not there for a farmer, nor its leaves', async () => {
    expect(await deskOf(db, wanda, 'low-fleet', null)).toBeNull();
    await expect(dropLeaf(db, wanda, 'pear-wall', 'pear-wall-2026')).rejects.toThrow(NotAllowed);
    await expect(addLeaf(db, wanda, 'pear-wall', 'pear', {})).rejects.toThrow(NotAllowed);
  });
  it('a farmer does not edit or propose, an advisor does not decide', async () => {
    const d = await desk('low-fleet');
    await expect(
      saveEdit(db, odo, d.stored.seasonId, d.stored.plan, goal(d.stored.plan, 50)),
    ).rejects.toThrow(NotAllowed);
    await expect(propose(db, odo, d.stored.seasonId)).rejects.toThrow(NotAllowed);
    await propose(db, ines, d.stored.seasonId);
    const [version] = await versionsOf(db, [d.stored.seasonId]);
    await expect(decide(db, ines, version?.id ?? '', true, '')).rejects.toThrow(NotAllowed);
    await expect(readVersion(db, wanda, version?.id ?? '')).rejects.toThrow(NotAllowed);
  });
  it('a stranger sees nothing', async () =>
    expect(await list({ id: 'nobody', name: 'Nobody' })).toEqual({
      farms: [],
      rows: [],
      found: 0,
    }));
});

describe('answers to cautions', () => {
  it('are signed by who saves them, and by nobody else', async () => {
    const { stored } = await desk('bay-two');
    const said = (caution: string, by: string | null): Plan['answers'][number] => ({
      caution,
      state: 'accepted',
      words: 'the compost brings more than that',
      by,
      on: '2027-02-26',
      until: null,
      kgHa: null,
    });
    const saved = await saveEdit(db, ines, stored.seasonId, stored.plan, {
      ...stored.plan,
      answers: [said('s_short', null), said('ph', 'Wanda Ostrow')],
    });
    if (!saved.ok) throw new Error('not saved');
    expect(saved.plan.answers.map((a) => a.by)).toEqual(['Ines Calloway', 'Ines Calloway']);
    const again = await saveEdit(db, ines, stored.seasonId, saved.plan, {
      ...saved.plan,
      answers: saved.plan.answers.slice(1),
    });
    expect(again.ok && again.plan.answers.map((a) => [a.caution, a.by])).toEqual([
      ['ph', 'Ines Calloway'],
    ]);
  });
});

describe('saving', () => {
  it('brings edits of different figures together, and puts the same figure to the user', async () => {
    const d = await desk('kiln-field');
    const { seasonId, version, plan } = d.stored;
    const first = await saveEdit(db, ines, seasonId, plan, goal(plan, 70));
    expect(first).toMatchObject({ ok: true, version: version + 1, mergedFromOthers: false });
    const other = await saveEdit(db, ines, seasonId, plan, {
      ...plan,
      manureHistory: 'none',
    });
    expect(other).toMatchObject({
      ok: true,
      mergedFromOthers: true,
      plan: { manureHistory: 'none', season: { yieldGoalTHa: 70 } },
    });
    expect(await saveEdit(db, ines, seasonId, plan, goal(plan, 60))).toMatchObject({
      ok: false,
      conflicts: [{ path: 'season.yieldGoalTHa', base: 85, mine: 60, theirs: 70 }],
    });
    expect((await desk('kiln-field')).stored.plan.season.yieldGoalTHa).toBe(70);
  });
  it('refuses a plan with an impossible figure and writes nothing', async () => {
    const { stored } = await desk('rookery');
    await expect(
      saveEdit(db, ines, stored.seasonId, stored.plan, {
        ...stored.plan,
        ground: { ...stored.plan.ground, phWater: 65 },
      }),
    ).rejects.toThrow(/phWater = 65 is outside 2.5 to 11/);
    expect((await desk('rookery')).stored.version).toBe(stored.version);
  });
  it('every write leaves who and what', async () =>
    expect(
      (await db.select().from(audit)).filter(
        (a) => a.action === 'edit' && a.personId === 'ines-calloway',
      ).length,
    ).toBeGreaterThan(1));
});

describe('from proposal to agreement', () => {
  it('asks for a comment, then a new version is agreed and stays as it was on the day', async () => {
    const { stored } = await desk('terrace-long');
    await propose(db, ines, stored.seasonId);
    await expect(propose(db, ines, stored.seasonId)).rejects.toThrow(/Version 1 waits/);
    const first = (await versionsOf(db, [stored.seasonId]))[0]?.id ?? '';
    await expect(decide(db, odo, first, false, ' ')).rejects.toThrow(Refusal);
    await decide(db, odo, first, false, 'Less before April, please');
    await propose(db, ines, stored.seasonId);
    const [second] = await versionsOf(db, [stored.seasonId]);
    await decide(db, odo, second?.id ?? '', true, '');
    await expect(decide(db, odo, second?.id ?? '', false, 'changed my mind')).rejects.toThrow(
      /decided already/,
    );
    await saveEdit(db, ines, stored.seasonId, stored.plan, goal(stored.plan, 5));
    const frozen = await readVersion(db, odo, second?.id ?? '');
    expect(frozen).toMatchObject({ number: 2, status: 'agreed', sheet: { crop: 'Rye, 6.5 t/ha' } });
  });
  it('a plan without a crop is not proposed', async () =>
    expect(propose(db, ines, 'lower-strip-2026-27')).rejects.toThrow(/Choose a crop/));
});

describe('files and fields', () => {
  it('a plan file is taken over; the farm, the field and the season keep their names', async () => {
    const { stored } = await desk('lower-strip');
    const look = await lookAtPlanFile(
      db,
      ines,
      stored.seasonId,
      writePlanFile(terraceShortWorked()),
    );
    expect(look).toMatchObject({
      of: { field: 'Terrace Short', season: '2026/27' },
      here: { field: stored.plan.field.name, season: '2026/27' },
      version: stored.version,
    });
    expect(look.changes.map((c) => c.path)).toContain('season.yield_goal_t_ha');
    // Looked at is not taken over; and what was saved since is not written over.
    expect((await desk(stored.fieldId)).stored).toEqual(stored);
    await expect(
      importPlanFile(
        db,
        ines,
        stored.seasonId,
        writePlanFile(terraceShortWorked()),
        stored.version + 1,
      ),
    ).rejects.toThrow(/since the file was looked at/);
    const taken = await importPlanFile(
      db,
      ines,
      stored.seasonId,
      writePlanFile(terraceShortWorked()),
      stored.version,
    );
    expect(taken.plan).toMatchObject({
      farm: { name: 'Kestrel Terrace' },
      field: { name: 'Lower Strip' },
      season: { cropKey: 'sugar_beet', yieldGoalTHa: 65 },
    });
    await expect(importPlanFile(db, ines, stored.seasonId, '{broken', 1)).rejects.toThrow(
      /not JSON/,
    );
    await expect(importPlanFile(db, odo, stored.seasonId, '{}', 1)).rejects.toThrow(NotAllowed);
  });
  it('a new field starts with an empty season; a second one of the name is refused', async () => {
    const add = (actor: typeof ines, name: string, areaHa: number) =>
      createFields(db, actor, {
        farmId: 'tansy-hollow',
        fields: [{ name, areaHa, soilTextureId: 'loam' }],
      });
    const [id = ''] = await add(ines, 'New Piece', 2);
    expect((await desk(id)).stored.plan.season).toMatchObject({ label: '2026/27', cropKey: null });
    await expect(add(ines, 'NEW piece', 2)).rejects.toThrow(/has a field of that name/);
    await expect(add(ines, 'X', 0)).rejects.toThrow(
      /areaHa = 0 is outside the allowed range, above 0/,
    );
    await expect(add(wanda, 'X', 1)).rejects.toThrow(NotAllowed);
  });
  it('the season turns in October, in the south in April', () =>
    expect(
      [seasonOf('2026-09-30', 52), seasonOf('2026-10-01', 52), seasonOf('2027-04-01', -35)].map(
        (s) => s.label,
      ),
    ).toEqual(['2025/26', '2026/27', '2027/28']));
  it('a leaf of a wrong part is refused with choices and not stored; a future date is refused', async () => {
    const sample = {
      id: 'l1',
      date: '2027-02-20',
      part: 'ear_leaf',
      bbch: 37,
      system: null,
      nOrgans: 30,
      washed: 'no',
      sprayElements: [],
      daysSinceSpray: null,
      role: 'survey',
      ...UNSAID_OF_LEAF,
      values: [{ nutrient: 'N', reported: '4', unit: '%' }],
    };
    expect(
      (await addLeaf(db, odo, 'low-fleet', 'sugar_beet', sample)).refused?.choices.length,
    ).toBeGreaterThan(1);
    await expect(
      addLeaf(db, odo, 'low-fleet', 'sugar_beet', { ...sample, part: 'blade', date: '2027-07-01' }),
    ).rejects.toThrow(/lies in the future/);
    await addLeaf(db, odo, 'low-fleet', 'sugar_beet', { ...sample, part: 'blade' });
    const ids = async () => (await desk('low-fleet')).stored.plan.leaves.map((s) => s.id);
    expect(await ids()).toEqual(['l1']);
    // Not by somebody who may not change the plan, and not through another field.
    await expect(dropLeaf(db, odo, 'low-fleet', 'l1')).rejects.toThrow(NotAllowed);
    await dropLeaf(db, ines, 'kiln-field', 'l1');
    expect(await ids()).toEqual(['l1']);
    await dropLeaf(db, ines, 'low-fleet', 'l1');
    expect(await ids()).toEqual([]);
  });
});
