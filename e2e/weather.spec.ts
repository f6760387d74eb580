import { expect, test } from '@playwright/test';
import { cells, expectAccessible, fill, open, saved } from './desk';

const SUPPLY = '/fields/low-fleet/supply';

test('over thirty years of weather: what a pass is worth, with the page free while it runs', async ({
  page,
}) => {
  await page.addInitScript(() => {
    const held = { longest: 0 };
    Object.assign(globalThis, { held });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries())
        held.longest = Math.max(held.longest, Math.round(entry.duration));
    }).observe({ type: 'longtask' });
  });
  await open(page, SUPPLY);
  const years = page.getByTestId('weather-years');
  await expect(years).toContainText('The sheet reckons with a middling year; over 30 years');
  const figures = page.getByTestId('weather-figures');
  const inCrop = async () =>
    (await cells(figures.getByRole('row', { name: /^N in the crop/u }))).slice(1).map(Number);
  const [, before = 0] = await inCrop();
  expect(before).toBeGreaterThan(80);
  const skipped = page
    .getByTestId('what-if')
    .getByRole('row', { name: /^left out/u })
    .last();
  const [, lost = ''] = await cells(skipped);
  expect(Number.parseFloat(lost.replace('−', '-'))).toBeLessThan(-20);
  // What loading the page took is not what running the years takes.
  await page.evaluate(() =>
    Object.assign((globalThis as unknown as { held: object }).held, { longest: 0 }),
  );
  const rate = await page.getByLabel('Pass 2 product rate', { exact: true }).inputValue();
  await fill(page, 'Pass 2 product rate', '0');
  await expect.poll(async () => (await inCrop())[1]).toBeLessThan(before - 10);
  await expect(years).toContainText('are still to apply');
  const longest = await page.evaluate(
    () => (globalThis as unknown as { held: { longest: number } }).held.longest,
  );
  console.log(`weather years: longest task of the page while they ran ${longest} ms`);
  await fill(page, 'Pass 2 product rate', rate);
  await expect.poll(async () => (await inCrop())[1]).toBe(before);
  await saved(page);
  await expectAccessible(page);
});

test('on a phone the years read as figures, and nothing scrolls sideways', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, SUPPLY);
  await expect(page.getByTestId('weather-figures')).toContainText('lost in all');
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(
    0,
  );
  await expectAccessible(page);
});

test('a field that cannot be run says why', async ({ page }) => {
  await open(page, '/fields/hazel-bank/supply');
  await expect(page.getByText('There is no stage table for Hazelnut')).toBeVisible();
});
