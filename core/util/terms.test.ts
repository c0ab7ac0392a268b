import { parseTempo } from '../marking/print-edits';
import { inTerms, noteValueNamed } from './terms';

test.each([
  ['In time at quarter = 72 or slower.', 'In time at crotchet = 72 or slower.'],
  ['dotted quarter = 60', 'dotted crotchet = 60'],
  ['Half = 50', 'Minim = 50'],
  ['quarter', 'crotchet'],
  ['dotted eighth', 'dotted quaver'],
  ['The bar has 3.5 quarters of 4 quarters: eighth (1 quarter) too little.', 'The bar has 3.5 crotchets of 4 crotchets: eighth (1 crotchet) too little.'],
  ['A4/8 is an eighth note, two half notes', 'A4/8 is a quaver, two minims'],
  ['touching, a half step', 'touching, a semitone'],
  [
    'Half a step above, a step and a half apart, 2 half steps, two whole steps apart',
    'A semitone above, a tone and a half apart, 2 semitones, two tones apart',
  ],
  // What is no note value.
  [
    'third finger in eighth position, a quarter of the bow, half the bow, the whole part',
    'third finger in eighth position, a quarter of the bow, half the bow, the whole part',
  ],
  ['three quarters of the string, quarter-sharp', 'three quarters of the string, quarter-sharp'],
])('%s', (american, british) => {
  expect(inTerms(american, 'british')).toBe(british);
  expect(inTerms(american, 'american')).toBe(american);
});

test('a tempo may be typed either way', () => {
  expect(noteValueNamed('Crotchet')).toBe('quarter');
  expect(noteValueNamed('half')).toBe('half');
  const tempi = ['Andante, dotted crotchet = 60', 'minim = 50', 'quaver = 100', 'semibreve = 30', 'crotchet = 72'].map(
    (text) => parseTempo(text).quartersPerMinute,
  );
  expect(tempi).toEqual([90, 100, 50, 120, 72]);
  expect(parseTempo('Andante, dotted crotchet = 60')).toMatchObject({ words: 'Andante', printed: 'dotted quarter = 60' });
});
