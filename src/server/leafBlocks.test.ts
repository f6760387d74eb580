import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { leafBeside } from '@/core/views/leafBeside';
import { assessSeason } from '@/core/assessment/assess';
import { bookOf } from '@/core/book/book';
import { UNSAID_OF_LEAF } from '@/core/facts/leafSample';
import { Refusal } from '@/core/quantity/refusal';
import { farms, type StoredTerms } from '@/data/schema';
import { loadPlansOf } from '@/data/seasons';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { farmDesk, saveFarmTerms } from './farm';
import { exportFarm, importFarm } from './farmFile';
import { addLeaf } from './leaves';
import {
  dropNorms,
  dropOwnStandard,
  importNorms,
  keepOwnNorms,
  keepOwnStandard,
  leafBlocksOf,
  nameSimilar,
  ownLeafCsv,
} from './leafBlocks';
import { readSimulatedMeter } from './simulatedMeters';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
const STRANGER = { id: 'nobody', name: 'Nobody' };
const FARM = 'quern-orchard';
let open: Awaited<ReturnType<typeof demoDatabase>>;
const before = process.env.FURROW_TODAY;
beforeAll(async () => {
  process.env.FURROW_TODAY = '2027-02-26';
  open = await demoDatabase();
}, 120_000);
afterAll(async () => {
  process.env.FURROW_TODAY = before;
  await open.close();
});
const pears = async () => {
  const { groups } = await leafBlocksOf(open.db, INES, FARM);
  const group = groups.find((g) => g.cropKey === 'pear');
  if (!group) throw new Error('No pears');
  return group;
};
const own = async () => (await leafBlocksOf(open.db, INES, FARM)).own;
const besidePears = async () => {
  const plans = await loadPlansOf(open.db, [FARM], '2027-02-26');
  const found = plans.find((p) => p.plan.season.cropKey === 'pear' && p.plan.leaves.length > 0);
  if (!found) throw new Error('No season of pears');
  const book = bookOf(found.plan.farm.library);
  const { plan, assessment } = assessSeason(book, found.plan);
  return leafBeside(book, plan, assessment);
};
const norms = (...rows: string[]) =>
  new TextEncoder().encode(['norm_set,ratio,mean,cv,n,source', ...rows].join('\n'));

describe('leaves of a farm and its own standards', () => {
  it('are seen by those of the farm alone', async () => {
    await expect(leafBlocksOf(open.db, STRANGER, FARM)).rejects.toThrow(NotAllowed);
    await expect(keepOwnStandard(open.db, STRANGER, FARM, {})).rejects.toThrow(NotAllowed);
    await expect(dropNorms(open.db, STRANGER, FARM, 'x')).rejects.toThrow(NotAllowed);
    await expect(ownLeafCsv(open.db, STRANGER, FARM, 'norms')).rejects.toThrow(NotAllowed);
  });
  it('good blocks are kept with how many, mean, spread, why, who and when, and stand beside the leaf', async () => {
    const group = await pears();
    const leafIds = group.blocks.slice(0, 3).map((b) => b.leafId);
    await expect(
      keepOwnStandard(open.db, INES, FARM, { group: group.key, leafIds, why: '' }),
    ).rejects.toThrow(/Why are these the good blocks/u);
    await expect(
      keepOwnStandard(open.db, INES, FARM, {
        group: group.key,
        leafIds: [...leafIds, 'gone'],
        why: 'firm fruit',
      }),
    ).rejects.toThrow(/no longer here/u);
    await expect(
      keepOwnStandard(open.db, INES, FARM, { group: group.key, leafIds: [], why: 'firm fruit' }),
    ).rejects.toThrow(/one good block or more/u);
    await keepOwnStandard(open.db, INES, FARM, { group: group.key, leafIds, why: 'firm fruit' });
    const [standard] = (await own()).standards;
    expect(standard).toMatchObject({
      cropKey: 'pear',
      why: 'firm fruit',
      by: 'Ines Calloway',
      on: '2027-02-26',
    });
    expect(standard?.blocks).toHaveLength(3);
    expect(standard?.figures.find((f) => f.nutrient === 'N')).toMatchObject({ n: 3, lower: null });
    const beside = await besidePears();
    expect(beside.own[0]).toMatchObject({ provisional: true });
    expect(beside.own[0]?.rows.length).toBeGreaterThan(5);
    expect(await ownLeafCsv(open.db, INES, FARM, 'standards')).toMatch(
      /^crop,part,stage,nutrient/u,
    );
  });
  it('a standard made anew takes the place of the old one', async () => {
    const group = await pears();
    const leafIds = group.blocks.map((b) => b.leafId);
    await keepOwnStandard(open.db, INES, FARM, { group: group.key, leafIds, why: 'all of them' });
    const { standards } = await own();
    expect(standards.map((s) => [s.why, s.blocks.length])).toEqual([['all of them', 4]]);
  });
  it('norms of fewer than 50 blocks are refused; a table of norms comes in row by row', async () => {
    const group = await pears();
    await expect(
      keepOwnNorms(open.db, INES, FARM, {
        group: group.key,
        leafIds: group.blocks.map((b) => b.leafId),
        why: 'firm fruit',
      }),
    ).rejects.toThrow(/too few for norms: at least 50/u);
    expect((await besidePears()).balance).toEqual([]);
    const file = norms(
      'pears of a trial,N/P,13,15,120,a journal',
      'pears of a trial,N/K,1.6,18,120,a journal',
      'pears of a trial,K/Ca,0.9,,120,a journal',
    );
    const { norms: count, left } = await importNorms(open.db, INES, FARM, group.key, file);
    expect([count, left.map((l) => l.row)]).toEqual([2, [4]]);
    const [balance] = (await besidePears()).balance;
    expect(balance).toMatchObject({ normSet: 'pears of a trial', refused: null });
    expect(balance?.rows.map((r) => r.nutrient).toSorted()).toEqual(['K', 'N', 'P']);
    // What goes out comes in again as it was.
    const before = (await own()).norms;
    const csv = new TextEncoder().encode(await ownLeafCsv(open.db, INES, FARM, 'norms'));
    expect(await importNorms(open.db, INES, FARM, group.key, csv)).toEqual({ norms: 2, left: [] });
    expect((await own()).norms).toEqual(before);
  });
  it('a save of the farm’s money leaves them as they are, whatever the page had read', async () => {
    const desk = await farmDesk(open.db, INES, FARM);
    if (!desk) throw new Error('No desk');
    const { library: _, ...terms } = desk.terms;
    const kept = (await own()).norms.length;
    await saveFarmTerms(open.db, INES, FARM, desk.version, {
      ...terms,
      ownLeaf: { standards: [], norms: [], similar: [] },
    });
    expect((await own()).norms.length).toBe(kept);
    expect(kept).toBe(2);
  });
  it('go with the farm file and come back with it', async () => {
    const { text } = await exportFarm(open.db, INES, FARM);
    const farmId = await importFarm(open.db, INES, text, 'Quern again');
    expect((await leafBlocksOf(open.db, INES, farmId)).own).toEqual(await own());
  });
  it('a similar crop is named for a crop without ranges alone', async () => {
    await expect(
      nameSimilar(open.db, INES, FARM, { cropKey: 'pear', like: 'apple' }),
    ).rejects.toThrow(/has leaf ranges of its own/u);
    await expect(
      nameSimilar(open.db, INES, FARM, { cropKey: 'spinach', like: 'no_such' }),
    ).rejects.toThrow(/has no leaf ranges/u);
    await nameSimilar(open.db, INES, FARM, { cropKey: 'spinach', like: 'lettuce' });
    expect((await own()).similar).toMatchObject([{ cropKey: 'spinach', like: 'lettuce' }]);
    await nameSimilar(open.db, INES, FARM, { cropKey: 'spinach', like: null });
    expect((await own()).similar).toEqual([]);
  });
  it('two people who change them at once lose nothing', async () => {
    const group = await pears();
    const before = await own();
    await Promise.all([
      nameSimilar(open.db, INES, FARM, { cropKey: 'spinach', like: 'lettuce' }),
      nameSimilar(open.db, INES, FARM, { cropKey: 'garlic', like: 'onion' }),
      importNorms(open.db, INES, FARM, group.key, norms('others,N/P,13,15,120,a journal')),
    ]);
    const after = await own();
    expect(after.similar.map((s) => s.cropKey).toSorted()).toEqual(['garlic', 'spinach']);
    expect(after.norms.length).toBe(before.norms.length + 1);
    for (const cropKey of ['spinach', 'garlic'])
      await nameSimilar(open.db, INES, FARM, { cropKey, like: null });
    await dropNorms(open.db, INES, FARM, 'others');
  });
  it('a stored list that is not there breaks nothing', async () => {
    const of = eq(farms.id, FARM);
    const [before] = await open.db.select().from(farms).where(of);
    for (const ownLeaf of [null, { standards: [] }]) {
      const terms = { ...before?.terms, ownLeaf } as unknown as StoredTerms;
      await open.db.update(farms).set({ terms }).where(of);
      expect(await own()).toEqual({ standards: [], norms: [], similar: [] });
      expect((await besidePears()).own).toEqual([]);
    }
    await open.db
      .update(farms)
      .set({ terms: before?.terms ?? null })
      .where(of);
  });
  it('are taken away again', async () => {
    const { standards } = await own();
    await dropOwnStandard(open.db, INES, FARM, standards[0]?.id ?? '');
    await dropNorms(open.db, INES, FARM, 'pears of a trial');
    expect(await own()).toEqual({ standards: [], norms: [], similar: [] });
  });
});

describe('a leaf of a crop without ranges', () => {
  const leaf = (more: object) => ({
    ...UNSAID_OF_LEAF,
    id: crypto.randomUUID(),
    date: '2027-02-20',
    part: 'youngest_mature_leaf',
    bbch: 45,
    system: null,
    nOrgans: 40,
    washed: 'no',
    sprayElements: [],
    daysSinceSpray: null,
    role: 'survey',
    values: [{ nutrient: 'N', reported: '4.2', unit: '%' }],
    ...more,
  });
  it('is kept; what no leaf holds is asked, and sums that cannot be are refused', async () => {
    const add = (more: object, confirmed: string[] = []) =>
      addLeaf(open.db, INES, 'low-fleet', 'spinach', leaf(more), confirmed);
    const kept = await add({});
    expect(kept).toMatchObject({ refused: null, standard: null, order: [] });
    const asked = await add({
      id: 'asked-leaf',
      values: [{ nutrient: 'N', reported: '42', unit: '%' }],
    });
    expect(asked.results[0]?.meant).toMatchObject({ unit: 'g/kg' });
    await expect(
      add({
        values: [
          { nutrient: 'N', reported: '7.5', unit: '%' },
          { nutrient: 'K', reported: '14', unit: '%' },
          { nutrient: 'Ca', reported: '9', unit: '%' },
        ],
      }),
    ).rejects.toThrow(/is a unit wrong/u);
    const { groups } = await leafBlocksOf(open.db, INES, 'tansy-hollow');
    const group = groups.find((g) => g.cropKey === 'spinach');
    expect(group?.blocks.map((b) => b.values[0]?.value)).toEqual([4.2]);
    expect(group?.setId).toBeNull();
  });
});

describe('simulated meters', () => {
  const ask = (raw: unknown, actor = INES) =>
    loadPlansOf(open.db, ['tansy-hollow'], '2027-02-26').then((plans) => {
      const found = plans.find((p) => p.plan.season.cropKey !== null);
      return readSimulatedMeter(open.db, actor, found?.seasonId ?? '', raw);
    });
  it('give the same reading for the same crop and day, of field and strip the strip the richer', async () => {
    const sap = { meter: 'NO3', date: '2027-06-24', bbch: 60 };
    expect(await ask(sap)).toEqual(await ask(sap));
    expect(await ask(sap)).not.toEqual(await ask({ ...sap, date: '2027-07-02' }));
    const colour = await ask({ meter: 'colour', date: '2027-06-24' });
    if (!('strip' in colour)) throw new Error('No strip');
    expect(colour.field).toBeLessThan(colour.strip * 1.05);
    expect(colour.field).toBeGreaterThan(colour.strip * 0.8);
  });
  it('refuse another meter, and a stranger', async () => {
    await expect(ask({ meter: 'K+', date: '2027-06-24', bbch: 60 })).rejects.toThrow(Refusal);
    await expect(ask({ meter: 'colour', date: '2027-06-24' }, STRANGER)).rejects.toThrow(
      NotAllowed,
    );
  });
});
