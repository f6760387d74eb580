#!/usr/bin/env node
// Starts the command line from a bundle: it is made on first use, and again when a source changes.
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const cache = path.join(root, 'node_modules/.cache/furrow');

const newest = ['cli', 'src/core', 'package.json']
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
    outdir: beside,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    minify: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    alias: { '@': path.join(root, 'src') },
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
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
await import(pathToFileURL(path.join(bundle, 'furrow.mjs')).href);
