import { spawnSync } from 'node:child_process';
import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';

process.env.NEXT_TELEMETRY_DISABLED = '1';

export function sh(command, args, options = {}) {
  const r = spawnSync(command, args, { stdio: 'inherit', ...options });
  return r.status ?? 1;
}
const must = (what, status) => {
  if (status !== 0) {
    console.error(`${what} failed.`);
    process.exit(status);
  }
};

/** Installs the packages of the lock file unless they are there already. */
export function install() {
  const installed = 'node_modules/.package-lock.json';
  const fresh =
    fs.existsSync(installed) &&
    fs.statSync(installed).mtimeMs >= fs.statSync('package-lock.json').mtimeMs;
  if (fresh) return;
  console.log('Installing packages ...');
  must('npm ci', sh('npm', ['ci', '--no-audit', '--no-fund', '--ignore-scripts']));
  fs.utimesSync(installed, new Date(), new Date());
}

function fingerprint() {
  const hash = crypto.createHash('sha256');
  const visit = (p) => {
    const s = fs.statSync(p);
    if (s.isDirectory()) for (const f of fs.readdirSync(p).sort()) visit(path.join(p, f));
    else if (!/\.test\.tsx?$/.test(p)) hash.update(p).update(fs.readFileSync(p));
  };
  for (const p of [
    'src',
    'public',
    'drizzle',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
    'package-lock.json',
  ])
    if (fs.existsSync(p)) visit(p);
  return hash.digest('hex');
}

/** Builds the app unless a build of exactly these sources is there already. */
export function build() {
  const stamp = '.next/furrow-build';
  const now = fingerprint();
  if (
    fs.existsSync('.next/standalone/server.js') &&
    fs.existsSync(stamp) &&
    fs.readFileSync(stamp, 'utf8') === now
  )
    return;
  console.log('Building ...');
  fs.rmSync('.next', { recursive: true, force: true });
  must('The build', sh(process.execPath, ['node_modules/next/dist/bin/next', 'build']));
  fs.cpSync('.next/static', '.next/standalone/.next/static', { recursive: true });
  if (fs.existsSync('public')) fs.cpSync('public', '.next/standalone/public', { recursive: true });
  fs.writeFileSync(stamp, now);
}

/** Debian's Chromium for the journeys, if no browser is there. */
export function chromium() {
  if (fs.existsSync(process.env.CHROMIUM_PATH ?? '/usr/bin/chromium')) return;
  console.log('Installing Chromium ...');
  const apt = (...args) =>
    sh('apt-get', args, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  must('apt-get update', apt('update', '-qq'));
  must(
    'apt-get install chromium',
    apt('install', '-y', '-qq', '--no-install-recommends', 'chromium'),
  );
}

if (process.argv[2] === 'build') {
  install();
  build();
}
