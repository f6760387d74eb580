import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

/** The tests of the core alone: what the mutants of `npm run mutants` are tried against. */
export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/core/**/*.test.ts'],
    environment: 'node',
    setupFiles: ['scripts/properties.setup.ts'],
  },
});
