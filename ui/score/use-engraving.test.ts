import { drawnUntil } from './use-engraving';

test('a long passage is drawn 48 bars at a time, as far as somebody looks', () => {
  const long = { fromBar: 10, toBar: 209 };
  expect([drawnUntil(long, 0), drawnUntil(long, 57), drawnUntil(long, 58), drawnUntil(long, 209), drawnUntil(long, 900)]).toEqual([57, 57, 105, 209, 209]);
  expect(drawnUntil({ fromBar: 3, toBar: 20 }, 3)).toBe(20);
});
