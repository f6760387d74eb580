import { PRINTED } from '../book/book';
import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { assess } from '../assessment/assess';
import { DEMO_FARMS } from '../../demo/scenario';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { planFileSchema, readPlanFile, writePlanFile, type Plan } from './document';

const plans = DEMO_FARMS.flatMap((f) => f.fields.flatMap((d) => d.seasons));
const raw = (): Record<string, unknown> =>
  JSON.parse(writePlanFile(plans[0] as Plan)) as Record<string, unknown>;
const refusal = (json: unknown) => {
  try {
    readPlanFile(json);
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  throw new Error('was not refused');
};

describe('plan file', () => {
  it('is written and read back equal, for every demo plan', () => {
    for (const p of plans) expect(readPlanFile(JSON.parse(writePlanFile(p)))).toEqual(p);
  });
  it('stands as an example of today', () =>
    expect(fs.readFileSync('examples/terrace-short.plan.json', 'utf8')).toBe(
      writePlanFile(terraceShortWorked()),
    ));
  it('speaks snake_case', () =>
    expect(Object.keys(raw().season as object)).toContain('yield_goal_t_ha'));
  it('of a newer version is refused politely', () =>
    expect(refusal({ ...raw(), version: 6 })).toMatchObject({
      code: 'newer_version',
      field: 'version',
      value: 6,
      message: expect.stringContaining('newer version (6)'),
    }));
  it('of version 1 is read, with what it could not say not known', () => {
    const old = JSON.parse(writePlanFile(plans[0] as Plan)) as {
      version: number;
      lime?: unknown;
      field: Record<string, unknown>;
      ground: Record<string, unknown>;
    };
    old.version = 1;
    for (const k of ['lime', 'schools', 'residue']) delete (old as Record<string, unknown>)[k];
    for (const k of ['clay_pct', 'tillage']) delete old.field[k];
    for (const k of ['n_points', 'buffer_kind', 'buffer_ph', 'al_cmol_kg', 'boron_last_year_kg_ha'])
      delete old.ground[k];
    expect(readPlanFile(old)).toMatchObject({
      version: 5,
      lime: null,
      schools: { n: 'yield_goal', pk: 'replacement' },
      residue: null,
      field: { clayPct: null, tillage: null, areaHa: plans[0]?.field.areaHa },
      ground: { nPoints: null, bufferPh: null, phWater: plans[0]?.ground.phWater },
    });
    // A faulty old file is refused by its own field, not by the version.
    expect(refusal({ ...old, surprise: 1 }).field).toBe('surprise');
  });
  it.each([3, 4])('of version %i, as it was written then, gives the same figures', (version) => {
    const old = readPlanFile(
      JSON.parse(
        fs.readFileSync(
          new URL(`./versions/terrace-short.v${version}.plan.json`, import.meta.url),
          'utf8',
        ),
      ),
    );
    expect(old).toMatchObject({
      version: 5,
      farm: { nSchool: 'yield_goal', rawContactDays: 120, library: [] },
      field: { near: [], slopePct: null },
      season: { stand: { companionLegume: false, winterCover: false } },
      organics: [
        { acidified: false, areaFrac: 1 },
        { acidified: false, areaFrac: 1 },
      ],
    });
    expect(assess(PRINTED, old).sums).toEqual(assess(PRINTED, terraceShortWorked()).sums);
  });
  it('of another kind is refused', () =>
    expect(refusal({ format: 'else' })).toMatchObject({ field: 'format' }));
  it('with a figure out of range names field, value and range', () => {
    const file = raw();
    (file.ground as Record<string, unknown>).ph_water = 65;
    expect(refusal(file)).toMatchObject({
      code: 'out_of_range',
      field: 'ground.ph_water',
      value: 65,
      allowed: '2.5 to 11',
    });
  });
  it('with an unknown field says so', () =>
    expect(refusal({ ...raw(), surprise: 1 })).toMatchObject({
      code: 'unknown_field',
      field: 'surprise',
    }));
  it('with a broken date or a list instead of an object says so', () => {
    const file = raw();
    (file.season as Record<string, unknown>).harvest_date = '2027-13-01';
    expect(refusal(file).field).toBe('season.harvest_date');
    expect(refusal([]).field).toBe('file');
  });
  it('has a published schema in the same names', () => {
    const schema = planFileSchema() as {
      properties: Record<string, { properties?: Record<string, unknown>; required?: string[] }>;
    };
    expect(schema.properties.season?.required).toContain('planting_date');
    expect(schema.properties.season?.properties).toHaveProperty('yield_goal_t_ha');
    expect(
      JSON.parse(fs.readFileSync('docs/plan-file.schema.json', 'utf8')),
      'run: npm run --silent furrow -- schema > docs/plan-file.schema.json',
    ).toEqual(schema);
  });
});
