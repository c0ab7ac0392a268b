import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore, TICKS, type MakeOptions } from '../testing/make';
import { Note as TonalNote } from 'tonal';
import { pitchName, spelled } from '../score/pitch';
import { clockFor } from '../score/time';
import type { InstrumentKind } from '../score/score';
import { usualPlayer } from '../instruments/player';
import { markKey, type Marking } from '../marking/mark';
import { planFingering } from '../left-hand/fingering';
import { planBowing } from '../bow-arm/bowing';
import { onOpenStrings } from './on-open-strings';
import { hertzOf, performanceOf } from './performance';

function played(
  kind: InstrumentKind,
  music: string,
  { marks = {}, ...options }: MakeOptions & { marks?: Record<number, string> } = {},
  within = { from: 0, to: Infinity },
) {
  const { score, part } = makeScore(kind, music, { tempo: 60, ...options });
  const player = usualPlayer(kind);
  const clock = clockFor(part, null);
  const marking: Marking = Object.fromEntries(
    Object.entries(marks).map(([i, value]) => [markKey(part.notes[Number(i)]!.id, 'finger'), { value, origin: 'coach' as const }]),
  );
  const request = { score, part, line: firstLine(part), player, clock, marking, alternatives: 1 };
  const fingering = planFingering(request).alternatives[0]?.notes ?? [];
  const newBows = new Set(planBowing(request)[0]!.strokes.map((stroke) => stroke.noteIds[0]!));
  const end = part.bars.at(-1)!.onset + part.bars.at(-1)!.ticks;
  return performanceOf({
    part,
    line: request.line,
    fingering,
    newBows,
    instrument: player.instrument,
    clock,
    within: { from: within.from, to: Math.min(within.to, end) },
  });
}

test('frequencies are those of a music-theory package (tonal), A4 = 440 Hz', () => {
  for (let midi = 23; midi < 110; midi++) expect(hertzOf(midi)).toBeCloseTo(TonalNote.freq(TonalNote.fromMidi(midi))!, 6);
});

describe('tones', () => {
  test('begin when they are written, and end before the next new bow', () => {
    const { tones } = played('violin', 'A4 B4 C5 D5');
    expect(tones.map(({ startS }) => startS)).toEqual([0, 1, 2, 3]);
    for (const { startS, endS } of tones) expect(endS - startS).toBeCloseTo(0.94, 6);
  });
  test('under a slur they run into one another, and only the first has a new bow', () => {
    const { tones } = played('violin', '(B4 C5 D5)');
    expect(tones.map(({ slurred }) => slurred)).toEqual([false, true, true]);
    expect(tones.slice(0, 2).map(({ startS, endS }) => endS - startS)).toEqual([1, 1]);
  });
  test('dots are half as long, accents louder', () => {
    const { tones } = played('violin', 'A4. B4 C5!');
    expect(tones[0]!.endS).toBeCloseTo(0.5, 6);
    expect(tones[2]!.level).toBeGreaterThan(tones[1]!.level);
    expect(tones[2]!.accented).toBe(true);
  });
  test('louder from p to f, and inside a level the same', () => {
    const level = (dynamic: 'p' | 'f') => played('violin', 'A4', { dynamic }).tones[0]!.level;
    expect(level('f')).toBeGreaterThan(2 * level('p'));
    // Three steps of 5 dB.
    expect(20 * Math.log10(level('f') / level('p'))).toBeCloseTo(15, 6);
  });
  test('a double stop is two tones on two strings; plucked from pizz. to arco', () => {
    const { tones } = played('violin', 'B4+G5 A4 | B4 C5', {
      words: [
        { quarter: 1, text: 'pizz.' },
        { quarter: 3, text: 'arco' },
      ],
    });
    expect(new Set(tones.slice(0, 2).map(({ string }) => string)).size).toBe(2);
    expect(tones.map(({ plucked }) => plucked)).toEqual([false, false, true, true, false]);
  });
  test('a note that the left hand plucks is plucked, though the part is bowed, and no bow is planned for it', () => {
    const { tones } = played('violin', 'B4 A4^ C5');
    expect(tones.map(({ plucked }) => plucked)).toEqual([false, true, false]);
  });
  test('a natural harmonic sounds its partial of the string: the fourth of A is A6', () => {
    const [tone] = played('violin', 'A6*').tones;
    expect(tone!.hertz).toBeCloseTo(1760, 6);
    expect(tone!.harmonic).toBe(true);
  });
  test('every tone is the written pitch, harmonics aside, and lies within the passage', () => {
    const line = fc.array(fc.integer({ min: 55, max: 88 }), { minLength: 1, maxLength: 10 });
    fc.assert(
      fc.property(line, (midis) => {
        const { tones, fromS, toS } = played('violin', midis.map((midi) => pitchName(spelled(midi))).join(' '));
        expect(tones.filter(({ harmonic }) => !harmonic).every(({ hertz }) => midis.some((midi) => Math.abs(hertzOf(midi) - hertz) < 1e-6))).toBe(true);
        for (const { startS, endS } of tones) expect([startS >= fromS, endS > startS, endS <= toS + 1e-9]).toEqual([true, true, true]);
      }),
      { numRuns: runs(30) },
    );
  });
});

describe('slides are heard where they would be', () => {
  test('a shift with the same finger in a slur slides into the note', () => {
    const { tones } = played('violin', '(G5 C6)', { marks: { 0: '2', 1: '2' } });
    const shifted = tones[1]!;
    if (tones[0]!.string !== shifted.string) throw new Error('the test wants one string');
    expect(tones[0]!.slide!.hertz).toBeCloseTo(shifted.hertz, 6);
    expect(tones[0]!.slide!.fromS).toBeLessThan(tones[0]!.endS);
  });
  test('not in a rest, and not where the hand stays', () => {
    expect(played('violin', 'B4 r D6').tones[0]!.slide).toBeNull();
    expect(played('violin', '(B4 C5)').tones[0]!.slide).toBeNull();
  });
});

describe('beats', () => {
  test('every quarter in 4/4, every dotted quarter in 6/8, the first of a bar strong', () => {
    expect(played('violin', 'A4/4 | B4/4').beats.map(({ s, strong }) => [s, strong])).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((s) => [s, s % 4 === 0]));
    expect(played('violin', 'A4/3 | B4/3', { beats: 6, beatType: 8 }).beats.map(({ s }) => s)).toEqual([0, 1.5, 3, 4.5]);
  });
  test('a bar is counted in, and an upbeat comes in where it belongs', () => {
    expect(played('violin', 'A4/4').countIn.map(({ s, strong }) => [s, strong])).toEqual([
      [-4, true],
      [-3, false],
      [-2, false],
      [-1, false],
    ]);
    const upbeat = played('violin', 'A4/1 | B4/4', { pickupQuarters: 1 });
    expect(upbeat.countIn.map(({ s, strong }) => [s, strong])).toEqual([
      [-7, true],
      [-6, false],
      [-5, false],
      [-4, false],
      [-3, true],
      [-2, false],
      [-1, false],
    ]);
  });
  test('a passage from the middle is counted in before its first note', () => {
    const part = played('violin', 'A4/4 | B4/4 | C5/4', {}, { from: 4 * TICKS, to: 8 * TICKS });
    expect([part.fromS, part.toS, part.countIn[0]!.s]).toEqual([4, 8, 0]);
    expect(part.tones).toHaveLength(1);
  });
});

test('on the open strings: the same bows, each note as the string that it lies on', () => {
  const { part } = makeScore('violin', '(G4 B4) E5+C5 A5*', { tempo: 60 });
  const player = usualPlayer('violin');
  const clock = clockFor(part, null);
  const fingering = planFingering({ part, line: firstLine(part), player, clock, marking: {} }).alternatives[0]!.notes;
  const asked = { part, line: firstLine(part), newBows: new Set([part.notes[0]!.id]), instrument: player.instrument, clock, within: { from: 0, to: Infinity } };
  const [fingered, open] = [performanceOf({ ...asked, fingering }), performanceOf({ ...asked, fingering: onOpenStrings(fingering) })];
  const strings = [76, 69, 62, 55].map(hertzOf);
  expect(open.tones.map(({ hertz }) => hertz)).toEqual(fingered.tones.map(({ string }) => strings[string - 1]));
  expect(open.tones.map(({ startS, endS, slurred }) => [startS, endS, slurred])).toEqual(
    fingered.tones.map(({ startS, endS, slurred }) => [startS, endS, slurred]),
  );
  expect(open.tones.every(({ slide, harmonic }) => slide === null && !harmonic)).toBe(true);
});
