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

test('letters, tempi and words about the tempo that only another part prints stand in this one, too, once', () => {
  const { read } = parts.find(({ name }) => name === 'mill-race-serenade')!;
  const [first, ...others] = read.score.parts;
  const letters = first!.bars.flatMap(({ rehearsal, onset }) => (rehearsal === null ? [] : [[rehearsal, onset]]));
  expect(letters.length).toBeGreaterThan(4);
  for (const part of [first!, ...others]) {
    const text = wholePart(read.document, part, {}, null);
    const alone = again(text);
    expect(alone.bars.flatMap(({ rehearsal, onset }) => (rehearsal === null ? [] : [[rehearsal, onset]]))).toEqual(letters);
    expect([...text.matchAll(/<rehearsal/g)]).toHaveLength(letters.length);
    const tempi = ({ tempi }: Part) =>
      tempi.flatMap(({ tick, printed, quartersPerMinute }) => (printed === null ? [] : [[tick, Math.round(quartersPerMinute)]]));
    expect(tempi(alone)).toEqual(tempi(part));
    for (const { tick, text: words } of part.words)
      expect([words, tick, alone.words.some((each) => each.text === words && each.tick === tick)]).toEqual([words, tick, true]);
  }
});

test('a tempo of another part, in the middle of a bar and in another beat, comes where it is said', () => {
  const bar = (n: number, inside: string, first = '') => `<measure number="${n}">${first}${inside}</measure>`;
  const time = (divisions: number) => `<attributes><divisions>${divisions}</divisions><time><beats>6</beats><beat-type>8</beat-type></time></attributes>`;
  const note = (duration: number) => `<note><pitch><step>A</step><octave>4</octave></pitch><duration>${duration}</duration><voice>1</voice></note>`;
  const words =
    '<direction><direction-type><words>Meno mosso</words></direction-type><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>60</per-minute></metronome></direction-type><sound tempo="90"/></direction>';
  const top = bar(1, note(3) + words + note(3), time(2)) + bar(2, note(6));
  const low = bar(1, note(12), time(4)) + bar(2, note(12));
  const text = `<score-partwise><part-list><score-part id="P1"><part-name>Violin</part-name></score-part><score-part id="P2"><part-name>Viola</part-name></score-part></part-list><part id="P1">${top}</part><part id="P2">${low}</part></score-partwise>`;
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  const viola = read.value.score.parts[1]!;
  const drawn = wholePart(read.value.document, viola, {}, null);
  expect(drawn).toContain('<beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>60</per-minute>');
  const alone = again(drawn);
  const [mark] = alone.tempi.filter(({ printed }) => printed !== null);
  expect([mark!.tick, mark!.quartersPerMinute]).toEqual([viola.bars[1]!.onset / 2, 90]);
  expect(alone.words.map(({ text: said, tick }) => [said, tick])).toEqual([['Meno mosso', viola.bars[1]!.onset / 2]]);
  expect(wholePart(read.value.document, read.value.score.parts[0]!, {}, null).match(/Meno mosso/g)).toHaveLength(1);
});
