export const transform = { '^.+\\.(t|j|m)sx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' } }] };
// Jest runs a test in a context of its own, where each look at a global goes through the context's door: the searches, which look at
// them millions of times, took twice as long. These are handed in as plain variables instead.
const PLAIN = ['Math', 'Number', 'Array', 'Object', 'String', 'JSON', 'Error', 'Set', 'Float64Array', 'Int32Array', 'Uint8Array'];

/** The icons have names of their own for Map and Infinity; the core has none. */
export const PLAIN_IN_CORE = [...PLAIN, 'Map', 'Infinity'];

export const project = (displayName, testMatch, plain = PLAIN) => ({
  displayName,
  testMatch,
  sandboxInjectedGlobals: plain,
  setupFiles: ['<rootDir>/tests/support/seed.ts'],
  transform,
  testEnvironment: 'node',
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.omaggio'],
});

export default {
  // No test depends on the machine being quick: only what hangs is given up.
  testTimeout: 600_000,
  projects: [
    project(
      'core',
      ['core', 'headless', 'workers', 'server', 'tools'].map((room) => `<rootDir>/${room}/**/*.test.ts`),
      PLAIN_IN_CORE,
    ),
    project('ui', ['<rootDir>/ui/**/*.test.ts']),
    project('demo', ['<rootDir>/demo/**/*.test.ts']),
    project('database', ['<rootDir>/tests/database/**/*.test.ts']),
  ],
};
