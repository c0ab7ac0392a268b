import { firstLine, makeScore } from '../testing/make';
import { applyChanges } from './change';
import { markKey, type Mark } from './mark';
import type { MarkKind } from './kinds';
import { markedDifferently } from './consistency';
import { findingKey } from '../checks/finding';
import { check } from '../checks/check';
import { usualPlayer } from '../instruments/player';

const TUNE = 'G4 A4 B4 C5 | D5 C5 B4 A4';
const LOWER = 'D4 E4 F#4 G4 | A4 G4 F#4 E4';

/** Marks as [ordinal of the note, kind, value]. */
function marked(music: string, marks: ReadonlyArray<readonly [note: number, kind: MarkKind, value: string]>, fifths = 1) {
  const { score, part } = makeScore('violin', music, { fifths });
  const marking: Record<string, Mark> = Object.fromEntries(
    marks.map(([note, kind, value]) => [markKey(part.notes[note]!.id, kind), { value, origin: 'coach' }]),
  );
  return { score, part, marking, found: markedDifferently(part, firstLine(part), marking) };
}

test('nothing marked, nothing said; marked alike, nothing said', () => {
  expect(marked(`${TUNE} | ${TUNE}`, []).found).toEqual([]);
  expect(
    marked(`${TUNE} | ${TUNE}`, [
      [0, 'finger', '3'],
      [8, 'finger', '3'],
    ]).found,
  ).toEqual([]);
});

test('the same notes with another mark, and with none: one difference over both bars, with what copying writes', () => {
  const { found, marking } = marked(`${TUNE} | E4/4 | ${TUNE}`, [
    [0, 'bow', 'up'],
    [4, 'finger', '3'],
    [9, 'bow', 'down'],
  ]);
  expect(found).toHaveLength(1);
  const [only] = found;
  expect(only).toMatchObject({ alike: 'same notes', first: { fromBar: 0, toBar: 1 }, second: { fromBar: 3, toBar: 4 } });
  expect(only!.differences.map(({ kind, first, second }) => [kind, first, second])).toEqual([
    ['bow', 'up', 'down'],
    ['finger', '3', null],
  ]);
  const there = applyChanges(marking, only!.copyThere).marking;
  const here = applyChanges(marking, only!.copyHere).marking;
  for (const copied of [there, here]) {
    const { part } = marked(`${TUNE} | E4/4 | ${TUNE}`, []);
    expect(markedDifferently(part, firstLine(part), copied)).toEqual([]);
  }
});

test('on other notes bows are compared, fingers are not', () => {
  const bows = marked(`${TUNE} | ${LOWER}`, [[0, 'bow', 'up']]).found;
  expect(bows).toMatchObject([{ alike: 'other notes', differences: [{ kind: 'bow', first: 'up', second: null }] }]);
  expect(marked(`${TUNE} | ${LOWER}`, [[0, 'finger', '3']]).found).toEqual([]);
});

test('one bar with the same rhythm is no tune', () => {
  expect(marked('G4 A4 B4 C5 | E5/4 | G5 B4 D5 G4', [[0, 'bow', 'up']]).found).toEqual([]);
});

test('as a finding: named with both places, and its remedies are marks; its key changes with what it depends on', () => {
  const findings = (value: string) => {
    const { part, marking } = marked(`${TUNE} | E4/4 | ${TUNE}`, [[0, 'finger', value]]);
    return check({ part, marking, player: usualPlayer('violin'), tempo: null, passages: [] }).findings.filter(
      ({ kind }) => kind === 'marked differently elsewhere',
    );
  };
  const [finding] = findings('3');
  expect(finding).toMatchObject({ bar: '4', severity: 1, text: expect.stringContaining('The same notes in bar 4 and in bar 1 marked in two ways') });
  expect(finding!.remedies.map(({ text, changes }) => [text, changes!.length])).toEqual([
    ['Mark bar 4 like bar 1.', 1],
    ['Mark bar 1 like bar 4.', 1],
  ]);
  expect(findingKey(finding!)).toBe(findingKey(findings('3')[0]!));
  expect(findingKey(finding!)).not.toBe(findingKey(findings('2')[0]!));
});

test('a sequence, bar after bar on other notes: where it is marked it should be marked alike; bows may begin the other way round', () => {
  const music = 'D5/1.5 C5/0.5 B4 A4 | C5/1.5 B4/0.5 A4 G4 | B4/1.5 A4/0.5 G4 F4 | E4/4';
  const found = (marks: Parameters<typeof marked>[1]) =>
    marked(music, marks, 0).found.map(({ first, second, differences }) => [first.fromBar, second.fromBar, differences.length]);
  expect(found([[1, 'hook', 'yes']])).toEqual([]);
  expect(
    found([
      [1, 'hook', 'yes'],
      [7, 'slur', 'join'],
    ]),
  ).toEqual([[0, 1, 2]]);
  expect(
    found([
      [0, 'bow', 'down'],
      [4, 'bow', 'up'],
    ]),
  ).toEqual([]);
});
