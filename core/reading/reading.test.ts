/** What readers trip over, bar by bar (common practice; the clef fact is number 10 of the trade's facts). */
import { makeScore, TICKS, type MakeOptions } from '../testing/make';
import { usualPlayer } from '../instruments/player';
import type { InstrumentKind } from '../score/score';
import { parsePitch } from '../score/pitch';
import { sayNote } from '../score/address';
import { noteById } from '../score/find';
import { clefName } from '../score/clef';
import { lowestLine } from './clefs';
import { feltBeat } from '../score/beat';
import { countOf } from './counting';
import { readingAids } from './reading';

function aids(music: string, options: MakeOptions = {}, kind: InstrumentKind = 'violin') {
  const { part } = makeScore(kind, music, options);
  return readingAids(part, usualPlayer(kind)).map((aid) => ({ ...aid, at: sayNote(part, noteById(part, aid.noteIds[0]!)!) }));
}
const said = (music: string, options?: MakeOptions, kind?: InstrumentKind) =>
  aids(music, options, kind).map(({ at, kind: what, text }) => `${at} ${what}: ${text}`);

describe('accidentals', () => {
  test.each<[string, string, string[]]>([
    ['a sign holds to the end of the bar', 'F#4 G4 A4 F#4', ['1/4 sign still holds: F sharp: the sharp at 1/1 still holds.']],
    ['not for the note right after it', 'F#4 F#4 G4 A4', []],
    [
      'the same letter in another octave is asked about',
      'F#4 G4 A4 F5',
      ['1/4 other octave: F natural, or F sharp? The sharp at 1/1 stands an octave or more lower and holds only there.'],
    ],
    ['a sign of its own settles that', 'F#4 G4 A4 F#5', []],
    ['cancelled since', 'F#4/0.5 F4/0.5 G4 A4 F4', ['1/4 sign cancelled: F natural: the sharp at 1/1 was cancelled at 1/1.5.']],
    ['the bar line ends a sign', 'F#4 G4 A4 B4 | F4 G4 A4 B4', ['2/1 old sign gone: F natural: the sharp of 1/1 ended with its bar.']],
    [
      'even where a tie carries it over',
      'F#4~/4 | F#4 F4 G4 A4',
      ['2/2 old sign gone: F natural: the sharp of 1/1 ended with its bar, even where the tie carries it over the bar line.'],
    ],
    [
      'a cross-relation to the bar before',
      'C#5 D5 E5 F5 | D5 C4 D4 E4',
      ['2/2 cross-relation: C natural against the C sharp at 1/1 in another octave: a cross-relation, meant so?'],
    ],
    ['said once for a note that comes again', 'F#4 G4 A4 B4 | F4 G4 F4 G4', ['2/1 old sign gone: F natural: the sharp of 1/1 ended with its bar.']],
  ])('%s', (_, music, expected) => expect(said(music).filter((text) => !text.includes('held over'))).toEqual(expected));
  test('a note that is other because the key changed is no trap', () => {
    const { part } = makeScore('violin', 'F#4 G4 A4 B4 | F4 G4 A4 B4', { fifths: 1 });
    const changed = { ...part, keys: [...part.keys, { tick: 4 * TICKS, fifths: 0 }], notes: part.notes.map((note) => ({ ...note, accidental: null })) };
    expect(readingAids(changed, usualPlayer('violin'))).toEqual([]);
  });
  test('a file that leaves its signs out reads the same', () => {
    const { part } = makeScore('violin', 'F#4 G4 A4 B4 | F#4 G4 A4 F#4 | F4 G4 A4 B4');
    const bare = { ...part, notes: part.notes.map((note) => ({ ...note, accidental: null })) };
    const kinds = (each: typeof part) => readingAids(each, usualPlayer('violin')).map(({ kind, noteIds }) => `${kind} ${noteIds[0]}`);
    expect(kinds(part)).toHaveLength(2);
    expect(kinds(bare)).toEqual(kinds(part));
  });
  test('the remedy is a reminder before the note', () => {
    const [aid] = aids('F#4 G4 A4 B4 | F4 G4 A4 B4');
    expect(aid!.remedy).toMatchObject({ kind: 'accidental', value: 'bracket', target: aid!.noteIds[0] });
    expect(aid!.remedy!.text).toMatch(/natural in brackets/);
  });
  test('in a key the natural that holds is the surprise', () =>
    expect(said('F4 G4 A4 F4', { fifths: 1 })).toEqual(['1/4 sign still holds: F: the natural at 1/1 still holds.']));
});

describe('spelling', () => {
  test.each([
    ['B#4', 'B sharp: reads as C'],
    ['Fb5', 'F flat: reads as E'],
    ['F##4', 'F double sharp: reads as G'],
    ['Bbb4', 'B double flat: reads as A'],
  ])('%s', (pitch, text) => expect(said(`${pitch}/4`)[0]).toContain(text));
  test('an augmented second lies as a minor third, a diminished fourth as a major third', () => {
    expect(said('Ab4/2 B4/2')[0]).toContain('A flat to B: an augmented second, but it sounds and lies as a minor third.');
    expect(said('G#4/2 C5/2')[0]).toContain('a diminished fourth, but it sounds and lies as a major third');
    expect(said('A4/2 C5/2')).toEqual([]);
  });
});

describe('new clefs', () => {
  test('tenor clef on the cello: the bass clef note a fifth lower, the same finger one string lower', () => {
    const clefs = [
      { quarter: 0, clef: 'F4' },
      { quarter: 4, clef: 'C4' },
    ];
    expect(said('D3 E3 F3 G3 | B3 A3 G3 F3', { clefs }, 'cello')).toEqual([
      '2/1 new clef: tenor clef from 2/1: B 3 (finger 1, A string). Read in the bass clef it would be E 3 (finger 1, D string).',
    ]);
  });
  test('lowest lines and names of the clefs', () => {
    const line = (sign: string, on: number) => lowestLine({ sign, line: on, octave: 0 });
    const index = (name: string) => {
      const pitch = parsePitch(name)!;
      return pitch.octave * 7 + 'CDEFGAB'.indexOf(pitch.step);
    };
    expect([line('G', 2), line('F', 4), line('C', 3), line('C', 4)]).toEqual(['E4', 'G2', 'F3', 'D3'].map(index));
    expect(lowestLine({ sign: 'percussion', line: 2, octave: 0 })).toBeNull();
    expect(clefName({ sign: 'G', line: 2, octave: -1 })).toBe('treble clef with the 8 below');
    expect(clefName({ sign: 'C', line: 5, octave: 0 })).toBe('C clef on line 5');
  });
  test('a clef that is given again is not new', () => {
    const clefs = [0, 4].map((quarter) => ({ quarter, clef: 'G2' }));
    expect(said('A4/4 | B4/4', { clefs })).toEqual([]);
  });
});

describe('counting', () => {
  const counts = (music: string, options?: MakeOptions) => aids(music, options).map(({ kind, at, count }) => `${at} ${kind}: ${count}`);
  test.each<[string, string, MakeOptions, string[]]>([
    ['a tie over the bar line', 'A4 B4 C5~/2 | C5/2 D5 E5', {}, ['1/3 held over: 3 4 | 1 2']],
    ['a long value before quick notes', 'A4/3 B4/0.5 C5/0.5', {}, ['1/1 long value: 1 2 3']],
    ['not before a note as calm as itself', 'A4/3 B4', {}, []],
    ['a syncopation', 'A4/0.5 B4 C5 D5 E5/0.5', {}, ['1/1.5 syncopation: (1) 2', '1/2.5 syncopation: (2) 3', '1/3.5 syncopation: (3) 4']],
    ['no syncopation: the second note of a beat', 'A4/0.5 B4/0.5 C5/0.5 D5/0.5 E5/2', {}, []],
    ['an entry between two beats', 'A4 r/2 r/0.5 B4/0.5', {}, ['1/4.5 entry: 2 3 4']],
    ['bars of rest', 'A4/4 | r/4 | r/4 | r/4 | B4/4', {}, ['5/1 entry: null']],
    ['bars of rest at the beginning', 'r/4 | r/4 | B4/4', {}, ['3/1 entry: null']],
    ['one bar and the rest of two others is no two bars', 'A4 r/3 | r/4 | r/3 B4', {}, []],
    ['two felt beats in 6/8', 'A4/1.5 B4~/1.5 | B4/1.5 C5/1.5', { beats: 6, beatType: 8 }, ['1/4 held over: 2 | 1']],
  ])('%s', (_, music, options, expected) => expect(counts(music, options)).toEqual(expected));
  test('an upbeat counts towards the bar line', () => {
    const { part } = makeScore('violin', 'A4 | B4 C5 D5 E5', { pickupQuarters: 1 });
    expect(countOf(part, 0, 3 * TICKS)).toBe('4 | 1 2');
    expect(feltBeat(part.bars[1]!)).toBe(TICKS);
  });
});
