import fc from 'fast-check';
import { runs } from '../testing/runs';
import { afterRun, firstRung, ladderAfter, stepUp } from './ladder';

const played = (goal: number, last: number | null, text: string) =>
  ladderAfter(
    goal,
    last,
    [...text].map((each) => ({ clean: each === '+' })),
  );

test('it begins at half of the goal or 8 % under what was clean, never over the goal', () => {
  expect(firstRung(100, null)).toMatchObject({ tempo: 50, row: 0, wanted: 4, isReached: false });
  expect(firstRung(100, 80).tempo).toBe(74);
  expect(firstRung(100, 40).tempo).toBe(50);
  expect(firstRung(100, 140).tempo).toBe(100);
});

test('four in a row climb by 4 %, at least 2; one miss and the count begins again; two misses in a row go back', () => {
  expect([stepUp(100), stepUp(30)]).toEqual([104, 32]);
  expect(played(100, null, '+++')).toMatchObject({ tempo: 50, row: 3, moved: null, restS: 0 });
  expect(played(100, null, '++++')).toMatchObject({ tempo: 52, row: 0, moved: 'up', restS: 30, below: [50] });
  // The pressure of the last of the four.
  expect(played(100, null, '+++-')).toMatchObject({ tempo: 50, row: 0, misses: 1 });
  expect(played(100, null, '+++-+++')).toMatchObject({ tempo: 50, row: 3, misses: 0 });
  expect(played(100, null, '++++--')).toMatchObject({ tempo: 50, moved: 'back', restS: 30, below: [] });
  // A miss between clean ones is not two in a row.
  expect(played(100, null, '++++-+-').tempo).toBe(52);
  expect(played(100, null, '--')).toMatchObject({ tempo: 50, moved: null, restS: 30, misses: 0 });
});

test('the goal stands four times, then once a little over it', () => {
  const near = ladderAfter(100, 106, []);
  expect(near.tempo).toBe(98);
  expect(played(100, 106, '++++')).toMatchObject({ tempo: 100, wanted: 4 });
  expect(played(100, 106, '++++++++')).toMatchObject({ tempo: 104, wanted: 1, isReached: false });
  expect(played(100, 106, '+++++++++')).toMatchObject({ tempo: 104, isReached: true });
  expect(played(100, 106, '++++++++--')).toMatchObject({ tempo: 100, moved: 'back', isReached: false });
  const done = played(100, 106, '+++++++++');
  expect(afterRun(done, false, 100)).toMatchObject({ isReached: true });
});

test('whatever is played: never above 104 % of the goal, never below the beginning, a step takes its row, clean runs reach the goal', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 20, max: 240 }),
      fc.option(fc.integer({ min: 10, max: 240 })),
      fc.array(fc.boolean(), { maxLength: 80 }),
      (goal, last, made) => {
        let rung = firstRung(goal, last);
        const start = rung.tempo;
        for (const clean of made) {
          const before = rung;
          rung = afterRun(rung, clean, goal);
          expect(rung.tempo).toBeLessThanOrEqual(Math.max(goal + 1, Math.round(goal * 1.04)));
          expect(rung.tempo).toBeGreaterThanOrEqual(start);
          if (rung.moved === 'up') expect(before.row).toBe(before.wanted - 1);
          if (!clean && !before.isReached) expect(rung.row).toBe(0);
        }
        for (let i = 0; i < 400 && !rung.isReached; i++) rung = afterRun(rung, true, goal);
        expect(rung.isReached).toBe(true);
      },
    ),
    { numRuns: runs(200) },
  );
});
