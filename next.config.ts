import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import type { NextConfig } from 'next';

/** What the program reckons with, as one word: stored summaries of another one are reckoned again. */
function programOf(directory: string): string {
  const sum = crypto.createHash('sha256');
  const files = fs
    .readdirSync(directory, { recursive: true, encoding: 'utf8' })
    .filter((f) => /(?<!\.test)\.tsx?$/.test(f) || f.endsWith('.csv') || f.endsWith('.json'));
  for (const f of files.toSorted()) sum.update(f).update(fs.readFileSync(path.join(directory, f)));
  return sum.digest('hex').slice(0, 16);
}

const nextConfig: NextConfig = {
  output: 'standalone',
  typedRoutes: true,
  reactStrictMode: true,
  // Components marked 'use memo' draw again only what hangs on a changed figure.
  reactCompiler: { compilationMode: 'annotation' },
  poweredByHeader: false,
  agentRules: false,
  env: { FURROW_PROGRAM: programOf(path.join(process.cwd(), 'src/core')) },
  serverExternalPackages: ['@electric-sql/pglite', 'pdfmake', 'fs-native-extensions', 'highs'],
  // A whole farm comes in as one file.
  experimental: { serverActions: { bodySizeLimit: '21mb' } },
  outputFileTracingIncludes: {
    '/*': [
      './drizzle/**/*',
      './node_modules/@fontsource/**/files/*-latin-{400,700}-normal.woff',
      './node_modules/fs-native-extensions/prebuilds/**/*',
      './node_modules/highs/build/*',
    ],
  },
  // `npm test` runs the faster compiler over the same files first (script "types").
  typescript: { ignoreBuildErrors: true },
};

export default nextConfig;
