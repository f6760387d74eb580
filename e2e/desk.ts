import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';

/** axe on the page as it stands; a finding names the rule and the element. */
export async function expectAccessible(page: Page): Promise<void> {
  await page.evaluate(async () => {
    await Promise.allSettled(document.getAnimations().map((a) => a.finished));
  });
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

export async function actAs(page: Page, name: string): Promise<void> {
  await page.getByLabel('acting as').selectOption({ label: name });
  await expect(page.getByLabel('acting as')).toBeEnabled();
}

/** The page answers keys: before that a pressed key is lost, as on any page that still loads. */
export const ready = (page: Page) => expect(page.getByLabel('acting as')).toBeEnabled();
/** A page opened as a person would: nothing is typed before it answers. */
export async function open(page: Page, path: string) {
  const response = await page.goto(path);
  await ready(page);
  return response;
}
/** All that was typed is stored; "Not saved yet" is another word. */
export const saved = (page: Page) =>
  expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
export const fill = async (scope: Page | Locator, label: string, value: string) =>
  scope.getByLabel(label, { exact: true }).fill(value);
export const choose = async (
  scope: Page | Locator,
  label: string,
  option: string | { label: string },
) => scope.getByLabel(label, { exact: true }).selectOption(option);
/** A choice out of a long list: opened, searched, taken. */
export const search = async (scope: Page | Locator, label: string, words: string) => {
  const page = 'keyboard' in scope ? scope : scope.page();
  await scope.getByLabel(label, { exact: true }).click();
  await page.getByLabel(`Search ${label.toLowerCase()}`).fill(words);
  await page.keyboard.press('Enter');
};
/** A row of a table as its cells' words, without the old figures that fade beside the new ones. */
export const cells = (row: Locator): Promise<string[]> =>
  row.locator('th,td').evaluateAll((all) =>
    all.map((cell) => {
      const copy = cell.cloneNode(true) as HTMLElement;
      copy.querySelectorAll('s[aria-hidden]').forEach((s) => {
        s.remove();
      });
      return (copy.textContent ?? '').trim();
    }),
  );
