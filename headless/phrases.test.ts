/**
 * Phrases that every teacher knows (common practice, from memory; tests/data/phrases): those the tables were tuned on, and fresh ones
 * that were written before and are only counted. `npm run agreement -- --misses` prints what was chosen where it was not agreed.
 */
import { changedIn } from '../tests/support/as-planned';
import { bowAnswer, fingerAnswer, phrasesOf, type Book } from '../tests/support/agreement';

const share = (holds: readonly boolean[]): number => holds.filter(Boolean).length / holds.length;

test.each<[Book, { sure: number; five: number; taste: number }]>([
  ['left-hand', { sure: 0.95, five: 0.98, taste: 0.75 }],
  ['left-hand-fresh', { sure: 0.9, five: 0.95, taste: 0.5 }],
])('%s: first choices, and among five', (book, least) => {
  const answers = phrasesOf(book).map(fingerAnswer);
  const sure = answers.filter(({ phrase }) => phrase.sure);
  const taste = answers.filter(({ phrase }) => !phrase.sure);
  expect(sure.length).toBeGreaterThanOrEqual(60);
  expect(share(sure.map(({ at }) => at === 0))).toBeGreaterThanOrEqual(least.sure);
  expect(share(sure.map(({ at }) => at >= 0))).toBeGreaterThanOrEqual(least.five);
  expect(share(taste.map(({ at }) => at === 0))).toBeGreaterThanOrEqual(least.taste);
});

test.each<[Book, number]>([
  ['bow-arm', 0.96],
  ['bow-arm-fresh', 0.88],
])('%s: what is asked of a bowing', (book, least) => {
  const checks = phrasesOf(book).flatMap((phrase) => bowAnswer(phrase).checks);
  const sure = checks.filter(({ sure }) => sure);
  expect(sure.length).toBeGreaterThanOrEqual(100);
  expect(share(sure.map(({ holds }) => holds))).toBeGreaterThanOrEqual(least);
});

test.each(['left-hand', 'bow-arm'] as const)('%s: as planned and found before, to the last figure; if on purpose: npm run agreement -- --write', (name) => {
  const { now, before } = changedIn(name);
  expect(now).toEqual(before);
});
