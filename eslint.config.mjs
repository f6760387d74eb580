import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTs from 'eslint-config-next/typescript';
import boundaries from 'eslint-plugin-boundaries';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';

// The house (docs/architecture.md): imports go one way, and inside core a module may only use the ones before it.
const base = ['quantity', 'why', 'rules', 'book'];
const trades = ['facts', 'ground', 'budget', 'organics', 'nitrogen', 'tissue'];
// What is made of a whole plan, each room using only the ones before it.
const whole = ['document', 'lines', 'warnings', 'assessment', 'views', 'farm'];
const modules = [...trades, ...whole];
const core = (name) => `core-${name}`;
const all = [...base, ...modules, 'methods'].map(core);
const el = (type) => ({ element: { type } });
const from = (f, ...to) => ({ from: el(f), allow: to.map((t) => ({ to: el(t) })) });
const corePolicies = [
  from(core('quantity'), core('quantity')),
  from(core('why'), core('quantity'), core('why')),
  from(core('rules'), core('quantity'), core('rules')),
  from(core('book'), core('quantity'), core('book')),
  ...modules.map((m, i) => from(core(m), ...base.map(core), ...modules.slice(0, i + 1).map(core))),
  from(core('methods'), ...all),
];

export default defineConfig([
  ...nextVitals,
  ...nextTs,
  globalIgnores(['.next/**', 'next-env.d.ts', 'coverage/**', 'test-results/**', 'drizzle/**']),
  {
    files: ['src/**/*.{ts,tsx}', 'cli/**/*.ts'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: true },
      'boundaries/dependency-nodes': ['import', 'dynamic-import', 'export'],
      'boundaries/elements': [
        ...[...base, ...modules, 'methods'].map((m) => ({
          type: core(m),
          pattern: `src/core/${m}`,
        })),
        ...['demo', 'data', 'server', 'app', 'ui', 'workers'].map((t) => ({
          type: t,
          pattern: `src/${t}`,
        })),
        { type: 'cli', pattern: 'cli' },
      ],
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            ...corePolicies,
            from('demo', 'demo', ...all),
            from('data', 'data', 'demo', ...all),
            from('server', 'server', 'data', 'demo', ...all),
            from('ui', 'ui', 'workers', ...all),
            from('workers', 'workers', ...all),
            from('app', 'app', 'ui', 'server', ...all),
            from('cli', 'cli', ...all),
          ],
        },
      ],
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
  // A test may look at its file through any room, and at the demo farms.
  {
    files: ['src/**/*.test.{ts,tsx}', 'src/ui/workspace/testDesk.tsx'],
    rules: { 'boundaries/dependencies': 'off' },
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
