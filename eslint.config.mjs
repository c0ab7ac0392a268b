import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTypescript from 'eslint-config-next/typescript';

export default [
  { ignores: ['.next/**', '.omaggio/**', 'node_modules/**', 'next-env.d.ts', 'coverage/**', 'test-results/**'] },
  ...nextVitals,
  ...nextTypescript,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'import/no-anonymous-default-export': 'off',
    },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    // Whoever enters a room can read it: what grows past this has two subjects.
    files: ['{app,core,headless,server,ui,workers}/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', 'core/testing/**'],
    rules: {
      'max-lines': ['error', { max: 350 }],
      'max-lines-per-function': ['error', { max: 80 }],
    },
  },
];
