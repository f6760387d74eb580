import fs from 'node:fs';
import path from 'node:path';

interface Owner {
  pid: number;
  /** Start time of the process: tells a reused pid from the process that wrote the lock. */
  ticks: string | null;
  since: string;
}

class DataDirectoryInUse extends Error {
  constructor(directory: string, owner: Owner) {
    super(
      `The data directory ${directory} is already open in process ${owner.pid} (since ${owner.since}). Stop that process, or set FURROW_DATA to another directory.`,
    );
    this.name = 'DataDirectoryInUse';
  }
}

function startTicks(pid: number): string | null {
  try {
    const stat = fs.readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}

function alive(owner: Owner): boolean {
  try {
    process.kill(owner.pid, 0);
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code === 'ESRCH') return false;
  }
  const now = startTicks(owner.pid);
  return now === null || owner.ticks === null || now === owner.ticks;
}

const ownerIn = (raw: string): Owner | null => {
  try {
    const found: unknown = JSON.parse(raw);
    if (found === null || typeof found !== 'object') return null;
    const { pid, ticks, since } = found as Partial<Owner>;
    return typeof pid === 'number' && Number.isInteger(pid) && pid > 0
      ? { pid, ticks: typeof ticks === 'string' ? ticks : null, since: String(since ?? 'unknown') }
      : null;
  } catch {
    return null;
  }
};

/**
 * Takes the data directory for this process, or says who has it. PGlite itself lets two processes
 * open one directory and loses writes
 * silently, so this lock stands in front of it. The link is atomic and never seen half-written; a
 * lock left by a killed process is stale.
 *
 * @returns a function that releases the lock
 * @throws DataDirectoryInUse
 */
export function lockDataDirectory(directory: string): () => void {
  const file = `${directory}.lock`;
  fs.mkdirSync(path.dirname(directory), { recursive: true });
  const me = JSON.stringify({
    pid: process.pid,
    ticks: startTicks(process.pid),
    since: new Date().toISOString(),
  } satisfies Owner);
  for (let attempt = 0; attempt < 5; attempt++) {
    const temporary = `${file}.${process.pid}.${attempt}`;
    fs.writeFileSync(temporary, me);
    try {
      fs.linkSync(temporary, file);
      const release = () => {
        try {
          if (fs.readFileSync(file, 'utf8') === me) fs.unlinkSync(file);
        } catch {
          // Gone already.
        }
      };
      process.once('exit', release);
      return release;
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e;
    } finally {
      fs.unlinkSync(temporary);
    }
    let raw: string;
    try {
      raw = fs.readFileSync(file, 'utf8');
    } catch {
      continue;
    }
    // What can't be read was left half-written by a crash of the machine: the link is atomic, so
    // nobody is writing it now.
    const owner = ownerIn(raw);
    if (owner && alive(owner)) throw new DataDirectoryInUse(directory, owner);
    // Move the stale lock away, then check that it is the one that was judged stale.
    const stale = `${file}.stale.${process.pid}.${attempt}`;
    try {
      fs.renameSync(file, stale);
    } catch {
      continue;
    }
    if (fs.readFileSync(stale, 'utf8') !== raw) {
      try {
        fs.linkSync(stale, file);
      } catch {
        // Somebody else has it.
      }
    }
    fs.unlinkSync(stale);
  }
  throw new Error(`Could not lock ${directory}`);
}
