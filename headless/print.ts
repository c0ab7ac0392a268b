/** bin/omaggio print: a part on paper. Apart from the other commands, which need no engraver. */
import { readFileSync, writeFileSync } from 'node:fs';
import { partDocument } from '../core/formats/musicxml/part-document';
import { readScoreBytes } from '../core/formats/read';
import { NOTHING_TOLD } from '../core/instruments/as-told';
import { bad, good, problemText, type Problem, type Result } from '../core/util/result';
import { printParts } from '../workers/server/paper';
import { choosePart } from './choose';
import { readMarks, withCorrections } from './marks';
import { readOptions, type Options } from './options';

async function print(options: Options, bytes: Uint8Array, marksText: string | null): Promise<Result<{ bytes: Uint8Array; part: string; title: string }>> {
  const read = readScoreBytes(bytes);
  if (!read.ok) return read;
  const { score, document } = read.value;
  const chosen = choosePart(score.parts, options.part);
  if (!chosen.ok) return chosen;
  const now = withCorrections(read.value, chosen.value, marksText);
  if (!now.ok) return now;
  const marking = readMarks(marksText, now.value.part, document.text);
  if (!marking.ok) return marking;
  const { tempo, sounds, line, paper, staffMm } = options;
  const { id, name } = chosen.value;
  const sheet = {
    music: partDocument(document, id, score.timeLine),
    marking: marking.value,
    told: { ...NOTHING_TOLD, sounds },
    tempo,
    line,
    title: score.title,
    composer: score.composer,
    part: name,
    label: '',
    word: '',
    changes: null,
  };
  return good({ bytes: await printParts({ sheets: [sheet], paper, staffMm }), part: name, title: score.title });
}

async function main(argv: readonly string[]): Promise<number> {
  const options = readOptions(argv);
  if (!options.ok) return fail(options.problem, null);
  const { file, out, marks } = options.value;
  if (out === null) return fail(bad('-o', 'It is missing.', 'Say where the PDF is to be written, such as -o part.pdf.').problem, null);
  const [bytes, marksText] = [readFile(file), marks === null ? null : readFile(marks)];
  if (bytes instanceof Error) return fail(unread(bytes), file);
  if (marksText instanceof Error) return fail(unread(marksText), marks);
  const made = await print(options.value, bytes, marksText?.toString('utf8') ?? null);
  if (!made.ok) return fail(made.problem, file);
  writeFileSync(out, made.value.bytes);
  const { part, title } = made.value;
  process.stdout.write(options.value.json ? `${JSON.stringify({ part, title, out, bytes: made.value.bytes.length })}\n` : `${title}, ${part}: ${out}\n`);
  return 0;
}

function readFile(name: string): Buffer | Error {
  try {
    return readFileSync(name === '-' ? 0 : name);
  } catch (error) {
    return error as Error;
  }
}

const unread = (error: Error): Problem => ({ place: null, what: `It cannot be read (${(error as NodeJS.ErrnoException).code}).`, remedy: 'Check the name.' });

function fail(problem: Problem, file: string | null): number {
  process.stderr.write(`${file === null ? '' : `${file}: `}${problemText(problem).replace(/\s+/g, ' ')}\n`);
  return 2;
}

process.exitCode = await main(process.argv.slice(2));
