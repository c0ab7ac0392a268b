/**
 * npm run agreement [-- left-hand bow-arm left-hand-fresh bow-arm-fresh --misses]: how far the first choices agree with phrases that
 * every teacher knows. `--write` renews docs/agreement.md and tests/data/as-planned.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { record, RECORDS } from '../support/as-planned';
import { bowAnswer, fingerAnswer, phrasesOf, type Book } from '../support/agreement';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { misses: { type: 'boolean', default: false }, write: { type: 'boolean', default: false }, only: { type: 'string' } },
});
const books = (positionals.length > 0 ? positionals : ['left-hand', 'bow-arm', 'left-hand-fresh', 'bow-arm-fresh']) as Book[];

interface Row {
  instrument: string;
  kind: string;
  sure: boolean;
  /** Of the questions asked, how many the first choice answers, and how many one of five does. */
  first: number;
  five: number;
  of: number;
  misses: string[];
}

function fingers(book: Book): Row[] {
  return phrasesOf(book)
    .filter(({ name }) => !values.only || name.includes(values.only))
    .map((phrase) => {
      const { rows, at } = fingerAnswer(phrase);
      const missed = `${phrase.instrument} ${phrase.kind}: ${phrase.name}${phrase.sure ? '' : ' (taste)'}\n    ${phrase.music}\n    wanted ${phrase.accept!.join(', ')}\n    chosen ${rows.map((row, i) => (i === at ? `[${row}]` : row)).join('  ')}`;
      return { ...phrase, first: at === 0 ? 1 : 0, five: at >= 0 ? 1 : 0, of: 1, misses: at === 0 ? [] : [missed] };
    });
}

function bows(book: Book): Row[] {
  return phrasesOf(book)
    .filter(({ name }) => !values.only || name.includes(values.only))
    .flatMap((phrase) =>
      bowAnswer(phrase).checks.map(({ said, sure, holds, found }) => ({
        ...phrase,
        sure,
        first: holds ? 1 : 0,
        five: holds ? 1 : 0,
        of: 1,
        misses: holds
          ? []
          : [`${phrase.instrument} ${phrase.kind}: ${phrase.name}${sure ? '' : ' (taste)'}\n    ${phrase.music}\n    wanted ${said}\n    found  ${found}`],
      })),
    );
}

const percent = (part: number, whole: number): string => (whole ? `${Math.round((100 * part) / whole)} %` : '–');
const INSTRUMENTS = ['violin', 'viola', 'cello', 'bass'];

function table(isHand: boolean, rows: readonly Row[]): string {
  const line = (name: string, some: readonly Row[]): string => {
    const of = some.length;
    const first = some.reduce((sum, row) => sum + row.first, 0);
    const five = some.reduce((sum, row) => sum + row.five, 0);
    return `| ${name} | ${of} | ${first} (${percent(first, of)}) |${isHand ? ` ${five} (${percent(five, of)}) |` : ''}`;
  };
  const kinds = [...new Set(rows.map((row) => row.kind))].sort();
  return [
    `| what | asked | first choice |${isHand ? ' among five |' : ''}`,
    `| --- | ---: | ---: |${isHand ? ' ---: |' : ''}`,
    line('**all**', rows),
    ...[true, false].map((asked) =>
      line(
        asked ? 'sure' : 'taste',
        rows.filter(({ sure }) => sure === asked),
      ),
    ),
    ...INSTRUMENTS.map((name) =>
      line(
        name,
        rows.filter(({ instrument }) => instrument === name),
      ),
    ),
    ...kinds.map((name) =>
      line(
        name,
        rows.filter(({ kind }) => kind === name),
      ),
    ),
  ].join('\n');
}

const rowsOf = (book: Book): Row[] => (book.startsWith('left') ? fingers(book) : bows(book));
const missesOf = (rows: readonly Row[]): string[] => rows.flatMap(({ misses }) => misses);

/** A miss as an item of a list: its name, then the music, what was wanted and what was chosen as code. */
function asItem(miss: string): string {
  const [name, music, ...said] = miss.split('\n').map((line) => line.trim()) as [string, string, ...string[]];
  const codes = said.map((line) => `${line.split(' ')[0]} \`${line.replace(/^\S+\s+/, '')}\``);
  return `- **${name}**: \`${music}\`  \n  ${codes.join('  \n  ')}`;
}

const HEADINGS: Readonly<Record<Book, string>> = {
  'left-hand': 'The left hand (tuned on)',
  'bow-arm': 'The bow arm (tuned on)',
  'left-hand-fresh': 'The left hand, fresh',
  'bow-arm-fresh': 'The bow arm, fresh',
};
const PAGE = 'docs/agreement.md';

if (values.write) {
  for (const name of RECORDS) record(name);
  const text = readFileSync(PAGE, 'utf8');
  const sections = books.map((book) => {
    const rows = rowsOf(book);
    const misses = book.endsWith('fresh') ? '' : `\n### Misses\n\n${missesOf(rows).map(asItem).join('\n')}\n`;
    return `## ${HEADINGS[book]}\n\n${table(book.startsWith('left'), rows)}\n${misses}`;
  });
  writeFileSync(PAGE, `${text.slice(0, text.indexOf('\n## '))}\n${sections.join('\n')}`);
} else
  for (const book of books) {
    const rows = rowsOf(book);
    console.log(`\n${book}\n\n${table(book.startsWith('left'), rows)}`);
    if (values.misses) console.log(`\n${missesOf(rows).join('\n')}`);
  }
