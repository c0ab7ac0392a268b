/**
 * Builds what Node.js runs into single files: the server's worker, so that one that had to be ended is replaced within a second; the
 * programs behind bin/start; with --headless only the one behind bin/omaggio. All of them are run from the root of the project.
 */
import { build } from 'esbuild';

const shared = { bundle: true, platform: 'node', format: 'esm', target: 'node20', packages: 'external', tsconfig: 'tsconfig.json', logLevel: 'warning' };

const headless = {
  ...shared,
  entryPoints: [
    { in: 'headless/main.ts', out: 'omaggio' },
    { in: 'headless/print.ts', out: 'print' },
  ],
  outdir: '.next/tools',
  outExtension: { '.js': '.mjs' },
};
const all = [
  headless,
  { ...shared, entryPoints: ['workers/server/tasks.ts'], outfile: '.next/workers/tasks.mjs' },
  { ...shared, entryPoints: ['tools/start.ts', 'tools/prepare.ts', 'tools/serve.ts', 'tools/work.ts'], outdir: '.next/tools', outExtension: { '.js': '.mjs' } },
];

await Promise.all((process.argv.includes('--headless') ? [headless] : all).map((options) => build(options)));
