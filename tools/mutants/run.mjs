// npm run mutants [-- --count 180 --seed 1 --room left-hand --file core/… --list]: makes deliberate faults in the core, one at a time, and runs the
// tests of their room. What no test notices is printed; `may-live.json` says of some why they may. Not in `bin/test`: it takes the better part of an hour.
// Stryker was the first thought; it leaves numbers alone, and wrong numbers are what the tables must be guarded against.
import { spawn } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { mutantsOf, sample } from './mutants.mjs';

const { values } = parseArgs({
  options: {
    count: { type: 'string', default: '180' },
    seed: { type: 'string', default: '1' },
    room: { type: 'string' },
    file: { type: 'string' },
    key: { type: 'string', multiple: true },
    at: { type: 'string', default: '2' },
    out: { type: 'string' },
    list: { type: 'boolean', default: false },
  },
});

/** Sentences, limits of input and the tests' own help are not decided by the model. */
const LEFT_OUT = /(\.test\.ts|\/(remedy-|number-)?words\.ts|in-words\.ts|util\/limits\.ts|core\/testing\/)/;
const TABLES = /(tables|costs|kinds|preferences|instrument|hand)\.ts$/;
const roomOf = (file) => file.split('/')[1];
/** Rooms whose work is seen in the plans of the phrases. */
const PHRASES = ['left-hand', 'bow-arm', 'checks', 'plan', 'instruments', 'score', 'suggest', 'util'];
/** Rooms whose work is seen elsewhere too. */
const TESTED_IN = { plan: ['plan', 'checks'], marking: ['marking', 'formats', 'editions'], util: ['util', 'formats'] };

const files = readdirSync('core', { recursive: true })
  .map((f) => `core/${f}`)
  .filter((f) => f.endsWith('.ts') && !LEFT_OUT.test(f))
  .sort();
const all = files.flatMap((file) => mutantsOf(file, readFileSync(file, 'utf8')));
const asked = all.filter((m) => (!values.room || roomOf(m.file) === values.room) && (!values.file || m.file === values.file));
const drawn = values.key ? all.filter((m) => values.key.includes(m.key)) : sample(asked, Number(values.count), values.seed, (f) => TABLES.test(f));
const mayLive = JSON.parse(readFileSync(new URL('may-live.json', import.meta.url), 'utf8'));
console.log(`${drawn.length} of ${all.length} possible faults in ${files.length} files`);
if (values.list) {
  for (const m of drawn) console.log(`${m.key} ${m.file}:${m.line} ${m.kind}: ${m.from} → ${m.to}`);
  process.exit();
}

const GIVEN_UP_MS = 15 * 60_000;
const run = (mutant) =>
  new Promise((done) => {
    const rooms = TESTED_IN[roomOf(mutant.file)] ?? [roomOf(mutant.file)];
    const args = [
      'node_modules/.bin/jest',
      '--config',
      'tools/mutants/jest.config.mjs',
      '--bail',
      '-i',
      '--silent',
      '--testPathPatterns',
      `core/(${rooms.join('|')})/${PHRASES.includes(roomOf(mutant.file)) ? '|headless/(phrases|for-whom)' : ''}`,
    ];
    const { file, start, end, to } = mutant;
    const child = spawn(process.execPath, args, {
      env: { ...process.env, OMAGGIO_MUTANT: JSON.stringify({ file, start, end, to }) },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let said = '';
    child.stderr.on('data', (chunk) => (said += chunk));
    const watch = setTimeout(() => child.kill('SIGKILL'), GIVEN_UP_MS);
    child.on('close', (code, signal) => {
      clearTimeout(watch);
      const by = /FAIL\s+(?:\S+\s+)?((?:core|headless)\/\S+)/.exec(said)?.[1];
      if (code !== 0 && !by && !signal) throw new Error(`Jest did not run for ${mutant.file}:${mutant.line}:\n${said.slice(-2000)}`);
      done({ ...mutant, killed: code !== 0, by: by ?? signal });
    });
  });

const waiting = [...drawn];
const results = [];
const worker = async () => {
  for (let mutant = waiting.shift(); mutant; mutant = waiting.shift()) {
    const result = await run(mutant);
    results.push(result);
    console.log(
      `${result.killed ? 'killed ' : 'LIVES  '} ${result.key} ${result.file}:${result.line} ${result.kind}: ${result.from} → ${result.to}${result.killed ? ` (${result.by})` : `\n        ${result.text}`}`,
    );
    if (values.out) writeFileSync(values.out, JSON.stringify(results, null, 1));
  }
};
await Promise.all(Array.from({ length: Number(values.at) }, worker));

const killed = results.filter((r) => r.killed).length;
const living = results.filter((r) => !r.killed);
console.log(`\n${killed} of ${results.length} killed (${Math.round((100 * killed) / results.length)} %)`);
for (const m of living.sort((a, b) => (a.file < b.file ? -1 : 1))) {
  console.log(`${m.file}:${m.line} ${m.from} → ${m.to}  [${m.key}]\n    ${m.text}\n    ${mayLive[m.key] ?? 'no reason given'}`);
}
process.exitCode = living.some((m) => !mayLive[m.key]) ? 1 : 0;
