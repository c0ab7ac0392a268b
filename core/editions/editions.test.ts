import fc from 'fast-check';
import { runs } from '../testing/runs';
import { demoScore, DEMO_NAMES } from '../../tests/support/demo';
import { applyChanges } from '../marking/change';
import { markKey, type Mark, type Marking } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';
import { barsTarget, barTarget, placeTarget } from '../marking/target';
import { noteById } from '../score/find';
import { pitchName } from '../score/pitch';
import type { Part } from '../score/score';
import { everyMark } from '../testing/marks';
import { readMusicXml } from '../formats/musicxml/read';
import { writeMarked } from '../formats/musicxml/write';
import { makeScore, TICKS } from '../testing/make';
import { align } from './align';
import { lostTarget, reanchor, reanchorRanges } from './anchor';
import { differences } from './differences';

const part = (music: string): Part => makeScore('violin', music).part;
const pairs = (a: Part, b: Part) =>
  align(a, b)
    .bars.map(({ ours, theirs }) => `${ours ?? '-'}:${theirs ?? '-'}`)
    .join(' ');
const said = (a: Part, b: Part, marking: Marking = {}) => differences(a, marking, b).map(({ kind, at, ours, theirs }) => `${at} ${kind}: ${ours} / ${theirs}`);

describe('alignment', () => {
  test.each<[string, string, string, string]>([
    ['the same', 'A4 B4 C5 D5 | E5 F5 G5 A5', 'A4 B4 C5 D5 | E5 F5 G5 A5', '0:0 1:1'],
    ['a bar more', 'A4 B4 C5 D5 | E5 F5 G5 A5', 'A4 B4 C5 D5 | G4/4 | E5 F5 G5 A5', '0:0 -:1 1:2'],
    ['a bar less', 'A4 B4 C5 D5 | G4/4 | E5 F5 G5 A5', 'A4 B4 C5 D5 | E5 F5 G5 A5', '0:0 1:- 2:1'],
    ['a changed note', 'A4 B4 C5 D5 | E5 F5 G5 A5', 'A4 B4 C5 D5 | E5 F#5 G5 A5', '0:0 1:1'],
    ['a changed bar beside a new one', 'A4 B4 C5 D5 | E5 F5 G5 A5 | C5/4', 'A4 B4 C5 D5 | D4/2 D4/2 | E5 F#5 G5 A5 | C5/4', '0:0 -:1 1:2 2:3'],
    ['nothing alike', 'A4/4 | A4/4', 'C5 D5 E5 F5', '0:- 1:0'],
  ])('%s', (_, a, b, expected) => expect(pairs(part(a), part(b))).toBe(expected));
  test('every bar and every note of both editions is accounted for once', () => {
    const music = fc.array(fc.constantFrom('A4 B4 C5 D5', 'A4 B4 C5 E5', 'G4/4', 'G4/2 A4/2', 'E5 F5/0.5 G5/0.5 A5/2', 'r/4'), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(music, music, (a, b) => {
        const [ours, theirs] = [part(a.join(' | ')), part(b.join(' | '))];
        const { bars, notes } = align(ours, theirs);
        expect(bars.flatMap((pair) => (pair.ours === null ? [] : [pair.ours]))).toEqual(ours.bars.map((_, i) => i));
        expect(bars.flatMap((pair) => (pair.theirs === null ? [] : [pair.theirs]))).toEqual(theirs.bars.map((_, i) => i));
        expect(new Set(notes.values()).size).toBe(notes.size);
        if (a.join() === b.join()) expect(notes.size).toBe(ours.notes.length);
      }),
      { numRuns: runs(200) },
    );
  });
});

describe('differences', () => {
  test.each<[string, string, string, string[]]>([
    ['pitch', 'A4 B4 C5 D5', 'A4 Bb4 C5 D5', ['1/2 pitch: B4 / Bb4']],
    ['spelling', 'A4 B4 C#5 D5', 'A4 B4 Db5 D5', ['1/3 pitch: C#5 / Db5']],
    ['rhythm', 'A4 B4 C5/2', 'A4/1.5 B4/0.5 C5/2', ['1/1 rhythm: 1 quarters at 1 / 1.5 quarters at 1', '1/2 rhythm: 1 quarters at 2 / 0.5 quarters at 2.5']],
    ['a note more', 'A4/2 C5/2', 'A4 B4 C5/2', ['1/2 note: — / B4', '1/1 rhythm: 2 quarters at 1 / 1 quarters at 1']],
    ['slur', '(A4 B4) C5 D5', '(A4 B4 C5) D5', ['1/3 slur: new bow / slurred to the note before']],
    ['articulation', 'A4. B4 C5 D5', 'A4 B4! C5 D5', ['1/1 articulation: staccato / —', '1/2 articulation: — / accent']],
    ['a bar', 'A4/4', 'A4/4 | G4/4', ['2 bar: no such bar / G4']],
  ])('%s', (_, a, b, expected) => expect(said(part(a), part(b))).toEqual(expected));
  test('dynamics, hairpins, words, fingers and bows', () => {
    const base = part('A4 B4 C5 D5');
    const other: Part = {
      ...base,
      dynamics: [{ tick: TICKS, text: 'p', level: 'p' }],
      hairpins: [{ kind: 'crescendo', from: 0, to: 2 * TICKS }],
      words: [{ tick: 2 * TICKS, text: 'dolce' }],
      notes: base.notes.map((note, i) => (i === 1 ? { ...note, printed: { finger: '1', string: 2, bow: 'up' } } : note)),
    };
    expect(said(base, other)).toEqual([
      '1/2 bowing: — / up-bow',
      '1/2 fingering: — / finger 1, string 2',
      '1/2 dynamic: — / p',
      '1/1 hairpin: — / crescendo for 2 quarters',
      '1/3 words: — / dolce',
    ]);
    const marks: Marking = { [markKey(base.notes[1]!.id, 'bow')]: { value: 'up', origin: 'coach' } };
    expect(said(base, other, marks).some((line) => line.includes('bowing'))).toBe(false);
  });
  test('taking everything over leaves only what no mark can say', () => {
    fc.assert(
      fc.property(fc.constantFrom(...DEMO_NAMES), fc.integer({ min: 3, max: 9 }), (name, n) => {
        const { document, score } = demoScore(name);
        const ours = score.parts[0]!;
        const edition = readMusicXml(writeMarked(document, ours, everyMark(ours, n)));
        if (!edition.ok) throw new Error(edition.problem.what);
        const theirs = edition.value.score.parts[0]!;
        const found = differences(ours, {}, theirs);
        expect(found.length).toBeGreaterThan(0);
        const marking: Record<string, Mark> = {};
        for (const { take } of found) for (const { target, kind, value } of take ?? []) marking[markKey(target, kind)] = { value, origin: 'coach' };
        const left = differences(ours, marking, theirs).filter((difference) => difference.take !== null);
        expect(left.map(({ kind, at, ours: a, theirs: b }) => `${at} ${kind} ${a} / ${b}`)).toEqual([]);
      }),
      { numRuns: runs(10) },
    );
  });
});

test('what the prints say is told apart from what the coach has marked', () => {
  const ours = makeScore('violin', 'A4 B4 C5 D5 | E5 F5 G5 A5').part;
  const theirs = { ...ours, notes: ours.notes.map((note, i) => (i === 1 || i === 2 ? { ...note, printed: { ...note.printed, finger: '1' } } : note)) };
  const at = (i: number, value: string): Marking => ({ [markKey(ours.notes[i]!.id, 'finger')]: { value, origin: 'coach' } });
  const told = (marking: Marking) => differences(ours, marking, theirs).map(({ at: where, kind, yours }) => `${where} ${kind}${yours ? ', yours' : ''}`);
  expect(told({})).toEqual(['1/2 fingering', '1/3 fingering']);
  // Taken over, marked otherwise, and marked where the prints agree.
  expect(told({ ...at(1, '1'), ...at(2, '3'), ...at(5, '4') })).toEqual(['1/3 fingering, yours', '2/2 fingering, yours']);
});

describe('marks on another edition', () => {
  const before = part('A4 B4 C5 D5 | E5 F5 G5 A5 | C5/4');
  const mark = (target: string, kind: MarkKind, value: string): Marking => ({ [markKey(target, kind)]: { value, origin: 'coach' } });
  const at = (each: Part, bar: number, nth: number) => each.notes.filter((note) => note.barIndex === bar)[nth]!.id;
  const marking: Marking = {
    ...mark(at(before, 0, 1), 'finger', '1'),
    ...mark(at(before, 1, 2), 'bow', 'up'),
    ...mark(barTarget(1), 'words', 'light'),
    ...mark(barsTarget({ fromBar: 0, toBar: 2 }), 'character', 'dance'),
    ...mark(placeTarget(1, 2 * TICKS), 'dynamic', 'p'),
    ...mark(placeTarget(1, 0), 'hairpin', 'crescendo 1 4'),
  };
  test('move with their notes when a bar is put in before them', () => {
    const after = part('A4 B4 C5 D5 | G4/4 | E5 F5 G5 A5 | C5/4');
    const moved = reanchor(marking, before, after);
    expect(moved.lost).toBe(0);
    expect(moved.marking).toEqual({
      ...mark(at(after, 0, 1), 'finger', '1'),
      ...mark(at(after, 2, 2), 'bow', 'up'),
      ...mark(barTarget(2), 'words', 'light'),
      ...mark(barsTarget({ fromBar: 0, toBar: 3 }), 'character', 'dance'),
      ...mark(placeTarget(2, 2 * TICKS), 'dynamic', 'p'),
      ...mark(placeTarget(2, 0), 'hairpin', 'crescendo 2 4'),
    });
    expect(applyChanges(marking, moved.changes)).toEqual({ marking: moved.marking, conflicts: [] });
    expect(reanchorRanges([{ name: 'A', fromBar: 1, toBar: 2 }], before, after)).toEqual([{ name: 'A', fromBar: 2, toBar: 3 }]);
    const whole = [
      { fromBar: 0, toBar: 0 },
      { fromBar: 1, toBar: 2 },
    ];
    expect(reanchorRanges(whole, before, after)).toEqual([
      { fromBar: 0, toBar: 1 },
      { fromBar: 2, toBar: 3 },
    ]);
    const earlier = part('G4/4 | A4 B4 C5 D5 | E5 F5 G5 A5 | C5/4 | E4/4');
    expect(reanchorRanges(whole, before, earlier)).toEqual([
      { fromBar: 0, toBar: 1 },
      { fromBar: 2, toBar: 4 },
    ]);
  });
  test('what finds no place is kept, says where it stood, and comes back with its bar', () => {
    const after = part('A4 B4 C5 D5 | C5/4');
    const moved = reanchor(marking, before, after);
    expect(moved.lost).toBe(4);
    expect(Object.keys(moved.marking)).toHaveLength(6);
    const lost = Object.keys(moved.marking).flatMap((key) => lostTarget(key.slice(0, key.lastIndexOf('|'))) ?? []);
    expect(lost.map(({ at: where }) => where).sort()).toEqual(['2', '2/1', '2/3', '2/3 G5']);
    const back = reanchor(moved.marking, after, before);
    expect(back.lost).toBe(0);
    expect(back.marking).toEqual({ ...marking, ...mark(barsTarget({ fromBar: 0, toBar: 2 }), 'character', 'dance') });
  });
  test('another pitch at the same time keeps its marks', () => {
    const after = part('A4 Bb4 C5 D5 | E5 F5 G5 A5 | C5/4');
    const moved = reanchor(mark(at(before, 0, 1), 'finger', '1'), before, after);
    expect(Object.keys(moved.marking)).toEqual([markKey(at(after, 0, 1), 'finger')]);
  });
  test('nothing is ever dropped, and the changes lead exactly there', () => {
    const bar = fc.constantFrom('A4 B4 C5 D5', 'A4 B4 C5 E5', 'G4/4', 'G4/2 A4/2', 'E5 F5/0.5 G5/0.5 A5/2');
    fc.assert(
      fc.property(fc.array(bar, { minLength: 2, maxLength: 8 }), fc.array(bar, { minLength: 1, maxLength: 8 }), (a, b) => {
        const [from, to] = [part(a.join(' | ')), part(b.join(' | '))];
        const marks = everyMark(from, 2);
        const moved = reanchor(marks, from, to);
        expect(Object.keys(moved.marking)).toHaveLength(Object.keys(marks).length);
        expect(applyChanges(marks, moved.changes)).toEqual({ marking: moved.marking, conflicts: [] });
        for (const key of Object.keys(moved.marking)) {
          const target = key.slice(0, key.lastIndexOf('|'));
          if (target.startsWith('n-')) expect(noteById(to, target)).toBeDefined();
        }
      }),
      { numRuns: runs(150) },
    );
  });
  test('a whole part of 129 bars with a bar taken out', () => {
    const { document, score } = demoScore('mill-race-serenade');
    const ours = score.parts[0]!;
    const text = document.text.replace(/<measure number="40"[\s\S]*?<\/measure>/, '');
    const shorter = readMusicXml(text);
    if (!shorter.ok) throw new Error(shorter.problem.what);
    const theirs = shorter.value.score.parts[0]!;
    const marks = everyMark(ours, 7);
    const moved = reanchor(marks, ours, theirs);
    const inBar = Object.keys(marks).filter((key) => /^(n-40-|at-40-|bar-40\|)/.test(key)).length;
    expect(moved.lost).toBe(inBar);
    expect(differences(ours, {}, theirs).map(({ kind, at: where }) => `${where} ${kind}`)).toEqual(['40 bar']);
    expect(pitchName(ours.notes[0]!.pitch)).toBe(pitchName(theirs.notes[0]!.pitch));
  });
});
