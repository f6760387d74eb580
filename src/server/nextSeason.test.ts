import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FieldHandsOn } from '@/core/account/carryOver';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { seasonsOfField } from '@/data/seasons';
import { NotAllowed } from './authorise';
import { nextSeasonDesk, openNextSeason } from './nextSeason';
import { deskOf, saveEdit } from './plans';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
const wanda = { id: 'wanda-ostrow', name: 'Wanda Ostrow' };
const FARM = 'tansy-hollow';
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());

const look = async (fieldId: string, label: string | null = null): Promise<FieldHandsOn> =>
  (await nextSeasonDesk(db, ines, FARM, fieldId, label))?.fields[0] as FieldHandsOn;
const proposed = (f: FieldHandsOn) => f.lines.filter((l) => l.proposed).map((l) => l.id);
const state = (f: FieldHandsOn, id: string) => f.lines.find((l) => l.id === id)?.state;

describe('the next season', () => {
  it('of a whole farm offers each field’s season and opens nothing by being looked at', async () => {
    const before = await seasonsOfField(db, 'rookery');
    const desk = await nextSeasonDesk(db, ines, FARM, null, null);
    expect(desk?.fields.map((f) => [f.from, f.to, f.opened])).toEqual(
      desk?.fields.map(() => ['2026/27', '2027/28', false]),
    );
    expect(await seasonsOfField(db, 'rookery')).toEqual(before);
  });
  it('holds what was taken, counts it once, and says so when looked at again', async () => {
    // Slurry of this season is recorded as spread: only then does it count in the next.
    const now = await deskOf(db, ines, 'low-fleet', null);
    const plan = now?.stored.plan as NonNullable<typeof now>['stored']['plan'];
    const slurry =
      plan.organics[0] ?? (await deskOf(db, ines, 'yard-piece', null))?.stored.plan.organics[0];
    const done = {
      ...plan,
      organics: [{ ...slurry, id: 'spread', status: 'done', cropYear: 1, storeId: null }],
    };
    expect(await saveEdit(db, ines, now?.stored.seasonId ?? '', plan, done)).toMatchObject({
      ok: true,
    });
    const before = await look('low-fleet');
    expect(state(before, 'organic.spread')).toBe('offered');
    const pick = [{ seasonId: before.seasonId, take: proposed(before) }];
    expect(await openNextSeason(db, ines, FARM, pick)).toEqual({ opened: 1, added: 0 });
    const next = await deskOf(db, ines, 'low-fleet', '2027/28');
    expect(next?.stored.plan).toMatchObject({
      season: { label: '2027/28', startDate: '2027-10-01', cropKey: null },
      manureHistory: 'yes',
      passes: [],
    });
    expect(next?.stored.plan.organics).toMatchObject([{ id: 'spread', cropYear: 2 }]);
    // The same fact, not a copy of it.
    expect(next?.stored.plan.reads.soil?.id).toBe(now?.stored.plan.reads.soil?.id);
    const after = await look('low-fleet', '2026/27');
    expect(after.opened).toBe(true);
    expect(proposed(after)).toEqual([]);
    expect(state(after, 'organic.spread')).toBe('there');
    expect(await openNextSeason(db, ines, FARM, pick)).toEqual({ opened: 0, added: 1 });
    expect((await deskOf(db, ines, 'low-fleet', '2027/28'))?.stored).toMatchObject({
      version: next?.stored.version,
    });
  });
  it('opened by two at the same moment is one season', async () => {
    const f = await look('rookery');
    const pick = [{ seasonId: f.seasonId, take: proposed(f) }];
    await Promise.all([openNextSeason(db, ines, FARM, pick), openNextSeason(db, ines, FARM, pick)]);
    const labels = (await seasonsOfField(db, 'rookery')).map((s) => s.label);
    expect(labels.filter((l) => l === '2027/28')).toHaveLength(1);
  });
  it('refuses what is not the person’s, another farm’s season, and nothing at all', async () => {
    const f = await look('kiln-field');
    const pick = [{ seasonId: f.seasonId, take: [] }];
    await expect(openNextSeason(db, odo, FARM, pick)).rejects.toThrow(NotAllowed);
    await expect(nextSeasonDesk(db, wanda, FARM, null, null)).rejects.toThrow(NotAllowed);
    await expect(openNextSeason(db, ines, 'kestrel-terrace', pick)).rejects.toThrow(Refusal);
    await expect(openNextSeason(db, ines, FARM, [])).rejects.toThrow(Refusal);
    expect(await nextSeasonDesk(db, ines, 'nowhere', null, null)).toBeNull();
    expect((await look('kiln-field')).opened).toBe(false);
  });
  it('a season that does not exist is nowhere, not another one', async () => {
    expect(await deskOf(db, ines, 'kiln-field', '1999/00')).toBeNull();
  });
});
