import { spawn, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect } from '@playwright/test';

// A server of a journey's own, on a data directory of its own.

const started: ChildProcess[] = [];
/** Ends what a journey started and left running. */
export const stopAll = (): void => {
  for (const s of started.splice(0)) s.kill('SIGKILL');
};
export const newData = (): string => fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-e2e-'));

/** Starts the built program; without the demo it begins empty. */
export function start(
  port: number,
  { data, demo = true, today = '2027-02-26' }: { data: string; demo?: boolean; today?: string },
): { server: ChildProcess; output: () => string } {
  let text = '';
  const server = spawn(process.execPath, ['.next/standalone/server.js'], {
    env: {
      ...process.env,
      PORT: String(port),
      HOSTNAME: '127.0.0.1',
      NODE_ENV: 'production',
      FURROW_DATA: data,
      FURROW_DEMO: demo ? '1' : '0',
      FURROW_TODAY: today,
      NEXT_MANUAL_SIG_HANDLE: 'true',
      NEXT_TELEMETRY_DISABLED: '1',
    },
  });
  started.push(server);
  server.stdout.on('data', (d) => {
    text += String(d);
  });
  server.stderr.on('data', (d) => {
    text += String(d);
  });
  return { server, output: () => text };
}
export const gone = (s: ChildProcess) =>
  new Promise<number | null>((resolve) => {
    if (s.exitCode !== null || s.signalCode !== null) resolve(s.exitCode);
    else s.once('exit', resolve);
  });
export const up = (port: number) =>
  expect
    .poll(
      () =>
        fetch(`http://127.0.0.1:${port}/api/health`).then(
          (r) => r.ok,
          () => false,
        ),
      { timeout: 40_000 },
    )
    .toBe(true);
