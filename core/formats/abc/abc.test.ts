/** ABC in. Onsets, lengths and pitches are checked against the parser package's own audio timeline (abcjs). */
import abcjs from 'abcjs';
import fc from 'fast-check';
import { runs } from '../../testing/runs';
import { typedNonsense } from '../../../tests/support/damage';
import { midiOf, pitchName } from '../../score/pitch';
import { playedOrder } from '../../score/played';
import type { Part } from '../../score/score';
import { readAbc, readScoreBytes } from '../read';
import { musicXmlFromAbc } from './to-musicxml';
import { TICKS_PER_QUARTER } from '../../score/ticks';

function read(text: string): { parts: Part[]; ticks: number; warnings: string[] } {
  const result = readAbc(text);
  if (!result.ok) throw new Error(`${result.problem.place}: ${result.problem.what}`);
  const { score } = result.value;
  return { parts: score.parts, ticks: TICKS_PER_QUARTER, warnings: score.warnings.map(({ place, text: what }) => `${place}: ${what}`) };
}
const tune = (body: string, head = 'M:4/4\nL:1/8\nK:D') => `X:1\nT:Passage\n${head}\n${body}\n`;
const part = (body: string, head?: string) => read(tune(body, head)).parts[0]!;

type Sounding = [onset: number, duration: number, midi: number];
/** In quarters; ties joined. */
function ours({ parts, ticks }: ReturnType<typeof read>): Sounding[][] {
  return parts.map((each) => {
    const found: Sounding[] = [];
    for (const note of each.notes) {
      const midi = midiOf(note.pitch);
      const tied = note.tiedFrom ? found.findLast((other) => other[2] === midi && Math.abs(other[0] + other[1] - note.onset / ticks) < 1e-3) : undefined;
      if (tied) tied[1] += note.duration / ticks;
      else found.push([note.onset / ticks, note.duration / ticks, midi]);
    }
    return found.sort((a, b) => a[0] - b[0] || a[2] - b[2]);
  });
}
interface Audio {
  tracks: Array<Array<{ cmd: string; start: number; duration: number; pitch: number }>>;
}
function theirs(text: string): Sounding[][] {
  const { tracks } = abcjs.parseOnly(text)[0]!.setUpAudio({}) as unknown as Audio;
  return tracks.map((track) =>
    track
      .filter((event) => event.cmd === 'note')
      .map((event): Sounding => [event.start * 4, event.duration * 4, event.pitch])
      .sort((a, b) => a[0] - b[0] || a[2] - b[2]),
  );
}
function expectSame(text: string): void {
  const [a, b] = [ours(read(text)), theirs(text)];
  expect(a.map((track) => track.map(([, , midi]) => midi))).toEqual(b.map((track) => track.map(([, , midi]) => midi)));
  a.forEach((track, t) =>
    track.forEach(([onset, duration], i) => {
      expect(onset).toBeCloseTo(b[t]![i]![0], 3);
      expect(duration).toBeCloseTo(b[t]![i]![1], 3);
    }),
  );
}

describe('against the audio timeline of the parser package', () => {
  test.each<[string, string]>([
    ['a scale with an accidental that holds', tune('DEF^G GABc | ^cdef gab=c |')],
    ['chords, ties, broken rhythm, rests', tune('[DA]2- [DA]2 A>B z2 | c<d e2- e4 |')],
    ['triplets, fives, duplets', tune('(3ABc (5:4:5d/e/f/g/a/ z A2 z | (2AB c2 z3 |', 'M:12/8\nL:1/8\nK:G')],
    ['a flat key with naturals', tune('B=B_BA G=EE2 | e=edc B4 |', 'M:4/4\nL:1/8\nK:Eb')],
    ['a mode, another unit', tune('D E F | G A B |', 'M:3/4\nL:1/4\nK:Ddor')],
    ['two voices in two staves', 'X:1\nM:3/4\nL:1/4\nK:G\nV:1 name="Violin"\nV:2 name="Cello" clef=bass\n[V:1] G A B | c d e |\n[V:2] G,,2 D, | E,3 |\n'],
    ['a bass an octave lower by its clef', 'X:1\nM:4/4\nL:1/4\nK:C\nV:1 name="Bass" clef=bass-8\nC, E, G, C |\n'],
    ['key and meter that change in the tune', tune('DEFG ABcd | [K:Bb] [M:3/4] B2 e2 c2 |\nM:2/4\nB2 A2 | G4 |')],
    ['an upbeat and bars over several lines', tune('A2 | d2 e2 f2 g2 |\na4 f4 | d6 |')],
  ])('%s', (_, text) => expectSame(text));
  test('any row of notes, chords, tuplets and ties', () => {
    const length = fc.constantFrom('', '2', '/', '3/2', '4');
    const pitch = fc.tuple(fc.constantFrom('', '^', '_', '=', '^^', '__'), fc.constantFrom('C', 'F,', 'G', 'B', 'c', 'f', "d'", 'A,,')).map((x) => x.join(''));
    const event = fc.oneof(
      fc.tuple(pitch, length).map((x) => x.join('')),
      fc.tuple(fc.uniqueArray(fc.constantFrom('C', 'E', 'G', 'c'), { minLength: 2, maxLength: 3 }), length).map(([notes, l]) => `[${notes.join('')}]${l}`),
      length.map((l) => `z${l}`),
      fc.tuple(pitch, pitch, pitch).map(([a, b, c]) => `(3${a}${b}${c}`),
      fc.constantFrom('|', 'A-A', 'c2-|c'),
    );
    fc.assert(
      fc.property(fc.array(event, { minLength: 1, maxLength: 30 }), fc.constantFrom('C', 'D', 'Eb', 'F#m', 'Bbm', 'Gmix'), (events, key) => {
        const text = tune(`G ${events.join(' ')} |`, `M:none\nL:1/8\nK:${key}`);
        expectSame(text);
      }),
      { numRuns: runs(150) },
    );
  });
});

describe('what a string player writes', () => {
  const first = (body: string) => part(body).notes[0]!;
  test.each<[string, string, object]>([
    ['up-bow', 'uA2', { printed: { finger: null, string: null, bow: 'up' } }],
    ['down-bow', 'vA2', { printed: { finger: null, string: null, bow: 'down' } }],
    ['a finger', '!3!A2', { printed: { finger: '3', string: null, bow: null } }],
    ['a finger in quotes', '"2"A2', { printed: { finger: '2', string: null, bow: null } }],
    ['open string', '!open!A2', { printed: { finger: '0', string: null, bow: null } }],
    ['thumb', '!thumb!A2', { printed: { finger: 'T', string: null, bow: null } }],
    ['staccato and accent', '!>!.A2', { articulations: ['accent', 'staccato'] }],
    ['trill', '!trill!A2', { trill: true }],
    ['fermata', '!fermata!A2', { fermata: true }],
    ['tremolo', '!///!A2', { tremolo: 3 }],
    ['grace note with a slash', '{/g}A2', { grace: 'slashed' }],
  ])('%s', (_, body, expected) => expect(first(body)).toMatchObject(expected));
  test('slurs, also over a chord and across bars; dynamics, hairpins, tempo, words, rehearsal marks', () => {
    const made = read(tune('!p! (AB c2) "^dolce"([CE]2 !<(!d2 | [P:B] e2) f2 !f!!<)!g4 |', 'M:4/4\nL:1/8\nQ:"Allegretto" 3/8=60\nK:C'));
    const [only] = made.parts;
    const name = (id: string) => only!.notes.find((note) => note.id === id)!.pitch.step;
    expect(only!.slurs.map(({ from, to }) => name(from) + name(to))).toEqual(['AC', 'CE']);
    expect(only!.dynamics.map(({ text }) => text)).toEqual(['p', 'f']);
    expect(only!.hairpins).toMatchObject([{ kind: 'crescendo', from: 6 * (made.ticks / 2), to: 16 * (made.ticks / 2) }]);
    expect(only!.tempi[0]).toMatchObject({ quartersPerMinute: 90, printed: 'dotted quarter = 60' });
    expect(only!.words.map(({ text }) => text)).toEqual(['Allegretto', 'dolce']);
    expect(only!.bars.map((bar) => bar.rehearsal)).toEqual([null, 'B']);
  });
  test('a hairpin that ends at the bar line', () => {
    const made = part('!<(! A4 B4 !<)!| c8 |');
    expect(made.hairpins).toMatchObject([{ kind: 'crescendo', from: 0, to: made.bars[0]!.ticks }]);
  });
  test('repeats and voltas; a rest of several bars', () => {
    const made = part('|: A8 |1 B8 :|2 c8 || Z2 | d8 |]');
    expect(made.bars.map((bar) => bar.label)).toEqual(['1', '2', '3', '4', '5', '6']);
    expect(playedOrder(made.bars).order).toEqual([0, 1, 0, 2, 3, 4, 5]);
    expect(made.bars.map((bar) => bar.doubleBarAfter)).toEqual([false, true, true, false, false, true]);
  });
  test('an upbeat is bar 0; the instrument by the name of the voice', () => {
    const made = part('A2 | d8 |', 'M:4/4\nL:1/8\nK:D\nV:1 name="Viola"');
    expect(made.bars.map((bar) => [bar.label, bar.pickup])).toEqual([
      ['0', true],
      ['1', false],
    ]);
    expect(made.instrument).toBe('viola');
  });
  test('a second voice in the same staff', () => {
    const made = part('A4 B4 & D8 |', 'M:4/4\nL:1/8\nK:C');
    expect(made.notes.map((note) => [note.voice, note.tick / (TICKS_PER_QUARTER / 2), pitchName(note.pitch)])).toEqual([
      ['1', 0, 'A4'],
      ['2', 0, 'D4'],
      ['1', 4, 'B4'],
    ]);
  });
});

test('lengths as they are printed, from the breve to the sixteenth', () => {
  const typed = musicXmlFromAbc('X:1\nT:Lengths\nM:none\nL:1/4\nK:C\nV:1 name="Violin"\nA8 A4 A2 A A/ A/4 |\n');
  const types = typed.ok ? [...typed.value.musicXml.matchAll(/<type>([^<]+)<\/type>/g)].map((found) => found[1]) : [];
  expect(types).toEqual(['breve', 'whole', 'half', 'quarter', 'eighth', '16th']);
});

describe('what is wrong is said with line and column', () => {
  const problems = (text: string) => {
    const typed = musicXmlFromAbc(text);
    return typed.ok
      ? typed.value.problems.map(({ line, column, text: what }) => `${line}:${column} ${what}`)
      : [`${typed.problem.place}: ${typed.problem.what} ${typed.problem.remedy}`];
  };
  test.each<[string, string, RegExp]>([
    ['a stray sign', tune('ABcd ? efga |'), /^6:6 Unknown character ignored$/],
    ['an unknown decoration', tune('!wobble!A8 |'), /^6:1 Unknown decoration: wobble$/],
    ['a bar that is too long', tune('A8 | ABcd efga b | A8 |'), /^6:6 This bar holds 4.5 quarters, the meter 4\/4 has 4$/],
    ['a bar that is too short in the middle', tune('A8 | AB | A8 |'), /^6:6 This bar holds 1 quarters/],
    ['no notes', tune('z8 |'), /There are no notes in the text/],
    ['two tunes', `${tune('A8 |')}\n${tune('B8 |')}`, /2 tunes.*one by one/],
    ['nothing', '', /no (tune|notes)/],
    ['a rest without end', tune('Z99999 | A |'), /thousand bars/],
  ])('%s', (_, text, expected) => expect(problems(text).join('; ')).toMatch(expected));
  test('whatever is typed is read or refused, and what is read can be used', () => {
    fc.assert(
      fc.property(typedNonsense, (text) => {
        const result = readScoreBytes(new TextEncoder().encode(text));
        if (!result.ok) return expect(result.problem.remedy).toMatch(/\w/);
        for (const each of result.value.score.parts)
          for (const note of each.notes) expect(Number.isInteger(note.onset) && Number.isInteger(note.duration)).toBe(true);
      }),
      { numRuns: runs(400) },
    );
  });
});
