import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import { expect, test } from '@playwright/test';
import { actAs, cells, choose, expectAccessible, fill, open, ready, saved, search } from './desk';

// The whole job once: from a laboratory file to a plan that both have agreed, with the figures of
// docs/worked-example.md.
test.describe.configure({ mode: 'serial' });
const FIELD = '/fields/terrace-short';

test('a laboratory file of thirteen rows: two faulty ones wait, the rest come in', async ({
  page,
}) => {
  await open(page, '/samples');
  await choose(page, 'Farm', { label: 'Tansy Hollow' });
  await fill(page, 'Laboratory', 'Senn laboratory');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles('public/examples/senn-soil-2027.csv');
  await page.getByRole('button', { name: 'Look at the file' }).click();
  await expect(page.getByText('11 can come in; 2 have a fault.')).toBeVisible();
  await expect(page.getByTestId('cells')).toContainText('P, Olsen, 13 mg/kg');
  await expectAccessible(page);
  const bad = page.getByTestId('bad-rows');
  await expect(bad).toContainText('pH in water = 65 is outside 2.5 to 11');
  await expect(bad).toContainText('31/02/2027 is no day that can be read');
  await page.getByRole('button', { name: 'Bring in 11 rows, keep 2 for later' }).click();
  await expect(
    page.getByText('11 samples came in; 2 rows wait below to be put right.'),
  ).toBeVisible();
  const waiting = page.getByRole('form', { name: 'Line 5 of senn-soil-2027.csv' });
  await waiting.getByLabel('pH H2O').fill('5,0');
  await waiting.getByRole('button', { name: 'Bring this row in' }).click();
  await expect(waiting).toBeHidden();
});

test('ground, crop and budget, typed by hand, give the hand-worked sheet', async ({ page }) => {
  await open(page, `${FIELD}/ground`);
  await expect(page.getByLabel('pH in water')).toHaveValue('6.8');
  await expect(page.getByLabel('P test')).toHaveValue('13');
  await page.getByLabel('Sampled on').last().fill('2027-02-12');
  await page.getByRole('button', { name: 'Layer 0-30 cm' }).click();
  await fill(page, 'Layer 1 nitrate-N', '8');
  await fill(page, 'Layer 1 bulk density', '1.35');
  await page.getByRole('button', { name: 'Layer 30-60 cm' }).click();
  await fill(page, 'Layer 2 nitrate-N', '5');
  await fill(page, 'Layer 2 bulk density', '1.45');
  await saved(page);
  await expectAccessible(page);

  await page.getByRole('link', { name: '2 Crop' }).click();
  await search(page, 'Crop', 'sugar beet');
  await fill(page, 'Yield goal', '65');
  await fill(page, 'Planting or sowing', '2027-03-25');
  await fill(page, 'First harvest', '2027-10-20');
  await choose(page, 'Previous crop', 'legume');
  await choose(page, 'Which', 'red_clover_hay');
  await choose(page, 'Stand, as claimed', 'good');
  await fill(page, 'Legume in the stand', '25');
  await choose(page, 'Regrowth at the kill', 'none');
  await choose(page, 'Kill', 'autumn_late');
  await choose(page, 'Tillage', 'inversion');
  await choose(page, 'Nitrate sample against the kill', 'autumn_kill_spring_sample');
  await expect(
    page.getByText('Thin stand: 25 % legume supports class poor, not good.'),
  ).toBeVisible();
  await saved(page);
  await expectAccessible(page);

  await page.getByRole('link', { name: '3 Budget' }).click();
  await fill(page, 'Soil temperature', '14');
  await fill(page, 'Days of release', '150');
  await page.getByRole('button', { name: 'Manure or compost of this season' }).click();
  const manure = page.getByRole('listitem', { name: 'Sheep manure on straw' });
  await fill(manure, 'Rate', '14');
  await choose(manure, 'Worked in by', 'plough_inversion');
  await fill(manure, 'Worked in after', '4');
  await manure.getByText('Analysis from the book').click();
  await fill(manure, 'Total N', '8');
  await fill(manure, 'Ammonium-N', '1.6');
  await fill(manure, 'P', '1.5');
  await fill(manure, 'K', '9');
  await page.getByRole('button', { name: 'Manure of an earlier year' }).click();
  await fill(page, 'Earlier rate 1', '20');
  await saved(page);
  const ledger = page.getByTestId('ledger');
  const amounts = async (name: string) =>
    (await cells(ledger.getByRole('row').filter({ hasText: name }).first())).slice(-4);
  expect(await amounts('Requirement, 65 t/ha')).toEqual(['260', '25', '123', '39']);
  expect(await amounts('Soil nitrate')).toEqual(['−54', '·', '·', '·']);
  expect(await amounts('Soil organic matter')).toEqual(['−32', '·', '·', '−4']);
  expect(await amounts('Red clover')).toEqual(['−13', '·', '·', '·']);
  expect(await amounts('Sheep manure on straw')).toEqual(['−39', '−21', '−126', '−4']);
  expect(await amounts('Manure of earlier years')).toEqual(['−14', '·', '·', '−1']);
  expect(await amounts('Held back for quality')).toEqual(['−37', '·', '·', '·']);
  expect(await amounts('Still to apply')).toEqual(['71', '0', '0', '30']);
  await expectAccessible(page);
});

test('the same field by other schools: side by side, what a dose holds already, one kept and undone', async ({
  page,
}) => {
  await open(page, '/fields/terrace-long/budget');
  const table = page.getByTestId('side-by-side');
  await expect(table.getByRole('columnheader', { name: 'the plan as it is' })).toBeVisible();
  await page.getByLabel('Look at it as').selectOption({ label: 'N by economic optimum' });
  await expect(table.getByText(/needs 5 points at 4 or more rates/)).toBeVisible();
  await expectAccessible(page);
  await table.getByRole('button', { name: 'Keep: N by index and ceiling' }).click();
  const ledger = page.getByTestId('ledger');
  await expect(
    ledger.getByRole('row').filter({ hasText: 'Soil organic matter' }).first(),
  ).toContainText('inside the index and ceiling figure');
  await expect(page.getByLabel('N by', { exact: true })).toHaveValue('index_ceiling');
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('N by', { exact: true })).toHaveValue('');
  await saved(page);
});

test('why: each figure opens its reasons, by mouse and by key', async ({ page }) => {
  await open(page, `${FIELD}/budget`);
  await ready(page);
  const figure = page.getByRole('button', { name: /^Soil organic matter, 2.6 %, N/ });
  await figure.focus();
  await page.keyboard.press('w');
  const drawer = page.getByRole('complementary', { name: 'Why: Soil organic matter' });
  await expect(drawer).toContainText('Yearly release at 15 °C');
  await expect(drawer).toContainText('confidence medium');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(drawer).toBeHidden();
  await expect(figure).toBeFocused();
});

test('supply: the split is proposed, set by hand, and moved along the furrow by key', async ({
  page,
}) => {
  await open(page, `${FIELD}/supply`);
  await fill(page, 'Drainage from first pass to half uptake', '20');
  await page.getByRole('button', { name: 'Split the N into passes' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Pass 2 date')).toBeVisible();
  await fill(page, 'Pass 1 date', '2027-03-25');
  await fill(page, 'Pass 1 product rate', '140');
  await fill(page, 'Pass 2 date', '2027-05-09');
  await fill(page, 'Pass 2 product rate', '120');
  await page.getByRole('slider').last().focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('Pass 2 date')).toHaveValue('10 May 2027');
  await saved(page);
  const row = async (id: string) => (await cells(page.getByTestId(id).first())).slice(-4);
  expect(await row('passes.planned')).toEqual(['−70', '0', '0', '0']);
  expect(await row('still_to_apply')).toEqual(['1', '0', '0', '30']);
  expect(await row('over')).toEqual(['0', '0', '3', '0']);
  await expect(page.getByRole('link', { name: '4 Supply' })).toContainText('still to apply: S');
  await expectAccessible(page);
});

test('the advisor proposes, the farmer asks for a change, then agrees; what was agreed stays', async ({
  page,
}) => {
  await open(page, `${FIELD}/sheet`);
  await expect(page.getByRole('button', { name: 'I agree with this plan' })).toBeHidden();
  await page.getByRole('button', { name: 'Propose this plan to the farmer' }).click();
  await expect(page.getByRole('cell', { name: 'waits for the farmer’s answer' })).toBeVisible();
  await actAs(page, 'Odo Merrick');
  await page.getByRole('button', { name: 'Ask for a change' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'say what should change' })).toBeVisible();
  await fill(
    page,
    'Comment, needed when you ask for a change',
    'Show me the price of sulphur first',
  );
  await page.getByRole('button', { name: 'Ask for a change' }).click();
  await expect(page.getByText('a change was asked for')).toBeVisible();
  await actAs(page, 'Ines Calloway');
  await page.getByRole('button', { name: 'Propose this plan to the farmer' }).click();
  await actAs(page, 'Odo Merrick');
  await page.getByRole('button', { name: 'I agree with this plan' }).click();
  await expect(page.getByText('agreed by both')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Version 2' }).click();
  const sheet = page.getByTestId('sheet-ledger');
  const amounts = async (name: string) =>
    (await cells(sheet.getByRole('row').filter({ hasText: name }).first())).slice(-4);
  expect(await amounts('Still to apply')).toEqual(['1', '0', '0', '30']);
  expect(await amounts('Fertiliser, planned')).toEqual(['−70', '0', '0', '0']);
  await expect(page.getByText('Version 2, agreed by advisor and farmer; frozen')).toBeVisible();
  await expectAccessible(page);
  const frozen = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  expect(fs.readFileSync(await (await frozen).path(), 'utf8')).toContain(
    '"Still to apply, at most",,still_to_apply,1,0,0,30',
  );
});

test('the plan file gives the same figures on the command line, and the PDF holds them', async ({
  page,
  request,
}) => {
  await open(page, `${FIELD}/sheet`);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Plan file' }).click(),
  ]);
  const path = await download.path();
  const out = execFileSync(
    process.execPath,
    ['node_modules/tsx/dist/cli.mjs', 'cli/furrow.ts', 'assess', path],
    { encoding: 'utf8', maxBuffer: 32 * 1024 * 1024 },
  );
  const { sums } = JSON.parse(out) as {
    sums: Record<string, { still_to_apply: number; planned: number; over: number }>;
  };
  expect(sums.n).toMatchObject({ net: 107.93, left_out: 37.11, still_to_apply: 0.62 });
  expect(sums.p).toMatchObject({ left_out: 3.7, still_to_apply: 0 });
  expect(sums.k?.over).toBe(2.5);
  expect(sums.s?.still_to_apply).toBe(30.08);
  const pdf = await request.get(`${FIELD}/sheet/pdf`);
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  const bytes = await pdf.body();
  expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
  expect(bytes.length).toBeGreaterThan(10_000);
});

test('the sheet goes to a spreadsheet, and only to who may read it', async ({ page, request }) => {
  await open(page, `${FIELD}/sheet`);
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  expect((await waiting).suggestedFilename()).toBe('terrace-short-2026-27-sheet.csv');
  expect(fs.readFileSync(await (await waiting).path(), 'utf8')).toContain(
    '"Still to apply, at most",,still_to_apply,1,0,0,30',
  );
  expect((await request.get('/fields/nowhere/sheet/sheet.csv')).status()).toBe(404);
});

test('an edited plan file comes back in, and a newer one is refused', async ({ page }) => {
  await open(page, '/fields/lower-strip/sheet');
  const file = fs.readFileSync('examples/terrace-short.plan.json', 'utf8');
  const upload = (content: string) =>
    page.getByLabel('Import a plan file').setInputFiles({
      name: 'x.plan.json',
      mimeType: 'application/json',
      buffer: Buffer.from(content),
    });
  await upload(file.replace(/"version": \d+/, '"version": 99'));
  await expect(
    page.getByRole('alert').filter({ hasText: 'written by a newer version (99)' }),
  ).toBeVisible();
  await upload(file.replace('"yield_goal_t_ha": 65', '"yield_goal_t_ha": 60'));
  await expect(
    page.getByText(/^The file is of Terrace Short, 2026\/27\. It would land in/u),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /season, yield goal t ha/u })).toContainText('60');
  await page.getByRole('button', { name: /^Take the file over into Lower Strip/u }).click();
  await expect(page.getByTestId('sheet-ledger')).toContainText('Requirement, 60 t/ha');
});

test('season: a leaf is read against its range; a wrong part is refused with the right ones', async ({
  page,
}) => {
  await open(page, `${FIELD}/season`);
  await page
    .getByLabel('Values from a laboratory file')
    .setInputFiles('public/examples/leaf-beet.csv');
  await expect(page.getByLabel('N', { exact: true })).toHaveValue('4.6');
  await choose(page, 'Part', 'leaf_midshoot');
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'no standard for sugar_beet' }),
  ).toBeVisible();
  await page
    .getByRole('button', { name: /BBCH 35-39/ })
    .last()
    .click();
  await expect(page.getByLabel('N', { exact: true })).toHaveValue('4.6');
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  const leaf = page.getByRole('article', { name: /Leaf sample of/ });
  await expect(leaf).toContainText('B');
  await expect(leaf.getByRole('row', { name: /^N\b/u })).toContainText('sufficient');
  await expectAccessible(page);
});

test('today: one table with every field, its stations and what needs a decision', async ({
  page,
}) => {
  await open(page, '/');
  await expect(page.getByRole('row').filter({ hasText: 'Low Fleet' })).toContainText(
    'pH 5.0 is 1.9 below the target',
  );
  await expect(page.getByRole('row').filter({ hasText: 'Terrace Short' })).toContainText('agreed');
  await expectAccessible(page);
  await open(page, '/calculators');
  await expectAccessible(page);
});
