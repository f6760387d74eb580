import fs from 'node:fs';
import { expect, test } from '@playwright/test';
import { actAs, choose, expectAccessible, fill, open, ready, saved } from './desk';

// Bad input, other people, other places: nothing typed is lost and nobody sees what is not theirs.

test('a figure out of range is named and kept on screen; the plan keeps the last good one', async ({
  page,
}) => {
  await open(page, '/fields/kiln-field/ground');
  await fill(page, 'pH in water', '70');
  await expect(
    page.getByRole('alert').filter({ hasText: 'pH in water = 70 is outside 2.5 to 11.' }),
  ).toBeVisible();
  await expect(page.getByLabel('pH in water')).toHaveValue('70');
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('pH in water')).not.toHaveValue('70');
});

test('ammonium above total N and a pass before the season are named', async ({ page }) => {
  await open(page, '/fields/kiln-field/budget');
  await fill(page, 'Ammonium-N', '9');
  await expect(page.getByRole('alert').filter({ hasText: 'M03' })).toContainText(
    'exceed total N 3.1',
  );
  await fill(page, 'Ammonium-N', '1.6');
  await saved(page);
  await open(page, '/fields/terrace-long/supply');
  await fill(page, 'Pass 1 date', '2026-04-01');
  await expect(
    page.getByRole('alert').filter({ hasText: 'lies before the season' }).first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
});

for (const [name, file, message] of [
  ['empty', { name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from('') }, 'The file is empty.'],
  [
    'a PDF',
    { name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from('%PDF-1.7 and so on') },
    'This is a PDF',
  ],
  [
    'without a delimiter',
    { name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from('one column\nvalue\n') },
    'No comma, semicolon',
  ],
  [
    'too large',
    { name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.alloc(10 * 1024 * 1024 + 10, 'a,b\n') },
    'at most 10 MB are read',
  ],
] as const) {
  test(`a file that is ${name} changes nothing and says why`, async ({ page }) => {
    await open(page, '/samples');
    const before = await page.getByRole('table').last().getByRole('row').count();
    await choose(page, 'Farm', { label: 'Kestrel Terrace' });
    await fill(page, 'Laboratory', 'Some laboratory');
    await page.getByLabel('File', { exact: true }).setInputFiles(file);
    await page.getByRole('button', { name: 'Look at the file' }).click();
    await expect(page.getByRole('alert').filter({ hasText: message })).toBeVisible();
    await page.reload();
    await ready(page);
    expect(await page.getByRole('table').last().getByRole('row').count()).toBe(before);
  });
}

test('two people on one plan: different figures come together, the same figure is settled', async ({
  browser,
}) => {
  const [a, b] = [
    await (await browser.newContext()).newPage(),
    await (await browser.newContext()).newPage(),
  ];
  await open(a, '/fields/bay-two/crop');
  await open(b, '/fields/bay-two/crop');
  await fill(a, 'Yield goal', '36');
  await saved(a);
  await fill(b, 'First harvest', '2027-11-20');
  await saved(b);
  await expect(b.getByLabel('Yield goal')).toHaveValue('36');
  await fill(a, 'Yield goal', '30');
  await saved(a);
  await fill(b, 'Yield goal', '40');
  const settle = b.getByRole('alertdialog');
  await expect(settle).toContainText('season.yieldGoalTHa');
  await settle.getByRole('button', { name: 'yours' }).click();
  await settle.getByRole('button', { name: 'Save like this' }).click();
  await saved(b);
  await expect(b.getByLabel('Yield goal')).toHaveValue('30');
  await expect(b.getByLabel('First harvest', { exact: true })).toHaveValue('20 Nov 2027');
});

test('a farmer sees only the own farm, reads the plan, and cannot edit it', async ({ page }) => {
  await open(page, '/');
  await actAs(page, 'Wanda Ostrow');
  await expect(page.getByRole('heading', { name: 'Kestrel Terrace' })).toBeVisible();
  await expect(page.getByText('Tansy Hollow')).toBeHidden();
  const other = await open(page, '/fields/low-fleet/budget');
  expect(other?.status()).toBe(404);
  expect((await page.request.get('/fields/low-fleet/sheet/plan.json')).status()).toBe(404);
  expect((await page.request.get('/fields/low-fleet/sheet/pdf')).status()).toBe(404);
  await open(page, '/fields/bay-one/crop');
  await expect(page.getByLabel('Yield goal')).toBeDisabled();
  await expect(page.getByText('You may read this plan and answer it.')).toBeVisible();
});

test('methods answer over HTTP, with typed errors', async ({ request }) => {
  const ok = await request.post('/api/methods/budget.balance', {
    data: { requirement_kg_ha: 130, credits_kg_ha: { soil_nitrate: 95, legume: 77 } },
  });
  expect(await ok.json()).toMatchObject({ net_kg_ha: -42, surplus_kg_ha: 42 });
  const bad = await request.post('/api/methods/ground.ph_gate', {
    data: { ph_water: 65, target_ph_group: 'maize' },
  });
  expect([bad.status(), (await bad.json()).error]).toMatchObject([
    422,
    { code: 'out_of_range', field: 'ph_water', value: 65 },
  ]);
  expect((await request.post('/api/methods/nothing', { data: {} })).status()).toBe(404);
  expect((await request.post('/api/methods/budget.balance', { data: '{' })).status()).toBe(400);
  const verb = await request.get('/api/methods/budget.balance');
  expect([verb.status(), verb.headers().allow, (await verb.json()).error.code]).toEqual([
    405,
    'POST',
    'not_allowed',
  ]);
  const nowhere = await request.get('/api/nowhere');
  expect([nowhere.status(), (await nowhere.json()).error.code]).toEqual([404, 'not_found']);
  const sheet = '/fields/terrace-long/sheet/sheet.xlsx';
  const tag = (await request.get(sheet)).headers().etag ?? '';
  const again = await request.get(sheet, { headers: { 'if-none-match': tag } });
  expect([again.status(), (await again.body()).length]).toEqual([304, 0]);
  const told = await request.post('/api/read-laboratory', {
    multipart: {
      file: {
        name: 'w.csv',
        mimeType: 'text/csv',
        buffer: fs.readFileSync('src/core/laboratory/reports/water/nitrate-and-sulphate-ions.csv'),
      },
    },
  });
  expect(await told.json()).toMatchObject({ kind: 'water', questions: [], waiting: [] });
  const prose = await request.post('/api/read-laboratory', { multipart: { kind: 'soil' } });
  expect([prose.status(), (await prose.json()).error.code]).toEqual([422, 'missing']);
  const schema = await request.get('/api/schemas/farm-file-4');
  expect((await schema.json()).$id).toBe('urn:patient-furrow:farm-file:4');
  const description = await request.get('/api/openapi.json');
  expect((await description.json()).openapi).toBe('3.1.0');
  expect(description.headers()['x-patient-furrow-version']).toBe('0.1.0');
});

test('a calculator opens with its worked example and answers with reasons', async ({ page }) => {
  await open(page, '/calculators/budget.credit_organic_matter');
  const credit = page.getByRole('row').filter({ hasText: 'Credit' });
  await expect(credit).toContainText('48.4898 kg/ha');
  await expectAccessible(page);
  await page.getByLabel('Organic matter').fill('18');
  await expect(page.getByRole('alert').filter({ hasText: 'organic soil' })).toBeVisible();
  await expect(page.getByLabel('Organic matter')).toHaveValue('18');
  // What was entered stays in the address: the link shows the same again.
  await page.reload();
  await expect(page.getByLabel('Organic matter')).toHaveValue('18');
  await page.getByLabel('Organic matter').fill('70');
  await expect(page.getByRole('alert').filter({ hasText: '0 to 60 %' })).toBeVisible();
  await expect(credit).toBeHidden();
});

test('a calculator’s figures go into the plan of a field, by keyboard', async ({ page }) => {
  await open(page, '/calculators/budget.credit_irrigation_water');
  await page.getByLabel('Irrigation', { exact: true }).fill('85');
  const use = page.getByRole('region', { name: 'Use in a field' });
  await use.getByLabel('Field').focus();
  await page.keyboard.type('yard piece');
  await expect(use.getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  const line = use.getByRole('row').filter({ hasText: 'Irrigation water' });
  await expect(line).toContainText('85 mm');
  await expect(line.getByRole('checkbox')).toBeChecked();
  await expectAccessible(page);
  await use.getByRole('button', { name: /^Put into the plan of/ }).focus();
  await page.keyboard.press('Enter');
  const link = use.getByRole('link', { name: 'See it there' });
  await link.focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/budget$/);
  await expect(page.getByLabel('Irrigation', { exact: true })).toHaveValue('85');
});

test('three calculators by keyboard, in lb/ac', async ({ page }) => {
  await open(page, '/calculators');
  await page.getByRole('searchbox', { name: 'Find' }).focus();
  await page.keyboard.type('product for a wanted');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/nitrogen\.product_rate/);
  await page.getByRole('heading', { name: 'Product for a wanted nutrient' }).waitFor();
  await page.keyboard.press('u');
  const wanted = page.getByLabel('Nutrient wanted');
  await wanted.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('90');
  await expect(page.getByText('lb/ac', { exact: true }).first()).toBeVisible();
  await expect(
    page
      .getByRole('row')
      .filter({ hasText: /^Product/ })
      .first(),
  ).toContainText('lb/ac');
  for (const [id, label, typed, row] of [
    ['budget.credit_irrigation_water', 'Irrigation', '6', 'N brought'],
    ['budget.balance', 'Requirement', '100 lb/ac', 'Net'],
  ] as const) {
    await open(page, `/calculators/${id}`);
    await page.getByLabel(label, { exact: true }).focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(typed);
    await expect(page.getByRole('row').filter({ hasText: row })).toContainText('lb/ac');
  }
  await page.keyboard.press('Escape');
});

test('everything by keyboard: find a field, go through its stations, change units', async ({
  page,
}) => {
  await open(page, '/');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Field, station, page or setting').fill('pear wall season');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/pear-wall\/season/);
  await page.keyboard.press('3');
  await expect(page).toHaveURL(/pear-wall\/budget/);
  await expect(page.getByTestId('ledger')).toContainText('kg/ha');
  await page.keyboard.press('u');
  await expect(page.getByTestId('ledger')).toContainText('lb/ac');
  await page.keyboard.press('u');
  await page.keyboard.press(']');
  await expect(page).toHaveURL(/pear-acre\/budget/);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('stations of the field');
});

for (const path of ['/fields/pear-wall/season', '/fields/terrace-long/sheet']) {
  test(`${path} works 390 px wide`, async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await open(page, path);
    await expect(
      page
        .getByRole('heading', { name: path.endsWith('season') ? 'Leaf sample' : 'The sheet' })
        .first(),
    ).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
  });
}

test('a caution is accepted with a reason or put off, and stands so on the sheet, in lb/ac too', async ({
  page,
}) => {
  await open(page, '/fields/bay-two/supply');
  const settle = page.getByRole('region', { name: 'To settle' });
  const line = settle.getByRole('listitem').filter({ hasText: 'Expect S shortage' });
  await line.getByRole('button', { name: 'accept or put off' }).click();
  await settle.getByRole('button', { name: 'Accept it' }).click();
  await expect(settle.getByRole('alert')).toContainText('in 10 letters or more');
  await fill(page, 'Accepted, because', 'the compost brings more than its analysis says');
  await expectAccessible(page);
  await settle.getByRole('button', { name: 'Accept it' }).click();
  await saved(page);
  await page.reload();
  await ready(page);
  await settle.getByText('1 accepted or put off').click();
  await expect(
    settle.getByText('Accepted 26 Feb 2027 by Ines Calloway: the compost brings more'),
  ).toBeVisible();
  await open(page, '/fields/bay-two/budget');
  const water = page
    .getByRole('region', { name: 'To settle' })
    .getByRole('listitem')
    .filter({ hasText: 'Nitrate-N 14 mg/L' });
  if (!(await water.isVisible()))
    await page
      .getByRole('region', { name: 'To settle' })
      .getByText(/^and \d smaller/)
      .click();
  await water.getByRole('button', { name: 'accept or put off' }).click();
  await fill(page, 'Or put off until', '15 Mar 2027');
  await page.getByRole('button', { name: 'Put it off' }).click();
  await saved(page);
  await open(page, '/fields/bay-two/sheet');
  await expect(page.getByText('Put off until 15 Mar 2027 by Ines Calloway.')).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('all amounts in lb/ac of the element')).toBeVisible();
  const sheet = page.getByRole('article', { name: 'Plan sheet' });
  await expect(sheet).not.toContainText(/\d (kg|t)( [NPKS])?\/ha/);
  await expect(page.getByRole('link', { name: 'PDF, Letter' })).toHaveAttribute(
    'href',
    /units=us&paper=letter$/,
  );
  await page.keyboard.press('u');
});

for (const path of [
  '/',
  '/fields',
  '/samples/leaves?farm=quern-orchard',
  ...[
    'ground',
    'crop',
    'budget',
    'supply',
    'season',
    'sheet',
    'budget/organics',
    'ground/lime',
  ].map((station) => `/fields/low-fleet/${station}`),
])
  test(`${path} does not scroll sideways on a phone`, async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await open(page, path);
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
    ).toBeLessThanOrEqual(0);
  });
