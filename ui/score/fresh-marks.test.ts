import { markKey, type Mark } from '@/core/marking/mark';
import { freshMarks } from './fresh-marks';

const marks = (...list: Array<[string, 'finger' | 'string' | 'bow' | 'hook', string]>): Record<string, Mark> =>
  Object.fromEntries(list.map(([id, kind, value]) => [markKey(id, kind), { value, origin: 'coach' as const }]));

test('made, changed, taken away and struck out since it was engraved; of notes that are in the picture', () => {
  const engraved = marks(['n-0-1-0-A4-0', 'finger', '2'], ['n-0-1-1-B4-0', 'bow', 'up'], ['n-0-1-2-C5-0', 'string', '3']);
  const now = marks(
    ['n-0-1-0-A4-0', 'finger', '3'],
    ['n-0-1-1-B4-0', 'bow', 'none'],
    ['n-0-1-3-D5-0', 'string', '1'],
    ['n-0-1-0-A4-0', 'hook', 'yes'],
    ['n-9-1-0-A4-0', 'finger', '1'],
  );
  const ids = ['n-0-1-0-A4-0', 'n-0-1-1-B4-0', 'n-0-1-2-C5-0', 'n-0-1-3-D5-0'];
  expect(freshMarks(ids, engraved, now).map(({ noteId, kind, old, now: value }) => `${noteId.slice(6, 7)} ${kind} ${old} ${value}`)).toEqual([
    '0 finger 2 3',
    '1 bow up null',
    '2 string 3 null',
    '3 string null 1',
  ]);
  expect(freshMarks(ids, engraved, engraved)).toEqual([]);
  expect(freshMarks(ids, engraved, { ...engraved })).toEqual([]);
});
