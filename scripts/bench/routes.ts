import zlib from 'node:zlib';
import { served } from './server';

/** Compressed JavaScript that each route asks for in its first HTML, from the built app. */
export const sizes = (): Promise<void> =>
  served({}, async (url) => {
    const field = '/fields/low-fleet';
    for (const route of [
      '/',
      ...[
        'ground',
        'ground/sampling',
        'ground/survey',
        'ground/barrel',
        'ground/lime',
        'ground/nutrients',
        'ground/claims',
        'crop',
        'budget',
        'budget/organics',
        'budget/years',
        'supply',
        'season',
        'sheet',
      ].map((s) => `${field}/${s}`),
      '/fields',
      '/farms/tansy-hollow',
      '/library',
      '/samples',
      '/claims',
      '/sampling/low-fleet-grid',
      '/calculators',
      '/calculators/budget.balance',
    ]) {
      const html = await (await fetch(url + route)).text();
      // Scripts and preloaded chunks; not the old browsers' fill-ins that are marked noModule.
      const tags = [...html.matchAll(/<(?:script|link)[^>]*>/gi)]
        .map((m) => m[0])
        .filter((t) => !/nomodule/i.test(t));
      const files = [
        ...new Set(tags.flatMap((t) => /(?:src|href)="([^"]+\.js)[^"]*"/.exec(t)?.[1] ?? [])),
      ];
      const bytes = await Promise.all(
        files.map(
          async (f) =>
            zlib.gzipSync(Buffer.from(await (await fetch(url + f)).arrayBuffer())).length,
        ),
      );
      console.log(
        `${route.padEnd(30)} ${(bytes.reduce((s, b) => s + b, 0) / 1000).toFixed(0).padStart(4)} kB of JavaScript, compressed (wanted: under 200)`,
      );
    }
  });
