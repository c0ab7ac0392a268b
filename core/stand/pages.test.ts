import fc from 'fast-check';
import { linesOf } from '../instruments/lines';
import { makeScore } from '../testing/make';
import { runs } from '../testing/runs';
import { clockFor } from '../score/time';
import { isTurnAfter, paged, pageCost, turnCosts, turnsPlayed, type LaidSystem, type Paper } from './pages';
import { PAGING } from './tables';
import { passings, type Passing } from './turns';

const PAPER: Paper = { heightPx: 300, firstHeightPx: 300, gapPx: 0, atOnce: 1, firstIsRight: false };

/** The same cost, every way of breaking tried. */
function bruteForce(systems: readonly LaidSystem[], passed: readonly Passing[], paper: Paper): number {
  const turns = turnCosts(passed);
  let least = Infinity;
  for (let breaks = 0; breaks < 2 ** (systems.length - 1); breaks++) {
    let [cost, page, from, fits] = [0, 0, 0, true];
    for (let at = 0; at < systems.length; at++) {
      const isLast = at === systems.length - 1;
      if (!isLast && !((breaks >> at) & 1)) continue;
      const on = systems.slice(from, at + 1);
      const used = on.reduce((sum, { heightPx }) => sum + heightPx, 0) + paper.gapPx * (on.length - 1);
      if (on.length > 1 && used > (page === 0 ? paper.firstHeightPx : paper.heightPx)) fits = false;
      cost += pageCost(used, page, isLast, paper);
      if (!isLast && isTurnAfter(page, paper)) cost += turns.get(systems[at]!.lastBar) ?? 0;
      page++;
      from = at + 1;
    }
    if (fits) least = Math.min(least, cost);
  }
  return least;
}

test('the breaks are the best of all ways to break, on one page or two at once', () => {
  const passing = fc.record({ restS: fc.double({ min: 0, max: 3, noNaN: true }), nextS: fc.double({ min: 0, max: 2, noNaN: true }) });
  const small = fc.record({
    heights: fc.array(fc.integer({ min: 40, max: 340 }), { minLength: 1, maxLength: 9 }),
    rests: fc.array(passing, { minLength: 9, maxLength: 9 }),
    paper: fc.record({
      heightPx: fc.constant(300),
      firstHeightPx: fc.constantFrom(180, 300),
      gapPx: fc.constantFrom(0, 12),
      atOnce: fc.constantFrom(1 as const, 2 as const),
      firstIsRight: fc.boolean(),
    }),
  });
  fc.assert(
    fc.property(small, ({ heights, rests, paper }) => {
      const systems = heights.map((heightPx, i) => ({ heightPx, lastBar: 2 * i + 1 }));
      const passed = rests.map((rest, i) => ({ from: 2 * i + 1, to: 2 * i + 2, ...rest }));
      const { pages, cost } = paged(systems, passed, paper);
      expect(cost).toBeCloseTo(bruteForce(systems, passed, paper), 9);
      // Every system once, in order.
      expect(pages.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, i) => from + i))).toEqual(heights.map((_, i) => i));
    }),
    { numRuns: runs(800) },
  );
});

test('a page is left half empty for the sake of a turn', () => {
  const systems = Array.from({ length: 5 }, (_, i) => ({ heightPx: 100, lastBar: i }));
  const rest = (restS: number) => systems.map((_, i) => ({ from: i, to: i + 1, restS, nextS: 2 }));
  expect(paged(systems, rest(3), PAPER).pages.map(({ from }) => from)).toEqual([0, 3]);
  const only = rest(0).map((each) => (each.from === 1 ? { ...each, restS: PAGING.turnS } : each));
  expect(paged(systems, only, PAPER).pages.map(({ from }) => from)).toEqual([0, 2]);
  expect(paged([], [], PAPER)).toEqual({ pages: [], cost: 0 });
});

test('a turn costs by what it lacks, and by how soon the next note is over', () => {
  const at = (restS: number, nextS: number) => turnCosts([{ from: 0, to: 1, restS, nextS }]).get(0)!;
  expect(at(1.5, 1)).toBe(0);
  expect(at(0, 1)).toBe(10);
  expect(at(0.75, 1)).toBeCloseTo(2.5, 9);
  expect(at(2, 0.25)).toBeCloseTo(0.75, 9);
  // The worst of several passes counts; where nobody goes straight on there is nothing to turn.
  expect(
    turnCosts([
      { from: 0, to: 1, restS: 9, nextS: 9 },
      { from: 0, to: 1, restS: 0, nextS: 9 },
    ]).get(0),
  ).toBe(10);
  expect(turnCosts([{ from: 3, to: 0, restS: 0, nextS: 0 }]).size).toBe(0);
});

test('rest at a bar line, in seconds, over empty bars and ties', () => {
  const { part } = makeScore('violin', 'C4 D4 E4 r/1 | r/4 | r/1 C4~/3 | C4/2 r/2 | D4 E4 F4 G4 | A4/4', { tempo: 60 });
  const passed = passings(part, linesOf(part)[0]!.events, clockFor(part, 60));
  expect(passed.map(({ restS }) => restS)).toEqual([6, 6, 0, 2, 0]);
  expect(passed.map(({ nextS }) => nextS)).toEqual([5, 5, 2, 1, 4]);
  expect(passings(part, linesOf(part)[0]!.events, clockFor(part, 120))[0]!.restS).toBe(3);
});

test('turns as they come, back over a repeat too; looking over to the page beside is none', () => {
  const { part } = makeScore('violin', 'C4 D4 E4 r/1 | C4 D4 E4 F4 | C4/4 | C4/3 r/1');
  const bars = part.bars.map((bar, i) => ({ ...bar, repeatEnd: i === 2 }));
  const passed = passings({ bars }, linesOf(part)[0]!.events, clockFor(part, 60));
  const systems = [0, 1, 2, 3].map((lastBar) => ({ heightPx: 100, lastBar }));
  const two = {
    pages: [
      { from: 0, to: 1 },
      { from: 2, to: 3 },
    ],
  };
  const turns = turnsPlayed(two, systems, passed, PAPER);
  expect(turns.map(({ from, to, jumps, hurried }) => ({ from, to, jumps, hurried }))).toEqual([
    { from: 1, to: 2, jumps: false, hurried: true },
    { from: 2, to: 0, jumps: true, hurried: true },
    { from: 1, to: 2, jumps: false, hurried: true },
  ]);
  expect(turnsPlayed(two, systems, passed, { ...PAPER, atOnce: 2 })).toEqual([]);
  expect(turnsPlayed(two, systems, passed, { ...PAPER, atOnce: 2, firstIsRight: true })).toHaveLength(3);
  expect(
    turnsPlayed(
      {
        pages: [
          { from: 0, to: 0 },
          { from: 1, to: 3 },
        ],
      },
      systems,
      passed,
      PAPER,
    ).find(({ from }) => from === 0)!.hurried,
  ).toBe(true);
});
