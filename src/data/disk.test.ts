import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { diskTrouble } from './disk';

const fresh = () => fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-disk-'));

describe('the disk of the data directory', () => {
  it('is well where it can be written and has room, and no trace stays', () => {
    const directory = fresh();
    expect(diskTrouble(directory)).toBeNull();
    expect(fs.readdirSync(directory)).toEqual([]);
  });
  it('is made where it is not there yet', () =>
    expect(diskTrouble(path.join(fresh(), 'a', 'b'))).toBeNull());
  it('is told as tiny', () =>
    expect(diskTrouble(fresh(), Number.MAX_SAFE_INTEGER)).toMatch(/Only \d+ MB are free/));
  it('is told as not to be written', () => {
    const file = path.join(fresh(), 'a file');
    fs.writeFileSync(file, '');
    expect(diskTrouble(file)).toMatch(/can’t be written|FURROW_DATA/);
  });
});
