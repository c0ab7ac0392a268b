/** What is carried is the same there afterwards, and nothing else is touched. */
import { demoScore, DEMO_NAMES } from '../../tests/support/demo';
import { realScores } from '../../tests/support/real-scores';
import { readScoreBytes } from '../formats/read';
import { applyChanges } from '../marking/change';
import { editedPart } from '../marking/print-edits';
import type { Marking } from '../marking/mark';
import type { Part, Score } from '../score/score';
import { linesOf } from '../instruments/lines';
import { makeScore } from '../testing/make';
import { CARRIED, carried, type Carried } from './carry';
import type { OtherPart } from './ensemble';
import { rhythmGroups, writtenBows, type Compared } from './groups';

const partsOf = (score: Pick<Score, 'parts'>): OtherPart[] =>
  score.parts.filter(({ notes }) => notes.length > 0).map((part) => ({ id: part.id, name: part.name, markingId: part.id, part, marking: {} }));
const withMarks = (parts: readonly OtherPart[], prints: ReadonlyMap<string, Part>, changes: ReturnType<typeof carried>): OtherPart[] =>
  parts.map((each) => {
    const own = changes.filter(({ partId }) => partId === each.id).flatMap((made) => made.changes);
    if (own.length === 0) return each;
    const { marking, conflicts } = applyChanges(each.marking, own);
    expect(conflicts).toEqual([]);
    return { ...each, marking, part: editedPart(prints.get(each.id)!, marking) };
  });

const ABOUT: Readonly<Record<Carried, readonly Compared[]>> = {
  bows: ['bow'],
  slurs: ['slurs'],
  articulation: ['articulation'],
  dynamics: ['dynamic', 'hairpin'],
};

const scores: Array<readonly [name: string, parts: OtherPart[]]> = [
  ...DEMO_NAMES.map((name) => [name, partsOf(demoScore(name).score)] as const),
  ...realScores().flatMap(([name, bytes]) => {
    const read = readScoreBytes(bytes);
    return read.ok && read.value.score.parts.length > 1 ? [[name, partsOf(read.value.score)] as const] : [];
  }),
];

test.each(CARRIED)('%s, carried through every group of the demo and of real scores, do not differ any more', (what) => {
  let carriedOver = 0;
  for (const [name, parts] of scores) {
    const prints = new Map(parts.map(({ id, part }) => [id, part]));
    for (const group of rhythmGroups(parts)) {
      const before = group.differences.filter((each) => ABOUT[what].includes(each.what));
      const [model, ...rest] = group.members;
      const changes = carried(what, group, model!, rest, parts, writtenBows(parts));
      const after = withMarks(parts, prints, changes);
      const again = rhythmGroups(after).find(({ id }) => id === group.id)!;
      // A slur that comes into the group from outside stays, as do articulations that no file can say.
      const left = again.differences
        .filter((each) => ABOUT[what].includes(each.what))
        .filter((each) => !(what === 'slurs' && each.events.every((event) => event === 0)));
      expect({ name, group: group.id, left: left.map(({ text }) => text) }).toEqual({ name, group: group.id, left: [] });
      for (const { partId } of changes) expect(partId).not.toBe(model!.partId);
      if (before.length && changes.length) carriedOver++;
      expect(carried(what, group, model!, rest, after, writtenBows(after)).filter(({ changes: more }) => more.length)).toEqual([]);
    }
  }
  // None of these scores prints bows that contradict.
  if (what !== 'bows') expect(carriedOver).toBeGreaterThan(3);
});

/** As printed; and with every stroke of a part written as its row goes, down and up. */
const everyBow = (parts: readonly OtherPart[]): OtherPart[] =>
  parts.map((each, p) => {
    const bows = new Map(linesOf(each.part)[0]!.events.map(({ notes }, i) => [notes[0]!.id, (i + p) % 3 ? ('down' as const) : ('up' as const)]));
    return {
      ...each,
      part: { ...each.part, notes: each.part.notes.map((note) => ({ ...note, printed: { ...note.printed, bow: bows.get(note.id) ?? null } })) },
    };
  });

test('bows that a part prints, carried to another where they were hidden, are all there again', () => {
  let strokes = 0;
  for (const parts of scores.flatMap(([, each]) => [each, everyBow(each)]))
    for (const group of rhythmGroups(parts)) {
      const [model, hidden] = group.members;
      const bare = parts.map((each) =>
        each.id === hidden!.partId
          ? { ...each, part: { ...each.part, notes: each.part.notes.map((note) => ({ ...note, printed: { ...note.printed, bow: null } })) } }
          : each,
      );
      const bows = writtenBows(parts);
      const changes = carried('bows', group, model!, [hidden!], bare, bows);
      const after = withMarks(bare, new Map(bare.map(({ id, part }) => [id, part])), changes);
      const [a, b] = [model!, hidden!].map((member) => {
        const own = after.find(({ id }) => id === member.partId)!;
        const said = writtenBows(after)(member.partId, member.line);
        return linesOf(own.part)
          [member.line]!.events.filter(({ grace, notes }) => !grace && notes[0]!.barIndex >= group.fromBar && notes[0]!.barIndex <= group.toBar)
          .map(({ ids }) => said.get(ids[0]!) ?? null);
      });
      expect(b).toEqual(a);
      strokes += a!.filter((bow) => bow !== null).length;
    }
  expect(strokes).toBeGreaterThan(500);
});

test('the first stroke is written as it is played; retakes and hooks travel, fingers do not', () => {
  const make = (id: string, marking: Marking = {}): OtherPart => ({
    id,
    name: id,
    markingId: id,
    part: { ...makeScore('violin', 'A4 B4 C5 D5').part, id },
    marking,
  });
  const first = make('I');
  const at = (i: number) => first.part.notes[i]!.id;
  const marked: OtherPart = {
    ...first,
    marking: {
      [`${at(2)}|retake`]: { value: 'yes', origin: 'coach' },
      [`${at(1)}|finger`]: { value: '1', origin: 'coach' },
      [`${at(1)}|hook`]: { value: 'yes', origin: 'coach', off: true },
    },
  };
  const parts = [marked, make('II', { [`${at(3)}|hook`]: { value: 'yes', origin: 'coach' } })];
  const [group] = rhythmGroups(parts);
  const planned = () => new Map([[at(0), { direction: 'up' as const, hooked: false }]]);
  const [only, ...more] = carried('bows', group!, group!.members[0]!, group!.members, parts, planned);
  expect(more).toEqual([]);
  expect(only).toMatchObject({ partId: 'II' });
  expect(only!.changes.map(({ target, kind, to }) => `${parts[0]!.part.notes.findIndex(({ id }) => id === target)} ${kind} ${to?.value ?? '-'}`)).toEqual([
    '0 bow up',
    '2 retake yes',
    '3 hook -',
  ]);
  expect(carried('bows', group!, { partId: 'nobody', line: 0, name: '' }, group!.members, parts, planned)).toEqual([]);
});
