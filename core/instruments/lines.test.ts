import { demoScore } from '../../tests/support/demo';
import { makeScore } from '../testing/make';
import { linesOf, partOfLine } from './lines';

describe('what one player has of a divided part', () => {
  const part = demoScore('mill-race-serenade').score.parts[0]!;
  const lines = linesOf(part);
  const barsOf = (ids: readonly string[]) => new Set(part.notes.filter(({ id }) => ids.includes(id)).map(({ barIndex }) => barIndex));
  const idsOf = (index: number) => lines[index]!.events.flatMap(({ ids }) => ids);

  test('is one line, with every note of their own, and the first line where theirs is silent for a bar', () => {
    expect(lines).toHaveLength(2);
    lines.forEach((_, index) => {
      const own = partOfLine(part, index);
      const [has, wanted] = [new Set(own.notes.map(({ id }) => id)), barsOf(idsOf(index))];
      for (const id of idsOf(index)) expect(has.has(id)).toBe(true);
      for (const { id, barIndex, cue } of part.notes) {
        if (cue || idsOf(index).includes(id)) continue;
        expect(has.has(id)).toBe(!wanted.has(barIndex) && idsOf(0).includes(id));
      }
      // In every bar in which the part sounds this player does.
      expect(new Set(own.notes.map(({ barIndex }) => barIndex))).toEqual(new Set(part.notes.map(({ barIndex }) => barIndex)));
    });
  });
  test('of divided chords each has a note', () => {
    const { part: chords } = makeScore('violin', 'A4/2 C5+A5/2', { words: [{ quarter: 0, text: 'div.' }] });
    if (linesOf(chords).length < 2) throw new Error('the chord is not divided');
    const of = (index: number) => partOfLine(chords, index).notes.map(({ pitch }) => `${pitch.step}${pitch.octave}`);
    expect([of(0), of(1)].map((notes) => notes.join(' ')).sort()).toEqual(['A4 A5', 'A4 C5']);
    expect(of(7)).toEqual(of(1));
  });
  test('of a part that is not divided it is the part itself', () => {
    const { part: plain } = makeScore('violin', 'A4/2 B4/2');
    expect(partOfLine(plain, 1)).toBe(plain);
  });
});
