import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { insertMany } from './bulk';
import type { Db } from './client';
import { claims, soilSamples } from './schema';
import { demoDatabase } from './testDatabase';

let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const sample = (id: string, more = {}) => ({
  id,
  fieldId: 'low-fleet',
  date: '2027-01-05',
  ...more,
});
const read = async (id: string) =>
  (await db.select().from(soilSamples).where(eq(soilSamples.id, id)))[0];

describe('many rows in one go', () => {
  it('are the same as one by one, with the defaults of the schema where a row is silent', async () => {
    await insertMany(db, soilSamples, [
      sample('bulk-1', { phWater: 6.25, label: 'it’s "quoted", and; parted' }),
      sample('bulk-2', { depthFromCm: 20, kind: 'point' as const }),
    ]);
    await db
      .insert(soilSamples)
      .values(sample('single', { phWater: 6.25, label: 'it’s "quoted", and; parted' }));
    expect({ ...(await read('bulk-1')), id: '' }).toEqual({ ...(await read('single')), id: '' });
    expect(await read('bulk-2')).toMatchObject({ depthFromCm: 20, kind: 'point', phWater: null });
  });
  it('keep documents as documents', async () => {
    await insertMany(db, claims, [
      {
        id: 'c1',
        fieldId: 'low-fleet',
        checkedOn: '2027-01-05',
        product: 'X',
        input: { compound: 'gypsum', pct: 90, rate: 100, unit: 'kg', lr: 5, gap: 0.8 },
        verdict: 'ruled_out',
        message: 'no',
      },
    ]);
    expect((await db.select().from(claims).where(eq(claims.id, 'c1')))[0]?.input).toMatchObject({
      compound: 'gypsum',
      pct: 90,
    });
  });
  it('none of them stays when one is wrong', async () => {
    await expect(
      insertMany(db, soilSamples, [sample('bulk-3'), sample('bulk-4', { fieldId: 'nowhere' })]),
    ).rejects.toThrow();
    expect(await read('bulk-3')).toBeUndefined();
  });
  it('nothing is nothing', async () => {
    await expect(insertMany(db, soilSamples, [])).resolves.toBeUndefined();
  });
});
