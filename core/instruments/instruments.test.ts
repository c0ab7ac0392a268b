import fc from 'fast-check';
import { midiOf, pitchName } from '../score/pitch';
import { centsPerMm, harmonicTouches, soundingMm, spanMm, stopAtMm, stopMm } from './geometry';
import { INSTRUMENT_KINDS, instrumentOf, SIZES, stringName, usualInstrument } from './instrument';
import { handOf, playerFrom, spreadMm, THUMB, usualPlayer } from './player';
import { chromaticPositionName, letterPositionName } from './positions';
import { recognise } from './recognise';

const strings = (kind: Parameters<typeof instrumentOf>[0], tuning: string | null = null) => {
  const made = instrumentOf(kind, null, tuning);
  return made.ok ? made.value.strings.map(pitchName) : made.problem;
};

describe('open strings (domain fact 1, common practice)', () => {
  test.each([
    ['violin', ['E5', 'A4', 'D4', 'G3']],
    ['viola', ['A4', 'D4', 'G3', 'C3']],
    ['cello', ['A3', 'D3', 'G2', 'C2']],
    ['bass', ['G2', 'D2', 'A1', 'E1']],
  ] as const)('%s', (kind, wanted) => expect(strings(kind)).toEqual(wanted));
  test('solo tuning of the bass is a tone higher; five strings add B0 or C3', () => {
    expect(strings('bass', 'solo')).toEqual(['A2', 'E2', 'B1', 'F#1']);
    expect(strings('bass', 'B0,E1,A1,D2,G2')).toHaveLength(5);
  });
  test.each([
    ['G3,D4,x', /not a row of pitches/],
    ['D4,G3', /not higher/],
    ['A0,B0,C1,D1,E1,F1,G1', /7 strings/],
  ])('the tuning %s is refused', (tuning, why) => {
    const made = instrumentOf('violin', null, tuning);
    expect(made.ok ? '' : made.problem.what).toMatch(why);
  });
});

describe('the string (domain fact 2, physics of the ideal string in equal temperament)', () => {
  test('the octave is the middle; a fifth up leaves two thirds, nearly', () => {
    expect(stopMm(328, 12)).toBeCloseTo(164, 9);
    expect(soundingMm(300, 7)).toBeCloseTo(200.2, 1);
  });
  test('cents per mm (worked table of our model: violin and bass)', () => {
    expect([0, 2, 5, 7, 12, 19, 24].map((n) => centsPerMm(328, n).toFixed(2))).toEqual(['5.28', '5.92', '7.05', '7.91', '10.56', '15.82', '21.11']);
    expect([0, 12, 24].map((n) => centsPerMm(1050, n).toFixed(2))).toEqual(['1.65', '3.30', '6.60']);
  });
  test('places and stops are inverse, and higher stops lie closer together', () => {
    fc.assert(
      fc.property(fc.double({ min: 200, max: 1150, noNaN: true }), fc.double({ min: 0, max: 36, noNaN: true }), (length, stop) => {
        expect(stopAtMm(length, stopMm(length, stop))).toBeCloseTo(stop, 6);
        expect(spanMm(length, stop + 1, stop + 2)).toBeLessThan(spanMm(length, stop, stop + 1));
      }),
    );
  });
});

test('spans of the plain hand in first position: a fourth, a minor third, a tone (domain fact 6, common practice)', () => {
  expect(spanMm(328, 2, 7)).toBeCloseTo(73, 0);
  expect(spanMm(375, 2, 7)).toBeCloseTo(84, 0);
  expect(spanMm(692, 2, 5)).toBeCloseTo(98, 0);
  expect(spanMm(692, 2, 6)).toBeCloseTo(127, 0);
  expect(spanMm(1050, 2, 4)).toBeCloseTo(102, 0);
});

test('natural harmonics: where they lie and what they sound (domain fact 12, physics)', () => {
  const touches = harmonicTouches(6).map(({ touch, sounds }) => [touch.toFixed(2), sounds.toFixed(2)]);
  for (const pair of [
    ['12.00', '12.00'],
    ['7.02', '19.02'],
    ['19.02', '19.02'],
    ['4.98', '24.00'],
    ['3.86', '27.86'],
    ['8.84', '27.86'],
    ['15.86', '27.86'],
    ['3.16', '31.02'],
    ['31.02', '31.02'],
  ]) {
    expect(touches).toContainEqual(pair);
  }
});

describe('sizes and players', () => {
  test('smaller sizes have shorter strings', () => {
    for (const kind of INSTRUMENT_KINDS) {
      const lengths = Object.values(SIZES[kind]);
      expect([...lengths].sort((a, b) => b - a)).toEqual(lengths);
    }
  });
  test('a length in mm is a size; nonsense is refused with the sizes there are', () => {
    const made = instrumentOf('cello', '655mm');
    expect(made.ok && made.value.lengthMm).toBe(655);
    const wrong = instrumentOf('viola', '7/9');
    expect(wrong.ok ? '' : wrong.problem.remedy).toContain('16"');
  });
  test('strings are named without the octave', () =>
    expect([1, 2, 3, 4, 5].map((n) => stringName(usualInstrument('violin'), n))).toEqual(['E', 'A', 'D', 'G', '?']));
  test('a larger hand reaches further; the order of the fingers does not matter', () => {
    expect(spreadMm(handOf('large', 'cello'), 1, 4)!.limit).toBeGreaterThan(spreadMm(handOf('small', 'cello'), 4, 1)!.limit);
    expect(spreadMm(handOf('medium', 'cello'), THUMB, 3)).toEqual(spreadMm(handOf('medium', 'cello'), 3, THUMB));
    expect(spreadMm(handOf('medium', 'cello'), 2, 2)).toBeNull();
  });
  test('a described player is made, or the problem is said', () => {
    const description = { name: 'Tobi', instrument: 'violin', size: '3/4', tuning: null, hand: 'small', level: 'beginner', thumbPosition: false } as const;
    expect(playerFrom(description)).toMatchObject({ ok: true, value: { instrument: { lengthMm: 307 } } });
    expect(playerFrom({ ...description, size: '9/4' }).ok).toBe(false);
    expect(usualPlayer('bass').thumbPosition).toBe(true);
  });
});

test('positions have the names of the methods (from memory)', () => {
  expect([0, 1, 3, 7].map(letterPositionName)).toEqual(['half', 'first', 'third', 'seventh']);
  expect([1, 2, 4, 5, 7].map((hand) => chromaticPositionName('cello', hand, false, () => ''))).toEqual(['half', 'first', 'second (raised)', 'third', 'fourth']);
  expect([2, 4, 12].map((hand) => chromaticPositionName('bass', hand, false, () => ''))).toEqual(['I', 'II-III', 'VII']);
  expect(chromaticPositionName('cello', 14, true, () => '')).toBe('thumb');
  expect(chromaticPositionName('cello', 14, false, () => 'B')).toBe('1 on B');
});

describe('instruments by name', () => {
  const kindOf = (name: string, more = {}) => recognise({ name, sound: null, program: null, clef: null, lowest: null, highest: null, ...more }).kind;
  test.each([
    ['Violin I', 'violin'],
    ['Violini II', 'violin'],
    ['Geige', 'violin'],
    ['Violon', 'violin'],
    ['Violín', 'violin'],
    ['Vln.', 'violin'],
    ['Viola', 'viola'],
    ['Bratsche', 'viola'],
    ['Alto', 'viola'],
    ['Viole', 'viola'],
    ['Violoncello', 'cello'],
    ['Violoncelle', 'cello'],
    ['Violonchelo', 'cello'],
    ['Vc.', 'cello'],
    ['Celli', 'cello'],
    ['Double Bass', 'bass'],
    ['Kontrabass', 'bass'],
    ['Contrebasse', 'bass'],
    ['Contrabbasso', 'bass'],
    ['Contrabajo', 'bass'],
    ['Bassi', 'bass'],
    ['Bassoon', null],
    ['Bass Clarinet', null],
    ['Flute', null],
    ['Alto Sax', null],
  ])('%s', (name, kind) => expect(kindOf(name)).toBe(kind));
  test('a nameless part goes by its sound, its program, or clef and range', () => {
    expect(kindOf('Part 1', { sound: 'strings.cello' })).toBe('cello');
    expect(kindOf('Part 1', { program: 42 })).toBe('viola');
    expect(kindOf('', { clef: 'C3', lowest: 50, highest: 70 })).toBe('viola');
    expect(kindOf('', { clef: 'F4', lowest: 30, highest: 50 })).toBe('bass');
  });
  test('a section is known from its name', () => {
    expect(recognise({ name: 'Violins 2', sound: null, program: null, clef: null, lowest: null, highest: null }).section).toBe(true);
  });
  test('every open string of a usual instrument is below its fingerboard', () => {
    for (const kind of INSTRUMENT_KINDS) expect(midiOf(usualInstrument(kind).strings[0]!)).toBeGreaterThan(midiOf(usualInstrument(kind).strings.at(-1)!));
  });
});

test('smaller instruments are shorter, and by no more than a fifth from one size to the next (makers)', () => {
  for (const kind of INSTRUMENT_KINDS) {
    const lengths = Object.values(SIZES[kind]);
    for (let i = 1; i < lengths.length; i++) {
      expect(lengths[i]!).toBeLessThan(lengths[i - 1]!);
      expect(lengths[i]! / lengths[i - 1]!).toBeGreaterThan(0.8);
    }
  }
});

test('the thumb is for cello and bass; a hand spreads less along the strings of violin and viola', () => {
  expect(INSTRUMENT_KINDS.map((kind) => usualPlayer(kind).thumbPosition)).toEqual([false, false, true, true]);
  const spreads = INSTRUMENT_KINDS.map((kind) => Math.round(handOf('medium', kind).comfortableMm[14]));
  expect(spreads).toEqual([83, 92, 110, 110]);
  // A fourth in first position lies under every usual hand with ease (common practice: 1 and 4 are its frame).
  for (const kind of ['violin', 'viola'] as const) expect(spanMm(usualInstrument(kind).lengthMm, 2, 7)).toBeLessThan(handOf('medium', kind).comfortableMm[14]);
});
