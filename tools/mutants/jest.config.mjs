import { transform, project, PLAIN_IN_CORE } from '../../jest.config.mjs';

const [pattern, [, options]] = Object.entries(transform)[0];

export default {
  ...project('mutants', ['<rootDir>/core/**/*.test.ts', '<rootDir>/headless/*.test.ts'], PLAIN_IN_CORE),
  rootDir: process.cwd(),
  transform: { [pattern]: ['<rootDir>/tools/mutants/transform.mjs', options] },
  testSequencer: '<rootDir>/tools/mutants/sequence.mjs',
  testTimeout: 600_000,
};
