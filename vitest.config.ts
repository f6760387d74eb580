import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) };

export default defineConfig({
  resolve: { alias },
  test: {
    // A slow machine gives the same verdict: time is measured by the benchmarks, not by tests.
    testTimeout: 60_000,
    coverage: {
      provider: 'v8',
      include: ['src/core/**/*.ts'],
      reporter: ['text-summary', 'json-summary'],
      thresholds: { statements: 90, branches: 80 },
    },
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          environment: 'node',
          setupFiles: ['scripts/properties.setup.ts'],
          include: ['src/core/**/*.test.ts', 'cli/**/*.test.ts'],
        },
      },
      {
        extends: true,
        test: {
          name: 'data',
          environment: 'node',
          include: ['src/data/**/*.test.ts', 'src/server/**/*.test.ts'],
          hookTimeout: 60_000,
          maxWorkers: 1,
        },
      },
      {
        extends: true,
        plugins: [react()],
        test: {
          name: 'ui',
          environment: 'jsdom',
          setupFiles: ['scripts/ui.setup.ts'],
          include: ['src/ui/**/*.test.tsx'],
        },
      },
    ],
  },
});
