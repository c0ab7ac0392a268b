/** What is corrected in a bar: its mark, and the marks of its notes, wherever they are now. */
import { makeScore } from '../testing/make';
import { applyChanges, reversed } from './change';
import { barChanges, barMark, barTextOf, type BarCorrection } from './bar-correction';
import type { Mark, Marking } from './mark';

const of = (music: string) => makeScore('violin', music).part;
const coach = (value: string): Mark => ({ value, origin: 'coach' });
const file = of('A4 B4 C5 D5 | E5/4');
const after = of('A4/1.5 B4/.5 C5 r | E5/4');
const correction = (marking: Marking, text: string, why?: string): BarCorrection => ({
  file,
  print: file,
  marking,
  barIndex: 0,
  text,
  ...(why ? { why } : {}),
});
const at = (index: number, part = file) => part.notes[index]!.id;

test('marks go with their notes, those of notes that are gone stay without a place, edited pitches are in the text', () => {
  const marking: Marking = {
    [`${at(0)}|finger`]: coach('1'),
    [`${at(1)}|finger`]: coach('2'),
    [`${at(1)}|bow`]: coach('up'),
    [`${at(3)}|finger`]: coach('4'),
    [`${at(4)}|finger`]: coach('0'),
    [`${at(1)}|pitch`]: coach('Bb4'),
  };
  const changes = barChanges(correction(marking, 'A4/4. B4/8 C5/4 r/4', 'wrong plate'), after);
  const made = applyChanges(marking, changes);
  expect(made.conflicts).toEqual([]);
  expect(made.marking).toEqual({
    [`${at(0)}|finger`]: coach('1'),
    [`${at(1, after)}|finger`]: coach('2'),
    [`${at(1, after)}|bow`]: coach('up'),
    [`${at(3)}|finger`]: coach('4'),
    [`${at(4)}|finger`]: coach('0'),
    'at-0-0|bar': { value: 'A4/4. B4/8 C5/4 r/4', origin: 'coach', why: 'wrong plate' },
  });
  expect(applyChanges(made.marking, reversed(changes)).marking).toEqual(marking);
});

test('what the file says is no correction, however it is typed', () => {
  expect(barTextOf(file, 0)).toBe('A4/4 B4/4 C5/4 D5/4');
  expect(barMark(correction({}, '  A4/4   B4/4 C5/4 D5/4 '))).toBeNull();
  expect(barMark(correction({}, '1: A4/2 B4/4 C5/4'))).toEqual(coach('A4/2 B4/4 C5/4'));
  const corrected: Marking = { 'at-0-0|bar': coach('A4/2 B4/4 C5/4') };
  expect(barChanges(correction(corrected, 'A4/4 B4/4 C5/4 D5/4'), file)).toEqual([{ target: 'at-0-0', kind: 'bar', from: coach('A4/2 B4/4 C5/4'), to: null }]);
  expect(barTextOf(file, 7)).toBeNull();
});
