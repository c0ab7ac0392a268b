import { makeScore, firstLine } from '../testing/make';
import { usualPlayer } from '../instruments/player';
import { clockFor } from '../score/time';
import { planBowing } from './bowing';
import { stringPatterns } from './string-patterns';

/** Strings by note, as digits; "r" in the music is a rest. */
function patterns(strings: string, music = strings.replace(/\d/g, 'A4/.25 ')) {
  const { part } = makeScore('violin', music);
  const line = firstLine(part);
  const bow = planBowing({ part, line, player: usualPlayer('violin'), clock: clockFor(part, 60), marking: {}, alternatives: 1 })[0]!;
  const digits = [...strings.replace(/\D/g, '')].map(Number);
  const of = new Map(part.notes.map((note, i) => [note.id, digits[i]!]));
  const at = (id: string) => part.notes.findIndex((note) => note.id === id);
  return stringPatterns(bow.strokes, line, (id) => of.get(id) ?? null).map(({ name, from, to, strings: over, slurred }) => [
    name,
    over.join(),
    at(from),
    at(to),
    slurred,
  ]);
}

test.each([
  ['21212121', [['back and forth', '1,2', 0, 7, 'separate']]],
  ['2211221122', [['in pairs', '1,2', 0, 9, 'separate']]],
  ['1333133313331', [['three and one', '1,3', 0, 12, 'separate']]],
  ['122122122', [['two and one', '1,2', 0, 8, 'separate']]],
  ['21221112221', []],
  ['432343234323', [['there and back over three strings', '2,3,4', 0, 11, 'separate']]],
  ['43214321', [['over four strings, every 4 notes', '1,2,3,4', 0, 7, 'separate']]],
  ['43123412', []],
  ['22221111', []],
  ['212', []],
])('%s', (strings, expected) => expect(patterns(strings)).toEqual(expected));

test('a figure that is cut off at both ends is told by what lies between', () => expect(patterns('222122212222')[0]![0]).toBe('three and one'));

test('two figures one after the other', () =>
  expect(patterns('212121333434343').map(([name, over]) => `${name} ${over}`)).toEqual(['back and forth 1,2', 'back and forth 3,4']));

test('a rest of an eighth ends a figure, a shorter one does not', () => {
  const withRest = (rest: string) => `A4/.25 A4/.25 A4/.25 A4/.25 ${rest} A4/.25 A4/.25 A4/.25 A4/.25`;
  expect(patterns('12121212', withRest('r/.5')).map((each) => each.slice(2, 4))).toEqual([
    [0, 3],
    [4, 7],
  ]);
  expect(patterns('12121212', withRest('r/.25')).length).toBe(1);
});

test('slurred, separate, or some of each', () => {
  const slurs = (music: string) => patterns('12121212', music).map((each) => each[4]);
  expect(slurs('(A4/.25 A4/.25 A4/.25 A4/.25) (A4/.25 A4/.25 A4/.25 A4/.25)')).toEqual(['slurred']);
  expect(slurs('(A4/.25 A4/.25) A4/.25 A4/.25 (A4/.25 A4/.25) A4/.25 A4/.25')).toEqual(['mixed']);
});
