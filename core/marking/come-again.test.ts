import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore } from '../testing/make';
import { applyChanges } from './change';
import { placesAgain } from './come-again';
import { markedDifferently } from './consistency';
import type { MarkKind } from './kinds';
import { markAt, markKey, type Mark } from './mark';

const TUNE = 'G4 A4 B4 C5 | D5 C5 B4 A4';
const ENDING = 'D5 E5 F#5 G5';
const LOWER = 'D4 E4 F#4 G4 | A4 G4 F#4 E4';
const OTHER = 'C5/.5 C5/.5 C5/1 E4/2';

function music(text: string, marks: ReadonlyArray<readonly [note: number, kind: MarkKind, value: string]> = []) {
  const { part } = makeScore('violin', text, { fifths: 1 });
  const marking: Record<string, Mark> = Object.fromEntries(
    marks.map(([note, kind, value]) => [markKey(part.notes[note]!.id, kind), { value, origin: 'coach' as const }]),
  );
  return { part, line: firstLine(part), marking };
}
const again = (text: string, marks: Parameters<typeof music>[1], range = { fromBar: 0, toBar: 1 }) => {
  const { part, line, marking } = music(text, marks);
  return { part, marking, found: placesAgain(part, line, marking, range) };
};

test('every place where it comes again, with all its marks; what is marked otherwise there goes', () => {
  const { part, marking, found } = again(`${TUNE} | ${OTHER} | ${TUNE} | ${TUNE}`, [
    [0, 'finger', '3'],
    [2, 'bow', 'up'],
    [13, 'finger', '1'],
  ]);
  expect(found.map(({ bars }) => bars)).toEqual([
    { fromBar: 3, toBar: 4 },
    { fromBar: 5, toBar: 6 },
  ]);
  const after = applyChanges(
    marking,
    found.flatMap(({ changes }) => changes),
  ).marking;
  const notes = (bar: number) => part.notes.filter(({ barIndex }) => barIndex === bar);
  for (const bar of [3, 5]) {
    expect(markAt(after, notes(bar)[0]!.id, 'finger')?.value).toBe('3');
    expect(markAt(after, notes(bar)[2]!.id, 'bow')?.value).toBe('up');
  }
  expect(notes(3).filter(({ id }) => markAt(after, id, 'finger')).length).toBe(1);
});

test('on other notes the bows alone, and it is said; a bar of other music is left and named', () => {
  const { found } = again(`${TUNE} | ${LOWER} | G4 A4 B4 C5 | ${ENDING}`, [
    [0, 'finger', '3'],
    [1, 'bow', 'down'],
    [5, 'bow', 'up'],
  ]);
  expect(found[0]).toMatchObject({ bars: { fromBar: 2, toBar: 3 }, otherNotes: [2, 3], otherMusic: [] });
  expect(found[0]!.changes.map(({ kind }) => kind)).toEqual(['bow', 'bow']);
  // Half of it is too little.
  expect(found.length).toBe(1);
  const long = again(`${TUNE} | G4 B4 D5 G5 | ${OTHER} | ${TUNE} | ${ENDING}`, [[0, 'finger', '3']], { fromBar: 0, toBar: 2 });
  expect(long.found).toMatchObject([{ bars: { fromBar: 4, toBar: 6 }, otherMusic: [6] }]);
  expect(long.found[0]!.changes.length).toBe(1);
});

test('chords are copied head by head; too few notes are no tune; nothing again, nothing found', () => {
  const chords = again('G4+B4 A4 B4 C5 | G4+B4 A4 B4 C5', [[1, 'finger', '2']], { fromBar: 0, toBar: 0 });
  expect(chords.found[0]!.changes.map(({ target }) => target)).toEqual([chords.part.notes.filter(({ barIndex }) => barIndex === 1)[1]!.id]);
  expect(again('G4/4 | G4/4', [[0, 'finger', '3']], { fromBar: 0, toBar: 0 }).found).toEqual([]);
  expect(again(`${TUNE} | ${OTHER}`, [[0, 'finger', '3']]).found).toEqual([]);
  expect(again('r/4 | G4/4', [], { fromBar: 0, toBar: 0 }).found).toEqual([]);
});

test('right before, right after and at the very end; of places that overlap the one with the same notes', () => {
  const at = (text: string, range: { fromBar: number; toBar: number }) => again(text, [], range).found.map(({ bars }) => [bars.fromBar, bars.toBar]);
  expect(at(`${TUNE} | ${TUNE} | ${OTHER} | ${TUNE}`, { fromBar: 0, toBar: 1 })).toEqual([
    [2, 3],
    [5, 6],
  ]);
  expect(at(`${TUNE} | ${TUNE} | ${OTHER} | ${TUNE}`, { fromBar: 2, toBar: 3 })).toEqual([
    [0, 1],
    [5, 6],
  ]);
  const up = 'G4 A4 B4 C5 | A4 B4 C5 D5';
  expect(at(`${up} | ${OTHER} | F#4 G4 A4 B4 | ${up}`, { fromBar: 0, toBar: 1 })).toEqual([[4, 5]]);
});

test('after it was copied nothing is marked differently there, and copying again changes nothing', () => {
  const mark = fc.tuple(fc.nat(7), fc.constantFrom<MarkKind>('finger', 'string', 'bow', 'hook', 'slur'), fc.constantFrom('1', '2'));
  fc.assert(
    fc.property(fc.array(mark, { minLength: 1, maxLength: 6 }), fc.array(mark, { maxLength: 4 }), (here, there) => {
      const value = (kind: MarkKind, v: string) =>
        ({ finger: v, string: v, bow: v === '1' ? 'up' : 'down', hook: 'yes', slur: v === '1' ? 'split' : 'join' })[kind as 'bow'];
      const { part, line, marking } = music(`${TUNE} | ${OTHER} | ${TUNE}`, [
        ...here.map(([note, kind, v]) => [note, kind, value(kind, v)] as const),
        ...there.map(([note, kind, v]) => [note + 12, kind, value(kind, v)] as const),
      ]);
      const range = { fromBar: 0, toBar: 1 };
      const after = applyChanges(marking, placesAgain(part, line, marking, range)[0]!.changes).marking;
      expect(markedDifferently(part, line, after)).toEqual([]);
      expect(placesAgain(part, line, after, range)[0]!.changes).toEqual([]);
    }),
    { numRuns: runs(60) },
  );
});
