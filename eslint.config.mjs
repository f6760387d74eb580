import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTs from 'eslint-config-next/typescript';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';

export default defineConfig([
  ...nextVitals,
  ...nextTs,
  globalIgnores(['.next/**', 'next-env.d.ts', 'coverage/**', 'test-results/**', 'drizzle/**']),
  {
    files: ['src/**/*.{ts,tsx}', 'cli/**/*.ts'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      // Leaving a column out of a row is written `const { id: _, ...rest } = row`.
      '@typescript-eslint/no-unused-vars': ['warn', { ignoreRestSiblings: true }],
    },
  },
  // With types: a promise that nobody waits for loses its failure, and a new kind must be thought of wherever kinds are told apart.
  {
    files: ['src/**/*.{ts,tsx}', 'cli/**/*.ts', 'e2e/**/*.ts'],
    languageOptions: {
      parser: tseslint.parser,
      parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': [
        'error',
        { checksVoidReturn: { attributes: false } },
      ],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: [
                'next',
                'next/*',
                'react',
                'react-dom',
                'drizzle-orm',
                'drizzle-orm/*',
                'pg',
                '@electric-sql/*',
                'node:*',
                'fs',
              ],
              message: 'src/core is pure.',
            },
          ],
        },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'localStorage', 'fetch'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The date is an input.' },
        { object: 'Math', property: 'random', message: 'Randomness is an input.' },
      ],
    },
  },
]);
