/** bin/omaggio: the headless door to the core. Exit 0 done, 2 bad input with one line on standard error. */
import { readFileSync, writeFileSync } from 'node:fs';
import { problemText, type Problem } from '../core/util/result';
import { run } from './commands';
import { readOptions, USAGE, type Answering } from './options';
import { forPeople } from './table';

function main(argv: readonly string[]): number {
  if (argv.length === 0 || argv.includes('--help')) {
    process.stdout.write(USAGE);
    return 0;
  }
  const options = readOptions(argv);
  if (!options.ok) return fail(options.problem, null);
  const { file, command } = options.value;
  let bytes: Buffer;
  let marks: string | null;
  let take: Buffer | null;
  try {
    bytes = readFileSync(file === '-' ? 0 : file);
  } catch (error) {
    return fail({ place: null, what: `It cannot be read (${(error as NodeJS.ErrnoException).code}).`, remedy: 'Check the name.' }, file);
  }
  try {
    marks = options.value.marks === null ? null : readFileSync(options.value.marks, 'utf8');
  } catch (error) {
    return fail({ place: null, what: `It cannot be read (${(error as NodeJS.ErrnoException).code}).`, remedy: 'Check the name.' }, options.value.marks);
  }
  try {
    take = options.value.take === null ? null : readFileSync(options.value.take);
  } catch (error) {
    return fail({ place: null, what: `It cannot be read (${(error as NodeJS.ErrnoException).code}).`, remedy: 'Check the name.' }, options.value.take);
  }
  const outcome = run(options.value, bytes, marks, take);
  if (!outcome.ok) return fail(outcome.problem, file);
  if (options.value.out !== null && outcome.value.marked) writeFileSync(options.value.out, outcome.value.marked);
  process.stdout.write(options.value.json ? `${JSON.stringify(outcome.value.value)}\n` : `${forPeople(command as Answering, outcome.value.value)}\n`);
  return 0;
}

function fail(problem: Problem, file: string | null): number {
  process.stderr.write(`${file === null ? '' : `${file}: `}${problemText(problem).replace(/\s+/g, ' ')}\n`);
  return 2;
}

process.exitCode = main(process.argv.slice(2));
