export const transform = { '^.+\\.(t|j|m)sx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' } }] };
export const project = (displayName, testMatch) => ({
  displayName,
  testMatch,
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
    project('core', [
      '<rootDir>/core/**/*.test.ts',
      '<rootDir>/headless/**/*.test.ts',
      '<rootDir>/ui/**/*.test.ts',
      '<rootDir>/workers/**/*.test.ts',
      '<rootDir>/server/**/*.test.ts',
      '<rootDir>/tools/**/*.test.ts',
    ]),
    project('demo', ['<rootDir>/demo/**/*.test.ts']),
    project('database', ['<rootDir>/tests/database/**/*.test.ts']),
  ],
};
