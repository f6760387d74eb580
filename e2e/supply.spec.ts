import { expect, test, type Page } from '@playwright/test';
import { cells, expectAccessible, fill, open, saved, search } from './desk';

const shortYears = (page: Page) => page.getByTestId('consequences');
const settled = (page: Page) =>
  expect(shortYears(page)).toHaveAttribute('data-settled', 'true', { timeout: 30_000 });
const undoAll = async (page: Page) => {
  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) await undo.click();
  await saved(page);
};

test('a pass is dragged along time and made larger, by mouse and by keyboard, and the figures follow', async ({
  page,
}) => {
  await open(page, '/fields/low-fleet/supply');
  await settled(page);
  const before = await shortYears(page).innerText();
  const rate = page.getByLabel('Pass 2 product rate', { exact: true });
  const date = page.getByLabel('Pass 2 date', { exact: true });
  const [firstRate, firstDate] = [await rate.inputValue(), await date.inputValue()];

  const flag = page.getByRole('slider', { name: /^Size of the pass of/u }).last();
  const box = await flag.boundingBox();
  if (!box) throw new Error('The flag is not drawn.');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y - 60, { steps: 6 });
  await page.mouse.up();
  await expect(rate).not.toHaveValue(firstRate);
  expect(Number(await rate.inputValue())).toBeGreaterThan(Number(firstRate));
  await expect(shortYears(page)).not.toHaveText(before);
  await settled(page);
  // One drag is one entry.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rate).toHaveValue(firstRate);

  await flag.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(rate).not.toHaveValue(firstRate);
  await expect(flag).toHaveAttribute('aria-valuetext', /kg\/ha N$/u);

  const handle = page.getByRole('slider', { name: /^Date of the pass/u }).last();
  const at = await handle.boundingBox();
  if (!at) throw new Error('The pass is not drawn.');
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + 40, at.y + at.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(date).not.toHaveValue(firstDate);
  const dragged = await date.inputValue();
  await handle.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(date).not.toHaveValue(dragged);
  await settled(page);
  await undoAll(page);
  await expect(date).toHaveValue(firstDate);
});

test('a split is searched over the years, held beside the plan, weighed, taken, and taken back', async ({
  page,
}) => {
  await open(page, '/fields/bay-one/supply');
  await settled(page);
  await page.getByRole('button', { name: 'Search dates and sizes over weather years' }).click();
  const advised = page.getByTestId('split-advised');
  await expect(advised).toContainText('what the sheet still asks for', { timeout: 60_000 });
  await expect(advised).toContainText('To be short in no more than 10 % of the years');
  await page.getByRole('button', { name: 'Hold it beside the plan' }).click();
  const compare = page.getByTestId('compare');
  await expect(compare).toContainText('years in which it ends short', { timeout: 30_000 });
  const [, plan, other] = await cells(compare.getByRole('row', { name: /^N in passes/u }));
  expect(Number(plan)).toBeGreaterThan(0);
  expect(Number(other)).toBeGreaterThan(0);
  await expect(page.getByTestId('compare-words')).toContainText('the plan');
  await expectAccessible(page);

  await page.getByRole('button', { name: /^Search dates and sizes/u }).click();
  await expect(advised).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Take this split' }).click();
  await expect(
    page
      .getByTestId('passes')
      .getByLabel(/^Pass \d date$/u)
      .first(),
  ).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Held as')).toHaveValue(/^searched/u);
  await page.getByRole('button', { name: /^Take “searched/u }).click();
  await expect(page.getByLabel('Held as')).toHaveValue(/^before/u);
  await undoAll(page);
});

test('onions under two composts: one of them still feeds when they should run down', async ({
  page,
}) => {
  await open(page, '/fields/bay-four/crop');
  await search(page, 'Crop', 'Onion (bulb)');
  await fill(page, 'Yield goal', '50');
  await saved(page);
  const late = page.getByTestId('late-release');
  const under = async (compost: string): Promise<number> => {
    await open(page, '/fields/bay-four/budget');
    await search(page, 'Material', compost);
    await fill(page, 'Rate', '20');
    await saved(page);
    await open(page, '/fields/bay-four/supply');
    await expect(late).toContainText(compost, { timeout: 30_000 });
    await expect(late).toContainText('when N should have run down');
    const [, kg = ''] = /of it (−?\d+) kg\/ha after/u.exec(await late.innerText()) ?? [];
    return Number(kg.replace('−', '-'));
  };
  const feeding = await under('Amended feeding compost');
  const after = async (name: RegExp) =>
    Number.parseFloat(
      ((await cells(late.getByRole('row', { name }).first()))[2] ?? '').replace('−', '-'),
    );
  expect(await after(/^as planned/u)).toBeGreaterThan(await after(/^a bed without it/u));
  expect(await after(/^half of it/u)).toBeLessThan(await after(/^as planned/u));
  expect(await under('Green-waste compost')).toBeLessThan(feeding);
});

test('the cheapest blend is found and added; one that cannot be says which limits conflict', async ({
  page,
}) => {
  await open(page, '/fields/kiln-field/supply');
  const blend = page.getByTestId('blend');
  await fill(page, 'N at least', '80');
  await fill(page, 'N at most', '90');
  await fill(page, 'P at least', '15');
  await fill(page, 'P at most', '20');
  await fill(page, 'K at least', '60');
  await fill(page, 'K at most', '80');
  await fill(page, 'S at least', '');
  await fill(page, 'S at most', '');
  await page.getByRole('button', { name: 'Find the cheapest blend' }).click();
  const found = page.getByTestId('blend-found');
  await expect(found).toContainText('the least that meets all limits', { timeout: 20_000 });
  const rows = await page.getByTestId('passes').getByRole('row').count();
  await found.getByRole('button', { name: 'Add the blend to the passes' }).click();
  await expect
    .poll(() => page.getByTestId('passes').getByRole('row').count())
    .toBeGreaterThan(rows);
  await undoAll(page);

  for (const name of [/MAP/u, /DAP/u, /Triple/u, /15-15-15/u])
    await blend.getByRole('button', { name }).click();
  await page.getByRole('button', { name: 'Find the cheapest blend' }).click();
  await expect(page.getByTestId('blend-none')).toContainText(
    'P: at least 15 kg/ha wanted, these products reach 0 kg/ha',
  );
  await expectAccessible(page);
});

test('a stage that was seen moves the stages to come, and a strip is read beside the plan', async ({
  page,
}) => {
  await open(page, '/fields/terrace-long/season');
  await page.getByRole('tab', { name: 'Stages and meters' }).click();
  const seen = page.getByTestId('stages-seen');
  await seen.getByLabel('Stage').selectOption({ index: 4 });
  await seen.getByRole('button', { name: 'Add the stage' }).click();
  await expect(seen.getByRole('button', { name: /^Remove the stage of/u })).toBeVisible();
  await page.getByRole('button', { name: 'Strip that was fed richly' }).click();
  await expect(page.getByTestId('rich_strip')).toContainText('Both readings first.');
  await fill(page, 'The field reads', '30');
  await fill(page, 'The rich strip reads', '50');
  await expect(page.getByTestId('rich_strip')).toContainText('something else is short first');
  await expectAccessible(page);
  await undoAll(page);
});
