import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { authorise, farmsAllowed, NotAllowed, type Action } from './authorise';

let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
const allowed = (actor: typeof ines, action: Action, farm: string) =>
  authorise(db, actor, action, farm).then(
    () => true,
    (e: unknown) => {
      if (!(e instanceof NotAllowed)) throw e;
      return false;
    },
  );

describe('the one door', () => {
  it.each<[Action, boolean, boolean]>([
    ['read', true, true],
    ['sample', true, true],
    ['edit', true, false],
    ['propose', true, false],
    ['decide', false, true],
  ])('%s: advisor %s, farmer %s', async (action, advisor, farmer) => {
    expect(await allowed(ines, action, 'tansy-hollow')).toBe(advisor);
    expect(await allowed(odo, action, 'tansy-hollow')).toBe(farmer);
  });
  it('opens no other farm to a farmer, whatever is asked', async () => {
    for (const action of ['read', 'sample', 'edit', 'propose', 'decide'] as const) {
      expect(await allowed(odo, action, 'kestrel-terrace')).toBe(false);
      expect(await allowed(odo, action, 'no-such-farm')).toBe(false);
    }
    expect(await farmsAllowed(db, odo, 'read')).toEqual(['tansy-hollow']);
    expect(await farmsAllowed(db, odo, 'edit')).toEqual([]);
    expect(await farmsAllowed(db, ines, 'edit')).toHaveLength(3);
  });
  it('says who may not do what', async () => {
    await expect(authorise(db, odo, 'read', 'kestrel-terrace')).rejects.toThrow(
      'Odo Merrick may not see this farm.',
    );
    await expect(authorise(db, odo, 'edit', 'tansy-hollow')).rejects.toThrow(
      'Odo Merrick may not edit this farm.',
    );
  });
});
