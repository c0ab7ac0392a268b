import { readFileSync } from 'node:fs';
import { realScores } from '../../../tests/support/real-scores';
import { linesOf, partOfLine } from '../../instruments/lines';
import { everyMark } from '../../testing/marks';
import type { Part } from '../../score/score';
import { readScoreBytes } from '../read';
import { readMusicXml, type ReadScore } from './read';
import { barId, barOfId, wholePart } from './whole';

const scores: Array<readonly [string, ReadScore]> = [
  ...['mill-race-serenade', 'low-tide'].map((name) => [name, readFileSync(`demo/scores/${name}.musicxml`)] as const),
  ...realScores(),
].flatMap(([name, bytes]) => {
  const read = readScoreBytes(bytes);
  return read.ok ? [[name, read.value] as const] : [];
});
const parts = scores.flatMap(([name, read]) => read.score.parts.filter(({ notes }) => notes.length > 0).map((part) => ({ name, read, part })));
const again = (text: string): Part => {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!;
};
const said = (notes: Part['notes']) =>
  notes.map(({ onset, duration, written, barIndex, grace }) => [barIndex, onset, duration, written.step, written.octave, grace !== null].join(' ')).sort();

test('one player’s line of a divided part is what that line has, read again', () => {
  const divided = parts.filter(({ part }) => linesOf(part).length > 1);
  expect(divided.length).toBeGreaterThan(5);
  for (const { read, part } of divided)
    for (const line of [0, 1, 2]) {
      const played = partOfLine(part, line);
      const out = again(wholePart(read.document, part, {}, line));
      expect(said(out.notes)).toEqual(said(played.notes));
      expect(out.bars).toHaveLength(part.bars.length);
    }
});

test('all of a part, its bars by their names, whatever is marked', () => {
  for (const { read, part } of parts.slice(0, 6)) {
    const text = wholePart(read.document, part, everyMark(part, 7), null);
    expect([...text.matchAll(/<measure id="(bar-\d+)"/g)].map(([, id]) => id)).toEqual(part.bars.map((_, i) => barId(i)));
    expect(again(text).notes).toHaveLength(part.notes.length);
  }
  expect(barOfId('bar-12')).toBe(12);
  expect(barOfId('n-12')).toBeNull();
});

/** First bar and length of each rest that is drawn as one. */
const longRests = (text: string) =>
  [...text.matchAll(/<measure id="bar-(\d+)"(?:(?!<\/measure>)[\s\S])*?<multiple-rest>(\d+)</g)].map(([, bar, length]) => [Number(bar), Number(length)]);

test('bars of rest in a row are one sign, unless something is to be read in them', () => {
  for (const { read, part } of parts) {
    const sounding = new Set(part.notes.map(({ barIndex }) => barIndex));
    for (const [bar, length] of longRests(wholePart(read.document, part, {}, null))) {
      expect(length).toBeGreaterThan(1);
      for (let i = bar!; i < bar! + length!; i++) expect(sounding.has(i)).toBe(false);
      // A letter or a tempo begins a rest of its own.
      for (let i = bar! + 1; i < bar! + length!; i++) {
        const { onset, rehearsal, signs } = part.bars[i]!;
        expect([rehearsal, signs?.volta ?? null, part.tempi.some(({ tick, carried }) => !carried && tick === onset)]).toEqual([null, null, false]);
      }
    }
  }
  const { read, part } = parts.find(({ name, part: { name: called } }) => name === 'mill-race-serenade' && called === 'Violin I')!;
  const plain = longRests(wholePart(read.document, part, {}, null));
  const [bar, length] = plain[0]!;
  expect(length).toBe(4);
  // What the coach writes into them is read.
  const words = { [`at-${bar! + 2}-0|text`]: { value: 'violas', origin: 'coach' as const } };
  expect(longRests(wholePart(read.document, part, words, null))).toEqual([
    [bar, 2],
    [bar! + 2, 2],
  ]);
});
