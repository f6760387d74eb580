import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { solveBlend } from './blend';

const INES = { id: 'ines-calloway', name: 'Ines Calloway' };
const PIET = { id: 'piet-halloran', name: 'Piet Halloran' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());

const wanted = {
  blend_candidates: ['urea_46', 'tsp_0_46', 'kcl_60'],
  nutrient_at_least_kg_ha: { n: 60, p: 15 },
  max_products: 2,
};

describe('the cheapest blend of a field', () => {
  it('comes out of the farm’s library', async () =>
    expect(await solveBlend(db, INES, 'low-fleet', wanted)).toMatchObject({
      products_kg_ha: { urea_46: expect.closeTo(60 / 0.46, 6) as number },
    }));
  it('is not for people of another farm', () =>
    expect(solveBlend(db, PIET, 'low-fleet', wanted)).rejects.toBeInstanceOf(NotAllowed));
  it.each([
    ['a field that is not there', 'nowhere', wanted, 'field_id'],
    ['no product', 'low-fleet', { ...wanted, blend_candidates: [] }, 'blend_candidates'],
    ['a figure that is none', 'low-fleet', { ...wanted, max_products: 'many' }, 'max_products'],
    ['no answer', 'low-fleet', { ...wanted, blend_candidates: ['kcl_60'] }, 'blend_candidates'],
  ])('%s is refused by name', async (_, field, input, name) => {
    const e = await solveBlend(db, INES, field, input).catch((x: unknown) => x);
    expect(e).toBeInstanceOf(Refusal);
    expect((e as Refusal).detail.field).toBe(name);
  });
});
