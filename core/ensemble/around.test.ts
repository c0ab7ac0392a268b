import { Interval } from 'tonal';
import { demoScore } from '../../tests/support/demo';
import { makeScore } from '../testing/make';
import { midiOf, pitchName } from '../score/pitch';
import type { Part } from '../score/score';
import { around, intervalName, phrasesOf } from './around';

const { parts } = demoScore('mill-race-serenade').score;
const known = parts.map((part) => ({ id: part.id, name: part.name, part }));
const noteIn = (part: Part, bar: string, pitch: string) =>
  part.notes.find((note) => part.bars[note.barIndex]!.label === bar && pitchName(note.pitch) === pitch)!;
const at = (p: number, bar: string, pitch: string) => around(noteIn(parts[p]!, bar, pitch).id, parts[p]!.id, known)!;

describe('what the others do at a note', () => {
  test('the violas have the tune; the violins hold a third and a fifth of the chord under it', () => {
    const held = at(0, '33', 'B4');
    expect(held).toMatchObject({
      role: { role: 'held' },
      tune: ['Viola'],
      chord: 'G major',
      inChord: 'third of G; pure over G it is 14 cents lower than equal',
    });
    expect(at(0, '33', 'D5').inChord).toBe('fifth of G; pure over G it is 2 cents higher than equal');
    expect(at(2, '33', 'G3')).toMatchObject({ role: { role: 'tune' }, tune: [], inChord: 'root of G' });
    expect(at(1, '38', 'G4').inChord).toBe('third of E; pure over E it is 16 cents higher than equal');
  });
  test('whom to tune to, from the lowest; what it rubs against', () => {
    const root = at(2, '33', 'G3');
    expect(root.tuneTo.map(({ name, interval }) => `${name} ${interval}`)).toEqual(['Double Bass 2 octaves below', 'Cello octave below']);
    expect(root.rubs).toEqual([]);
    const own = makeScore('violin', 'C5/2 B4/2').part;
    const other = makeScore('cello', 'B3/4').part;
    const all = [
      { id: 'a', name: 'A', part: own },
      { id: 'b', name: 'B', part: other },
    ];
    expect(around(own.notes[0]!.id, 'a', all)!.rubs).toEqual([{ name: 'B', pitch: 'B3', interval: 'minor ninth below' }]);
    expect(around(own.notes[1]!.id, 'a', all)!.tuneTo).toEqual([{ name: 'B', pitch: 'B3', interval: 'octave below' }]);
  });
  test('a foreign note says how it is foreign and where it goes', () => {
    const made = ['C5/2 C5~/2 | C5/2 B4/2 | C5/4', 'G4/2 A4/2 | G4/4 | G4/4', 'E4/2 F4/2 | D4/4 | E4/4', 'C3/2 F3/2 | G3/4 | C3/4'].map((voice, i) => ({
      id: String(i),
      name: `Voice ${i + 1}`,
      part: makeScore('violin', voice).part,
    }));
    const [, before, suspended] = made[0]!.part.notes as [unknown, { id: string }, { id: string }];
    expect(around(before.id, '0', made)!.inChord).toMatch(/^fifth of F/);
    expect(around(suspended.id, '0', made)!.inChord).toBe('suspended from the chord before; it goes to B4');
  });
  test('an entry after rests with its cue; a grace note and a note of nobody', () => {
    const entry = at(0, '53', 'F#6').entry!;
    expect([entry.silent, entry.cues.length > 0]).toEqual(['4 bars of rest', true]);
    expect(at(0, '54', 'G5').entry).toBeNull();
    expect(around('nothing', parts[0]!.id, known)).toBeNull();
    expect(around(parts[0]!.notes[0]!.id, 'nobody', known)).toBeNull();
  });
  test('roles are worked out once for the same parts', () => {
    expect(phrasesOf(known)).toBe(phrasesOf([...known]));
    expect(phrasesOf([])).toEqual([]);
  });
});

test('intervals by their names, as a general music-theory package (tonal) has them by half steps', () => {
  const sizes: Readonly<Record<string, string>> = {
    '2m': 'half step',
    '2M': 'whole step',
    '3m': 'minor third',
    '3M': 'major third',
    '4P': 'fourth',
    '5P': 'fifth',
    '6m': 'minor sixth',
    '6M': 'major sixth',
    '7m': 'minor seventh',
    '7M': 'major seventh',
    '9m': 'minor ninth',
    '9M': 'ninth',
  };
  for (const [name, said] of Object.entries(sizes)) {
    expect(intervalName(Interval.semitones(name))).toBe(`${said} above`);
    expect(intervalName(-Interval.semitones(name))).toBe(`${said} below`);
  }
  expect([0, 12, -24, 6, 15].map(intervalName)).toEqual(['unison', 'octave above', '2 octaves below', 'tritone above', 'minor third and octaves above']);
  expect(midiOf({ step: 'A', alter: 0, octave: 4 })).toBe(69);
});
