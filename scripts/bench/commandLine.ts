import { spawnSync } from 'node:child_process';
import { at, clock, ms } from './clock';

const CALLS = 10_000;
const call = (i: number) =>
  JSON.stringify({
    id: i,
    method: 'budget.credit_soil_nitrate',
    input: {
      root_depth_cm: 60 + (i % 40),
      nitrate_layers: [
        { layer_top_cm: 0, layer_bottom_cm: 30, nitrate_n_mg_kg: 8, bulk_density_g_cm3: 1.35 },
        { layer_top_cm: 30, layer_bottom_cm: 60, nitrate_n_mg_kg: 5, bulk_density_g_cm3: 1.45 },
      ],
    },
  });
const furrow = (args: string[], input = '') =>
  spawnSync(process.execPath, ['bin/furrow.mjs', ...args], {
    encoding: 'utf8',
    input,
    maxBuffer: 64 * 1024 * 1024,
  });

/** How soon the command line answers, and how many calls a second one process takes. */
export function commandLine(): void {
  furrow(['help']);
  const starts = clock(9, () => furrow(['method', 'budget.balance'], '{"requirement_kg_ha":1}'));
  const [bare] = clock(1, () => spawnSync(process.execPath, ['-e', '0']));
  console.log(
    `command line: one call, start included                     median ${ms(at(starts, 0.5))} (wanted: under 500), of which the engine ${ms(bare ?? 0)}`,
  );
  const lines = Array.from({ length: CALLS }, (_, i) => call(i)).join('\n');
  const [whole] = clock(1, () => furrow(['batch'], lines));
  console.log(
    `command line: batch, soil nitrate of two layers            ${Math.round((1000 * CALLS) / (whole ?? 1))} calls/s, start included (wanted: 2000 or more)`,
  );
}
