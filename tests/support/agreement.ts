/** How far the program's choices agree with phrases that every teacher knows (tests/data/phrases): asked as bin/omaggio is asked. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { z } from 'zod';
import { run } from '../../headless/commands';
import { readOptions } from '../../headless/options';
import type { bowShape, checkShape, fingerShape } from '../../headless/shapes';
import { bowChecksOf, type Asked, type BowCheck } from './bow-checks';
import { musicXmlOf, type Phrase } from './phrase-file';

export type Book = 'left-hand' | 'bow-arm' | 'left-hand-fresh' | 'bow-arm-fresh';
export const phrasesOf = (book: Book): Phrase[] => JSON.parse(readFileSync(join('tests', 'data', 'phrases', `${book}.json`), 'utf8')) as Phrase[];

const answered = new Map<string, unknown>();

/** @throws what the program said against it */
export function ask<T>(phrase: Phrase, command: 'finger' | 'bow' | 'check', more: string[] = []): T {
  const question = JSON.stringify([phrase, command, more]);
  if (!answered.has(question)) answered.set(question, answer(phrase, command, more));
  return answered.get(question) as T;
}

function answer(phrase: Phrase, command: 'finger' | 'bow' | 'check', more: string[]): unknown {
  const own = phrase.options ?? [];
  const instrument = own.includes('--instrument') ? [] : ['--instrument', phrase.instrument];
  const options = readOptions([command, '-', '--json', ...instrument, ...own, ...more]);
  if (!options.ok) throw new Error(`${phrase.name}: ${JSON.stringify(options.problem)}`);
  const outcome = run(options.value, new TextEncoder().encode(musicXmlOf(phrase)), null);
  if (!outcome.ok) throw new Error(`${phrase.name}: ${JSON.stringify(outcome.problem)}`);
  return outcome.value.value;
}

/** Rows of fingers for a pattern of `accept`: one sign a note head, after @ the strings. */
const inRow = (pattern: string): RegExp => new RegExp(`^(?:${pattern.replace(/ /g, '')})$`);

export interface FingerAnswer {
  phrase: Phrase;
  /** "0123@4444": fingers and strings of each choice, the best first. */
  rows: string[];
  /** 0 the first; -1 none of five. */
  at: number;
}

export function fingerAnswer(phrase: Phrase): FingerAnswer {
  const { alternatives } = ask<z.infer<typeof fingerShape>>(phrase, 'finger', ['-k', '5']);
  const rows = alternatives.map(({ notes }) => `${notes.map(({ finger }) => finger).join('')}@${notes.map(({ string }) => string).join('')}`);
  /** "see why": the same bar has the same fingers. */
  const barsAlike = (row: string) => {
    const fingers = row.split('@')[0]!;
    const bars = new Map<number, Array<[pitch: string, finger: string]>>();
    alternatives[0]!.notes.forEach(({ barIndex, pitch, beat }, i) => bars.set(barIndex, [...(bars.get(barIndex) ?? []), [`${pitch} ${beat}`, fingers[i]!]]));
    const tunes = [...bars.values()].map((notes) => [notes.map(([pitch]) => pitch).join(), notes.map(([, finger]) => finger).join()] as const);
    return tunes.every(([tune, row]) => tunes.every(([other, otherRow]) => tune !== other || row === otherRow));
  };
  const right = (row: string) => {
    if (phrase.accept!.includes('see why')) return barsAlike(row);
    const [fingers, strings] = row.split('@') as [string, string];
    return phrase.accept!.some((accepted) => {
      const [wanted, on] = accepted.split('@') as [string, string | undefined];
      return inRow(wanted).test(fingers) && (on === undefined || inRow(on).test(strings));
    });
  };
  return { phrase, rows, at: rows.findIndex(right) };
}

export interface BowAnswer {
  phrase: Phrase;
  /** A capital begins a stroke, a small letter goes on in it. */
  row: string;
  checks: BowCheck[];
}

export function bowAnswer(phrase: Phrase): BowAnswer {
  const xml = musicXmlOf(phrase);
  const bow = ask<z.infer<typeof bowShape>>(phrase, 'bow', ['-k', '4']);
  const check = ask<z.infer<typeof checkShape>>(phrase, 'check', ['--remedies', 'none']);
  const asked: Asked = { phrase, xml, bow, check };
  return { phrase, ...bowChecksOf(asked) };
}
