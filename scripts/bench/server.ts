import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';

const PORT = '3119';
/**
 * The built app on a data directory of its own (or one that was filled before), for as long as the
 * work takes.
 */
export async function served<T>(
  { data: given }: { data?: string },
  work: (url: string) => Promise<T>,
): Promise<T> {
  const data = given ?? fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-bench-'));
  const server = spawn(process.execPath, ['.next/standalone/server.js'], {
    stdio: 'ignore',
    env: {
      ...process.env,
      PORT,
      HOSTNAME: '127.0.0.1',
      NODE_ENV: 'production',
      FURROW_DATA: data,
      FURROW_DEMO: '1',
      FURROW_TODAY: '2027-02-26',
    },
  });
  const ended = new Promise((done) => server.once('exit', done));
  const url = `http://127.0.0.1:${PORT}`;
  const up = () =>
    fetch(`${url}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
  try {
    for (let i = 0; i < 240 && !(await up()); i++) await new Promise((r) => setTimeout(r, 500));
    return await work(url);
  } finally {
    server.kill('SIGTERM');
    await ended;
    fs.rmSync(data, { recursive: true, force: true });
  }
}
