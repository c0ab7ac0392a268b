import { pitchyOf } from '../../tests/support/pitchy';
import { normals, synthTake, type SynthAsked } from '../../tests/support/synth-take';
import { linesOf } from '../instruments/lines';
import { slurLinks } from '../marking/links';
import { frequencyHz, midiOf } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { clockFor } from '../score/time';
import { makeScore } from '../testing/make';
import { listen, type HeardTake } from './listen';

type More = Partial<Omit<SynthAsked, 'events' | 'slurred' | 'clock'>>;

function asked(kind: InstrumentKind, music: string, tempo = 120) {
  const { part } = makeScore(kind, music, { tempo });
  const line = linesOf(part)[0]!;
  return { kind, events: line.events, slurred: slurLinks(part, line), clock: clockFor(part, null) };
}
const made = (of: ReturnType<typeof asked>, more: More = {}) => synthTake({ ...of, seed: 5, ...more });
function heard(of: ReturnType<typeof asked>, more: More = {}): { heard: HeardTake; truth: ReturnType<typeof synthTake>['truth']; tuning: number } {
  const { samples, rate, truth } = made(of, more);
  const result = listen({ ...of, sound: { samples, rate, channels: 1 } });
  if (!result.ok) throw new Error(result.problem.what);
  return { heard: result.value, truth, tuning: more.tuning ?? 0 };
}
const refused = (of: ReturnType<typeof asked>, samples: Float32Array, rate = 44_100): string => {
  const result = listen({ ...of, sound: { samples, rate, channels: 1 } });
  return result.ok ? 'heard' : `${result.problem.what} ${result.problem.remedy}`;
};

const MELODY = 'D4/1 E4/1 F#4/1 G4/1 | A4/2 B4/1 A4/1 | (G4/1 F#4/1) (E4/1 D4/1) | F#4/2 D4/2';

const ROOMS: Readonly<Record<InstrumentKind, More>> = {
  violin: { seed: 13, tuning: 18, pace: 1.2, snrDb: 18, reverbS: 0.6, rate: 48_000 },
  viola: { seed: 12, tuning: -14, pace: 0.8 },
  cello: { seed: 11, tuning: 9 },
  bass: { seed: 14, snrDb: 20, reverbS: 0.6 },
};

test.each([
  ['violin', MELODY],
  ['viola', 'G3/1 A3/1 B3/1 C4/1 | D4/2 E4/1 D4/1 | (C4/1 B3/1) (A3/1 G3/1) | B3/2 G3/2'],
  ['cello', 'D2/1 E2/1 F#2/1 G2/1 | A2/2 B2/1 A2/1 | (G2/1 F#2/1) (E2/1 D2/1) | F#2/2 D2/2'],
  ['bass', 'E2/1 F#2/1 G2/1 A2/1 | B2/2 A2/1 G2/1 | (F#2/1 G2/1) (A2/1 B2/1) | G2/2 E2/2'],
] as const)('%s: every note is found within 50 ms, its pitch within two cents, whatever the tuning, the pace and the room', (kind, music) => {
  const of = asked(kind, music);
  // Each instrument in another room.
  const { heard: take, truth, tuning } = heard(of, ROOMS[kind]);
  expect(take.notes.map(({ state }) => state)).toEqual(truth.map(() => 'heard'));
  const times = truth.map(({ event, onsetS }) => Math.abs(take.notes[event]!.onsetS! - onsetS));
  expect(times.filter((time) => time > 0.05).length).toBeLessThanOrEqual(1);
  const off = truth.map(({ event, cents }) => Math.abs(take.notes[event]!.cents! + take.tuning - tuning - cents));
  expect(off.reduce((a, b) => a + b, 0) / off.length).toBeLessThan(1.5);
  expect(Math.max(...off)).toBeLessThan(5);
  expect(take.restarts).toEqual([]);
});

test('the pitch of pure, harmonic and noisy tones is what another pitch package says', () => {
  const of = asked('violin', 'A4/4');
  const clean = { spread: [0], reverbS: 0 };
  for (const tuning of [-17, 8]) {
    for (const snrDb of [25]) {
      const { samples, rate } = made(of, { ...clean, tuning, snrDb });
      const middle = samples.slice(Math.round(1.2 * rate), Math.round(1.2 * rate) + 8_192);
      const hertz = pitchyOf(middle, rate);
      const theirs = 1_200 * Math.log2(hertz / 440);
      const { heard: take } = heard(of, { ...clean, tuning, snrDb });
      // Vibrato moves both a little.
      expect(Math.abs(take.tuning + take.notes[0]!.cents! - theirs)).toBeLessThan(4);
      expect(Math.abs(take.tuning + take.notes[0]!.cents! - tuning)).toBeLessThan(1);
    }
    // A pure tone.
    const pure = Float32Array.from({ length: 3 * 44_100 }, (_, i) =>
      i < 44_100 ? 0 : 0.3 * Math.sin((2 * Math.PI * 440 * 2 ** (tuning / 1_200) * i) / 44_100),
    );
    const result = listen({ ...of, sound: { samples: pure, rate: 44_100, channels: 1 } });
    if (!result.ok) throw new Error(result.problem.what);
    const hertz = pitchyOf(pure.slice(60_000, 68_192), 44_100);
    expect(Math.abs(result.value.tuning + result.value.notes[0]!.cents! - 1_200 * Math.log2(hertz / 440))).toBeLessThan(1);
  }
});

test('a note left out, another pitch in its place, a bar played again', () => {
  const of = asked('violin', MELODY);
  const missing = heard(of, { missing: new Set([5]) }).heard;
  expect(missing.notes.map(({ state }, i) => (state === 'missed' ? i : -1)).filter((i) => i >= 0)).toEqual([5]);
  expect(missing.notes[5]).toMatchObject({ onsetS: null, cents: null, unmeasured: 'it was not heard' });
  const wrong = heard(of, { wrong: new Map([[4, 3]]) }).heard;
  expect(wrong.notes.map(({ state }, i) => (state === 'heard' ? -1 : i)).filter((i) => i >= 0)).toEqual([4]);
  expect(wrong.notes[4]).toMatchObject({ state: 'another pitch', cents: null, unmeasured: 'another pitch was heard in its place' });
  const order = [0, 1, 2, 3, 4, 5, 6, 4, 5, 6, 7, 8, 9, 10, 11, 12];
  const again = heard(of, { order }).heard;
  expect(again.restarts).toHaveLength(1);
  expect(again.restarts[0]!.event).toBe(4);
  expect(again.notes.every(({ state }) => state === 'heard')).toBe(true);
});

test('notes that are twenty to forty cents off are told from those that are not', () => {
  const of = asked('violin', MELODY);
  const normal = normals(77);
  const planted = of.events.map((_, i) => (i % 4 === 2 ? (i % 8 === 2 ? 32 : -28) : 6 * normal()));
  const { heard: take } = heard(of, { spread: planted });
  const off = take.notes.map(({ cents }) => Math.abs(cents!) > 20);
  expect(off).toEqual(planted.map((cents) => Math.abs(cents) > 20));
});

test('a repeated note without a gap is not called missed; a short one is only a hint', () => {
  const of = asked('violin', 'A4/1 (A4/1 A4/1 A4/1) | B4/0.25 C#5/0.25 D5/0.25 E5/0.25 A4/3', 100);
  const { heard: take } = heard(of, {});
  expect(take.notes.filter(({ state }) => state === 'missed').length).toBe(0);
  for (const note of take.notes) if (note.cents !== null && note.endS! - note.onsetS! < 0.2) expect(note.isHint).toBe(true);
});

test('silence, noise, other music, another octave, another tuning of half a step: clear words', () => {
  const of = asked('violin', MELODY);
  const normal = normals(3);
  expect(refused(of, new Float32Array(44_100 * 4))).toMatch(/Nothing is heard/);
  expect(
    refused(
      of,
      Float32Array.from({ length: 44_100 * 4 }, () => 0.1 * normal()),
    ),
  ).toMatch(/Nothing is heard|too loud/);
  const other = made(asked('violin', 'C5/0.5 Eb5/0.5 Ab4/1 Bb4/1 C5/1 | Eb5/2 F5/1 Ab5/1 | Bb4/1 Ab4/1 Eb4/2'));
  expect(refused(of, other.samples)).toMatch(/other music|octave/);
  const lower = made(asked('cello', 'D3/1 E3/1 F#3/1 G3/1 | A3/2 B3/1 A3/1 | (G3/1 F#3/1) (E3/1 D3/1) | F#3/2 D3/2'));
  expect(refused(of, lower.samples)).toMatch(/octave/);
  expect(refused({ ...of, events: [] }, other.samples)).toMatch(/nothing to listen for/);
  expect(refused(of, new Float32Array(0))).toMatch(/Nothing is heard|empty/);
  expect(frequencyHz(midiOf({ step: 'A', alter: 0, octave: 4 }))).toBe(440);
});
