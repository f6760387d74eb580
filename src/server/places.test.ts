import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { putInField, usesInField } from './places';
import { deskOf, saveEdit } from './plans';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());

const water = {
  method: 'budget.credit_irrigation_water',
  input: { irrigation_mm: 120, nitrate_n_mg_l: 6, share_before_run_down_frac: 0.5 },
  fieldId: 'low-fleet',
};
const planOf = async (field: string) => (await deskOf(db, ines, field, null))!.stored;

describe('a calculation used in a field', () => {
  it('shows what stands there, puts in what was chosen, and shows that it is there', async () => {
    const uses = await usesInField(db, ines, water);
    expect(uses.lines.map((l) => l.id)).toEqual(['irrigation']);
    const after = await putInField(db, ines, {
      ...water,
      version: uses.version,
      places: ['irrigation'],
      date: null,
    });
    expect(after.version).toBe(uses.version + 1);
    expect(after.lines[0]?.same).toBe(true);
    expect((await planOf('low-fleet')).plan.irrigation).toMatchObject({
      mm: 120,
      no3nMgL: 6,
      shareBeforeRunDown: 0.5,
    });
  });
  it('puts nothing in on a plan that somebody changed since', async () => {
    const { version } = await usesInField(db, ines, { ...water, fieldId: 'kiln-field' });
    const { seasonId, plan } = await planOf('kiln-field');
    await saveEdit(db, ines, seasonId, plan, {
      ...plan,
      season: { ...plan.season, yieldGoalTHa: 7.7 },
    });
    await expect(
      putInField(db, ines, {
        ...water,
        fieldId: 'kiln-field',
        version,
        places: ['irrigation'],
        date: null,
      }),
    ).rejects.toMatchObject({ detail: { code: 'conflict' } });
    expect((await planOf('kiln-field')).plan.irrigation).toEqual(plan.irrigation);
  });
  it('is the advisor’s to do, not the farmer’s', async () => {
    await expect(usesInField(db, odo, water)).rejects.toThrow(NotAllowed);
    await expect(
      putInField(db, odo, { ...water, version: 1, places: ['irrigation'], date: null }),
    ).rejects.toThrow(NotAllowed);
  });
  it.each([
    [{ fieldId: 'nowhere' }, 'unknown_id'],
    [{ method: 'no.such' }, 'not_found'],
    [{ input: { irrigation_mm: -1 } }, 'out_of_range'],
    [{ places: ['season.cropKey'] }, 'unknown_id'],
    [{ places: [] }, 'out_of_range'],
  ])('refuses %j by name', async (wrong, code) => {
    const { version } = await usesInField(db, ines, water);
    await expect(
      putInField(db, ines, { ...water, version, places: ['irrigation'], date: null, ...wrong }),
    ).rejects.toMatchObject({ detail: { code } });
  });
  it('wants the day of a pass', async () => {
    const pass = {
      method: 'nitrogen.product_rate',
      input: { product_id: 'urea_46', nutrient: 'n', nutrient_target_kg_ha: 46 },
      fieldId: 'low-fleet',
    };
    const { version } = await usesInField(db, ines, pass);
    await expect(
      putInField(db, ines, { ...pass, version, places: ['passes'], date: null }),
    ).rejects.toMatchObject({ detail: { field: 'date' } });
  });
});
