import fs from 'node:fs';
import path from 'node:path';

/** Below this the database may stop in the middle of a write. */
const LEAST_FREE_BYTES = 64 * 1024 * 1024;

/** Where the farms are kept; null with a database server of its own. */
export const dataDirectory = (): string | null =>
  process.env.DATABASE_URL
    ? null
    : path.resolve(/*turbopackIgnore: true*/ process.env.FURROW_DATA ?? './.furrow');

/**
 * Whether the data directory can be written and has room, tried by writing there. Returns what is
 * wrong in words, or null.
 *
 * @param least bytes that must be free
 */
export function diskTrouble(directory: string, least = LEAST_FREE_BYTES): string | null {
  try {
    fs.mkdirSync(directory, { recursive: true });
    const probe = path.join(directory, `.probe-${process.pid}`);
    fs.writeFileSync(probe, 'written to see that it can be');
    fs.unlinkSync(probe);
  } catch (e) {
    const { code } = e as NodeJS.ErrnoException;
    return code === 'ENOSPC' || code === 'EDQUOT'
      ? `The disk of ${directory} is full. Free some space and start again.`
      : `${directory} can’t be written (${code ?? 'unknown'}). Make it writable, or set FURROW_DATA to another directory.`;
  }
  const { bavail, bsize } = fs.statfsSync(directory);
  const free = bavail * bsize;
  return free < least
    ? `Only ${Math.floor(free / 1048576)} MB are free on the disk of ${directory}; at least ${Math.ceil(least / 1048576)} MB are needed. Free some space.`
    : null;
}
