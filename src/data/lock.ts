import fs from 'node:fs';
import path from 'node:path';
import { tryLock } from 'fs-native-extensions';

class DataDirectoryInUse extends Error {
  constructor(directory: string, owner: string) {
    super(
      `The data directory ${directory} is already open in ${owner}. Stop that process, or set FURROW_DATA to another directory.`,
    );
    this.name = 'DataDirectoryInUse';
  }
}

/**
 * Locked is a byte far behind the text, so that the text can be read everywhere while it is held.
 */
const LOCKED_BYTE = 2 ** 30;
const OWNER = /^process \d+ \(since [\d:.TZ-]+\)$/;

/**
 * Takes the data directory for this process, or says who has it. PGlite itself lets two processes
 * open one directory and loses writes silently, so this lock stands in front of it. The operating
 * system holds it and lets go when the process ends, however it ends: no lock is ever stale.
 *
 * @returns a function that releases the lock
 * @throws DataDirectoryInUse
 */
export function lockDataDirectory(directory: string): () => void {
  fs.mkdirSync(path.dirname(directory), { recursive: true });
  const file = `${directory}.lock`;
  const descriptor = fs.openSync(file, fs.constants.O_RDWR | fs.constants.O_CREAT, 0o644);
  if (!tryLock(descriptor, LOCKED_BYTE, 1)) {
    fs.closeSync(descriptor);
    const owner = fs.readFileSync(file, 'utf8');
    throw new DataDirectoryInUse(directory, OWNER.test(owner) ? owner : 'another process');
  }
  fs.ftruncateSync(descriptor);
  fs.writeSync(descriptor, `process ${process.pid} (since ${new Date().toISOString()})`, 0);
  let held = true;
  return () => {
    if (held) fs.closeSync(descriptor);
    held = false;
  };
}
