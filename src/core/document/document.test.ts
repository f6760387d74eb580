import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { DEMO_FARMS } from '../../demo/scenario';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { PLAN_VERSION, type Plan } from './document';
import { readPlanFile, seasonFileSchemas, writePlanFile } from './seasonFile';

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
    expect(refusal({ ...raw(), version: PLAN_VERSION + 1 })).toMatchObject({
      code: 'newer_version',
      field: 'version',
      value: PLAN_VERSION + 1,
      message: expect.stringContaining(`newer version (${PLAN_VERSION + 1})`),
    }));
  it('reads the facts that it names, and no others', () => {
    const file = raw() as { reads: { soil: { id: string } }; facts: { soil: object[] } };
    const [sample] = file.facts.soil;
    file.facts.soil.push({ ...sample, id: 'older', ph_water: 4.4 });
    expect(readPlanFile(file).ground.phWater).toBe(plans[0]?.ground.phWater);
    file.reads.soil.id = 'older';
    expect(readPlanFile(file).ground.phWater).toBe(4.4);
    file.reads.soil.id = 'lost';
    expect(refusal(file)).toMatchObject({ field: 'reads.soil.id', value: 'lost' });
  });
  it('of another kind is refused', () =>
    expect(refusal({ format: 'else' })).toMatchObject({ field: 'format' }));
  it('with a figure out of range names field, value and range', () => {
    const file = raw();
    ((file.facts as { soil: Record<string, unknown>[] }).soil[0] ?? {}).ph_water = 65;
    expect(refusal(file)).toMatchObject({
      code: 'out_of_range',
      field: 'facts.soil[0].ph_water',
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
    const schema = seasonFileSchemas().at(-1)?.schema as {
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
