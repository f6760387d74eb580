import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BLANK_LAB } from '@/core/document/organicDefaults';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { farmDesk, saveFarmTerms, saveMachine, saveStore } from './farm';
import { removeMachine, removeStore } from './drawer';
import { importLibrary, libraryCsv, libraryOfFarm, overrideRow, resetRow } from './library';
import { deskOf } from './plans';
import { assessedFields } from './testFields';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
const ODO = { id: 'odo-merrick', name: 'Odo Merrick' };
const WANDA = { id: 'wanda-ostrow', name: 'Wanda Ostrow' };
const detail = async (work: Promise<unknown>) =>
  work.then(
    () => null,
    (e: unknown) => (e instanceof Refusal ? e.detail : Promise.reject(e as Error)),
  );
const bytes = (text: string) => new TextEncoder().encode(text);
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const plan = async (fieldId: string) => (await deskOf(db, INES, fieldId, null))?.stored.plan;
const needN = async (fieldId: string) =>
  (await assessedFields(db, INES)).find((f) => f.fieldId === fieldId)?.assessment.sums.n;

describe('a farm’s money and rules', () => {
  it('reach its plans, and a save on top of another’s is refused', async () => {
    const desk = await farmDesk(db, INES, 'tansy-hollow');
    const { library: _, ...terms } =
      desk?.terms ??
      (() => {
        throw new Error('no desk');
      })();
    await saveFarmTerms(db, INES, 'tansy-hollow', desk?.version ?? 0, {
      ...terms,
      manureNLimitKgHa: 170,
      pkSchool: 'build_maintain',
    });
    expect((await plan('low-fleet'))?.farm).toMatchObject({
      manureNLimitKgHa: 170,
      pkSchool: 'build_maintain',
      name: 'Tansy Hollow',
    });
    expect(
      await detail(saveFarmTerms(db, INES, 'tansy-hollow', desk?.version ?? 0, terms)),
    ).toMatchObject({ field: 'version' });
    await saveFarmTerms(db, INES, 'tansy-hollow', (desk?.version ?? 0) + 1, terms);
  });
  it('a price list is checked product by product', async () => {
    const desk = await farmDesk(db, INES, 'tansy-hollow');
    const { library: _, ...terms } = desk?.terms as NonNullable<typeof desk>['terms'];
    const price = { product: 'urea_46', price: 410, per: 't', bagKg: null, from: '2027-01-10' };
    const save = (prices: unknown[]) =>
      detail(saveFarmTerms(db, INES, 'tansy-hollow', desk?.version ?? 0, { ...terms, prices }));
    expect(await save([{ ...price, product: 'gold' }])).toMatchObject({ value: 'gold' });
    expect(await save([{ ...price, per: 'bag' }])).toMatchObject({ field: 'bag_kg' });
    expect(await save([{ ...price, per: 'l' }])).toMatchObject({ field: 'per' });
    expect(await save([{ ...price, price: -1 }])).toMatchObject({ value: -1 });
  });
  it('name the figure that is out of range', async () => {
    const desk = await farmDesk(db, INES, 'tansy-hollow');
    const { library: _, ...terms } =
      desk?.terms ??
      (() => {
        throw new Error('no desk');
      })();
    expect(
      await detail(
        saveFarmTerms(db, INES, 'tansy-hollow', desk?.version ?? 0, {
          ...terms,
          manureNLimitKgHa: 5000,
        }),
      ),
    ).toMatchObject({ field: 'manureNLimitKgHa', value: 5000, allowed: '50 to 500 kg/ha' });
    expect(
      await detail(
        saveFarmTerms(db, INES, 'tansy-hollow', desk?.version ?? 0, {
          ...terms,
          setbacks: [{ feature: 'surface_water', situation: 'broadcast', metres: 1 }],
        }),
      ),
    ).toMatchObject({ field: 'setbacks', allowed: '3 to 150 m' });
  });
  it('are changed by those who may, and seen by no one else', async () => {
    await expect(farmDesk(db, WANDA, 'tansy-hollow')).rejects.toThrow(NotAllowed);
    await expect(saveFarmTerms(db, ODO, 'tansy-hollow', 1, {})).rejects.toThrow(NotAllowed);
  });
});

describe('stores and machines', () => {
  it('are added, changed and taken away; the newest analysis stands first', async () => {
    const id = await saveStore(db, INES, 'tansy-hollow', {
      id: null,
      name: 'Old heap',
      materialKey: 'sheep_bedded',
      amountT: 30,
      pricePerT: 0,
      labs: [
        { ...BLANK_LAB, date: '2026-01-01', totalNKgT: 7 },
        { ...BLANK_LAB, date: '2027-01-01', totalNKgT: 8 },
      ],
    });
    expect(
      (await farmDesk(db, ODO, 'tansy-hollow'))?.stores
        .find((s) => s.id === id)
        ?.labs.map((l) => l.date),
    ).toEqual(['2027-01-01', '2026-01-01']);
    expect(
      await detail(
        saveStore(db, INES, 'kestrel-terrace', {
          id,
          name: 'Stolen',
          materialKey: 'sheep_bedded',
          amountT: 1,
          pricePerT: 0,
          labs: [],
        }),
      ),
    ).toMatchObject({ field: 'id' });
    expect(
      await detail(
        saveStore(db, INES, 'tansy-hollow', {
          id: null,
          name: 'Bad',
          materialKey: 'dragon_dung',
          amountT: 1,
          pricePerT: 0,
          labs: [],
        }),
      ),
    ).toMatchObject({ field: 'material' });
    await removeStore(db, INES, 'tansy-hollow', id);
    expect((await farmDesk(db, INES, 'tansy-hollow'))?.stores.length).toBe(2);
  });
  it('a machine keeps its calibrations, and its rates must make sense', async () => {
    const machine = {
      id: null,
      name: 'New tanker',
      kind: 'slurry_splash_plate',
      minRate: 10,
      maxRate: 40,
      capacity: 12,
      calibrations: [],
    };
    const id = await saveMachine(db, INES, 'tansy-hollow', machine);
    await saveMachine(db, INES, 'tansy-hollow', {
      ...machine,
      id,
      calibrations: [
        {
          date: '2027-02-01',
          materialKey: 'dairy_slurry_thin',
          target: 25,
          actual: 26,
          cvPct: null,
          trays: null,
          sightGlass: true,
        },
      ],
    });
    expect(
      (await farmDesk(db, INES, 'tansy-hollow'))?.machines.find((m) => m.id === id)?.calibrations[0]
        ?.actual,
    ).toBe(26);
    expect(
      await detail(saveMachine(db, INES, 'tansy-hollow', { ...machine, maxRate: 5 })),
    ).toMatchObject({ field: 'maxRate', allowed: '10 or more' });
    expect(
      await detail(saveMachine(db, INES, 'tansy-hollow', { ...machine, kind: 'spoon' })),
    ).toMatchObject({ field: 'machine_kind' });
    await removeMachine(db, INES, 'tansy-hollow', id);
  });
});

describe('the library of a farm', () => {
  it('an own value changes this farm’s sheet and no other’s; reset brings the book back', async () => {
    const [before, other] = [await needN('low-fleet'), await needN('bay-one')];
    await overrideRow(db, INES, 'tansy-hollow', {
      table: 'crops',
      key: 'sugar_beet',
      like: 'sugar_beet',
      values: { nReqKgT: 3 },
      why: 'own trials of six years',
    });
    expect((await needN('low-fleet'))?.requirement).toBe(195);
    expect(await needN('bay-one')).toEqual(other);
    expect(
      (await libraryOfFarm(db, INES, 'tansy-hollow', 'crops')).find((e) => e.key === 'sugar_beet')
        ?.own,
    ).toMatchObject({ by: 'Ines Calloway', why: 'own trials of six years' });
    await resetRow(db, INES, 'tansy-hollow', 'crops', 'sugar_beet');
    expect(await needN('low-fleet')).toEqual(before);
  });
  it('refuses what cannot be', async () => {
    const put = (values: object, part: object = {}) =>
      detail(
        overrideRow(db, INES, 'tansy-hollow', {
          table: 'materials',
          key: 'sheep_bedded',
          like: 'sheep_bedded',
          values,
          why: 'a test',
          ...part,
        }),
      );
    expect(await put({ totalNKgT: 2500 })).toMatchObject({
      field: 'totalNKgT',
      value: 2500,
      allowed: '0 to 250',
    });
    expect(await put({ nh4NKgT: 30 })).toMatchObject({ code: 'inconsistent', field: 'totalNKgT' });
    expect(await put({ colour: 1 })).toMatchObject({ field: 'colour' });
    expect(await put({ pKgT: null })).toMatchObject({ code: 'missing', field: 'pKgT' });
    expect(await put({ pKgT: 2 }, { why: '' })).toMatchObject({ field: 'why' });
    expect(await put({})).toMatchObject({ field: 'values' });
    expect(await put({ pKgT: 2 }, { key: 'a', like: 'b' })).toMatchObject({ field: 'key' });
    await expect(overrideRow(db, ODO, 'tansy-hollow', {})).rejects.toThrow(NotAllowed);
  });
  it('goes out as CSV and comes back: only what differs, all or nothing', async () => {
    const csv = await libraryCsv(db, INES, 'tansy-hollow', 'materials');
    expect(
      await importLibrary(db, INES, 'tansy-hollow', 'materials', bytes(csv), 'unchanged'),
    ).toMatchObject({ changed: 0, problems: [] });
    const lines = csv.split('\n');
    const p = (lines[0] ?? '').split(',').indexOf('pKgT');
    const edited = (value: string) =>
      lines
        .map((l) =>
          l.startsWith('blood_meal,')
            ? l
                .split(',')
                .map((c, i) => (i === p ? value : c))
                .join(',')
            : l,
        )
        .join('\n');
    expect(
      (await importLibrary(db, INES, 'tansy-hollow', 'materials', bytes(edited('nine')), 'typed'))
        .problems,
    ).toMatchObject([{ column: 'pKgT', value: 'nine' }]);
    expect(
      (await importLibrary(db, INES, 'tansy-hollow', 'materials', bytes(edited('900')), 'typed'))
        .problems[0]?.reason,
    ).toContain('outside 0 to 200');
    expect(
      await importLibrary(
        db,
        INES,
        'tansy-hollow',
        'materials',
        bytes(edited('0.9')),
        'laboratory of 2027',
      ),
    ).toMatchObject({ changed: 1, problems: [] });
    expect(
      (await libraryOfFarm(db, INES, 'tansy-hollow', 'materials'))
        .filter((e) => e.own)
        .map((e) => [e.key, e.values.pKgT]),
    ).toEqual([['blood_meal', 0.9]]);
    expect(
      await detail(importLibrary(db, INES, 'tansy-hollow', 'materials', bytes(csv), '')),
    ).toMatchObject({ field: 'why' });
  });
  it('a leaf is read against the farm’s own limits', async () => {
    const read = async () =>
      (await assessedFields(db, INES))
        .find((f) => f.fieldId === 'pear-wall')
        ?.assessment.leaf.leaves[0]?.assessment.results.find((r) => r.nutrient === 'Ca');
    const now = await read();
    const key =
      (await libraryOfFarm(db, INES, 'quern-orchard', 'ranges')).find(
        (e) => e.key.startsWith('pear') && e.key.endsWith('/Ca'),
      )?.key ?? '';
    await overrideRow(db, INES, 'quern-orchard', {
      table: 'ranges',
      key,
      like: key,
      values: { deficientBelow: 0.3, lowBelow: 0.5, sufficientLow: 0.6 },
      why: 'a test of the range',
    });
    expect((await read())?.cls).not.toBe(now?.cls);
  });
});
