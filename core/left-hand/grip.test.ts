import { firstLine, makeScore } from '../testing/make';
import { midiOf } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { instrumentOf } from '../instruments/instrument';
import { fingerName, handMeasured, handOf, usualPlayer, type Player } from '../instruments/player';
import { DEFAULT_COSTS } from './costs';
import { gripsFor, holdable } from './grip';

const notesOf = (kind: InstrumentKind, chord: string) => firstLine(makeScore(kind, `${chord}/2`).part).events[0]!.notes;

/** "4:1 3:4" for each grip: string and finger, low note first. */
const grips = (kind: InstrumentKind, chord: string, player: Partial<Player> = {}) =>
  gripsFor(notesOf(kind, chord), { ...usualPlayer(kind), ...player }, DEFAULT_COSTS, () => undefined).map(({ places }) =>
    places.map((place) => `${place.string}:${fingerName(place.finger)}`).join(' '),
  );

describe('double stops on neighbouring strings (common practice)', () => {
  test.each([
    ['violin', 'third', 'G4+B4', '3:3 2:1'],
    ['violin', 'fourth', 'B4+E5', '3:4 2:3'],
    ['violin', 'fifth under one finger', 'E4+B4', '3:1 2:1'],
    ['violin', 'sixth', 'G4+E5', '3:3 1:0'.replace('1:0', '2:4')],
    ['violin', 'seventh', 'B4+A5', '2:1 1:3'],
    ['violin', 'octave', 'A4+A5', '3:1 2:4'],
    ['violin', 'tenth', 'B3+D5', '4:1 3:4'],
    ['violin', 'unison', 'E4+E4', '3:1 4:4'],
    ['violin', 'unison with the open string', 'D4+D4', '3:0 4:4'],
    ['violin', 'diminished fifth, the fingers crossed over', 'B4+F5', '2:2 1:1'],
    ['violin', 'augmented fourth, close', 'C5+F#5', '2:2 1:1'],
    ['viola', 'third', 'C4+E4', '3:3 2:1'],
    ['viola', 'octave', 'D4+D5', '3:1 2:4'],
    ['cello', 'third', 'C3+E3', '3:4 2:1'],
    ['cello', 'sixth', 'A2+F3', '3:1 2:2'],
    ['cello', 'fifth under one finger', 'E3+B3', '2:1 1:1'],
    ['cello', 'octave, thumb and third', 'D4+D5', '2:T 1:3'],
    ['bass', 'fourth under one finger', 'B1+E2', '3:1 2:1'],
    ['bass', 'fourth under the thumb', 'D3+G3', '2:T 1:T'],
    ['bass', 'third', 'G2+B2', '2:4 1:2'],
  ] as const)('%s: %s %s', (kind, _, chord, wanted) => expect(grips(kind, chord)).toContain(wanted));
  test('a string that lies between would sound: the strings of a grip are neighbours', () => {
    expect(grips('violin', 'A3+C#5')).not.toContain('4:1 2:2');
    for (const chord of ['A3+C#5', 'G3+G4+E5', 'A4+A5', 'B3+D5']) {
      for (const grip of grips('violin', chord)) {
        const strings = grip.split(' ').map((place) => Number(place[0]));
        expect(Math.max(...strings) - Math.min(...strings)).toBe(strings.length - 1);
      }
    }
  });
  test('chords of three and four notes', () => {
    expect(grips('violin', 'A3+E4+C#5+A5')).toContain('4:1 3:1 2:2 1:3');
    expect(grips('cello', 'C2+G2+E3+C4')).toContain('4:0 3:0 2:1 1:2');
  });
  test('a tenth is for hands that reach it', () => {
    expect(grips('viola', 'E3+G#4', { hand: handOf('large', 'viola') })).toContain('4:1 3:4');
    expect(grips('viola', 'E3+G#4', { hand: handMeasured({ comfortable: 85, greatest: 100 }) })).not.toContain('4:1 3:4');
  });
});

describe('what can be held of too much', () => {
  const held = (kind: InstrumentKind, chord: string) =>
    holdable(notesOf(kind, chord), usualPlayer(kind), DEFAULT_COSTS)?.map((note) => `${note.written.step}${note.written.octave}`);
  test('ten notes: as many as there are strings at most, the top one among them', () => {
    const notes = held('violin', 'C4+D4+E4+F4+G4+A4+B4+C5+D5+E5')!;
    expect(notes.length).toBeLessThanOrEqual(4);
    expect(notes.at(-1)).toBe('E5');
  });
  test('two notes that both lie on the lowest string only: the upper one', () => expect(held('violin', 'A3+B3')).toEqual(['B3']));
  test('nothing can be held of what lies below the instrument', () => expect(held('violin', 'C2+D2')).toBeUndefined());
});

describe('the extension and the fifth string of a bass (common practice)', () => {
  const bass = (tuning: string, size = '3/4'): Player => {
    const made = instrumentOf('bass', size, tuning);
    if (!made.ok) throw new Error(made.problem.what);
    return { ...usualPlayer('bass'), instrument: made.value };
  };
  test('low C is the lowest string with an extension, and E flat is stopped on it', () => {
    expect(grips('bass', 'C1', bass('extension'))).toEqual(['4:0']);
    expect(grips('bass', 'Eb1', bass('extension'))).toEqual(['4:1']);
    expect(grips('bass', 'E1', bass('extension'))).toEqual(['4:0']);
    expect(grips('bass', 'C1')).toEqual([]);
    expect(grips('bass', 'B0', bass('extension'))).toEqual([]);
  });
  test('five strings: low B or low C below, high C above', () => {
    expect(bass('low-B').instrument.strings.map(midiOf).at(-1)).toBe(23);
    expect(grips('bass', 'C1', bass('low-B'))).toContain('5:1');
    expect(grips('bass', 'C1', bass('low-C'))).toEqual(['5:0']);
    expect(grips('bass', 'C3', bass('high-C'))).toContain('1:0');
  });
  test('solo tuning lies a tone higher', () => expect(grips('bass', 'F#1', bass('solo'))).toEqual(['4:0']));
});
