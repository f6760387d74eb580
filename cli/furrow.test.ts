import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

const furrow = (args: string[], input = '') => {
  const r = spawnSync(
    process.execPath,
    ['node_modules/tsx/dist/cli.mjs', 'cli/furrow.ts', ...args],
    { encoding: 'utf8', input, maxBuffer: 64 * 1024 * 1024 },
  );
  return { code: r.status, out: r.stdout, json: () => JSON.parse(r.stdout) as unknown };
};
const PLAN = 'examples/terrace-short.plan.json';

describe('furrow', { timeout: 60_000 }, () => {
  it('assesses a plan file with the hand-worked figures', () => {
    const { code, json } = furrow(['assess', PLAN]);
    expect(code).toBe(0);
    expect((json() as { sums: Record<string, unknown> }).sums).toMatchObject({
      n: { to_bring: 107.93, planned: 108, after_plan: -0.07 },
      p: { to_bring: 3.7 },
      k: { to_bring: 0, surplus: 2.5 },
      s: { to_bring: 30.08 },
    });
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
    expect([bad.code, bad.json()]).toMatchObject([
      2,
      { error: { code: 'out_of_range', value: 65 } },
    ]);
    expect(furrow(['method', 'budget.balance'], 'not json').code).toBe(2);
    expect(furrow(['method', 'no.such'], '{}')).toMatchObject({ code: 2 });
  });
  it('answers a batch line by line, in order, faults included', () => {
    const calls = [
      { id: 1, method: 'budget.balance', input: { requirement_kg_ha: 100 } },
      { id: 'two', method: 'budget.balance', input: { requirement_kg_ha: -1 } },
      { id: 3, method: 'no.such', input: {} },
    ];
    const lines = furrow(
      ['batch'],
      `${calls.map((c) => JSON.stringify(c)).join('\n')}\n\n{broken\n`,
    )
      .out.trim()
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
      out: expect.stringContaining('newer_version'),
    });
    expect(furrow(['assess', 'nowhere.json'])).toMatchObject({
      code: 2,
      out: expect.stringContaining('nowhere.json'),
    });
  });
});
