import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { run } from '../src/core/methods/registry';

const page = fs.readFileSync('docs/call-it.md', 'utf8');
/** The example of a language, as it stands on the page. */
const example = (language: string): string =>
  new RegExp(`\`\`\`${language}\\n([\\s\\S]*?)\`\`\``).exec(page)?.[1] ?? '';
const isThere = (command: string, args: string[]): boolean =>
  spawnSync(command, args, { encoding: 'utf8' }).status === 0;

describe('the page for R, Python and a spreadsheet', { timeout: 120_000 }, () => {
  it('gives what it says, through the registry', async () => {
    const layer = (top: number, bottom: number, nitrate: number, density: number) => ({
      layer_top_cm: top,
      layer_bottom_cm: bottom,
      nitrate_n_mg_kg: nitrate,
      bulk_density_g_cm3: density,
    });
    const answer = await run('budget.credit_soil_nitrate', {
      root_depth_cm: 60,
      nitrate_layers: [layer(0, 30, 8, 1.35), layer(30, 60, 5, 1.45)],
    });
    expect(answer.soil_nitrate_n_kg_ha).toBeCloseTo(54.15, 2);
  });
  it.runIf(isThere('python3', ['--version']))('runs its Python', () => {
    const r = spawnSync('python3', ['-c', example('python')], { encoding: 'utf8' });
    expect([r.stderr, r.stdout]).toEqual(['', '60 54.15\n90 54.15\n']);
  });
  it.runIf(isThere('Rscript', ['-e', 'library(jsonlite)']))('runs its R', () => {
    const r = spawnSync('Rscript', ['-e', example('r')], { encoding: 'utf8' });
    expect(r.stdout.trim()).toBe('54.15');
  });
  it('runs its shell', () => {
    const shell = example('sh').replace(' > nitrate.csv', '');
    const r = spawnSync('sh', ['-c', shell], { encoding: 'utf8' });
    expect(r.stdout.split('\n').slice(0, 2)).toEqual([
      'soil_nitrate_n_kg_ha,below_roots_n_kg_ha,is_extrapolated,sampled_to_cm,note',
      expect.stringMatching(/^67\.1\d*,0,,?60|^67\.2,0,/),
    ]);
  });
});
