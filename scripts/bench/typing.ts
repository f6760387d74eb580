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

interface Renders {
  /** Components rendered again since it was last set to 0. */
  again: number;
  /** Components that stand on the page. */
  standing: () => number;
}
/**
 * Counts, in the page, the components that React renders again: React tells each commit to a hook
 * that is hung in before it starts, and marks what it worked on.
 */
function countRenders(): void {
  interface Fiber {
    tag: number;
    flags: number;
    alternate: Fiber | null;
    child: Fiber | null;
    sibling: Fiber | null;
  }
  const [COMPONENTS, WORKED_ON] = [[0, 11, 15], 1];
  let top: Fiber | null = null;
  const renders: Renders = {
    again: 0,
    standing: () => {
      const count = (first: Fiber | null): number => {
        let n = 0;
        for (let f = first; f; f = f.sibling)
          n += (COMPONENTS.includes(f.tag) ? 1 : 0) + count(f.child);
        return n;
      };
      return count(top);
    },
  };
  const visit = (first: Fiber | null): void => {
    for (let f = first; f; f = f.sibling) {
      if (COMPONENTS.includes(f.tag) && f.alternate && f.flags & WORKED_ON) renders.again += 1;
      // What was left alone keeps its children, and their marks of an earlier commit.
      if (f.child !== f.alternate?.child) visit(f.child);
    }
  };
  Object.assign(globalThis, {
    renders,
    __REACT_DEVTOOLS_GLOBAL_HOOK__: {
      supportsFiber: true,
      inject: () => 1,
      onCommitFiberUnmount: () => undefined,
      onPostCommitFiberRoot: () => undefined,
      onCommitFiberRoot: (_: number, root: { current: Fiber }) => {
        top = root.current.child;
        visit(top);
      },
    },
  });
}
/** Components rendered again for each figure typed, and how many stand there. */
async function rendered(page: Page, label: RegExp, values: readonly number[]): Promise<string> {
  const renders = (reset: boolean) =>
    page.evaluate((zero) => {
      const { renders: r } = globalThis as unknown as { renders: Renders };
      const found = { again: r.again, standing: r.standing() };
      if (zero) r.again = 0;
      return found;
    }, reset);
  await typed(page, label, values.slice(0, 3));
  await page.waitForTimeout(2000);
  await renders(true);
  await typed(page, label, values);
  const { again, standing } = await renders(false);
  return `${Math.round(again / values.length)} of ${standing} components rendered again`;
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
      const watched = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await watched.addInitScript(countRenders);
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
        await watched.goto(`${url}/fields/low-fleet/${station}`);
        await watched.waitForTimeout(1500);
        console.log(
          `${station}: a key                                       ${await rendered(watched, label, values.slice(0, 10))}`,
        );
      }
    } finally {
      await browser.close();
    }
  });
