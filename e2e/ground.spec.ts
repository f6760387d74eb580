import fs from 'node:fs';
import { check } from '@placemarkio/check-geojson';
import { parse } from 'csv-parse/sync';
import { expect, test, type Page } from '@playwright/test';
import { actAs, choose, expectAccessible, fill, open, ready, saved } from './desk';

// Ground, from the bag in the field to the lime on it.

/** What a link or a button gives to take away, as text, and where it lies. */
async function taken(
  page: Page,
  click: () => Promise<void>,
): Promise<{ text: string; path: string }> {
  const waiting = page.waitForEvent('download');
  await click();
  const path = await (await waiting).path();
  return { text: fs.readFileSync(path, 'utf8'), path };
}

test('a grid is planned, labelled, sent to the laboratory, and its results come back to the map and the barrel', async ({
  page,
}) => {
  await open(page, '/fields/yard-piece/ground/sampling');
  await choose(page, 'Scheme', 'grid');
  await fill(page, 'Cell', '0.5');
  await page.getByRole('button', { name: 'Mark what to avoid' }).click();
  await choose(page, 'Mark', 'old_heap');
  // By keyboard: at the cross in the middle of the map, after three steps to the left.
  await page.getByRole('img', { name: /Sampling plan of Yard Piece/ }).focus();
  for (const key of ['ArrowLeft', 'ArrowLeft', 'ArrowLeft', 'Enter'])
    await page.keyboard.press(key);
  await expect(page.getByLabel('Radius of mark 1')).toHaveValue('20');
  await page.getByRole('button', { name: 'Lay the samples' }).click();
  const rows = page.getByTestId('sample-points').getByRole('row');
  const count = (await rows.count()) - 1;
  expect(count).toBeGreaterThan(5);
  await expect(page.getByTestId('precision')).toContainText('pH');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The sampling plan is saved.')).toBeVisible();

  const geojson = JSON.parse(
    (await taken(page, () => page.getByRole('link', { name: 'GeoJSON' }).click())).text,
  ) as { features: { properties: { role: string } }[] };
  check(JSON.stringify(geojson));
  expect(geojson.features.filter((f) => f.properties.role === 'sample')).toHaveLength(count);
  const list = await taken(page, () =>
    page.getByRole('link', { name: 'List for the laboratory' }).click(),
  );
  expect(parse(list.text, { columns: true })).toHaveLength(count);

  await page.getByRole('link', { name: 'Labels and map' }).click();
  await expect(page.getByTestId('label')).toHaveCount(count);
  await expectAccessible(page);
  // The sheet goes to paper without the frame of the app, its labels whole.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation').first()).toBeHidden();
  expect((await page.pdf({ format: 'A4' })).byteLength).toBeGreaterThan(5_000);
  await page.emulateMedia({ media: null });

  await open(page, '/samples');
  await page
    .getByLabel('Sample list (CSV of a sampling plan)')
    .setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from(list.text) });
  await expect(page.getByText(`${count} samples received`)).toBeVisible();
  const results = await taken(page, () => page.getByRole('link', { name: 'Results, CSV' }).click());
  await choose(page, 'Farm', { label: 'Tansy Hollow' });
  await fill(page, 'Laboratory', 'Senn laboratory (simulated)');
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'results.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(results.text),
  });
  await page.getByRole('button', { name: 'Look at the file' }).click();
  await expect(page.getByText(`${count} can come in; 0 have a fault.`)).toBeVisible();
  await page.getByRole('button', { name: `Bring in ${count} rows` }).click();
  await expect(page.getByText(`${count} samples came in.`)).toBeVisible();
  await expect(page.getByRole('link', { name: `${count} points`, exact: true })).toBeVisible();
  // A label that came back once is not taken twice.
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'results.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(results.text),
  });
  await page.getByRole('button', { name: 'Look at the file' }).click();
  await expect(page.getByText(`0 can come in; ${count} have a fault.`)).toBeVisible();

  await page.getByRole('link', { name: `${count} points`, exact: true }).click();
  await expect(page.getByTestId('field-mean')).toContainText('Mean');
  await expect(page.getByTestId('survey-points').getByRole('row')).toHaveCount(count + 1);
  await page.getByLabel('Reading', { exact: true }).selectOption({ label: 'P, Olsen, mg/kg' });
  await expect(page.getByRole('list', { name: 'Steps on the map' })).toContainText('very high');
  await expect(page.getByTestId('history').getByRole('listitem')).not.toHaveCount(0);
  await expectAccessible(page);

  await page.getByRole('link', { name: 'Barrel' }).click();
  await expect(page.getByRole('heading', { name: 'Limiting factors' })).toBeVisible();
  await expectAccessible(page);
});

test('the low field: the barrel says that P and K wait for lime', async ({ page }) => {
  await open(page, '/fields/low-fleet/ground/barrel');
  await expect(page.getByText(/pH is the shortest: about 32.5 of 65.0 t\/ha/)).toBeVisible();
  await expect(
    page.getByText(
      'pH comes first: money for P or K waits in the ground until the pH is put right',
    ),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Map and history' }).click();
  await expect(page.getByTestId('history')).toContainText('not compared: another season');
  await page.getByRole('link', { name: 'S, Mg and trace' }).click();
  await expect(page.getByRole('heading', { name: 'Boron of the last 12 months' })).toBeVisible();
  await expectAccessible(page);
});

test('three limes for a planting date: the one that works in time, and why', async ({ page }) => {
  await open(page, '/fields/bay-two/ground/lime');
  const lime = (key: string) => page.getByTestId(`lime-${key}`);
  await expect(lime('calcitic_fine')).toContainText('in time');
  await expect(lime('calcitic_ag')).toContainText('24 days too late');
  await expect(lime('dolomitic_ag')).toContainText('98 days too late');
  await expect(page.getByRole('img', { name: /pH over the months/ })).toBeVisible();
  await expectAccessible(page);
  await lime('calcitic_fine').getByRole('button', { name: /rate/ }).click();
  const drawer = page.getByRole('complementary', { name: /Why/ });
  await expect(drawer).toContainText('requirement / effective neutralising value');
  await page.keyboard.press('Escape');
  await lime('calcitic_fine').getByRole('radio').check();
  await saved(page);
  // Sown seven weeks later, the ordinary grind is there in time as well, and the dearer powder
  // still leads by the tonne of effect.
  await page.getByRole('link', { name: '2 Crop' }).click();
  await fill(page, 'Planting or sowing', '2027-07-12');
  await saved(page);
  await page.getByRole('link', { name: '1 Ground' }).click();
  await page.getByRole('link', { name: 'pH and lime' }).click();
  await expect(lime('calcitic_ag')).toContainText('in time');
  // A sieve that holds more of the fine than of the coarse is no sieve.
  const load = page.getByRole('group', { name: 'calcitic limestone, fine ground' });
  await load.getByLabel('own analysis').check();
  await load.getByLabel('0.25 mm').fill('100');
  await load.getByLabel('0.85 mm').fill('60');
  await expect(lime('calcitic_fine')).toContainText('0.25 mm');
  await expect(load.getByLabel('0.85 mm')).toHaveValue('60');
});

test('a calcium chloride sold as lime is caught, and the verdict stays with the field', async ({
  page,
}) => {
  await open(page, '/calculators');
  await page.getByRole('link', { name: /claim/i }).first().click();
  const verdict = page.getByTestId('claim-result');
  await expect(verdict).toContainText('Ruled out by chemistry');
  await expect(verdict).toContainText('Calcium itself neutralises nothing.');
  await expectAccessible(page);
  await open(page, '/fields/low-fleet/ground/claims');
  await fill(page, 'Name', 'Liquid lime');
  await choose(page, 'Compound', 'calcium_chloride');
  await fill(page, 'Rate', '20');
  await page.getByRole('button', { name: 'Keep with the field' }).click();
  await expect(page.getByRole('row', { name: /Liquid lime/ })).toContainText(
    'Ruled out by chemistry.',
  );
  await actAs(page, 'Odo Merrick');
  await open(page, '/fields/low-fleet/ground/claims');
  await expect(page.getByRole('row', { name: /Liquid lime/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep with the field' })).toHaveCount(0);
});

test('an outline typed by hand: a crossing is named and what was typed stays', async ({ page }) => {
  await open(page, '/fields/lower-strip/ground/sampling');
  await actAs(page, 'Ines Calloway');
  await page.getByRole('button', { name: 'Outline' }).click();
  await fill(page, 'Corner 1 north', '400');
  await expect(page.getByRole('alert').filter({ hasText: /cross/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the outline' })).toBeDisabled();
  await expect(page.getByLabel('Corner 1 north')).toHaveValue('400');
  await expectAccessible(page);
  // A file in another projection: metres of UTM zone 26 north.
  const square = {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        properties: { name: 'Lower Strip' },
        geometry: {
          type: 'Polygon',
          coordinates: [
            [
              [300000, 5764000],
              [300120, 5764000],
              [300120, 5764090],
              [300000, 5764090],
              [300000, 5764000],
            ],
          ],
        },
      },
    ],
  };
  await choose(page, 'Projection of the file', 'utm');
  await fill(page, 'Zone', '26n');
  await page.getByLabel('Outlines from a file').setInputFiles({
    name: 'strip.geojson',
    mimeType: 'application/geo+json',
    buffer: Buffer.from(JSON.stringify(square)),
  });
  await expect(page.getByText('1.08 ha on the ellipsoid')).toBeVisible();
  await page.getByRole('button', { name: 'Save the outline' }).click();
  await page.getByRole('button', { name: 'It has 1.08 ha' }).click();
  await expect(page.getByText('1.08 ha. Keep out of the composite')).toBeVisible();
  await saved(page);
});

test('a German report: Windows-1252, oxides in mg/100 g, decimal comma, from file to budget', async ({
  page,
}) => {
  const report = [
    'Bodenlabor Senn;;;;;;;',
    'Prüfbericht vom 20.11.2026;;;;;;;',
    'Schlag;Probe;Probenahme;Tiefe (cm);pH-Wert;P2O5 CAL (mg/100 g);Humus %;Gehaltsklasse P',
    'Sheepwalk;SH-9;12.02.2027;20;6,3;18,0;2,4;C',
  ].join('\r\n');
  await open(page, '/samples');
  await choose(page, 'Farm', { label: 'Tansy Hollow' });
  await fill(page, 'Laboratory', 'Bodenlabor Senn');
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'befund.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(report, 'latin1'),
  });
  await page.getByRole('button', { name: 'Look at the file' }).click();
  // What the report leaves open is asked with its own cell, and answered by keyboard.
  const question = page.getByRole('group', { name: /pH-Wert/ });
  await expect(question).toContainText('6,3');
  await expectAccessible(page);
  await question.getByRole('radio', { name: 'in calcium chloride' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('1 can come in; 0 have a fault.')).toBeVisible();
  const cells = page.getByTestId('cells');
  await expect(cells).toContainText('P, CAL, 78.555 mg/kg');
  await page.getByText('Left out: 1').click();
  await expect(page.getByTestId('left-out')).toContainText('Gehaltsklasse P');
  await page.getByRole('button', { name: 'Bring in 1 row', exact: true }).click();
  await expect(page.getByText('1 sample came in.')).toBeVisible();
  await open(page, '/fields/sheepwalk/ground');
  await expect(page.getByLabel('pH in CaCl2')).toHaveValue('6.3');
  await expect(page.getByLabel('P test')).toHaveValue('78.5546');
  await open(page, '/fields/sheepwalk/budget');
  await expect(page.getByTestId('ledger')).toBeVisible();
});

test('an import is taken back as a whole, by keyboard', async ({ page }) => {
  await open(page, '/samples');
  await choose(page, 'Farm', { label: 'Tansy Hollow' });
  await fill(page, 'Laboratory', 'Vale testing house');
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'wrong-farm.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Field,Sampled,Depth (cm),pH H2O\nRookery,2027-02-23,0-20,5.9\n'),
  });
  await page.getByRole('button', { name: 'Look at the file' }).click();
  await page.getByRole('button', { name: 'Bring in 1 row', exact: true }).click();
  const back = page.getByRole('button', { name: 'Take back wrong-farm.csv' });
  await back.focus();
  await page.keyboard.press('Enter');
  const yes = page.getByRole('button', { name: 'Yes, take all of it back' });
  await expect(yes).toBeFocused();
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(page.getByText('wrong-farm.csv is taken back: 1 sample went')).toBeVisible();
  await expect(back).toBeHidden();
  await open(page, '/fields/rookery/ground');
  await expect(page.getByLabel('pH in water')).toHaveValue('6.5');
});

test('nitrate and sulphate by layers: from the laboratory’s file to the credits of the budget', async ({
  page,
}) => {
  const report = [
    'Field,Sample,Sampled,Depth (cm),NO3-N (mg/kg),SO4-S (mg/kg)',
    'Rookery,R-1,2027-02-24,0-30,9,4',
    'Rookery,R-1,2027-02-24,30-60,6,3',
  ].join('\n');
  await open(page, '/samples');
  await choose(page, 'Farm', { label: 'Tansy Hollow' });
  await fill(page, 'Laboratory', 'Senn laboratory');
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'layers.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(report),
  });
  await page.getByRole('button', { name: 'Look at the file' }).click();
  await page.getByRole('button', { name: 'Bring in 2 rows' }).click();
  await expect(page.getByText('2 samples came in.')).toBeVisible();
  await open(page, '/fields/rookery/ground');
  await expect(page.getByLabel('Layer 2 nitrate-N')).toHaveValue('6');
  await expect(page.getByLabel('Sulphate layer 1 sulphate-S')).toHaveValue('4');
  await open(page, '/fields/rookery/budget');
  await expect(page.getByRole('row', { name: /^Soil nitrate, 0-60 cm/u })).toHaveCount(1);
  await expect(page.getByRole('row', { name: /^Soil sulphate, 0-60 cm/u })).toHaveCount(1);
});

test('a sample corrected: the budget follows, the old figure stays in its history', async ({
  page,
}) => {
  await open(page, '/fields/bay-two/ground');
  await page.getByRole('link', { name: /^This sample/u }).click();
  await expect(page).toHaveURL(/samples\//u);
  await expect(page.getByRole('button', { name: 'Save the correction' })).toBeVisible();
  await ready(page);
  const was = await page.getByLabel('pH in water').inputValue();
  await fill(page, 'pH in water', '6.7');
  await page.getByRole('button', { name: 'Save the correction' }).click();
  await expect(page.getByRole('region', { name: 'As it stood before' })).toContainText(`pH ${was}`);
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Bay Two, Ground' }).click();
  await expect(page.getByLabel('pH in water')).toHaveValue('6.7');
});
