import type { Marking } from '../marking/mark';
import { makeScore } from '../testing/make';
import { changedLine, changesInWords, type Reading } from './in-words';

const { part } = makeScore('violin', '(C4 D4 E4) F4 | G4 A4 B4 C5 | D5 C5 B4 A4');
const id = (n: number) => part.notes[n]!.id;
const says = (marks: Record<string, string>): Marking =>
  Object.fromEntries(Object.entries(marks).map(([key, value]) => [key, { value, origin: 'coach' as const }]));
const reading = (marks: Record<string, string>, more: Partial<Reading> = {}): Reading => ({
  music: 'ours',
  file: part,
  part,
  marking: says(marks),
  tempo: null,
  line: null,
  ...more,
});
const words = (before: Reading, after: Reading) => changesInWords(before, after).map(changedLine);

test('fingers, strings and bows, with what was there', () => {
  expect(
    words(
      reading({ [`${id(4)}|finger`]: '2', [`${id(8)}|bow`]: 'down' }),
      reading({ [`${id(4)}|finger`]: '3', [`${id(5)}|string`]: '3', [`${id(8)}|bow`]: 'up' }),
    ),
  ).toEqual(['2: on 1 finger 3, was 2; on 2 string III', '3: up, was down']);
  expect(words(reading({ [`${id(4)}|finger`]: '2', [`${id(4)}|retake`]: 'yes', [`${id(5)}|bow`]: 'up' }), reading({}))).toEqual([
    '2: on 1 no finger any more, was 2; on 1 no retake any more; on 2 no up any more',
  ]);
});

test('slurs by the notes that each has', () => {
  expect(words(reading({}), reading({ [`${id(1)}|slur`]: 'split' }))).toEqual(['1: slurred 1 + 2, was 3']);
  expect(words(reading({}), reading({ [`${id(1)}|slur`]: 'split', [`${id(2)}|slur`]: 'split' }))).toEqual(['1: no slur any more, was 3']);
  expect(words(reading({}), reading({ [`${id(5)}|slur`]: 'join', [`${id(7)}|slur`]: 'join' }))).toEqual(['2: on 1 slurred 2; on 3 slurred 2']);
  expect(words(reading({ [`${id(5)}|slur`]: 'join' }), reading({ [`${id(5)}|slur`]: 'join', [`${id(6)}|slur`]: 'join' }))).toEqual(['2: slurred 3, was 2 + 1']);
});

test('words, wishes, edits, and what is about the whole part', () => {
  const before = reading({ [`bar-1|listen`]: 'the cellos' });
  const after = reading(
    { [`bar-1|listen`]: 'the basses', [`at-2-0|dynamic`]: 'pp', [`${id(8)}|pitch`]: 'Eb5', [`bars-1-2|stroke`]: 'spiccato' },
    { tempo: 96, line: 1 },
  );
  expect(words(before, after)).toEqual([
    'the part: tempo 96 quarters a minute, was as printed; you play line 2, it was all that can be played',
    '2: “listen: the basses”, was “listen: the cellos”; spiccato',
    '3: pp; Eb5, was D5',
  ]);
  expect(words(after, after)).toEqual([]);
});

test('another file: what it prints otherwise, and marks that found their place are no change', () => {
  const other = makeScore('violin', '(C4 D4 E4) F4 | G4 A4 B4 C5 | D5 C#5 B4 A4').part;
  const marks = { [`${id(4)}|finger`]: '3' };
  expect(words(reading(marks), { ...reading(marks), music: 'theirs', file: other, part: other })).toEqual([
    'the part: the part was replaced by another file',
    '3: pitch C#5, was C5',
  ]);
});
