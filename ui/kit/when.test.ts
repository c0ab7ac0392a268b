import { agoInWords } from './when';

test.each([
  [0, 'just now'],
  [-59_000, 'just now'],
  [-60_000, '1 minute ago'],
  [-59 * 60_000, '59 minutes ago'],
  [-60 * 60_000, '1 hour ago'],
  [-23 * 3_600_000, '23 hours ago'],
  [-24 * 3_600_000, 'yesterday'],
  [-29 * 86_400_000, '29 days ago'],
  [-60 * 86_400_000, '2 months ago'],
  [30 * 86_400_000, 'next month'],
  [2 * 86_400_000, 'in 2 days'],
])('%s ms away: %s', (ms, said) => {
  const now = Date.UTC(2030, 0, 1);
  expect(agoInWords(new Date(now + ms).toISOString(), now)).toBe(said);
});
