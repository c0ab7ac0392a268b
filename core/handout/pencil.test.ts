import fc from 'fast-check';
import { runs } from '../testing/runs';
import { targetsOn } from '../editions/anchor';
import { readMusicXml } from '../formats/musicxml/read';
import { randomScore } from '../../tests/support/random-score';
import { PENCIL_KINDS, penciled, pencilInWords, pencilKey, pencilMoved, pencilShape, type PencilMark } from './pencil';

const at = (second: number): string => new Date(Date.UTC(2026, 0, 1, 0, 0, second)).toISOString();
const mark = (target: string, kind: PencilMark['kind'], value: string | null, second = 0): PencilMark => ({
  target,
  kind,
  value,
  where: 'bar 2',
  at: at(second),
});

test.each([
  ['finger', '3', true],
  ['finger', 'T', true],
  ['finger', '5', false],
  ['finger', '', false],
  ['bow', 'up', true],
  ['bow', 'sideways', false],
  ['circle', '', true],
  ['circle', 'round', false],
  ['look', '', true],
  ['words', 'breathe', true],
  ['words', '', false],
  ['words', 'x'.repeat(60), true],
  ['words', 'x'.repeat(61), false],
] as const)('%s %j may be written: %s', (kind, value, may) => {
  expect(pencilShape.safeParse(mark('n-1', kind, value)).success).toBe(may);
  // Rubbing out is possible whatever stood there.
  expect(pencilShape.safeParse(mark('n-1', kind, null)).success).toBe(true);
});

test('of what several devices wrote the latest counts, in whatever order it arrives, and a rubber counts as writing', () => {
  const change = fc.record({ target: fc.constantFrom('a', 'b'), kind: fc.constantFrom(...PENCIL_KINDS), rubbed: fc.boolean() });
  fc.assert(
    fc.property(fc.array(change, { maxLength: 12 }), fc.infiniteStream(fc.nat(100)), (changes, order) => {
      const made = changes.map(({ target, kind, rubbed }, i) => mark(target, kind, rubbed ? null : String(i), i));
      const shuffled = made.map((each) => ({ each, place: order.next().value! })).sort((a, b) => a.place - b.place);
      const sorted = (list: readonly PencilMark[]) => [...list].sort((a, b) => (pencilKey(a) < pencilKey(b) ? -1 : 1));
      const last = new Map(made.map((each) => [pencilKey(each), each]));
      expect(sorted(shuffled.reduce<PencilMark[]>((all, { each }) => penciled(all, [each]), []))).toEqual(sorted([...last.values()]));
      expect(sorted(penciled(made.slice(0, 5), made.slice(3)))).toEqual(sorted([...last.values()]));
    }),
    { numRuns: runs(200) },
  );
});

test('on the next hand-out a mark goes with its note; what finds no place says where it stood, and finds it again when the note comes back', () => {
  const before = [mark('a', 'finger', '2'), mark('b', 'circle', ''), mark('c', 'words', 'mine', 1), mark('d', 'words', 'later', 2)];
  const moved = pencilMoved(
    before,
    new Map([
      ['a', 'a2'],
      ['b', null],
      ['c', 'x'],
      ['d', 'x'],
    ]),
  );
  expect(moved.map(({ target, kind, value }) => [target, kind, value])).toEqual([
    ['a2', 'finger', '2'],
    ['lost [bar 2] b', 'circle', ''],
    ['x', 'words', 'later'],
  ]);
  const again = pencilMoved(moved, new Map([['lost [bar 2] b', null]]));
  expect(again[1]!.target).toBe('lost [bar 2] b');
  expect(pencilMoved(again, new Map([['lost [bar 2] b', 'b']]))[1]!.target).toBe('b');
});

test('on the same part every note keeps its marks, whatever the part', () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const read = readMusicXml(randomScore(seed));
      if (!read.ok) throw new Error(read.problem.what);
      const part = read.value.score.parts[0]!;
      const ids = part.notes.map(({ id }) => id);
      const moved = targetsOn(ids, part, part);
      expect(ids.filter((id) => moved.get(id) !== id)).toEqual([]);
    }),
    { numRuns: runs(30) },
  );
});

test('said in words', () => {
  const said = (kind: PencilMark['kind'], value: string | null) => pencilInWords({ kind, value });
  expect([said('finger', '3'), said('finger', 'T'), said('bow', 'up'), said('circle', ''), said('look', ''), said('words', 'breathe')]).toEqual([
    'finger 3',
    'thumb',
    'up-bow',
    'circled',
    'glasses: look up',
    '“breathe”',
  ]);
  expect([said('look', null), said('finger', null)]).toEqual(['glasses rubbed out', 'finger rubbed out']);
});
