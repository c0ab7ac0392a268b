/** MIDI and the marks file: what goes out is read back, by the MIDI package and by our own reader. */
import { readScoreBytes } from './read';
import { readFileSync } from 'node:fs';
import { Midi } from '../../tests/support/midi-package';
import fc from 'fast-check';
import { runs } from '../testing/runs';
import { z } from 'zod';
import { DEMO_NAMES, demoScore } from '../../tests/support/demo';
import { midiOf } from '../score/pitch';
import type { Part } from '../score/score';
import { makeScore } from '../testing/make';
import { everyMark } from '../testing/marks';
import { splitKey, type Marking } from '../marking/mark';
import { marksFile, marksFileShape, readMarksFile } from './marks-file';
import { midiFile, sounding } from './midi';
import { TICKS_PER_QUARTER } from '../score/ticks';

describe('MIDI', () => {
  test.each(DEMO_NAMES)('%s: every struck note with its time and length', (name) => {
    const { score } = demoScore(name);
    const midi = new Midi(midiFile(score.title, score.parts));
    expect(midi.tracks.map((track) => track.name)).toEqual(score.parts.map((part) => part.name));
    score.parts.forEach((part, t) => {
      const scale = midi.header.ppq / TICKS_PER_QUARTER;
      const expected = sounding(part).map(
        ({ note, onset, duration }) => `${Math.round(onset * scale)} ${Math.max(1, Math.round(duration * scale))} ${midiOf(note.pitch)}`,
      );
      const found = midi.tracks[t]!.notes.map(({ ticks, durationTicks, midi: pitch }) => `${ticks} ${durationTicks} ${pitch}`);
      expect(found.sort()).toEqual(expected.sort());
    });
    expect(Math.round(midi.header.tempos[0]!.bpm)).toBe(Math.round(score.parts[0]!.tempi[0]!.quartersPerMinute));
  });
  test('repeats are played, ties are one note, loudness follows the dynamics', () => {
    const { part } = makeScore('violin', 'A4~/2 A4/2 | B4/4', { dynamic: 'ff', tempo: 60 });
    const repeated = { ...part, bars: part.bars.map((bar, i) => (i === 0 ? { ...bar, repeatEnd: true } : bar)) };
    const midi = new Midi(midiFile('Test', [repeated]));
    expect(midi.tracks[0]!.notes.map(({ time, duration, midi: pitch }) => [time, duration, pitch])).toEqual([
      [0, 4, 69],
      [4, 4, 69],
      [8, 4, 71],
    ]);
    expect(midi.tracks[0]!.notes[0]!.velocity).toBeCloseTo(0.88, 1);
  });
});

test('many notes in several tracks: what is written a few hundred events at a time is one track each', () => {
  const bar = 'A4/0.25 B4/0.25 C5/0.25 D5/0.25 '.repeat(4).trim();
  const { part } = makeScore('violin', Array(300).fill(bar).join(' | '));
  const midi = new Midi(midiFile('Böhme ♭', [part, part]));
  expect(midi.tracks.map(({ notes }) => notes.length)).toEqual([4800, 4800]);
  expect(midi.tracks[1]!.notes.at(-1)).toMatchObject({ midi: 74, ticks: 4799 * 120, durationTicks: 120 });
});

describe('the marks file', () => {
  test('comes back the same on the same edition, whatever is marked', () => {
    fc.assert(
      fc.property(fc.constantFrom(...DEMO_NAMES), fc.nat(4), fc.integer({ min: 2, max: 20 }), (name, index, n) => {
        const { score } = demoScore(name);
        const part = score.parts[index % score.parts.length]!;
        const marking = everyMark(part, n);
        const text = JSON.stringify(marksFile(part, marking));
        const read = readMarksFile(text, part);
        expect(read).toEqual({ ok: true, value: { madeOn: { name: part.name, instrument: part.instrument }, marking, lost: [] } });
      }),
      { numRuns: runs(15) },
    );
  });
  test('finds its notes on another edition by what people say; what is not there is named', () => {
    const before = makeScore('violin', 'A4 B4 C5 D5 | E5 F5 G5 A5').part;
    const after = makeScore('violin', 'A4 D4+B4 C5 D5').part;
    const marking: Marking = Object.fromEntries(before.notes.map((note) => [`${note.id}|finger`, { value: '1', origin: 'coach' as const }]));
    const read = readMarksFile(JSON.stringify(marksFile(before, marking)), after);
    if (!read.ok) throw new Error(read.problem.what);
    const pitches = Object.keys(read.value.marking).map((key) => after.notes.find((note) => note.id === splitKey(key).target)!.pitch.step);
    expect(pitches).toEqual(['A', 'B', 'C', 'D']);
    expect(read.value.lost.map(({ at }) => at)).toEqual(['2/1', '2/2', '2/3', '2/4']);
  });
  test('a finger never goes to another pitch; a bow may', () => {
    const [before, after] = ['A4 B4', 'A4 C5'].map((music) => makeScore('violin', music).part) as [Part, Part];
    const both = (['finger', 'bow'] as const).map((kind) => [
      `${before.notes[1]!.id}|${kind}`,
      { value: kind === 'bow' ? 'up' : '1', origin: 'coach' as const },
    ]);
    const read = readMarksFile(JSON.stringify(marksFile(before, Object.fromEntries(both))), after);
    expect(read.ok && [Object.keys(read.value.marking), read.value.lost.map(({ kind }) => kind)]).toEqual([[`${after.notes[1]!.id}|bow`], ['finger']]);
  });
  test('a file of the first version, with and without the divisions of its score', () => {
    const { part } = makeScore('violin', 'A4/0.5 B4/0.5 C5 D5 E5');
    const early = {
      version: 1,
      marks: [
        { id: 'n-P1-0-1-12-B4-0', kind: 'finger', value: '1' },
        { id: 'n-P1-0-1-24-C5-0', at: '1/2', pitch: 'C5', kind: 'finger', value: '2' },
        { at: '1/1', on: 'place', kind: 'hairpin', value: 'crescendo 0 72' },
      ],
    };
    const read = (resolution: number | null) => {
      const found = readMarksFile(JSON.stringify(early), part, resolution);
      if (!found.ok) throw new Error(found.problem.what);
      return [Object.entries(found.value.marking).map(([key, { value }]) => `${key} ${value}`), found.value.lost.map(({ kind }) => kind)];
    };
    expect(read(24)).toEqual([['n-0-1-1_2-B4-0|finger 1', 'n-0-1-1-C5-0|finger 2', 'at-0-0|hairpin crescendo 0 3'], []]);
    expect(read(null)).toEqual([['n-0-1-1-C5-0|finger 2'], ['finger', 'hairpin']]);
  });
  test('what a person writes', () => {
    const { part } = makeScore('violin', 'A4 B4 C5 D5');
    const read = readMarksFile('{"marks":[{"at":"last note of 1","kind":"finger","value":"3"},{"at":"1","on":"bar","kind":"words","value":"warm"}]}', part);
    expect(read.ok && Object.keys(read.value.marking)).toEqual([`${part.notes[3]!.id}|finger`, 'bar-0|words']);
  });
  test.each([
    ['{', /marks file: .*must be JSON/],
    ['{"marks":[{"kind":"finger","value":"3"}]}', /mark 1: It does not say where/],
    ['{"marks":[{"at":"1","kind":"toe","value":"3"}]}', /marks file, marks\.0\.kind/],
    ['{"marks":[{"at":"1/1","kind":"finger","value":"9"}]}', /"9" is no finger\. Use one of 0, 1/],
  ])('%s is refused', (text, message) => {
    const read = readMarksFile(text, makeScore('violin', 'A4').part);
    expect(read.ok ? '' : `${read.problem.place}: ${read.problem.what} ${read.problem.remedy}`).toMatch(message);
  });
  test('the documented schema is the one that is used', () => {
    expect(JSON.parse(readFileSync('docs/marks-file.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(z.toJSONSchema(marksFileShape))));
  });
});

test.each([
  ['a PDF', '%PDF-1.7', 'This is a PDF'],
  ['a picture', '\x89PNG\r\n\x1a\n', 'photograph or picture'],
  ['a photograph of a telephone', '\0\0\0\x18ftypheic', 'photograph or picture'],
  ['a photograph', '\xff\xd8\xff\xe0', 'photograph or picture'],
  ['MIDI', 'MThd\0\0', 'This is a MIDI file'],
])('%s is told apart from a broken score', (_, start, what) => {
  const read = readScoreBytes(Uint8Array.from(start, (letter) => letter.charCodeAt(0)));
  expect(read.ok || read.problem.what).toContain(what);
});

test('a photograph that browsers do not show is to be saved as one that they do', () => {
  const read = readScoreBytes(Uint8Array.from('\0\0\0\x18ftypheic', (letter) => letter.charCodeAt(0)));
  expect(read.ok || read.problem.remedy).toMatch(/^Save it as JPEG/);
});

test('a collection in ABC may have pages of words before its first tune', () => {
  const words = `%%begintext\n${'In those days a tune was known by heart, and nobody minded.\n'.repeat(100)}%%endtext\n`;
  const read = readScoreBytes(new TextEncoder().encode(`%%scale .9\n\n${words}\nX:1\nT:The Ferry\nM:4/4\nL:1/4\nK:G\nGABc|\n`));
  expect(read.ok && read.value.score.parts[0]!.notes.length).toBe(4);
});
