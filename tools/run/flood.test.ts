import { floodGate } from './flood';

test('so many from one machine and no more; others are not held up by it', async () => {
  const isFlood = floodGate({ points: 3, duration: 1_000 });
  const asked: boolean[] = [];
  for (let n = 0; n < 5; n++) asked.push(await isFlood('203.0.113.7'));
  expect(asked).toEqual([false, false, false, true, true]);
  expect(await isFlood('203.0.113.8')).toBe(false);
});
