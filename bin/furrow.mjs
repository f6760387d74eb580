#!/usr/bin/env node
// Starts the command line from a bundle: it is made on first use, and again when a source changes.
// What the engine compiled of it is kept beside it: reading that is quicker than compiling anew.
import fs from 'node:fs';
import Module, { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import vm from 'node:vm';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const cache = path.join(root, 'node_modules/.cache/furrow');

const newest = ['bin', 'cli', 'src/core', 'package.json']
  .flatMap((from) => {
    const at = path.join(root, from);
    return fs.statSync(at).isFile()
      ? [at]
      : fs
          .readdirSync(at, { recursive: true, withFileTypes: true })
          .filter((e) => e.isFile())
          .map((e) => path.join(e.parentPath ?? e.path, e.name));
  })
  .reduce((latest, file) => Math.max(latest, fs.statSync(file).mtimeMs), 0);
const bundle = path.join(cache, String(newest));

if (!fs.existsSync(bundle)) {
  const { buildSync } = await import('esbuild');
  // Made beside it and put in its place whole: two that start at once do not read half of it.
  const beside = `${bundle}.${process.pid}`;
  buildSync({
    entryPoints: [path.join(root, 'cli/furrow.ts')],
    outfile: path.join(beside, 'furrow.cjs'),
    bundle: true,
    minify: true,
    platform: 'node',
    format: 'cjs',
    target: 'node20',
    alias: { '@': path.join(root, 'src') },
    logLevel: 'warning',
  });
  try {
    fs.renameSync(beside, bundle);
  } catch {
    // Another one was quicker.
    fs.rmSync(beside, { recursive: true, force: true });
  }
  for (const old of fs.readdirSync(cache))
    if (/^[\d.]+$/.test(old) && old !== String(newest))
      fs.rmSync(path.join(cache, old), { recursive: true, force: true });
}

const filename = path.join(bundle, 'furrow.cjs');
const compiled = `${filename}.compiled`;
const cachedData = fs.existsSync(compiled) ? fs.readFileSync(compiled) : undefined;
const script = new vm.Script(Module.wrap(fs.readFileSync(filename, 'utf8')), {
  filename,
  cachedData,
});
if (cachedData === undefined || script.cachedDataRejected)
  process.once('exit', () => {
    try {
      fs.writeFileSync(`${compiled}.${process.pid}`, script.createCachedData());
      fs.renameSync(`${compiled}.${process.pid}`, compiled);
    } catch {
      // Not kept: the next start compiles again.
    }
  });
const own = { exports: {} };
script.runInThisContext()(own.exports, createRequire(filename), own, filename, bundle);
