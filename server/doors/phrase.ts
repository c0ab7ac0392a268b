/** Pass phrases: stored as argon2id, never as they are. */
import { hash, verify } from '@node-rs/argon2';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { bad, good, type Result } from '@/core/util/result';

/** OWASP ASVS 4.0, 2.1.1 and 2.1.2. */
export const PHRASE_LENGTH = { least: 12, most: 128 };
/** Of 0 to 4, as the package counts: from 3 on it is not guessed by trying (its documentation). */
const LEAST_SCORE = 3;
/** OWASP Password Storage Cheat Sheet: argon2id with 19 MiB, two rounds, one lane. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

const holder = globalThis as unknown as { omaggioGuess?: ZxcvbnFactory };
const guess = (): ZxcvbnFactory => (holder.omaggioGuess ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs }));

/** @param about names that everybody would try first */
export function phraseProblem(phrase: string, about: readonly string[]): Result<null> {
  const letters = [...phrase].length;
  if (letters < PHRASE_LENGTH.least)
    return bad('pass phrase', `It has ${letters} letters.`, `Take at least ${PHRASE_LENGTH.least}: three or four words that do not belong together do well.`);
  if (letters > PHRASE_LENGTH.most) return bad('pass phrase', `It has ${letters} letters.`, `Take at most ${PHRASE_LENGTH.most}.`);
  if (guess().check(phrase, [...about]).score < LEAST_SCORE)
    return bad('pass phrase', 'It would soon be guessed.', 'Take three or four words that do not belong together, and no name of anybody here.');
  return good(null);
}

export const hashOf = (phrase: string): Promise<string> => hash(phrase.normalize('NFKC'), COST);

/** Of nobody: so that a name that is not there takes as long as one that is. */
let nobody: Promise<string> | undefined;

export async function isPhrase(stored: string | null, phrase: string): Promise<boolean> {
  nobody ??= hashOf('nobody has this one');
  const fits = await verify(stored ?? (await nobody), phrase.normalize('NFKC'));
  return fits && stored !== null;
}
