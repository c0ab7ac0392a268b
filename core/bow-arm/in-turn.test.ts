import fc from 'fast-check';
import { feltBeat } from '../score/beat';
import { barIndexAt } from '../score/score';
import { makeScore, TICKS } from '../testing/make';
import { changesInTurn, DESKS } from './in-turn';

const { bars } = makeScore('violin', Array.from({ length: 24 }, () => 'A4/4').join(' | ')).part;

test('eight bars in three bows: every desk changes by itself, between the beats', () => {
  const desks = changesInTurn(bars, 0, 32 * TICKS, 3)!;
  expect(desks.map(({ at }) => at.map((tick) => tick / TICKS))).toEqual([
    [2.5, 12.5, 22.5],
    [4.5, 14.5, 24.5],
    [7.5, 17.5, 27.5],
    [10.5, 20.5, 30.5],
  ]);
  expect(changesInTurn(bars, 0, 2 * TICKS, 3)).toBeNull();
});

test('no bow is longer than it may be, no change lies on a beat or together with the desk beside', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 8, max: 60 }), fc.integer({ min: 2, max: 6 }), (from, quarters, bows) => {
      const [begin, end] = [from * TICKS, (from + quarters) * TICKS];
      const desks = changesInTurn(bars, begin, end, bows);
      if (!desks) return;
      expect(desks).toHaveLength(DESKS);
      desks.forEach(({ at }, i) => {
        const turns = [begin, ...at, end];
        turns.slice(1).forEach((tick, k) => expect(tick - turns[k]!).toBeLessThanOrEqual((end - begin) / bows + 1));
        for (const tick of at) {
          const bar = bars[barIndexAt(bars, tick)]!;
          expect((tick - bar.onset) % feltBeat(bar)).not.toBe(0);
          expect(desks[(i + 1) % DESKS]!.at).not.toContain(tick);
        }
      });
    }),
  );
});
