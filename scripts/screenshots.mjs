// npm run screenshots: one current picture of each main view, taken from the demo data, into docs/screenshots/.
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { build, chromium as installChromium, install } from './setup.mjs';

install();
installChromium();
build();
const only = process.argv[2];
const port = 3118;
const url = `http://127.0.0.1:${port}`;
const data = fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-pictures-'));
const server = spawn(process.execPath, ['.next/standalone/server.js'], {
  stdio: 'ignore',
  env: {
    ...process.env,
    PORT: String(port),
    HOSTNAME: '127.0.0.1',
    NODE_ENV: 'production',
    FURROW_DATA: data,
    FURROW_DEMO: '1',
    FURROW_TODAY: '2027-02-26',
  },
});
const views = [
  { name: 'today', path: '/' },
  { name: 'ground', path: '/fields/low-fleet/ground' },
  { name: 'sampling', path: '/fields/low-fleet/ground/sampling' },
  {
    name: 'lime',
    path: '/fields/bay-two/ground/lime',
    act: async (page) => {
      await page.getByRole('heading', { name: 'Which lime' }).scrollIntoViewIfNeeded();
      await page
        .getByRole('heading', { name: 'Which lime' })
        .evaluate((e) => window.scrollTo(0, e.getBoundingClientRect().top + window.scrollY - 60));
    },
  },
  { name: 'budget', path: '/fields/low-fleet/budget' },
  {
    name: 'organics',
    path: '/fields/kiln-field/budget/organics',
    act: async (page) => {
      await page.getByRole('tab', { name: 'Placement' }).click();
    },
  },
  {
    name: 'why',
    path: '/fields/low-fleet/budget',
    act: async (page) => {
      await page.getByTestId('ledger').locator('[data-why]').nth(5).focus();
      await page.keyboard.press('w');
    },
  },
  {
    name: 'supply',
    path: '/fields/terrace-long/supply',
    act: async (page) => {
      await page.locator('[data-testid="consequences"][data-settled="true"]').waitFor();
    },
  },
  {
    name: 'season',
    path: '/fields/pear-wall/season',
    act: async (page) => {
      await page
        .getByRole('tab', { name: 'Read it' })
        .evaluate((e) => window.scrollTo(0, e.getBoundingClientRect().top + window.scrollY - 12));
    },
  },
  { name: 'sheet', path: '/fields/low-fleet/sheet' },
  {
    name: 'fields',
    path: '/fields?farm=tansy-hollow',
    act: async (page) => {
      await page.getByTestId('farm-left').waitFor();
    },
  },
  { name: 'farm', path: '/farms/tansy-hollow' },
  {
    name: 'new-farm',
    path: '/farms/new',
    act: async (page) => {
      await page.getByLabel('Name of the farm').fill('Long Meadow');
      await page.getByLabel('Latitude').fill('-36.5');
      await page.getByLabel('Longitude').fill('148.2');
    },
  },
  { name: 'next-season', path: '/farms/tansy-hollow/next-season' },
  { name: 'library', path: '/library?table=materials&farm=tansy-hollow' },
  {
    name: 'samples',
    path: '/samples',
    act: async (page) => {
      await page.getByLabel('Farm', { exact: true }).selectOption({ label: 'Tansy Hollow' });
      await page.getByLabel('Laboratory', { exact: true }).fill('Bodenlabor Senn');
      await page.getByLabel('File', { exact: true }).setInputFiles({
        name: 'befund.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(
          'Schlag;Probe;Probenahme;Tiefe (cm);pH-Wert;P2O5 CAL (mg/100 g);Humus %;Gehaltsklasse P\n' +
            'Sheepwalk;SH-9;12.02.2027;20;6,3;18,0;2,4;C\nRookery;RO-3;12.02.2027;20;6,6;9,5;2,1;B\n',
        ),
      });
      await page.getByRole('button', { name: 'Look at the file' }).click();
      await page.getByTestId('cells').waitFor();
      await page.getByText('Left out: 1').click();
    },
  },
  {
    name: 'calculator',
    path: '/calculators/budget.credit_soil_nitrate',
    act: async (page) => {
      const use = page.getByRole('region', { name: 'Use in a field' });
      await use.getByLabel('Field').fill('terrace long');
      await use.getByRole('button', { name: /Terrace Long/ }).click();
      await page.getByText('Place in the plan').waitFor();
    },
  },
  { name: 'budget-dark', path: '/fields/terrace-long/budget', dark: true },
  {
    name: 'season-phone',
    path: '/fields/pear-wall/season',
    width: 390,
    height: 844,
    act: async (page) => {
      await page.getByRole('tab', { name: 'Take the leaf' }).click();
      await page.getByRole('button', { name: 'Take this leaf' }).click();
      await page.getByRole('button', { name: 'Done' }).click();
      await page
        .getByRole('tab', { name: 'Take the leaf' })
        .evaluate((e) => window.scrollTo(0, e.getBoundingClientRect().top + window.scrollY - 12));
    },
  },
];
try {
  for (
    let i = 0;
    i < 120 &&
    !(await fetch(`${url}/api/health`).then(
      (r) => r.ok,
      () => false,
    ));
    i++
  )
    await new Promise((r) => setTimeout(r, 500));
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  fs.mkdirSync('docs/screenshots', { recursive: true });
  for (const view of views.filter((v) => !only || v.name === only)) {
    const page = await browser.newPage({
      viewport: { width: view.width ?? 1280, height: view.height ?? 800 },
    });
    await page.goto(url + view.path, { waitUntil: 'networkidle' });
    if (view.dark)
      await page.getByRole('button', { name: 'Change between light and dark' }).click();
    await view.act?.(page);
    await page.waitForTimeout(300);
    await page.screenshot({ path: `docs/screenshots/${view.name}.png` });
    await page.close();
  }
  await browser.close();
} finally {
  server.kill('SIGTERM');
  fs.rmSync(data, { recursive: true, force: true });
}
