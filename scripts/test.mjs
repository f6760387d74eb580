// npm test: types, lint, import rules, layout, unused code, unit tests, build, journeys. The last
// line counts what passed and failed.
import fs from 'node:fs';
import { build, chromium, install, sh } from './setup.mjs';

fs.rmSync('test-results', { recursive: true, force: true });
const results = [];
const check = (name, status) => {
  results.push({ name, ok: status === 0 });
  console.log(`${status === 0 ? 'passed' : 'FAILED'}: ${name}\n`);
};
const node = (...args) => sh(process.execPath, args);
const counted = { passed: 0, failed: 0 };

// Printed however the run ends, also when installing or building gives up half-way.
process.on('exit', (code) => {
  const failed = results.filter((r) => !r.ok).length;
  // A check that failed without counting a failed test still counts as one.
  const total = failed > 0 || code !== 0 ? counted.failed + Math.max(failed, 1) : 0;
  console.log(`${counted.passed + results.length - failed} passed, ${total} failed`);
});

install();
check('route types', node('node_modules/next/dist/bin/next', 'typegen'));
check('types', node('node_modules/typescript7/bin/tsc', '--noEmit', '--incremental', 'false'));
check('lint with types', node('node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'));
check(
  'imports go one way, no circles',
  node(
    'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
    'src',
    'cli',
    '--config',
    '.dependency-cruiser.mjs',
  ),
);
check(
  'layout',
  node('node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'),
);
check('no unused code', node('node_modules/knip/bin/knip.js'));
check('migrations match the schema', node('node_modules/drizzle-kit/bin.cjs', 'check'));

fs.mkdirSync('test-results', { recursive: true });
const unit = sh(process.execPath, [
  'node_modules/vitest/vitest.mjs',
  'run',
  '--coverage',
  '--reporter=default',
  '--reporter=json',
  '--outputFile=test-results/unit.json',
]);
if (fs.existsSync('test-results/unit.json')) {
  const r = JSON.parse(fs.readFileSync('test-results/unit.json', 'utf8'));
  counted.passed += r.numPassedTests;
  counted.failed += r.numFailedTests;
}
check('unit tests and coverage', unit);

build();
chromium();
const journeys = sh(process.execPath, ['node_modules/@playwright/test/cli.js', 'test']);
if (fs.existsSync('test-results/journeys.json')) {
  const { stats } = JSON.parse(fs.readFileSync('test-results/journeys.json', 'utf8'));
  counted.passed += stats.expected + stats.flaky;
  counted.failed += stats.unexpected;
}
check('journeys', journeys);

process.exit(results.some((r) => !r.ok) ? 1 : 0);
