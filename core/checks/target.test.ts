import { Interval } from 'tonal';
import { parsePitch } from '../score/pitch';
import { usualInstrument } from '../instruments/instrument';
import { justCents, PURE_FIFTH, pythagoreanCents, SYNTONIC_COMMA, targetCents, twoReferences } from './target';

const pitch = (name: string) => parsePitch(name)!;

test('a pure fifth and the syntonic comma in cents (physics of intervals: 3:2, 81:80)', () => {
  expect(PURE_FIFTH).toBeCloseTo(701.955, 3);
  expect(SYNTONIC_COMMA).toBeCloseTo(21.506, 3);
  expect(Interval.semitones('5P')).toBe(Math.round(PURE_FIFTH / 100));
});

describe('Pythagorean: pure fifths from A', () => {
  test.each([
    ['A4', 0],
    ['E5', 1.955],
    ['D4', -1.955],
    ['G3', -3.91],
    ['C#5', 7.82],
    ['F4', -7.82],
  ])('%s lies %d cents from equal temperament', (name, cents) => expect(pythagoreanCents(pitch(name))).toBeCloseTo(cents, 2));
  test('leading notes are high: C sharp to D is narrower than in equal temperament', () =>
    expect(100 + pythagoreanCents(pitch('D5')) - pythagoreanCents(pitch('C#5'))).toBeCloseTo(90.22, 2));
});

describe('just over a root', () => {
  test('a major third is 13.7 cents lower than in equal temperament, a minor one 15.6 higher', () => {
    expect(justCents(pitch('C#5'), pitch('A4'))!).toBeCloseTo(-13.686, 3);
    expect(justCents(pitch('C5'), pitch('A4'))!).toBeCloseTo(15.641, 3);
  });
  test('fifth and octave are pure; an odd spelling has no just form', () => {
    expect(justCents(pitch('E5'), pitch('A4'))!).toBeCloseTo(1.955, 3);
    expect(justCents(pitch('A5'), pitch('A4'))!).toBeCloseTo(0, 9);
    expect(justCents(pitch('B#4'), pitch('A4'))).toBeNull();
  });
  test('the school decides', () => {
    expect(targetCents(pitch('C#5'), 'equal', pitch('A4'))).toBe(0);
    expect(targetCents(pitch('C#5'), 'pythagorean', pitch('A4'))).toBeCloseTo(7.82, 2);
    expect(targetCents(pitch('C#5'), 'just', pitch('A4'))).toBeCloseTo(-13.69, 2);
    expect(targetCents(pitch('C#5'), 'just', null)).toBeCloseTo(7.82, 2);
  });
});

describe('between two open strings', () => {
  const { strings } = usualInstrument('violin');
  test('first-finger E on the D string: 21.5 cents higher with the open A than with the open G (domain fact 7)', () => {
    const found = twoReferences(pitch('E4'), 3, strings)!;
    expect(found.cents).toBeCloseTo(SYNTONIC_COMMA, 6);
    expect([found.lower.interval, found.upper.interval]).toEqual(['major sixth', 'fourth']);
  });
  test('the same a string higher, and on the viola; not on the outer strings, nor where nothing disagrees', () => {
    expect(twoReferences(pitch('B4'), 2, strings)!.cents).toBeCloseTo(SYNTONIC_COMMA, 6);
    expect(twoReferences(pitch('A3'), 3, usualInstrument('viola').strings)!.cents).toBeCloseTo(SYNTONIC_COMMA, 6);
    expect(twoReferences(pitch('A3'), 4, strings)).toBeNull();
    expect(twoReferences(pitch('F#5'), 1, strings)).toBeNull();
    expect(twoReferences(pitch('F4'), 3, strings)).toBeNull();
  });
});
