import { spawn, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { fill, open, ready, saved } from './desk';

// The server's own promises: one process holds the data, and what was acknowledged survives a kill.
const PORT = 3117;
const url = `http://127.0.0.1:${PORT}`;
const data = fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-e2e-'));

const started: ChildProcess[] = [];
test.afterEach(() => {
  for (const s of started.splice(0)) s.kill('SIGKILL');
});

function start(port: number, own = false): { server: ChildProcess; output: () => string } {
  let text = '';
  const server = spawn(process.execPath, ['.next/standalone/server.js'], {
    env: {
      ...process.env,
      PORT: String(port),
      HOSTNAME: '127.0.0.1',
      NODE_ENV: 'production',
      FURROW_DATA: own ? `${data}-own` : data,
      FURROW_DEMO: own ? '0' : '1',
      FURROW_TODAY: '2027-02-26',
      NEXT_MANUAL_SIG_HANDLE: 'true',
      NEXT_TELEMETRY_DISABLED: '1',
    },
  });
  started.push(server);
  server.stdout.on('data', (d) => {
    text += String(d);
  });
  server.stderr.on('data', (d) => {
    text += String(d);
  });
  return { server, output: () => text };
}
const gone = (s: ChildProcess) =>
  new Promise<number | null>((resolve) => {
    if (s.exitCode !== null || s.signalCode !== null) resolve(s.exitCode);
    else s.once('exit', resolve);
  });
const up = (port = PORT) =>
  expect
    .poll(
      () =>
        fetch(`http://127.0.0.1:${port}/api/health`).then(
          (r) => r.ok,
          () => false,
        ),
      { timeout: 40_000 },
    )
    .toBe(true);

test('killed in the middle of a save, the server has all that it acknowledged', async ({
  page,
}) => {
  const first = start(PORT);
  await up();
  await open(page, `${url}/fields/terrace-long/crop`);
  await fill(page, 'Yield goal', '6.1');
  await saved(page);
  await fill(page, 'Yield goal', '6.2');
  first.server.kill('SIGKILL');
  await gone(first.server);
  const second = start(PORT);
  await up();
  const kept = (await (
    await page.request.get(`${url}/fields/terrace-long/sheet/plan.json`)
  ).json()) as { season: { yield_goal_t_ha: number } };
  expect([6.1, 6.2]).toContain(kept.season.yield_goal_t_ha);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Yield goal')).toHaveValue('6.2');

  const intruder = start(PORT + 1);
  expect(await gone(intruder.server)).toBe(1);
  expect(intruder.output()).toMatch(
    /already open in process \d+ .*set FURROW_DATA to another directory/,
  );
  second.server.kill('SIGTERM');
  expect(await gone(second.server)).toBe(0);
});

test('a farm of one’s own starts empty and says what to do first', async ({ page }) => {
  const own = start(PORT + 2, true);
  await up(PORT + 2);
  await open(page, `http://127.0.0.1:${PORT + 2}/`);
  await expect(page.getByText('No field yet. Add the first one below')).toBeVisible();
  await fill(page, 'Name of the field', 'First Piece');
  await fill(page, 'Area', '10 ac');
  await page.getByRole('button', { name: 'Add the field' }).click();
  await expect(page).toHaveURL(/ground$/);
  await expect(page.getByText('4.0 ha, no crop yet')).toBeVisible();
  own.server.kill('SIGTERM');
  expect(await gone(own.server)).toBe(0);
});
