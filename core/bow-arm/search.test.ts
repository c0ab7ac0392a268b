import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore } from '../testing/make';
import { bowGraph, LIFT, ownBowSearch, shortest } from '../../tests/support/dijkstra';
import { usualPlayer } from '../instruments/player';
import { clockFor } from '../score/time';
import { atomsOf } from './atoms';
import { planBowing } from './bowing';
import { newSearchMemory } from './search';
import { BOW_COSTS } from './tables';

function atoms(music: string, tempo: number) {
  const { part } = makeScore('violin', music, { tempo });
  return atomsOf(part, firstLine(part), clockFor(part, null), {});
}

describe('both searches find what a general-purpose shortest-path library finds on the same graph (ngraph.path)', () => {
  test('bow: directions and distribution together', () => {
    const note = fc.record({
      pitch: fc.constantFrom('A4', 'B4', 'C5'),
      sign: fc.constantFrom('', '!', '.'),
      length: fc.constantFrom('/0.5', '/1', '/2', '/0.75', '/0.25'),
    });
    fc.assert(
      fc.property(fc.array(note, { minLength: 2, maxLength: 5 }), fc.constantFrom(50, 90, 140), (notes, tempo) => {
        const row = atoms(notes.map(({ pitch, sign, length }) => pitch + sign + length).join(' '), tempo);
        expect(ownBowSearch(row, 'violin', BOW_COSTS)).toBeCloseTo(shortest(bowGraph(row, 'violin', BOW_COSTS), LIFT), 6);
      }),
      { numRuns: runs(12) },
    );
  });
});

test('what is kept from search to search does not change what the best bowing costs', () => {
  const bar = fc.constantFrom('A4/1 B4/1 C5/1 D5/1', 'A4/1 B4!/1 C5./1 D5/1', 'A4./1 B4./1 C5!/1 D5/1', 'A4!/1 B4/1 C5/1 D5!/1');
  const memory = newSearchMemory();
  fc.assert(
    // Bars of as many notes, so that what lies between two that differ can be kept.
    fc.property(fc.array(bar, { minLength: 12, maxLength: 12 }), fc.nat(11), bar, (bars, at, other) => {
      ownBowSearch(atoms(bars.join(' | '), 90), 'violin', BOW_COSTS, memory);
      const row = atoms(bars.map((each, i) => (i === at ? other : each)).join(' | '), 90);
      expect(ownBowSearch(row, 'violin', BOW_COSTS, memory)).toBeCloseTo(ownBowSearch(row, 'violin', BOW_COSTS), 6);
    }),
    { numRuns: runs(40) },
  );
});

describe('a passage in its context', () => {
  const { score, part } = makeScore('violin', 'A4/2 B4 | C5/2 D5 | E5/2 D5 | C5 B4 A4 | B4/2 C5 | D5/2 E5 | A4/3', { beats: 3 });
  const request = { score, part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null), marking: {} };
  const within = { from: part.bars[2]!.onset, to: part.bars[4]!.onset };
  const whole = planBowing({ ...request, alternatives: 1 })[0]!.strokes;
  test('the best plan for it goes the way of the best plan of the whole line', () => {
    const own = planBowing({ ...request, within })[0]!.strokes;
    expect(own.map((stroke) => [stroke.noteIds[0], stroke.direction])).toEqual(
      whole.filter((stroke) => stroke.onset >= within.from && stroke.onset < within.to).map((stroke) => [stroke.noteIds[0], stroke.direction]),
    );
  });
  test('every alternative joins on to the strokes around it', () => {
    for (const plan of planBowing({ ...request, within })) {
      expect(plan.strokes.every((stroke) => stroke.onset >= within.from && stroke.onset < within.to)).toBe(true);
    }
  });
});
