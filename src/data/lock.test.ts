import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { lockDataDirectory } from './lock';

const directory = () => path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-')), 'pg');
/** Another process that holds the lock until it is killed. */
async function heldElsewhere(d: string) {
  const child = spawn(process.execPath, [
    '-e',
    `const fs = require('node:fs');
     const { tryLock } = require('fs-native-extensions');
     const f = fs.openSync(${JSON.stringify(`${d}.lock`)}, 'w+');
     console.log(tryLock(f, 2 ** 30, 1));
     setInterval(() => {}, 1000);`,
  ]);
  const said = await new Promise<string>((done) =>
    child.stdout.once('data', (b) => done(String(b))),
  );
  expect(said.trim()).toBe('true');
  return child;
}

describe('the lock before the data directory', () => {
  it('refuses a second opener with a clear message, and lets go when released', () => {
    const d = directory();
    const release = lockDataDirectory(d);
    expect(() => lockDataDirectory(d)).toThrow(
      new RegExp(`already open in process ${process.pid} .*set FURROW_DATA`),
    );
    release();
    release();
    lockDataDirectory(d)();
  });
  it('is held by a process while it lives, and free when it is killed', async () => {
    const d = directory();
    const child = await heldElsewhere(d);
    expect(() => lockDataDirectory(d)).toThrow('already open in another process');
    const gone = new Promise((done) => child.once('exit', done));
    child.kill('SIGKILL');
    await gone;
    lockDataDirectory(d)();
  });
  it.each([
    '',
    '{"pid":1,"ticks":"1","since":"an older program"}',
    'process 1 (since 2027-01-01T00:00:00.000Z) and more',
    '\u0000\u0000',
  ])('is taken where the file says %j but nobody holds it', (text) => {
    const d = directory();
    fs.writeFileSync(`${d}.lock`, text);
    const release = lockDataDirectory(d);
    expect(fs.readFileSync(`${d}.lock`, 'utf8')).toMatch(
      new RegExp(`^process ${process.pid} \\(since `),
    );
    release();
  });
});
