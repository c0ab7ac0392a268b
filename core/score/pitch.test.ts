import fc from 'fast-check';
import { runs } from '../testing/runs';
import { Interval, Note as TonalNote } from 'tonal';
import { frequencyHz, keyAlter, letterIndex, midiOf, naturalAt, parsePitch, pitchName, spelled, STEPS, transposed, type Pitch } from './pitch';

const pitch: fc.Arbitrary<Pitch> = fc.record({
  step: fc.constantFrom(...STEPS),
  alter: fc.integer({ min: -2, max: 2 }),
  octave: fc.integer({ min: 0, max: 8 }),
});

describe('pitch against a reference library (tonal)', () => {
  test('half steps and names of every spelled pitch', () => {
    fc.assert(
      fc.property(pitch, (p) => {
        const name = pitchName(p);
        expect(midiOf(p)).toBe(TonalNote.midi(name) ?? 12 * (p.octave + 1) + TonalNote.get(name).chroma + (midiOf(p) < 0 ? -12 : 0));
        expect(parsePitch(name)).toEqual(p);
      }),
    );
  });
  test('frequencies in equal temperament', () => {
    for (let midi = 21; midi <= 108; midi++) expect(frequencyHz(midi)).toBeCloseTo(TonalNote.freq(TonalNote.fromMidi(midi))!, 6);
  });
  test('transposition by every interval up to two octaves, both ways, over the whole range', () => {
    const sizes = [
      '1P',
      '1A',
      '2d',
      '2m',
      '2M',
      '2A',
      '3d',
      '3m',
      '3M',
      '3A',
      '4d',
      '4P',
      '4A',
      '5d',
      '5P',
      '5A',
      '6m',
      '6M',
      '6A',
      '7d',
      '7m',
      '7M',
      '8d',
      '8P',
      '8A',
      '9m',
      '9M',
      '10m',
      '10M',
      '11P',
      '12P',
      '13M',
      '14m',
      '15P',
    ];
    fc.assert(
      fc.property(pitch, fc.constantFrom(...sizes), fc.boolean(), (p, size, down) => {
        const interval = Interval.get(`${down ? '-' : ''}${size}`);
        const letters = Math.sign(interval.num!) * (Math.abs(interval.num!) - 1);
        const moved = transposed(p, letters, interval.semitones!);
        const theirs = TonalNote.get(TonalNote.transpose(pitchName(p), interval.name));
        expect([moved.step, moved.alter, moved.octave]).toEqual([theirs.letter, theirs.alt, theirs.oct]);
        expect(midiOf(moved) - midiOf(p)).toBe(interval.semitones! + 0);
        expect(letterIndex(moved) - letterIndex(p)).toBe(letters + 0);
      }),
      { numRuns: runs(1000) },
    );
  });
});

test('A4 is 440 Hz (ISO 16:1975)', () => expect(frequencyHz(midiOf(parsePitch('A4')!))).toBe(440));

test('letters count up from C0 and back', () => {
  fc.assert(fc.property(fc.integer({ min: 0, max: 60 }), (index) => expect(letterIndex(naturalAt(index))).toBe(index)));
});

test('the plain spelling follows the key', () => {
  expect(pitchName(spelled(66, 2))).toBe('F#4');
  expect(pitchName(spelled(66, -5))).toBe('Gb4');
});

test('key signatures: two sharps are F and C, three flats B, E and A; eight sharps make F double sharp', () => {
  expect(STEPS.filter((step) => keyAlter(2, step) === 1)).toEqual(['C', 'F']);
  expect(STEPS.filter((step) => keyAlter(-3, step) === -1)).toEqual(['E', 'A', 'B']);
  expect(keyAlter(8, 'F')).toBe(2);
  expect(STEPS.every((step) => keyAlter(0, step) === 0)).toBe(true);
});

test.each(['H4', 'C', '4', 'C#b4', ''])('"%s" is no pitch', (text) => expect(parsePitch(text)).toBeNull());
