import { chromium, type Page } from '@playwright/test';
import { at, ms } from './clock';
import { served } from './server';

/**
 * Types one figure after the other and waits until the browser has painted what follows from it.
 */
async function typed(page: Page, label: RegExp, values: readonly number[]): Promise<number[]> {
  const box = page.getByLabel(label).first();
  await box.waitFor();
  await box.focus();
  const times: number[] = [];
  for (const v of values)
    times.push(
      await page.evaluate(async (value) => {
        const input = document.activeElement as HTMLInputElement;
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
        const t = performance.now();
        set?.call(input, String(value));
        input.dispatchEvent(new Event('input', { bubbles: true }));
        await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
        return performance.now() - t;
      }, v),
    );
  return times.sort((a, b) => a - b);
}

/** From a key to the last figure painted, on the two stations where most is typed. */
export const typing = (): Promise<void> =>
  served({}, async (url) => {
    const browser = await chromium.launch({
      executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
      args: ['--no-sandbox'],
    });
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const values = Array.from({ length: 60 }, (_, i) => 100 + i);
      for (const [station, label] of [
        ['budget', /^Winter drainage/],
        ['supply', /product rate$/],
      ] as const) {
        await page.goto(`${url}/fields/low-fleet/${station}`);
        await page.waitForTimeout(1500);
        const times = await typed(page, label, values);
        console.log(
          `${station}: a key to the last figure painted            median ${ms(at(times, 0.5))}, p95 ${ms(at(times, 0.95))} (wanted: p95 50 or less)`,
        );
      }
    } finally {
      await browser.close();
    }
  });
