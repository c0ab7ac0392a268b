import { makeScore } from '@/core/testing/make';
import { applyChanges } from '@/core/marking/change';
import { slurLinks } from '@/core/marking/links';
import { firstLine } from '@/core/testing/make';
import type { Marking } from '@/core/marking/mark';
import { markedBy } from './mark-changes';

const { part } = makeScore('violin', 'A4/1 (B4/1 C5/1 D5/1) | E5/1 D5/1 C5/1 B4/1');
const notes = (from: number, to = from) => part.notes.slice(from, to + 1);
const said = (marking: Marking, from: number, to: number, kind: 'bow' | 'slur' | 'finger', value: string) => {
  const { reason, changes } = markedBy(part, marking, notes(from, to), kind, value);
  return {
    reason,
    marks: changes.map(({ target, kind: what, to: mark }) => `${part.notes.findIndex(({ id }) => id === target)} ${what} ${mark?.value ?? 'away'}`),
    changes,
  };
};

test('several notes are joined with one another, not to the one before', () => {
  const { marks, changes } = said({}, 4, 6, 'slur', 'join');
  expect(marks).toEqual(['5 slur join', '6 slur join']);
  expect(slurLinks(part, firstLine(part), applyChanges({}, changes).marking)).toEqual([false, false, true, true, false, true, true, false]);
  expect(said({}, 5, 5, 'slur', 'join').marks).toEqual(['5 slur join']);
});

test('a direction is that of the bows that begin: of a slur its first note', () => {
  expect(said({}, 1, 3, 'bow', 'up').marks).toEqual(['1 bow up']);
  expect(said({}, 0, 4, 'bow', 'up').marks).toEqual(['0 bow up', '1 bow up', '4 bow up']);
});

test('a direction inside a slur splits it there, and says so; taking it away leaves the split', () => {
  const { reason, marks, changes } = said({}, 2, 3, 'bow', 'down');
  expect([reason, marks]).toEqual(['Down-bow, the slur split there', ['2 bow down', '2 slur split']]);
  const marking = applyChanges({}, changes).marking;
  expect(said(marking, 2, 2, 'bow', 'down')).toMatchObject({ reason: 'Down-bow', marks: ['2 bow away'] });
});

test('everything else is for each of them, and toggled', () => {
  const { marks, changes } = said({}, 0, 1, 'finger', '1');
  expect(marks).toEqual(['0 finger 1', '1 finger 1']);
  expect(said(applyChanges({}, changes).marking, 0, 1, 'finger', '1').marks).toEqual(['0 finger away', '1 finger away']);
});
