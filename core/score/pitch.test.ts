import fc from 'fast-check';
import { Note as TonalNote } from 'tonal';
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
  test('transposition by every interval of a string player', () => {
    const intervals: Array<[string, number, number]> = [
      ['8P', 7, 12],
      ['-8P', -7, -12],
      ['5P', 4, 7],
      ['3m', 2, 3],
      ['2M', 1, 2],
      ['-2M', -1, -2],
      ['4A', 3, 6],
    ];
    fc.assert(
      fc.property(
        pitch.filter((p) => Math.abs(p.alter) < 2 && p.octave > 1 && p.octave < 7),
        fc.constantFrom(...intervals),
        (p, [name, letters, halfSteps]) => {
          expect(pitchName(transposed(p, letters, halfSteps))).toBe(TonalNote.transpose(pitchName(p), name));
        },
      ),
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
