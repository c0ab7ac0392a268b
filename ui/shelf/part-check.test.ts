import { checkInWords } from './part-check';

test.each([
  [[0, 0, 0], 'nothing found'],
  [[3, 0, 0], '3 to watch'],
  [[3, 1, 0], '1 at risk, 3 to watch'],
  [[3, 5, 2], '2 will fail, 5 at risk'],
  [[3, 0, 2], '2 will fail, 3 to watch'],
] as const)('%j: %s', (counts, said) => expect(checkInWords({ counts: [...counts], trouble: null })).toBe(said));

test('what could not be checked says so', () => {
  expect(checkInWords({ counts: null, trouble: 'It takes too long.' })).toBe('too long to be checked as a whole');
  expect(checkInWords({ counts: null, trouble: null })).toBe('not checked');
});
