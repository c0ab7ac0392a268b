import { Scale } from 'tonal';
import { SCALE_BOOK } from '../../tests/support/scale-book';
import { usualPlayer } from '../instruments/player';
import { midiOf, parsePitch, pitchName, pitchLetter } from '../score/pitch';
import { makeScore } from '../testing/make';
import { arpeggioOf, keyOf, rangeFor, scaleOf, signatureOf } from './scale';

const pitches = (music: string) => music.split(' ').map((name) => parsePitch(name)!);
const names = (list: readonly Parameters<typeof pitchName>[0][]) => list.map(pitchName).join(' ');

test('scales and arpeggios are those of method books, for every instrument', () => {
  let seen = 0;
  for (const { name, music } of SCALE_BOOK) {
    const book = pitches(music);
    const mode = / minor/.test(name) ? 'minor' : 'major';
    if (/natural|harmonic/.test(name)) continue;
    const octaves = Math.round((midiOf(book.at(-1)!) - midiOf(book[0]!)) / 12);
    if (midiOf(book.at(-1)!) - midiOf(book[0]!) !== 12 * octaves) continue;
    const own = /arpeggio/.test(name) ? arpeggioOf(mode, book[0]!, octaves) : scaleOf(mode, book[0]!, octaves);
    expect([name, names(own.slice(0, book.length))]).toEqual([name, music]);
    expect(own).toHaveLength(2 * book.length - 1);
    seen++;
  }
  expect(seen).toBeGreaterThan(40);
});

test('as a music-theory package spells them, in all keys that are written', () => {
  for (const step of ['C', 'D', 'E', 'F', 'G', 'A', 'B'])
    for (const sign of ['', '#', 'b']) {
      const from = parsePitch(`${step}${sign}4`)!;
      const letters = (list: readonly Parameters<typeof pitchLetter>[0][]) => list.map((pitch) => pitchName({ ...pitch, octave: 4 }).slice(0, -1));
      const up = (mode: 'major' | 'minor') => letters(scaleOf(mode, from, 1).slice(0, 7));
      const down = (mode: 'major' | 'minor') => letters(scaleOf(mode, from, 1).slice(8).reverse());
      const book = (kind: string) => Scale.get(`${step}${sign} ${kind}`).notes;
      expect([up('major'), up('minor'), down('minor')]).toEqual([book('major'), book('melodic minor'), book('minor')]);
    }
});

test('the key is that of the notes, also against the signature', () => {
  const key = (music: string, fifths: number) => {
    const { tonic, mode } = keyOf(
      pitches(music).map((pitch) => ({ pitch, ticks: 1 })),
      fifths,
    );
    return `${pitchName({ ...tonic, octave: 4 }).slice(0, -1)} ${mode}`;
  };
  expect(key('D4 F#4 A4 D5 C#5 B4 A4 G4 F#4 E4 D4', 2)).toBe('D major');
  expect(key('A4 C5 E5 A5 G#5 A5 F5 E5 D5 C5 B4 A4', 0)).toBe('A minor');
  // In C major for a while of E-flat.
  expect(key('Eb4 G4 Bb4 Eb5 D5 Eb5 C5 Bb4 Ab4 G4 F4 Eb4', 0)).toBe('Eb major');
  expect(key('D#4 F#4 A#4 D#5 C##5 D#5 B4 A#4 G#4 F#4 D#4', 6)).toBe('D# minor');
  for (const { name, music, fifths } of SCALE_BOOK.filter(
    (each) => /major/.test(each.name) && !/arpeggio|thirds/.test(each.name) && each.music.split(' ').length >= 8,
  )) {
    const found = keyOf(
      pitches(music).map((pitch) => ({ pitch, ticks: 1 })),
      fifths,
    );
    expect([name, signatureOf(found), found.mode]).toEqual([name, fifths, 'major']);
  }
});

test('from the lowest tonic that the instrument has, as many octaves as the level goes', () => {
  const of = (kind: 'violin' | 'viola' | 'cello' | 'bass', tonic: string, level: 'beginner' | 'intermediate' | 'advanced' | 'professional') => {
    const range = rangeFor({ tonic: parsePitch(tonic)!, mode: 'major' }, { player: { ...usualPlayer(kind), level }, part: makeScore(kind, 'D4').part });
    return range && [pitchName(range.from), range.octaves];
  };
  expect(of('violin', 'G4', 'beginner')).toEqual(['G3', 2]);
  expect(of('violin', 'G4', 'advanced')).toEqual(['G3', 3]);
  expect(of('violin', 'F4', 'beginner')).toEqual(['F4', 1]);
  expect(of('viola', 'C4', 'intermediate')).toEqual(['C3', 2]);
  expect(of('cello', 'C4', 'beginner')).toEqual(['C2', 2]);
  expect(of('cello', 'C4', 'professional')).toEqual(['C2', 3]);
  expect(of('cello', 'B4', 'beginner')).toEqual(['B2', 1]);
});
