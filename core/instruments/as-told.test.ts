/** What the coach says about a part; the bass sounds an octave below its notes (facts 1 and 13 of the trade). */
import { makeScore } from '../testing/make';
import { linesOf } from './lines';
import { pitchName } from '../score/pitch';
import { asTold, NOTHING_TOLD, usualTransposition } from './as-told';
import { oneCanPlay } from './together';

const sounding = (part: ReturnType<typeof makeScore>['part']) => part.notes.map((note) => pitchName(note.pitch)).join(' ');
const { part: cello } = makeScore('cello', 'E2 A2 D3 G3');

test('nothing told, nothing changed', () => expect(asTold(cello, NOTHING_TOLD)).toBe(cello));
test('a bass after all: an octave lower, unless the file transposes itself', () => {
  const bass = asTold(cello, { ...NOTHING_TOLD, instrument: 'bass' });
  expect([bass.instrument, bass.soundsHalfSteps, sounding(bass)]).toEqual(['bass', -12, 'E1 A1 D2 G2']);
  expect(bass.notes.map((note) => note.id)).toEqual(cello.notes.map((note) => note.id));
  expect(asTold(cello, { ...NOTHING_TOLD, instrument: 'bass' })).toBe(bass);
  expect(sounding(asTold({ ...cello, transposesItself: true }, { ...NOTHING_TOLD, instrument: 'bass' }))).toBe('E2 A2 D3 G3');
});
test.each([
  ['written', 'E2 A2 D3 G3'],
  ['octave-lower', 'E1 A1 D2 G2'],
  ['tone-higher', 'F#1 B1 E2 A2'],
] as const)('sounds %s', (sounds, expected) => expect(sounding(asTold(cello, { ...NOTHING_TOLD, sounds }))).toBe(expected));
test('a bass part far below the instrument is written at pitch', () => {
  expect(usualTransposition('bass', makeScore('bass', 'E1 G1').part.notes)).toBe(0);
  expect(usualTransposition('bass', makeScore('bass', 'E2 G2').part.notes)).toBe(-12);
  expect(usualTransposition('cello', makeScore('cello', 'E2').part.notes)).toBe(0);
});

test.each<[string, boolean]>([
  ['G3+D4', true],
  ['G3+B3', false],
  ['A3+B3', false],
  ['D4+B4', true],
  ['G3+D4+B4+G5', true],
  ['G3+D4+A4+E5+B5', false],
  ['G3+A3+B4', false],
])('one violin: %s', (chord, can) => expect(oneCanPlay('violin', makeScore('violin', chord).part.notes)).toBe(can));

test('a section divides what no single player can hold; one player, and words, decide otherwise', () => {
  const { part } = makeScore('violin', 'G3+B3 D4+B4');
  expect(linesOf(part)).toHaveLength(1);
  const section = asTold(part, { ...NOTHING_TOLD, section: true });
  expect(linesOf(section).map((line) => line.events.map((event) => event.notes.map((note) => pitchName(note.pitch)).join('+')).join(' '))).toEqual([
    'B3 D4+B4',
    'G3 D4+B4',
  ]);
  expect(linesOf({ ...section, words: [{ tick: 0, text: 'non div.' }] })).toHaveLength(1);
  expect(linesOf({ ...part, words: [{ tick: 0, text: 'div.' }] })).toHaveLength(2);
});
