import fc from 'fast-check';
import { runs } from '../testing/runs';
import { chance } from '../../tests/support/random-score';
import { dayAfter, dayOf, daysBetween, daysFrom, isDay, weekdayOf, type Day } from './day';
import { blockWhy, dayInWords, shortfallText } from './words';
import { fittedMinutes, gainOf, gapOf, goalOf, halfLifeAfter, rowOfFour, standingOf, type Run } from './standing';

const TODAY: Day = '2026-03-30';
const on = (daysAgo: number, tempo: number, pattern = '++++'): Run[] =>
  [...pattern].map((each) => ({ day: dayAfter(TODAY, -daysAgo), tempo, clean: each === '+' }));

describe('days', () => {
  test('are those of the place, also in the night the clock changes and at its edges', () => {
    // In Central Europe the 29th of March 2026 has 23 hours.
    expect(dayOf('2026-03-28T22:59:59Z', 'Europe/Vienna')).toBe('2026-03-28');
    expect(dayOf('2026-03-28T23:00:00Z', 'Europe/Vienna')).toBe('2026-03-29');
    expect(dayOf('2026-03-29T22:00:00Z', 'Europe/Vienna')).toBe('2026-03-30');
    expect(dayOf('2026-03-29T22:00:00Z', 'America/New_York')).toBe('2026-03-29');
    expect(() => dayOf('2026-03-29T22:00:00Z', 'Nowhere/Here')).toThrow(RangeError);
    expect([daysBetween('2026-03-28', '2026-03-30'), daysBetween('2026-03-30', '2026-02-28'), dayAfter('2028-02-28')]).toEqual([2, -30, '2028-02-29']);
    // The 30th of March 2026 is a Monday.
    expect([weekdayOf('2026-03-30'), weekdayOf('2026-03-29')]).toEqual([0, 6]);
    expect([daysFrom('2026-03-30', '2026-04-01'), daysFrom('2026-03-30', '2026-03-29')]).toEqual([['2026-03-30', '2026-03-31', '2026-04-01'], []]);
  });
});

test('the tempo that stood is that of four clean in a row; a row may climb, and its slowest counts', () => {
  expect(rowOfFour(on(0, 80, '+++-+++'))).toBeNull();
  expect(rowOfFour(on(0, 80, '-++++'))).toBe(80);
  expect(rowOfFour([...on(0, 80, '++'), ...on(0, 84, '++')])).toBe(80);
  expect(rowOfFour([...on(0, 90), ...on(0, 70)])).toBe(90);
});

test('half of the last gain is lost in two days, later in 1.6 times as many for each further day of practice', () => {
  expect([halfLifeAfter(0), halfLifeAfter(1), halfLifeAfter(2), halfLifeAfter(3)]).toEqual([2, 2, 3.2, 2 * 1.6 ** 2]);
  // Without a log three quarters of the ceiling.
  expect(standingOf([], TODAY, 100)).toEqual({ now: 75, best: null, last: null, days: 0, halfLife: 2 });
  expect(standingOf([], TODAY, null).now).toBeNull();
  expect(standingOf(on(0, 90), TODAY, 100)).toMatchObject({ now: 90, best: 90, days: 1, last: TODAY });
  // It gained 15: after two days 7.5 are left, after four 3.75.
  expect(standingOf(on(2, 90), TODAY, 100).now).toBeCloseTo(82.5, 9);
  expect(standingOf(on(4, 90), TODAY, 100).now).toBeCloseTo(78.75, 9);
  // On the second day it came from 82.5 to 90 again: of these 7.5 half is lost in 3.2 days.
  expect(standingOf([...on(5.2 - 0.2 + 0, 90), ...on(3, 90)], TODAY, 100).now).toBeCloseTo(90 - 7.5 * (1 - 2 ** (-3 / 3.2)), 9);
  // Played slowly on purpose it keeps what holds.
  expect(standingOf([...on(2, 90), ...on(0, 60)], TODAY, 100).now).toBeCloseTo(82.5, 9);
  // What lies ahead is not counted: another clock.
  expect(standingOf([...on(2, 90), ...on(-1, 99)], TODAY, 100).now).toBeCloseTo(82.5, 9);
  // A log with a gap of months is no trouble.
  expect(standingOf(on(300, 90), TODAY, 100).now).toBeCloseTo(75, 6);
});

test('it never rises by waiting, never falls under where it began, whatever the log', () => {
  const day = fc.record({ ago: fc.integer({ min: 0, max: 60 }), tempo: fc.integer({ min: 40, max: 140 }), clean: fc.boolean() });
  fc.assert(
    fc.property(fc.array(day, { maxLength: 12 }), fc.integer({ min: 60, max: 160 }), (days, ceiling) => {
      const log = [...days].sort((a, b) => b.ago - a.ago).flatMap(({ ago, tempo, clean }) => on(ago, tempo, clean ? '++++' : '+-+-'));
      const at = (later: number) => standingOf(log, dayAfter(TODAY, later), ceiling).now!;
      for (let later = 0; later < 20; later++) expect(at(later + 1)).toBeLessThanOrEqual(at(later) + 1e-9);
      const best = rowOfFour(log);
      if (best !== null) expect(at(0)).toBeLessThanOrEqual(best + 1e-9);
      const stood = days.flatMap(({ tempo, clean }) => (clean ? [tempo] : []));
      expect(at(400)).toBeGreaterThanOrEqual(Math.min(ceiling * 0.75, ...stood) - 1e-6);
    }),
    { numRuns: runs(150) },
  );
});

test('a goal above the ceiling is cut, and that is said', () => {
  expect([goalOf(100, 90), goalOf(100, 120), goalOf(100, null)]).toEqual([
    { tempo: 90, isCapped: true },
    { tempo: 100, isCapped: false },
    { tempo: 100, isCapped: false },
  ]);
  expect([gapOf(62, 92), gapOf(100, 92), gapOf(null, 92)]).toEqual([30, 0, 23]);
  expect(gainOf(30, 20, 20)).toBeCloseTo(30 * (1 - Math.exp(-1)), 12);
});

test('the minutes of a player are found in their log; with few blocks the usual ones hold', () => {
  const made = (k: number, n: number, seed: number) => {
    const { below } = chance(seed);
    const random = () => below(1_000_000) / 1_000_000;
    return Array.from({ length: n }, () => {
      const [gap, minutes] = [5 + 30 * random(), 4 + 6 * random()];
      return { gap, minutes, gained: gainOf(gap, minutes, k) * (0.8 + 0.4 * random()) };
    });
  };
  expect(fittedMinutes(made(8, 9, 1))).toBe(20);
  for (const k of [8, 14, 20, 35, 60]) for (const seed of [1, 2, 3]) expect(Math.abs(Math.log(fittedMinutes(made(k, 60, seed)) / k))).toBeLessThan(0.18);
  // Ten blocks pull away from the usual, not all the way.
  const few = fittedMinutes(made(60, 10, 4));
  expect(few).toBeGreaterThan(24);
  // The least of squares and pull, told again: every block closes a third of its gap in five minutes.
  const blocks = Array.from({ length: 10 }, () => ({ gap: 30, minutes: 5, gained: 10 }));
  const error = (k: number) => 10 * (1 / 3 - (1 - Math.exp(-5 / k))) ** 2 + 0.05 * Math.log(k / 20) ** 2;
  const best = Array.from({ length: 4_000 }, (_, i) => 4 + i * 0.01).reduce((a, b) => (error(b) < error(a) ? b : a));
  expect(fittedMinutes(blocks)).toBeCloseTo(best, 1);
  expect(best).toBeGreaterThan(5 / Math.log(1.5));
  // Nonsense in the log.
  expect(fittedMinutes([...made(20, 20, 5), { gap: 0, gained: 3, minutes: 5 }, { gap: 10, gained: -4, minutes: 0 }])).toBeCloseTo(
    fittedMinutes(made(20, 20, 5)),
    9,
  );
});

test('days in words, and why a block is there', () => {
  expect(['2026-03-30', '2026-03-29', '2026-03-31', '2026-03-27', '2026-04-05', '2026-05-12'].map((day) => dayInWords(day, TODAY))).toEqual([
    'today',
    'yesterday',
    'tomorrow',
    'Friday',
    'Sunday',
    '12 May',
  ]);
  expect(blockWhy({ now: 62.4, goal: 92, short: 14.2, until: '2026-05-12', last: '2026-03-26', today: TODAY })).toBe(
    '62 of 92, falls 14 short by 12 May, not touched since Thursday',
  );
  expect(blockWhy({ now: 80, goal: 92, short: null, until: '2026-05-12', last: '2026-03-29', today: TODAY })).toBe('80 of 92');
  expect(blockWhy({ now: 80, goal: 92, short: null, until: '2026-05-12', last: null, today: TODAY })).toBe('80 of 92, not begun yet');
  expect(shortfallText({ short: 14.4, reaches: 77.6 })).toBe('will reach 78, 14 short');
  expect(['2026-02-29', '2028-02-29', '2026-13-01', '26-01-01', 'soon'].map(isDay)).toEqual([false, true, false, false, false]);
});
