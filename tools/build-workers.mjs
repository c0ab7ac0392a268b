/** Builds the server's worker into one file, so that a worker that had to be ended is replaced within a second. Called by bin/start and bin/test. */
import { build } from 'esbuild';

await build({
  entryPoints: ['workers/server/tasks.ts'],
  outfile: '.next/workers/tasks.mjs',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
});
