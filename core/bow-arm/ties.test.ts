import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import { markKey, type Mark } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';
import { usualPlayer } from '../instruments/player';
import { atomsOf } from './atoms';
import { bowOf, usualBow } from './bow';
import { instrumentOf } from '../instruments/instrument';
import { planBowing } from './bowing';
import { withTies } from './ties';
import { bowMarksWorthWriting } from './worth-writing';

type Marks = ReadonlyArray<readonly [note: number, kind: MarkKind, value: string]>;

function asked(music: string, options: MakeOptions = {}, marks: Marks = []) {
  const { part } = makeScore('cello', music, options);
  const marking = Object.fromEntries(marks.map(([note, kind, value]): [string, Mark] => [markKey(part.notes[note]!.id, kind), { value, origin: 'coach' }]));
  return { part, line: firstLine(part), player: usualPlayer('cello'), clock: clockFor(part, null), marking };
}
const pieces = (music: string, options: MakeOptions = {}, marks: Marks = []) => {
  const { part, line, clock, marking } = asked(music, options, marks);
  return withTies(atomsOf(part, line, clock, marking), part, line, clock, marking, usualBow('cello'));
};
const LONG = 'C2~/4 | C2~/4 | C2~/4 | C2/4 | D2/4';

describe('a tied note that the bow does not last for', () => {
  test('is cut at its heads, each piece with its own place, time and heads', () => {
    const cut = pieces(LONG, { tempo: 60, dynamic: 'pp' });
    expect(cut.map(({ barIndex, onBar, seconds, linked, tied, ids }) => [barIndex, onBar, seconds, linked, tied, ids.length])).toEqual([
      [0, true, 4, false, false, 1],
      [1, true, 4, true, true, 1],
      [2, true, 4, true, true, 1],
      [3, true, 4, true, true, 1],
      [4, true, 4, false, false, 1],
    ]);
  });
  test('one that it lasts for stays one', () =>
    expect(pieces('C2~/4 | C2/4 | D2/4', { tempo: 120, dynamic: 'pp' }).map(({ ids }) => ids.length)).toEqual([2, 1]));
  test('the plan changes bow at bar lines, says why, and what it writes makes the same plan again', () => {
    const request = asked(LONG, { tempo: 60, dynamic: 'pp' });
    const way = (marking: typeof request.marking) => planBowing({ ...request, marking, alternatives: 1 })[0]!;
    const plan = way({});
    const row = (bowing: typeof plan) => bowing.strokes.map(({ barIndex, direction, noteIds }) => `${barIndex} ${direction} ${noteIds.length}`);
    expect(row(plan)).toEqual(['0 down 2', '2 up 2', '4 down 1']);
    expect(plan.changes.map(({ kind, why }) => `${kind}: ${why}`)).toEqual([
      expect.stringMatching(/^split: held in one bow the tied note needs at least \d+ cm, the bow has 60$/),
    ]);
    expect(plan.phrases).toEqual([]);
    const taken = Object.fromEntries(
      bowMarksWorthWriting(plan).map(({ noteId, kind, value }): [string, Mark] => [markKey(noteId, kind), { value, origin: 'suggestion' }]),
    );
    expect(row(way(taken))).toEqual(row(plan));
  });
  test('a fermata holds the last piece only, and takes no more bow than there is', () => {
    const request = asked(LONG, { tempo: 60, dynamic: 'pp' });
    request.part.notes[3]!.fermata = true;
    const { part, line, clock, marking } = request;
    const cut = withTies(atomsOf(part, line, clock, marking), part, line, clock, marking, usualBow('cello'));
    expect(cut.map(({ seconds, heldTimes }) => [Math.round(seconds * 10) / 10, heldTimes])).toEqual([
      [4, 1],
      [4, 1],
      [4, 1],
      [7.2, 1.8],
      [4, 1],
    ]);
  });
});

test.each<[Marks[number], { linked: boolean; lock: string | null; mustHook: boolean; mustRetake: boolean }]>([
  [[1, 'slur', 'split'], { linked: false, lock: null, mustHook: false, mustRetake: false }],
  [[1, 'bow', 'up'], { linked: false, lock: 'up', mustHook: false, mustRetake: false }],
  [[1, 'retake', 'yes'], { linked: true, lock: null, mustHook: false, mustRetake: true }],
  [[1, 'hook', 'yes'], { linked: true, lock: null, mustHook: true, mustRetake: false }],
])('what is marked at a tied head is about the bow that begins there: %p', (mark, expected) => {
  const [first, second] = pieces('C2~/4 | C2/4 | D2/4', { tempo: 120 }, [mark]);
  expect(first!.ids).toHaveLength(1);
  expect(second).toMatchObject({ ...expected, tied: true, barIndex: 1 });
});

test('hair by size: less for children’s instruments, the same for violas of grown players, and never more than a full bow', () => {
  const hair = (kind: 'violin' | 'viola' | 'cello' | 'bass', size: string) => {
    const made = instrumentOf(kind, size);
    if (!made.ok) throw new Error(size);
    return bowOf(made.value).hairCm;
  };
  expect(['4/4', '3/4', '1/2', '1/4', '1/8'].map((size) => hair('violin', size))).toEqual([65, 58.5, 52, 45.5, 39.7]);
  expect([hair('viola', '17"'), hair('viola', '15"'), hair('viola', '13"')]).toEqual([64, 64, 53.1]);
  expect([hair('cello', '1/2'), hair('bass', '3/4'), hair('bass', '1/2')]).toEqual([51, 55, 51.2]);
  expect([hair('violin', '255mm'), hair('violin', '400mm')]).toEqual([45.7, 65]);
  // Low strings speak more slowly: the bass about a quarter slower than the violin (common practice).
  expect(usualBow('bass').speed / usualBow('violin').speed).toBeCloseTo(0.76, 9);
});
