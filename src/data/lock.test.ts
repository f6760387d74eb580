import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { lockDataDirectory } from './lock';

const directory = () => path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-')), 'pg');

describe('the lock before the data directory', () => {
  it('refuses a second opener with a clear message, and lets go when released', () => {
    const d = directory();
    const release = lockDataDirectory(d);
    expect(() => lockDataDirectory(d)).toThrow(
      new RegExp(`already open in process ${process.pid} .*set FURROW_DATA`),
    );
    release();
    lockDataDirectory(d)();
  });
  it('a lock of a process that is gone is stale', () => {
    const d = directory();
    fs.writeFileSync(`${d}.lock`, JSON.stringify({ pid: 4194303, ticks: '1', since: 'long ago' }));
    expect(() => lockDataDirectory(d)()).not.toThrow();
  });
  it('a reused process number does not count as the owner', () => {
    const d = directory();
    fs.writeFileSync(
      `${d}.lock`,
      JSON.stringify({ pid: process.pid, ticks: '1', since: 'before a restart' }),
    );
    expect(() => lockDataDirectory(d)()).not.toThrow();
  });
  it.each(['', '{', '{"pid":"x"}', '[]', 'null', '\u0000\u0000'])(
    'is taken over where it can’t be read: %j',
    (text) => {
      const directory = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-lock-')), 'pg');
      fs.writeFileSync(`${directory}.lock`, text);
      const release = lockDataDirectory(directory);
      expect(JSON.parse(fs.readFileSync(`${directory}.lock`, 'utf8'))).toMatchObject({
        pid: process.pid,
      });
      release();
    },
  );
});
