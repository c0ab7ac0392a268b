/** Marks that are made up for a kind of trouble: each is tried; what is offered really helps when it is taken. */
import type { FindingOf } from './finding';
import { usualPlayer, type Player } from '../instruments/player';
import { applyChanges } from '../marking/change';
import { markKey, type Marking } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';
import { editedPart } from '../marking/print-edits';
import type { InstrumentKind } from '../score/score';
import { makeScore, type MakeOptions } from '../testing/make';
import { check, type CheckRequest } from './check';
import type { FindingKind } from './kinds';
import { remediesFor } from './remedies';

interface Asked extends MakeOptions {
  kind?: InstrumentKind;
  marks?: ReadonlyArray<readonly [note: number, kind: MarkKind, value: string]>;
  player?: Partial<Player>;
  costs?: CheckRequest['costs'];
}

/** The remedies of the first finding of a kind, and the findings of that kind when one of them is taken. */
function helped(music: string, trouble: FindingKind, { kind = 'violin', marks = [], player, costs, ...options }: Asked = {}) {
  const { part } = makeScore(kind, music, options);
  const marking: Marking = Object.fromEntries(marks.map(([note, mark, value]) => [markKey(part.notes[note]!.id, mark), { value, origin: 'coach' as const }]));
  const edited = (tried: Marking) => editedPart(part, tried);
  const request: CheckRequest = { part, marking, player: { ...usualPlayer(kind), ...player }, tempo: null, passages: [], edited, costs };
  const finding = check(request).findings.find((each) => each.kind === trouble);
  if (!finding)
    throw new Error(
      `no ${trouble} in ${check(request)
        .findings.map((each) => each.kind)
        .join()}`,
    );
  const remedies = remediesFor(request, finding);
  const left = (text: RegExp) => {
    const taken = applyChanges(marking, remedies.find((remedy) => text.test(remedy.text))!.changes!).marking;
    return check({ ...request, marking: taken, part: edited(taken) }).findings.filter((each) => each.kind === trouble).length;
  };
  return { finding, remedies, texts: remedies.map(({ text }) => text), left };
}

test('a slur longer than the bow gets a new bow near its middle, or a tempo at which one lasts', () => {
  // The plan would split it by itself; here splitting is dear unless it is asked for.
  const { texts, left, remedies } = helped('(A4/2 B4/2 C5/2 D5/2)', 'bow runs out', {
    tempo: 60,
    dynamic: 'f',
    marks: [[0, 'slur-is', 'bow']],
    costs: { bow: { splitAtBar: 99, splitAtHalf: 99, splitAtBeat: 99, splitOffBeat: 99 } },
  });
  expect(texts.some((text) => /^New bow at .*2\/1/.test(text))).toBe(true);
  expect(left(/^New bow at/)).toBe(0);
  const faster = remedies.find(({ kind }) => kind === 'tempo')!;
  expect(faster.tempo!).toBeGreaterThan(60);
});

test('a slur that leaps over a string is parted before the leap', () => {
  const { finding, texts, left } = helped('(G3/.5 E5/.5)', 'string leap in a slur', { tempo: 120, marks: [[1, 'string', '1']] });
  expect(finding.noteIds).toHaveLength(1);
  expect(texts).toContainEqual(expect.stringMatching(/^New bow at 1\/1\.5/));
  expect(left(/^New bow at/)).toBe(0);
});

test('strokes that are too quick are slurred two and two, which halves them', () => {
  const { finding, texts, left } = helped('A4/0.25 B4/0.25 A4/0.25 B4/0.25 '.repeat(4), 'stroke too quick', { tempo: 120, player: { level: 'intermediate' } });
  expect((finding as FindingOf<'stroke too quick'>).numbers.strokesPerS).toBeCloseTo(8, 6);
  expect(texts.some((text) => text.startsWith('Slur two and two'))).toBe(true);
  expect(left(/^Slur two and two/)).toBe(0);
});

test('a note below the instrument an octave higher, one above it an octave lower: as an edit against the print', () => {
  const low = helped('A4 F3 A4 B4', 'unplayable');
  expect(low.remedies[0]).toMatchObject({ kind: 'edit', text: 'An octave higher.', solved: true });
  expect(low.left(/octave higher/)).toBe(0);
  const high = helped('A4 C8 A4 B4', 'unplayable');
  expect(high.left(/octave lower/)).toBe(0);
});

test('a chord that no hand holds is divided', () => {
  const { texts, left } = helped('G3+A3 B3/3', 'unplayable');
  expect(texts).toContain('Divided between the players of the section from here.');
  expect(left(/^Divided/)).toBe(0);
});

test('of marks that contradict each that helps can be taken away', () => {
  const fingers = helped('A4 B4 C5 D5', 'contradiction', {
    marks: [
      [1, 'finger', '1'],
      [1, 'string', '1'],
    ],
  });
  expect(fingers.texts.some((text) => /Without the (finger|string)/.test(text))).toBe(true);
  expect(fingers.left(/^Without the string/)).toBe(0);
  const bows = helped('A4 B4 C5 D5', 'contradiction', {
    marks: [
      [0, 'bow', 'down'],
      [1, 'bow', 'up'],
      [1, 'hook', 'yes'],
    ],
  });
  expect(bows.texts.some((text) => text.startsWith('Without the'))).toBe(true);
  expect(bows.left(/^Without the/)).toBe(0);
});

test('a wish that cannot be met can be taken away', () => {
  const { texts, left } = helped('A4/0.25 B4/0.25 C5/0.25 D5/0.25 E5/2', 'wish not met', {
    tempo: 120,
    marks: [
      [0, 'bow', 'down'],
      [0, 'bow-to', 'tip'],
      [1, 'bow', 'up'],
      [1, 'bow-from', 'frog'],
    ],
  });
  expect(texts).toContain('Without the wish “tip”.');
  expect(left(/^Without the wish/)).toBe(0);
});

test('a phrase mark is said to be one, and the question does not come back', () => {
  const { texts, left } = helped(`(${'A4/4 B4/4 C5/4 D5/4 '.repeat(2).trim()}) E5/4`, 'phrase or bow?', { tempo: 60 });
  expect(texts).toContain('It is a phrase: bowed in pieces.');
  expect(left(/^It is a phrase/)).toBe(0);
});

test('words that cannot be tried are said only where nothing that can be tried helps', () => {
  const { remedies } = helped('A4/2 B4/1 '.repeat(6), 'bow must race back', { beats: 3, dynamic: 'f' });
  expect(remedies.some(({ kind }) => kind === 'bowing')).toBe(true);
  expect(remedies.some(({ kind }) => kind === 'advice')).toBe(false);
});

test('a level that the bow cannot give: more bow for it, or a softer level from there; each only where it helps', () => {
  const { finding, remedies } = helped('A4/1 B4/1 C5/1 D5/1', 'level out of reach', { tempo: 60, dynamic: 'ff', marks: [[1, 'bow-amount', '4 cm']] });
  expect((finding as FindingOf<'level out of reach'>).numbers.missingDb).toBeLessThan(0);
  const tried = remedies.filter(({ kind }) => kind === 'bowing' || kind === 'edit');
  expect(tried.length).toBeGreaterThan(0);
  for (const { before, after, text } of tried) {
    expect(after!).toBeLessThan(before!);
    expect(text).not.toMatch(/^(Less|Louder)/);
  }
  expect(tried.some(({ text }) => /^(More bow for it|Softer: f from here)/.test(text))).toBe(true);
});
