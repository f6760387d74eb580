import fs from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { readSheet } from 'read-excel-file/node';
import { actAs, cells, choose, expectAccessible, fill, open, saved, search } from './desk';

// The whole budget of three kinds of field, from the first figure to the sheet: a cereal after a
// ley with slurry, vegetables with compost and
// nitrate in the water, an organic orchard with rings.
const number = (text: string): number => Number(text.replace('−', '-').replace('·', '0'));
/** Each nutrient's lines add up to what the sheet says is still to apply, or over. */
async function expectExact(page: Page): Promise<Record<string, string[]>> {
  await expect(page.getByTestId('ledger')).toContainText('Still to apply');
  const rows = await Promise.all(
    (await page.getByTestId('ledger').getByRole('row').all()).map(cells),
  );
  const amounts = (r: string[]) => r.slice(-4).map(number);
  const total = rows.findIndex((r) => r[0]?.startsWith('Still to apply'));
  const over = rows.find((r) => r[0] === 'Over');
  const lines = rows.slice(1, total).filter((r) => r.length >= 5);
  const sum = [0, 1, 2, 3].map((i) => lines.reduce((s, r) => s + (amounts(r)[i] ?? 0), 0));
  const still = amounts(rows[total] ?? []);
  expect(sum).toEqual(still.map((x, i) => x - (over ? (amounts(over)[i] ?? 0) : 0)));
  return Object.fromEntries(rows.map((r) => [r[0] ?? '', r.slice(-4)]));
}
const line = (sheet: Record<string, string[]>, name: string): string[] =>
  sheet[Object.keys(sheet).find((k) => k.startsWith(name)) ?? ''] ?? [];
const tab = (page: Page, name: string) => page.getByRole('tab', { name }).click();

test('a cereal after a ley, with slurry: credits, the rate, its worth, its day', async ({
  page,
}) => {
  await open(page, '/fields/brook-meadow/ground');
  await page.getByLabel('Sampled on').first().fill('2026-11-10');
  await open(page, '/fields/brook-meadow/crop');
  await search(page, 'Crop', 'spring barley feed');
  await fill(page, 'Yield goal', '6');
  await fill(page, 'Planting or sowing', '2027-03-20');
  await fill(page, 'First harvest', '2027-08-15');
  await choose(page, 'Previous crop', 'legume');
  await choose(page, 'Which', 'grass_clover_ley');
  await choose(page, 'Stand, as claimed', 'fair');
  await choose(page, 'Kill', 'autumn_late');
  await saved(page);
  await open(page, '/fields/brook-meadow/budget/organics');
  await page.getByRole('button', { name: 'Dressing' }).click();
  const dressing = page.getByRole('region', { name: 'Sheep manure on straw' });
  await search(dressing, 'Material', 'dairy_slurry_medium');
  const slurry = page.getByRole('region', { name: 'Dairy slurry, medium' });
  await fill(slurry, 'Spread on', '2027-03-01');
  await choose(slurry, 'Technique', 'trailing_hose');
  await fill(slurry, 'Rate', '70');
  await expect(
    page.getByText(
      '70 m3/ha (7 mm) in one pass is over the practical limit 50 m3/ha of this method.',
    ),
  ).toBeVisible();
  // 21.8 is what a laboratory prints in lb per 1000 gallons: as kg/t it is eight times the book.
  await tab(page, 'Analysis');
  await fill(page, 'Total N', '21.8');
  await fill(page, 'Ammonium-N', '10');
  await fill(page, 'P', '4.4');
  await fill(page, 'K', '17.6');
  await expect(
    page.getByText(
      /The values look like lb per 1000 US gallons: they are 8\.\d times the book value/,
    ),
  ).toBeVisible();
  await choose(page, 'The report is in', 'lb_1000gal');
  await expect(page.getByText(/The values look like/)).toBeHidden();
  await expect(page.getByLabel('Total N', { exact: true })).toHaveValue('21.8');
  await tab(page, 'Placement');
  const placed = page.getByTestId('placement');
  const kept = async (name: RegExp) =>
    number((await cells(placed.getByRole('row', { name })))[1] ?? '');
  expect(await kept(/worked in after 1 h/)).toBeGreaterThan(await kept(/worked in after 24 h/));
  await tab(page, 'Which rate');
  await page.getByRole('button', { name: 'Take the rate by N' }).click();
  await tab(page, 'Worth');
  await choose(page, 'Machine', { label: 'Tanker with splash plate' });
  await fill(page, 'Distance, one way', '2');
  await expect(page.getByTestId('worth')).toContainText('loads');
  await expect(page.getByText(/Calibration of 2 Oct 2025 no longer counts/)).toBeVisible();
  await tab(page, 'Day, ground and records');
  await fill(page, 'Rain within 48 h, forecast', '30');
  await choose(page, 'Ground', 'ok');
  await expect(page.getByText('30 mm of rain within 48 h: run-off to water.')).toBeVisible();
  await fill(page, 'Rain within 48 h, forecast', '3');
  await page.getByRole('button', { name: 'Water, well, house or road' }).click();
  await fill(page, 'kept clear', '12');
  await expect(page.getByText('Setback to surface water is 12 m (needs 30 m).')).toBeVisible();
  await fill(page, 'kept clear', '40');
  await expect(page.getByText(/Setback to surface water/)).toBeHidden();
  await saved(page);
  await expectAccessible(page);
  await page.getByRole('link', { name: 'The sheet' }).click();
  const sheet = await expectExact(page);
  expect(
    line(sheet, 'Dairy slurry, medium')
      .map(number)
      .every((x) => x < 0),
  ).toBe(true);
  expect(number(line(sheet, 'Grass')[0] ?? '0')).toBeLessThan(0);
  // Another season's N cannot be had twice: the sheet holds one slurry and one ley.
  expect(Object.keys(sheet).filter((k) => k.startsWith('Dairy slurry')).length).toBe(1);
});

test('vegetables with bought compost and nitrate in the water', async ({ page }) => {
  await open(page, '/fields/upper-strip/budget');
  await fill(page, 'Irrigation', '250');
  await fill(page, 'Nitrate-N in the water', '14');
  await fill(page, 'Share before the run-down date', '0.9');
  await saved(page);
  await page.getByRole('link', { name: 'Manure and compost' }).click();
  await page.getByRole('button', { name: 'Dressing' }).click();
  await expect(page.getByRole('region', { name: 'Green-waste compost, screened' })).toBeVisible();
  await choose(page, 'From the store', { label: 'Green-waste compost, bought' });
  await tab(page, 'How it is laid');
  await choose(page, 'It is laid', 'layer');
  await fill(page, 'Layer', '50');
  await expect(page.getByTestId('layer')).toContainText('years');
  await page.getByRole('button', { name: 'Take this rate' }).click();
  // Two inches of compost: years of phosphorus at once.
  await expect(page.getByText(/kg P\/ha is \d+\.\d years of off-take/)).toBeVisible();
  await fill(page, 'Layer', '4');
  await page.getByRole('button', { name: 'Take this rate' }).click();
  await expect(page.getByText(/kg P\/ha is \d+\.\d years of off-take/)).toBeHidden();
  await tab(page, 'Worth');
  await expect(page.getByLabel('Price of the material')).toHaveValue('9');
  await saved(page);
  await expectAccessible(page);
  await page.getByRole('link', { name: 'The sheet' }).click();
  const sheet = await expectExact(page);
  // 250 mm of 14 mg/L is 35 kg N/ha; 0.85 of it reaches roots, nine tenths of that in time: 26.8.
  expect(Math.abs(number(line(sheet, 'Irrigation water')[0] ?? '') + 26.8)).toBeLessThanOrEqual(1);
  // The same field under other schools, one beside the other.
  const table = page.getByTestId('side-by-side');
  await page.getByLabel('Look at it as').selectOption({ label: 'without this season’s manure' });
  const bring = await cells(table.getByRole('row', { name: /N net requirement/ }));
  expect(parseFloat(bring.at(-1) ?? '0')).toBeGreaterThan(parseFloat(bring[1] ?? '0'));
});

test('an organic orchard: compost in rings, its records, and the workbook of the sheet', async ({
  page,
}) => {
  await open(page, '/fields/hazel-dell/crop');
  await fill(page, 'Year since planting', '9');
  await fill(page, 'Yield goal', '2.2');
  await saved(page);
  await open(page, '/fields/hazel-dell/budget/organics');
  await page.getByRole('button', { name: 'Dressing' }).click();
  await expect(page.getByText('Without records this is raw manure.')).toBeVisible();
  await tab(page, 'Day, ground and records');
  await choose(page, 'Time and temperature of composting', 'yes');
  await expect(page.getByText('Without records this is raw manure.')).toBeHidden();
  await tab(page, 'How it is laid');
  await choose(page, 'It is laid', 'ring');
  await choose(page, 'Plant', 'tree_nut');
  await expect(page.getByLabel('Canopy radius')).toHaveValue('3.5');
  await fill(page, 'Clear of the trunk', '0.3');
  await expect(page.getByText('Keep 0.8 m clear of the trunk.')).toBeVisible();
  await fill(page, 'Clear of the trunk', '0.8');
  await expect(page.getByTestId('ring')).toContainText('book for this plant and age: 200 to 900 g');
  await page.getByRole('button', { name: 'Take this rate' }).click();
  await saved(page);
  await expectAccessible(page);
  await page.getByRole('link', { name: 'The sheet', exact: true }).click();
  const sheet = await expectExact(page);
  // Rings were dosed for the N still asked for: nothing is left to apply.
  expect(number(line(sheet, 'Still to apply')[0] ?? '9')).toBeLessThanOrEqual(1);
  await page.getByRole('link', { name: '6 Plan sheet' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'XLSX' }).click();
  const [, requirement] = await readSheet(await (await download).path(), 'Plan');
  expect(requirement?.[0]).toMatch(/^Requirement, 2.2 t\/ha/);
  expect(requirement?.[3]).toBe(number(line(sheet, 'Requirement')[0] ?? ''));
});

test('P and K over the years, in a worker that shows how far it is', async ({ page }) => {
  await open(page, '/fields/low-fleet/budget/years');
  await page.getByRole('button', { name: /Reckon 400 runs/ }).click();
  await expect(
    page.getByTestId('outlook').getByRole('row', { name: /build and maintain/ }),
  ).toBeVisible({ timeout: 60_000 });
  await expectAccessible(page);
});

test('the whole farm: sums, prices tried out, stores against plans, the workbook', async ({
  page,
}) => {
  await open(page, '/fields?farm=tansy-hollow');
  const fields = page.getByTestId('farm-fields');
  await expect(fields.getByRole('row', { name: /Low Fleet/ })).toContainText('Sugar beet');
  const cost = async () =>
    number(
      (
        (await cells(page.getByTestId('farm-left').getByRole('row', { name: /To buy/ })))[1] ?? ''
      ).replaceAll(',', ''),
    );
  const before = await cost();
  await fill(page, 'N price', '2.4');
  await expect.poll(cost).toBeGreaterThan(before);
  await expect(
    page.getByTestId('manure-supply').getByRole('row', { name: /Sheep house heap/ }),
  ).toContainText('420');
  await expectAccessible(page);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'XLSX' }).click();
  const rows = await readSheet(await (await download).path(), 'Fields');
  expect(rows.length).toBe((await fields.getByRole('row').count()) + 1);
});

test('a store’s analysis, a calibration kept with its machine, limits that reach the plans', async ({
  page,
}) => {
  await open(page, '/farms/tansy-hollow');
  await page.getByRole('button', { name: 'Dairy-wash pit' }).click();
  await page.getByRole('button', { name: 'Analysis', exact: true }).click();
  await fill(page, 'Total N', '1.9');
  await fill(page, 'Dry matter', '2.4');
  await page.getByRole('button', { name: 'Save this store' }).click();
  await expect(page.getByRole('row', { name: /Dairy-wash pit/ })).toContainText('2027-02-26');
  await page.getByRole('button', { name: 'Rear-discharge spreader' }).click();
  await page.getByRole('button', { name: 'Calibrate' }).click();
  await fill(page, 'Net on all sheets', '21.6');
  await expect(page.getByTestId('calibration-result')).toContainText('24.0 t/ha');
  await expect(page.getByText('Real rate is 20 % off the target.')).toBeHidden();
  await fill(page, 'Net on all sheets', '23');
  await expect(page.getByText('Real rate is 28 % off the target.')).toBeVisible();
  await fill(page, 'Net on all sheets', '18.5');
  await fill(page, 'Catches across one pass', '1 3 five');
  await expect(page.getByText(/3\. catch, five, is not a number/)).toBeVisible();
  await fill(page, 'Catches across one pass', '1 3 5 6 6 5 3 1');
  await expect(page.getByTestId('calibration-result')).toContainText('effective swath');
  await page.getByRole('button', { name: 'Keep with the machine' }).click();
  await expect(page.getByRole('row', { name: /Rear-discharge spreader/ })).toContainText(
    '26 Feb 2027: 20.6 for 20',
  );
  await fill(page, 'Yearly limit of N from manure', '5000');
  await expect(page.getByText(/= 5000 kg\/ha is outside 50 to 500/)).toBeVisible();
  await fill(page, 'Yearly limit of N from manure', '100');
  await page.getByRole('button', { name: 'Save money, systems and limits' }).click();
  await expect(
    page.getByText('Saved; the plans of this farm reckon with it from now on.'),
  ).toBeVisible();
  await expectAccessible(page);
  await open(page, '/fields/low-fleet/budget/organics');
  await expect(
    page.getByText(/Total N from manure 112 kg\/ha exceeds the limit 100/),
  ).toBeVisible();
  await open(page, '/farms/tansy-hollow');
  await fill(page, 'Yearly limit of N from manure', '');
  await page.getByRole('button', { name: 'Save money, systems and limits' }).click();
  await expect(
    page.getByText('Saved; the plans of this farm reckon with it from now on.'),
  ).toBeVisible();
});

test('manure before the nitrate test is not counted twice; part of a field; another method of ammonia, named', async ({
  page,
}) => {
  const dressingN = async (): Promise<number> => {
    const rows = await Promise.all(
      (
        await page
          .getByTestId('ledger')
          .getByRole('row')
          .filter({ hasText: 'Dairy slurry, medium' })
          .all()
      ).map(cells),
    );
    return Math.abs(number(rows[0]?.at(-4) ?? ''));
  };
  await open(page, '/fields/kiln-field/budget');
  const after = await dressingN();
  await open(page, '/fields/kiln-field/budget/organics');
  const slurry = page.getByRole('region', { name: 'Dairy slurry, medium' });
  await fill(slurry, 'Spread on', '2026-12-10');
  await saved(page);
  await open(page, '/fields/kiln-field/budget');
  await expect(page.getByTestId('ledger')).toContainText('the nitrate test holds part of it');
  expect(await dressingN()).toBeLessThan(after / 2);
  await open(page, '/fields/kiln-field/budget/organics');
  await fill(slurry, 'Spread on', '2027-02-18');
  await tab(page, 'How it is laid');
  await fill(page, 'Share of the field spread', '1.5');
  await expect(page.getByText(/Share of the field spread = 1\.5 is outside/)).toBeVisible();
  await fill(page, 'Share of the field spread', '0.5');
  await saved(page);
  await expectAccessible(page);
  await open(page, '/fields/kiln-field/budget');
  await expect(page.getByTestId('ledger')).toContainText('on 50 % of the field');
  expect(Math.abs((await dressingN()) - after / 2)).toBeLessThanOrEqual(1);
  await expectExact(page);
  await expect(page.getByTestId('field-balance')).toContainText('Manure and compost, all their N');
  await open(page, '/fields/kiln-field/budget/organics');
  await tab(page, 'How it is laid');
  await fill(page, 'Share of the field spread', '1');
  await saved(page);
  const school = async (value: string) => {
    await open(page, '/farms/tansy-hollow');
    await choose(page, 'Ammonia by', value);
    await page.getByRole('button', { name: 'Save money, systems and limits' }).click();
    await expect(
      page.getByText('Saved; the plans of this farm reckon with it from now on.'),
    ).toBeVisible();
  };
  await school('simple_table');
  await open(page, '/fields/kiln-field/budget/organics');
  await expect(
    page.getByText(
      'This manure is credited by another method than the default: simple table, no weather.',
    ),
  ).toBeVisible();
  await tab(page, 'Placement');
  await expect(page.getByText(/By the simple table: placement and hours alone/)).toBeVisible();
  await school('curve');
});

test('the library: an own figure with its reason changes one farm, and goes back', async ({
  page,
}) => {
  await open(page, '/library?table=crops&farm=tansy-hollow');
  await fill(page, 'Search', 'flax');
  await page.getByTestId('library-rows').getByRole('button').first().click();
  await fill(page, 'N required', '2000');
  await expect(page.getByText(/N required = 2000 kg\/t is outside 0 to 150/)).toBeVisible();
  await fill(page, 'N required', '60');
  await page.getByRole('button', { name: 'Use for this farm' }).click();
  await expect(page.getByText(/why/i).filter({ hasText: 'letters' })).toBeVisible();
  await fill(page, 'Why these figures', 'strip trials of 2024 to 2026');
  await page.getByRole('button', { name: 'Use for this farm' }).click();
  await expect(page.getByTestId('library-rows')).toContainText('own, Ines Calloway');
  await expectAccessible(page);
  await open(page, '/fields/yard-piece/budget');
  expect(
    (
      await cells(
        page.getByTestId('ledger').getByRole('row').filter({ hasText: 'Requirement' }).first(),
      )
    ).at(-4),
  ).toBe('108');
  await open(page, '/library?table=crops&farm=tansy-hollow');
  await page.getByLabel('own values only').check();
  await page.getByTestId('library-rows').getByRole('button').first().click();
  await page.getByRole('button', { name: 'Back to the book' }).click();
  await expect(page.getByText('Nothing by that name.')).toBeVisible();
});

test('a farm goes out as JSON and comes back equal, as a farm of its own', async ({ page }) => {
  await open(page, '/');
  await actAs(page, 'Wanda Ostrow');
  await open(page, '/farms/kestrel-terrace');
  const get = async () => {
    const d = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Whole farm as JSON' }).click();
    const path = await (await d).path();
    return {
      path,
      file: JSON.parse(fs.readFileSync(path, 'utf8')) as {
        farm: { name: string };
        exportedOn: string;
      },
    };
  };
  const first = await get();
  await page
    .getByLabel('Bring a farm file in')
    .setInputFiles({ name: 'bad.json', mimeType: 'application/json', buffer: Buffer.from('{') });
  await expect(page.getByText(/The file is not JSON/)).toBeVisible();
  await fill(page, 'Name of a farm to bring in', 'Kestrel Terrace');
  await page.getByLabel('Bring a farm file in').setInputFiles(first.path);
  await expect(
    page.getByText('You have a farm named Kestrel Terrace already: give it another name.'),
  ).toBeVisible();
  await fill(page, 'Name of a farm to bring in', 'Kestrel again');
  await page.getByLabel('Bring a farm file in').setInputFiles(first.path);
  await expect(page.getByRole('heading', { name: 'Kestrel again' })).toBeVisible();
  const second = await get();
  expect(second.file).toEqual({
    ...first.file,
    farm: { ...first.file.farm, name: 'Kestrel again' },
  });
  await actAs(page, 'Ines Calloway');
});

for (const path of [
  '/fields?farm=tansy-hollow',
  '/fields/low-fleet/budget/organics',
  '/library?table=ranges',
  '/farms/kestrel-terrace',
]) {
  test(`${path} works 390 px wide`, async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await open(page, path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.waitForLoadState('networkidle');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
  });
}
