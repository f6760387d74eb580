import { expect, test } from '@playwright/test';
import { fill, open, ready, saved } from './desk';
import { gone, newData, start, stopAll, up } from './ownServer';

// The server's own promises: one process holds the data, and what was acknowledged survives a kill.
const PORT = 3117;
const url = `http://127.0.0.1:${PORT}`;
const data = newData();
test.afterEach(stopAll);

test('killed in the middle of a save, the server has all that it acknowledged', async ({
  page,
}) => {
  const first = start(PORT, { data });
  await up(PORT);
  await open(page, `${url}/fields/terrace-long/crop`);
  await fill(page, 'Yield goal', '6.1');
  await saved(page);
  await fill(page, 'Yield goal', '6.2');
  first.server.kill('SIGKILL');
  await gone(first.server);
  const second = start(PORT, { data });
  await up(PORT);
  const kept = (await (
    await page.request.get(`${url}/fields/terrace-long/sheet/plan.json`)
  ).json()) as { season: { yield_goal_t_ha: number } };
  expect([6.1, 6.2]).toContain(kept.season.yield_goal_t_ha);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Yield goal')).toHaveValue('6.2');

  const intruder = start(PORT + 1, { data });
  expect(await gone(intruder.server)).toBe(1);
  expect(intruder.output()).toMatch(
    /already open in process \d+ .*set FURROW_DATA to another directory/,
  );
  second.server.kill('SIGTERM');
  expect(await gone(second.server)).toBe(0);
});
