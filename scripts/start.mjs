// Starts Patient Furrow: installs packages and builds when they are missing or stale, then serves
// on a loopback port until Ctrl+C.
//   npm run demo [-- --reset]   the demo farms        npm start   your own farm
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import { build, install } from './setup.mjs';

const args = process.argv.slice(2);
const has = (flag) => args.includes(flag);
const valueOf = (flag) => (args.includes(flag) ? args[args.indexOf(flag) + 1] : undefined);
const demo = has('--demo');
const data = path.resolve(
  valueOf('--data') ?? process.env.FURROW_DATA ?? (demo ? './.furrow-demo' : './.furrow'),
);

install();
build();

if (has('--reset')) {
  // The same byte that the program locks (src/data/lock.ts); packages are there only after install().
  const { tryLock } = await import('fs-native-extensions');
  const file = path.join(data, 'pg.lock');
  if (fs.existsSync(file)) {
    const descriptor = fs.openSync(file, 'r+');
    if (!tryLock(descriptor, 2 ** 30, 1)) {
      console.error(
        `The data directory ${data} is open in ${fs.readFileSync(file, 'utf8')}: stop it before --reset.`,
      );
      process.exit(1);
    }
    fs.closeSync(descriptor);
  }
  fs.rmSync(data, { recursive: true, force: true });
}

const free = (port) =>
  new Promise((resolve) => {
    const probe = net.createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
let port = Number(valueOf('--port') ?? process.env.PORT ?? 3100);
const fixed = valueOf('--port') !== undefined;
while (!(await free(port))) {
  if (fixed) {
    console.error(`Port ${port} is taken.`);
    process.exit(1);
  }
  port += 1;
}

const server = spawn(process.execPath, ['.next/standalone/server.js'], {
  stdio: ['ignore', 'inherit', 'inherit'],
  env: {
    ...process.env,
    PORT: String(port),
    HOSTNAME: '127.0.0.1',
    NODE_ENV: 'production',
    FURROW_DATA: data,
    NEXT_MANUAL_SIG_HANDLE: 'true',
    NEXT_TELEMETRY_DISABLED: '1',
    ...(demo ? { FURROW_DEMO: '1', FURROW_TODAY: process.env.FURROW_TODAY ?? '2027-02-26' } : {}),
  },
});
let stopping = false;
const stop = () => {
  stopping = true;
  server.kill('SIGTERM');
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
server.on('exit', (code) => process.exit(stopping ? 0 : (code ?? 1)));

const url = `http://127.0.0.1:${port}`;
for (let i = 0; i < 240 && !stopping; i++) {
  const up = await fetch(`${url}/api/health`).then(
    (r) => r.ok,
    () => false,
  );
  if (up) {
    console.log(
      `\nPatient Furrow ${demo ? 'with the demo farms ' : ''}is ready: ${url}\nData: ${data}\nCtrl+C stops it; the data stays.\n`,
    );
    break;
  }
  await new Promise((r) => setTimeout(r, 500));
}
