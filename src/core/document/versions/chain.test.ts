import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { terraceShortWorked } from '../../../demo/terraceShortWorked';
import { assess } from '../../assessment/assess';
import { PRINTED } from '../../book/book';
import { camelKeys } from '../../quantity/names';
import { Refusal } from '../../quantity/refusal';
import { PLAN_VERSION } from '../document';
import { readPlanFile, storedPlan } from '../seasonFile';
import { broughtUp } from './chain';
import { FROZEN } from './frozen';
import { STEPS } from './steps';
import type { Raw } from './step';

const json = (name: string): Raw =>
  JSON.parse(fs.readFileSync(new URL(`./${name}`, import.meta.url), 'utf8')) as Raw;
const file = (version: number) => json(`${version}.plan.json`);
const older = Object.keys(FROZEN).map(Number);

describe('a season file of an older version', () => {
  it.each(older)('%i fits the schema of its day', (version) => {
    const schema = json(`${version}.schema.json`) as Parameters<typeof z.fromJSONSchema>[0];
    expect(z.fromJSONSchema(schema).safeParse(file(version)).error?.issues ?? []).toEqual([]);
  });
  it.each(older.slice(0, -1))('%i goes up one step to a valid file of the next', (version) => {
    const next = broughtUp(camelKeys(file(version)) as Raw, version + 1);
    expect(next.version).toBe(version + 1);
    expect(Object.keys(next).toSorted()).toEqual(
      Object.keys(camelKeys(file(version + 1)) as Raw).toSorted(),
    );
  });
  it.each(older)('%i, as it was written then, gives the same figures', (version) => {
    const plan = readPlanFile(file(version));
    expect(plan).toMatchObject({
      version: PLAN_VERSION,
      farm: { nSchool: 'yield_goal', rawContactDays: 120, ammoniaSchool: 'curve', library: [] },
      field: { near: [], slopePct: null, fixes: 'none' },
      season: { stand: { companionLegume: false, winterCover: false } },
      lime: null,
      schools: { n: version < 4 ? 'yield_goal' : null },
      organics: [
        { acidified: false, areaFrac: 1 },
        { acidified: false, areaFrac: 1 },
      ],
      leaves: [],
    });
    // The field worked by hand as it was in these files, with more N in its second pass.
    const worked = terraceShortWorked();
    expect(assess(PRINTED, plan).sums).toEqual(
      assess(PRINTED, {
        ...worked,
        passes: worked.passes.map((p) =>
          p.id === 'worked-2' && version < 8 ? { ...p, productKgHa: 260 } : p,
        ),
      }).sums,
    );
  });
  it.each(older)('%i is checked as what it says it is', (version) => {
    const read = (change: (f: Raw) => void) => {
      const f = structuredClone(file(version));
      change(f);
      try {
        readPlanFile(f);
      } catch (e) {
        if (e instanceof Refusal) return e.detail;
        throw e;
      }
      return null;
    };
    expect(read((f) => Object.assign(f, { of_tomorrow: {} }))).toMatchObject({
      field: 'of_tomorrow',
    });
    expect(read((f) => Object.assign(f.field as Raw, { area_ha: -4 }))).toMatchObject({
      code: 'out_of_range',
      field: 'field.area_ha',
      value: -4,
      allowed: 'above 0',
    });
    expect(read((f) => delete (f.season as Raw).harvest_date)).toMatchObject({
      code: 'missing',
      field: 'season.harvest_date',
    });
  });
  it('has one step and one frozen schema a version, in order', () => {
    expect(STEPS.map((s) => s.from)).toEqual(older);
    expect(older).toEqual(STEPS.map((_, i) => i + 1));
  });
  it('that never was is refused by name', () =>
    expect(() => broughtUp({ version: 0 }, PLAN_VERSION)).toThrow('There is no version 0'));
});

describe('a plan kept as a document', () => {
  it('of today is itself; of version 5 is taken up', () => {
    const today = terraceShortWorked();
    expect(storedPlan(today)).toEqual(today);
    const kept = camelKeys(file(5)) as Raw;
    expect(storedPlan(kept).ground).toEqual(today.ground);
  });
});
