/** npm run agreement [-- left-hand bow-arm left-hand-fresh bow-arm-fresh --misses]: how far the first choices agree with phrases that every teacher knows. */
import { parseArgs } from 'node:util';
import { bowAnswer, fingerAnswer, phrasesOf, type Book } from '../support/agreement';

const { values, positionals } = parseArgs({ allowPositionals: true, options: { misses: { type: 'boolean', default: false }, only: { type: 'string' } } });
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
for (const book of books) {
  const isHand = book.startsWith('left');
  const rows = isHand ? fingers(book) : bows(book);
  const line = (name: string, some: readonly Row[]): string => {
    const of = some.length;
    const first = some.reduce((sum, row) => sum + row.first, 0);
    const five = some.reduce((sum, row) => sum + row.five, 0);
    return `| ${name} | ${of} | ${first} (${percent(first, of)}) |${isHand ? ` ${five} (${percent(five, of)}) |` : ''}`;
  };
  console.log(`\n${book}\n\n| what | asked | first choice |${isHand ? ' among five |' : ''}\n| --- | ---: | ---: |${isHand ? ' ---: |' : ''}`);
  console.log(line('**all**', rows));
  console.log(
    line(
      'sure',
      rows.filter(({ sure }) => sure),
    ),
  );
  console.log(
    line(
      'taste',
      rows.filter(({ sure }) => !sure),
    ),
  );
  for (const instrument of ['violin', 'viola', 'cello', 'bass'])
    console.log(
      line(
        instrument,
        rows.filter((row) => row.instrument === instrument),
      ),
    );
  for (const kind of [...new Set(rows.map((row) => row.kind))].sort())
    console.log(
      line(
        kind,
        rows.filter((row) => row.kind === kind),
      ),
    );
  if (values.misses) console.log(`\n${rows.flatMap(({ misses }) => misses).join('\n')}`);
}
