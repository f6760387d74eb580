import http from 'node:http';
import { expect, test } from '@playwright/test';
import { open, ready } from './desk';

// The outer door: who is served, what a page may load, and what is told where something can't be read.

/** A request with headers that a browser would not let a page set. */
const ask = (
  path: string,
  headers: Record<string, string>,
  method = 'GET',
): Promise<{ status: number; headers: http.IncomingHttpHeaders; body: string }> =>
  new Promise((resolve, reject) => {
    const request = http.request({ host: '127.0.0.1', port: 3110, path, method, headers }, (r) => {
      let body = '';
      r.on('data', (d) => {
        body += String(d);
      });
      r.on('end', () => resolve({ status: r.statusCode ?? 0, headers: r.headers, body }));
    });
    request.on('error', reject);
    request.end();
  });

test('only this machine’s own names are served', async () => {
  for (const host of ['127.0.0.1:3110', 'localhost:3110', '[::1]:3110'])
    expect((await ask('/api/health', { host })).status).toBe(200);
  for (const host of ['farm.example:3110', '127.0.0.1.example', 'localhost.example:3110']) {
    const { status, body } = await ask('/', { host });
    expect([status, body.includes('Tansy')]).toEqual([421, false]);
  }
});

test('a page elsewhere can’t write here', async () => {
  const host = '127.0.0.1:3110';
  const strangers: Record<string, string>[] = [
    { host, origin: 'http://farm.example' },
    { host, 'sec-fetch-site': 'cross-site' },
  ];
  for (const headers of strangers)
    for (const path of ['/', '/api/soil-import', '/api/methods/budget.balance'])
      expect((await ask(path, headers, 'POST')).status).toBe(403);
});

test('no page runs a script that is not its own, may be framed, or is kept on the way', async ({
  page,
}) => {
  const broken: string[] = [];
  page.on('console', (m) => {
    if (/Content Security Policy|Refused to/.test(m.text())) broken.push(m.text());
  });
  const answer = await page.goto('/fields/low-fleet/budget');
  const headers = answer?.headers() ?? {};
  expect(headers['content-security-policy']).toMatch(/script-src 'self' 'nonce-[\w+/=]+'/);
  expect(headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe-inline/);
  expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
  expect(headers).toMatchObject({
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
  });
  expect(headers['cache-control']).toContain('no-store');
  for (const path of ['/', '/fields/low-fleet/ground/lime', '/fields?farm=tansy-hollow'])
    await page.goto(path);
  await open(page, '/fields/low-fleet/supply');
  await ready(page);
  expect(broken).toEqual([]);
});

test('a path that leads nowhere is not found, and is no fault of the server', async () => {
  const host = '127.0.0.1:3110';
  for (const path of [
    '/fields/%E0%A4%A',
    '/fields/low%00fleet/budget',
    '/fields/nowhere/budget',
    '/sheet/nowhere/pdf',
    '/farms/nowhere/farm.json',
  ])
    expect([path, (await ask(path, { host })).status]).toEqual([path, 404]);
});

test('a plan file of several megabytes is read, and one that is too large is told', async ({
  page,
}) => {
  await open(page, '/fields/terrace-long/sheet');
  await ready(page);
  const input = page.locator('input[type=file]').first();
  const file = (size: number) => ({
    name: 'plan.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify({ format: 'else', padding: 'x'.repeat(size) })),
  });
  await input.setInputFiles(file(3_000_000));
  await expect(page.getByText('this is not a patient-furrow-plan file')).toBeVisible();
  await input.setInputFiles(file(6_000_000));
  await expect(page.getByText(/at most 5 MB are read/)).toBeVisible();
});
