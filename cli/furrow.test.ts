import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { assessSeason } from '../src/core/assessment/assess';
import { bookOf } from '../src/core/book/book';
import { readPlanFile } from '../src/core/document/seasonFile';
import { snakeKeys } from '../src/core/quantity/names';
import { outlookOf } from '../src/core/season/outlook';
import { toldThroughout } from '../src/core/why/said';

const furrow = (args: string[], input = '') => {
  const r = spawnSync(process.execPath, ['bin/furrow.mjs', ...args], {
    encoding: 'utf8',
    input,
    maxBuffer: 64 * 1024 * 1024,
  });
  return {
    code: r.status,
    out: r.stdout,
    error: r.stderr,
    json: () => JSON.parse(r.stdout) as unknown,
    refused: () => (JSON.parse(r.stderr) as { error: Record<string, unknown> }).error,
  };
};
const PLAN = 'examples/terrace-short.plan.json';

describe('furrow', { timeout: 60_000 }, () => {
  it('assesses a plan file with the hand-worked figures', () => {
    const { code, json } = furrow(['assess', PLAN]);
    expect(code).toBe(0);
    expect((json() as { sums: Record<string, unknown> }).sums).toMatchObject({
      n: { net: 107.93, left_out: 37.11, still_to_apply: 0.62, over: 0 },
      p: { left_out: 3.7, still_to_apply: 0 },
      k: { still_to_apply: 0, over: 2.5 },
      s: { still_to_apply: 30.08, unknown: { low: 0, high: 25 } },
    });
  });
  it('runs a plan over weather years, with the figures that the screen shows', () => {
    const plan = readPlanFile(JSON.parse(fs.readFileSync(PLAN, 'utf8')));
    const book = bookOf(plan.farm.library);
    const season = assessSeason(book, plan);
    const here = outlookOf(book, season.plan, season.assessment, season.calendar, { years: 6 });
    const { code, json } = furrow(['simulate', PLAN, '--years', '6']);
    expect(code).toBe(0);
    expect(json()).toEqual(JSON.parse(JSON.stringify(snakeKeys(toldThroughout(here)))));
    expect(furrow(['simulate', PLAN, '--years', '0']).refused()).toMatchObject({
      code: 'out_of_range',
      field: 'years',
    });
    expect(furrow(['assess', PLAN, '--seed', '3']).refused()).toMatchObject({
      message: 'assess has no option --seed: it belongs to simulate.',
    });
  });
  it('tells of a season what its tabs say: windows, leaf, causes, actions', () => {
    const { code, json } = furrow(['season', PLAN]);
    expect(code).toBe(0);
    const told = json() as { windows: { state: string }[]; actions: unknown[]; leaf: unknown };
    expect(told.windows.length).toBeGreaterThan(0);
    expect(told.leaf).toBeNull();
    expect(told.actions).toEqual([]);
  });
  it('runs a plan over a station’s own years, or says why they are too few', () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-weather-'));
    const file = path.join(folder, 'days.csv');
    fs.writeFileSync(file, 'date,tmin °C,tmax °C,rain mm\n2020-05-01,4,15,2\n');
    expect(furrow(['simulate', PLAN, '--weather', file]).refused().message).toContain(
      '10 are needed',
    );
    expect(furrow(['simulate', PLAN, '--weather', file, '--years', '6']).refused()).toMatchObject({
      code: 'inconsistent',
      field: 'weather',
    });
    fs.rmSync(folder, { recursive: true });
  });
  it('says why, down to the entered value', () => {
    const { out } = furrow(['why', PLAN, 'credit.organic_matter']);
    expect(out).toMatch(/^Soil organic matter: 31\.8486 kg\/ha/);
    expect(out).toContain('Organic matter: 2.6 % (entered)');
  });
  it('runs one method, and answers bad input with a typed error and code 2', () => {
    expect(
      furrow(
        ['method', 'budget.balance'],
        '{"requirement_kg_ha":130,"credits_kg_ha":{"soil_nitrate":95,"legume":77}}',
      ).json(),
    ).toMatchObject({ net_kg_ha: -42, surplus_kg_ha: 42 });
    const bad = furrow(['method', 'ground.ph_gate'], '{"ph_water":65,"target_ph_group":"maize"}');
    expect([bad.code, bad.out]).toEqual([2, '']);
    expect(bad.refused()).toMatchObject({ code: 'out_of_range', field: 'ph_water', value: 65 });
    const broken = furrow(['method', 'budget.balance'], 'not json');
    expect([broken.code, broken.refused().code]).toEqual([2, 'malformed']);
    expect(furrow(['method', 'no.such'], '{}').refused().code).toBe('not_found');
  });
  it('answers a batch line by line, in order, faults included', () => {
    const calls = [
      { id: 1, method: 'budget.balance', input: { requirement_kg_ha: 100 } },
      { id: 'two', method: 'budget.balance', input: { requirement_kg_ha: -1 } },
      { id: 3, method: 'no.such', input: {} },
    ];
    const answered = furrow(
      ['batch'],
      `\uFEFF${calls.map((c) => JSON.stringify(c)).join('\n')}\n\n{broken\n`,
    );
    expect(answered.code).toBe(2);
    expect(answered.refused().message).toBe('3 of 5 lines failed: 2, 3, 5.');
    const lines = answered.out
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l) as { id: unknown; output?: unknown; error?: { code: string } });
    expect(lines.map((l) => l.id)).toEqual([1, 'two', 3, null]);
    expect(lines[0]?.output).toMatchObject({ net_kg_ha: 100 });
    expect(lines.slice(1).map((l) => l.error?.code)).toEqual([
      'out_of_range',
      'not_found',
      'malformed',
    ]);
  });
  it('lists its methods with schemas, and the schema of the plan file', () => {
    const methods = furrow(['methods']).json() as { id: string; input: { type: string } }[];
    expect(methods.length).toBeGreaterThan(70);
    expect(methods.find((m) => m.id === 'budget.balance')?.input.type).toBe('object');
    expect(furrow(['schema']).json()).toMatchObject({ type: 'object' });
  });
  it('refuses a plan of a newer version, and a file that is not there', () => {
    const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-cli-')), 'new.json');
    fs.writeFileSync(
      file,
      fs.readFileSync(PLAN, 'utf8').replace(/"version": \d+/, '"version": 99'),
    );
    expect(furrow(['assess', file])).toMatchObject({
      code: 2,
      error: expect.stringContaining('newer_version'),
    });
    expect(furrow(['assess', 'nowhere.json'])).toMatchObject({
      code: 2,
      error: expect.stringContaining('nowhere.json'),
    });
  });
  it('assesses several files: a faulty one costs only itself', () => {
    const { code, json } = furrow(['assess', PLAN, 'nowhere.json', PLAN]);
    expect(code).toBe(2);
    expect(json()).toMatchObject([
      { file: PLAN, assessment: { crop_name: 'Sugar beet (roots)' } },
      { file: 'nowhere.json', error: { code: 'not_found' } },
      { file: PLAN },
    ]);
  });
  it('reads standard input for -, with a byte-order mark before it', () => {
    const { code, json } = furrow(['assess', '-'], `\uFEFF${fs.readFileSync(PLAN, 'utf8')}`);
    expect([code, (json() as { crop_name: string }).crop_name]).toEqual([0, 'Sugar beet (roots)']);
  });
  it('helps on standard output, as a whole and method by method', () => {
    for (const args of [[], ['help'], ['--help'], ['batch', '-h']])
      expect(furrow(args)).toMatchObject({
        code: 0,
        out: expect.stringContaining('furrow assess'),
      });
    const { code, out } = furrow(['method', 'budget.credit_soil_nitrate', '--help']);
    expect(code).toBe(0);
    expect(out).toMatch(/nitrate_layers +rows/);
    expect(out).toMatch(/ {4}nitrate_n_mg_kg +0 to 200 mg\/kg/);
  });
  it('writes in one line, or rows as CSV', () => {
    expect(
      furrow(['method', 'budget.balance', '--compact'], '{"requirement_kg_ha":5}').out,
    ).toMatch(/^\{"net_kg_ha":5,.*\}\n$/);
    const csv = furrow(
      ['method', 'nitrogen.two_tank_plan', '--csv'],
      JSON.stringify({
        swath_m: 9,
        speed_km_h: 9,
        outlets: 12,
        tanks: [{ product_id: 'uan_28', n_kg_ha: 60, tank_l: 3000 }],
      }),
    ).out.split('\n');
    expect(csv[0]).toMatch(/^product_id,product_l_ha,/);
    expect(csv[1]).toMatch(/^uan_28,167/);
  });
  it.each([
    [['no-such-command'], 'not_found'],
    [['constructor'], 'not_found'],
    [['methods', 'twice'], 'unknown_field'],
    [['methods', '--loud'], 'unknown_field'],
    [['why', PLAN, 'no.figure'], 'not_found'],
  ])('refuses %j', (args, code) => {
    const answer = furrow(args);
    expect([answer.code, answer.out, answer.refused().code]).toEqual([2, '', code]);
  });
  it('ends quietly when nobody reads on', () => {
    const r = spawnSync('sh', ['-c', `${process.execPath} bin/furrow.mjs methods | head -n 1`], {
      encoding: 'utf8',
    });
    expect([r.stdout, r.stderr]).toEqual(['[\n', '']);
  });
});
