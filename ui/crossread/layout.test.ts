import fc from 'fast-check';
import { ticksOfQuarters } from '@/core/score/ticks';
import type { RhythmGroup } from '@/core/ensemble/groups';
import { chunksIn, chunksOf, rowsOf, xOf } from './layout';

const bars = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ label: String(i + 1), onset: ticksOfQuarters(4 * i), ticks: ticksOfQuarters(4), rehearsal: null }));
const group = (id: string, fromBar: number, toBar: number): RhythmGroup => ({
  id,
  fromBar,
  toBar,
  members: [],
  differences: [],
  agreement: 'agree',
  left: null,
});

test('every bar is in one piece, pieces follow one another, and what is in view is drawn', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 200 }), fc.constantFrom(4, 16, 64), fc.nat(20_000), fc.nat(2_000), (count, px, from, wide) => {
      const chunks = chunksOf(bars(count), px);
      expect(chunks.flatMap(({ fromBar, toBar }) => Array.from({ length: toBar - fromBar + 1 }, (_, i) => fromBar + i))).toEqual(bars(count).map((_, i) => i));
      chunks.slice(1).forEach((chunk, i) => expect(chunk.from).toBeCloseTo(chunks[i]!.to));
      const { first, last } = chunksIn(chunks, from, from + wide);
      chunks.forEach((chunk, i) => {
        if (chunk.from < from + wide && chunk.to > from) expect(i >= first && i <= last).toBe(true);
      });
    }),
  );
  expect(xOf(ticksOfQuarters(3), 16)).toBe(48);
});

test('groups at the same time have rows of their own', () => {
  const { rows, count } = rowsOf([group('a', 0, 7), group('b', 0, 3), group('c', 4, 5), group('d', 8, 9)]);
  expect([...rows]).toEqual([
    ['a', 0],
    ['b', 1],
    ['c', 1],
    ['d', 0],
  ]);
  expect([count, rowsOf([]).count]).toEqual([2, 1]);
});
