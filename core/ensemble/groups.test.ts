/** Parts that agree have no differences; whatever is changed in one of them is named, where it is and in whom. */
import fc from 'fast-check';
import { demoScore } from '../../tests/support/demo';
import { makeScore } from '../testing/make';
import { runs } from '../testing/runs';
import type { Marking } from '../marking/mark';
import { ARTICULATIONS, type Part, type Score } from '../score/score';
import { linesOf } from '../instruments/lines';
import type { OtherPart } from './ensemble';
import { groupName, rhythmGroups, writtenBows } from './groups';

const other = (part: Part, name: string, marking: Marking = {}): OtherPart => ({ id: name, name, markingId: name, part: { ...part, id: name, name }, marking });
/** The same music in three parts. */
const TUNE = '(A4 B4 C5) D5 | E5. E5. (D5 C5) | B4/2 (A4 G4) | r A4 B4 C5';
const three = (): OtherPart[] => ['Violin I', 'Violin II', 'Viola'].map((name) => other(makeScore('violin', TUNE, { dynamic: 'mf' }).part, name));

test('parts that agree are one group without a difference; a bar of one long note tells no rhythm', () => {
  const [group, ...more] = rhythmGroups(three());
  expect(more).toEqual([]);
  expect(group).toMatchObject({ fromBar: 0, toBar: 3, agreement: 'agree', differences: [] });
  expect(groupName(group!, three()[0]!.part)).toBe('bars 1–4: Violin I, Violin II, Viola');
  const long = ['A', 'B'].map((name) => other(makeScore('violin', 'A4/4 | A4/2 B4/2').part, name));
  expect(rhythmGroups(long).map(({ fromBar, toBar }) => [fromBar, toBar])).toEqual([[1, 1]]);
});

test('what differs is said in words: who slurs, who begins with which bow, what is printed', () => {
  const parts = three();
  const [, second, viola] = parts;
  second!.part.slurs = second!.part.slurs.slice(1);
  viola!.part.dynamics = [...viola!.part.dynamics, { tick: viola!.part.bars[2]!.onset, text: 'p', level: 'p' }];
  const note = (part: OtherPart, i: number) => linesOf(part.part)[0]!.events[i]!.ids[0]!;
  const marked = (part: OtherPart, value: string) => ({ ...part, marking: { [`${note(part, 0)}|bow`]: { value, origin: 'coach' as const } } });
  const [group] = rhythmGroups([marked(parts[0]!, 'down'), marked(second!, 'up'), viola!]);
  expect(group!.agreement).toBe('opposite bows');
  expect(group!.differences.map(({ what, at, text }) => [what, at, text])).toEqual([
    ['bow', '1/1', 'Violin I down-bow, Violin II up-bow.'],
    ['slurs', '1/2', 'Violin I and Viola slurs 3 + 1, Violin II separate.'],
    ['dynamic', '3/1', 'Violin I and Violin II mf, Viola p.'],
  ]);
});

test('a difference that holds on is named where it begins', () => {
  const parts = three();
  const { part } = parts[0]!;
  part.hairpins = [{ kind: 'crescendo', from: part.bars[1]!.onset, to: part.bars[2]!.onset + part.bars[2]!.ticks }];
  part.words = [{ tick: 0, text: 'pizz.' }];
  const found = rhythmGroups(parts)[0]!.differences.map(({ what, at }) => `${what} ${at}`);
  expect(found).toContain('hairpin 2/1');
  expect(found.filter((each) => each.startsWith('hairpin'))).toHaveLength(1);
  expect(found.filter((each) => each.startsWith('plucking'))).toEqual(['plucking 1/1']);
});

test('planted differences: of every kind, in every part of a score whose parts agree, each is named and nothing else', () => {
  const planted: Array<readonly [what: string, change: (part: Part, i: number) => string | null]> = [
    ['slurs', (part, i) => (part.slurs[i] ? (part.slurs.splice(i, 1)[0]!.from ?? null) : null)],
    [
      'articulation',
      (part, i) => {
        const note = part.notes[i];
        if (!note) return null;
        const name = ARTICULATIONS[i % ARTICULATIONS.length]!;
        note.articulations = note.articulations.length ? [] : [name];
        return note.id;
      },
    ],
    [
      'dynamic',
      (part, i) => {
        const note = part.notes[i];
        if (!note || note.tiedFrom) return null;
        part.dynamics = [...part.dynamics, { tick: note.onset, text: 'pp', level: 'pp' }];
        return note.id;
      },
    ],
    [
      'bow',
      (part, i) => {
        const note = part.notes[i];
        if (!note) return null;
        note.printed = { ...note.printed, bow: note.printed.bow === 'down' ? 'up' : 'down' };
        return note.id;
      },
    ],
  ];
  let named = 0;
  // Every note says its bow, so that each change is one against what the others say.
  const agreeing = () =>
    three().map((each) => ({
      ...each,
      part: structuredClone({ ...each.part, notes: each.part.notes.map((note) => ({ ...note, printed: { ...note.printed, bow: 'down' as const } })) }),
    }));
  expect(rhythmGroups(agreeing()).flatMap(({ differences }) => differences)).toEqual([]);
  for (let which = 0; which < 3; which++)
    for (const [what, change] of planted)
      for (let i = 0; i < 13; i++) {
        const parts = agreeing();
        const odd = parts[which]!;
        const id = change(odd.part, i);
        if (id === null) continue;
        const links = linesOf(odd.part)[0]!.events.find(({ ids }) => ids.includes(id))!;
        const slurred = what === 'bow' && rhythmGroups(parts).every(({ differences }) => differences.length === 0);
        const found = rhythmGroups(parts).flatMap(({ differences }) => differences);
        // A bow in the middle of a slur is no stroke of its own.
        if (slurred) continue;
        named++;
        expect(new Set(found.map((each) => each.what))).toContain(what);
        expect(found.filter((each) => each.what !== what && !(what === 'slurs' && each.what === 'bow'))).toEqual([]);
        expect(found[0]!.barIndex).toBe(links.notes[0]!.barIndex);
        for (const each of found) {
          const alone = each.says.at(-1)!.members.map(({ partId }) => partId);
          expect(alone).toEqual([odd.id]);
        }
      }
  expect(named).toBeGreaterThanOrEqual(60);
});

test('divided lines are called by their number where they go apart; the larger group comes first; grace notes make no rhythm', () => {
  const divided = makeScore('violin', 'A4 B4 C5 D5 | A4/2 B4/2').part;
  const voice = makeScore('violin', 'F4/2 G4/2 | F4/2 G4/2').part;
  const two: Part = { ...divided, notes: [...divided.notes, ...voice.notes.map((note) => ({ ...note, voice: '2', id: note.id.replace('-1-', '-2-') }))] };
  two.notes.sort((a, b) => a.onset - b.onset);
  const parts = [other(two, 'Violin I'), ...['Violin II', 'Viola'].map((name) => other(voice, name)), other(divided, 'Cello')];
  const [graced] = parts.at(-1)!.part.notes;
  parts.at(-1)!.part = { ...parts.at(-1)!.part, notes: [{ ...graced!, id: `${graced!.id}9`, duration: 0, grace: 'slashed' }, ...parts.at(-1)!.part.notes] };
  expect(rhythmGroups(parts).map(({ fromBar, members }) => [fromBar, ...members.map(({ name }) => name)])).toEqual([
    [0, 'Violin I, line 2', 'Violin II', 'Viola'],
    [0, 'Violin I, line 1', 'Cello'],
    [1, 'Violin I', 'Violin II', 'Viola', 'Cello'],
  ]);
});

test('the order of the parts changes nothing', () => {
  const { score } = demoScore('mill-race-serenade');
  const parts = score.parts.map((part) => other(part, part.name));
  const essence = (list: readonly OtherPart[]) =>
    rhythmGroups(list).map(({ fromBar, toBar, members, agreement, differences }) => ({
      fromBar,
      toBar,
      members: members.map(({ name }) => name).sort(),
      agreement,
      differences: differences.map(({ what, barIndex, events }) => `${what} ${barIndex} ${events.join()}`),
    }));
  const asIs = essence(parts);
  expect(asIs.length).toBeGreaterThan(20);
  fc.assert(
    fc.property(fc.shuffledSubarray(parts, { minLength: parts.length }), (shuffled) => {
      const sorted = (list: ReturnType<typeof essence>) => list.map((each) => JSON.stringify(each)).sort();
      expect(sorted(essence(shuffled))).toEqual(sorted(asIs));
    }),
    { numRuns: runs(10) },
  );
});

test('the demo: what the two violins print differently is found', () => {
  const score: Score = demoScore('mill-race-serenade').score;
  const parts = score.parts.map((part) => other(part, part.name));
  const groups = rhythmGroups(parts);
  const differing = groups.flatMap(({ differences }) => differences);
  expect(differing.some(({ what }) => what === 'slurs')).toBe(true);
  expect(groups.every(({ members }) => members.length > 1)).toBe(true);
  expect(writtenBows(parts)('nobody', 0).size).toBe(0);
});
