import { makeScore, TICKS } from '../testing/make';
import { editedPart } from '../marking/print-edits';
import { markKey } from '../marking/mark';
import { valueProblem } from '../marking/kinds';
import { check } from '../checks/check';
import { usualPlayer } from '../instruments/player';
import { paceOf, paceSteps } from './pace';
import type { PaceMark } from './score';
import { clockFor } from './time';

const bars = (count: number, double = -1) =>
  Array.from({ length: count }, (_, i) => ({ onset: i * 4 * TICKS, ticks: 4 * TICKS, doubleBarAfter: i === double }));
const at = (quarter: number, pace: PaceMark['pace'], quarters = 1): PaceMark => ({ tick: quarter * TICKS, endTick: (quarter + quarters) * TICKS, pace });
/** Times the tempo, at quarters. */
const times = (marks: PaceMark[], quarters: number[], row = bars(8)) => {
  const steps = paceSteps(marks, row);
  return quarters.map((quarter) => Math.round((steps.findLast(({ tick }) => tick <= quarter * TICKS)?.times ?? 1) * 100) / 100);
};

test('what a mark may say', () => {
  expect(['ease', 'at 80 %', 'at 150 %'].map(paceOf)).toEqual(['ease', { times: 0.8 }, { times: 1.5 }]);
  expect(['at 49 %', 'at 151 %', 'at 80', 'rit.'].map(paceOf)).toEqual([null, null, null, null]);
  expect(valueProblem('pace', 'ease')).toBeNull();
  expect(valueProblem('pace', 'slower')).toContain('Use ease');
});

test('eased and pushed by degrees, to the next sign or for four bars, or to a double bar; then in time again', () => {
  expect(times([at(4, 'ease')], [3, 5, 12, 19.9, 20])).toEqual([1, 0.98, 0.85, 0.7, 1]);
  expect(times([at(4, 'push')], [5, 12, 19.9, 20])).toEqual([1.02, 1.1, 1.2, 1]);
  expect(times([at(4, 'ease'), at(8, 'in time')], [7.9, 8])).toEqual([0.72, 1]);
  expect(times([at(4, 'ease')], [7.9, 8], bars(8, 1))).toEqual([0.72, 1]);
});

test('a note that takes time lasts half as long again, a stretch has its own tempo until it is in time', () => {
  expect(times([at(5, 'take time', 2)], [4, 5, 6.9, 7])).toEqual([1, 0.67, 0.67, 1]);
  const stretch = [at(4, { times: 0.8 }), at(6, 'take time'), at(8, 'ease'), at(12, 'in time')];
  expect(times(stretch, [3, 4, 6, 7, 8, 11.9, 12])).toEqual([1, 0.8, 0.53, 0.8, 0.79, 0.58, 1]);
});

describe('the clock, the check and the bow follow', () => {
  const { part } = makeScore('violin', 'A4 B4 C5 D5 | E5 D5 C5 B4 | A4 B4 C5 D5', { tempo: 60 });
  const marked = (note: number, value: string) => ({ [markKey(part.notes[note]!.id, 'pace')]: { value, origin: 'coach' as const } });
  const clock = (marking: ReturnType<typeof marked>, wanted: number | null = null) => clockFor(editedPart(part, marking), wanted);

  test('seconds, at any tempo that is wanted', () => {
    expect(clock(marked(4, 'at 50 %')).secondsAt(8 * TICKS)).toBeCloseTo(4 + 8);
    expect(clock(marked(4, 'at 50 %'), 120).secondsAt(8 * TICKS)).toBeCloseTo(2 + 4);
    expect(clock(marked(2, 'take time')).secondsAt(4 * TICKS)).toBeCloseTo(4.5);
    const eased = clock(marked(4, 'ease'));
    expect(eased.secondsAt(12 * TICKS)).toBeGreaterThan(12.5);
    for (let tick = 0; tick < 12 * TICKS; tick += 100) expect(eased.secondsAt(tick + 100)).toBeGreaterThan(eased.secondsAt(tick));
  });
  test('the same part as long as nothing of it changes; the part itself without', () => {
    const marking = marked(4, 'ease');
    const once = editedPart(part, marking);
    expect(editedPart(part, { ...marking, [markKey(part.notes[0]!.id, 'finger')]: { value: '1', origin: 'coach' } })).toBe(once);
    expect(editedPart(part, {})).toBe(part);
    expect(once.notes).toBe(part.notes);
  });
  test('an eased bar gives a shift more time', () => {
    const music = makeScore('violin', 'A4/.5 B4/.5 A5/.5 B5/.5 A4/.5 B4/.5 A5/.5 B5/.5', { tempo: 150 }).part;
    const fingers = { 0: '1', 1: '2', 2: '1', 3: '2', 4: '1', 5: '2', 6: '1', 7: '2' };
    const locks = Object.fromEntries(
      Object.entries(fingers).flatMap(([i, value]) => [
        [markKey(music.notes[Number(i)]!.id, 'finger'), { value, origin: 'coach' as const }],
        [markKey(music.notes[Number(i)]!.id, 'string'), { value: '2', origin: 'coach' as const }],
      ]),
    );
    const load = (pace: string | null) => {
      const marking = { ...locks, ...(pace ? { [markKey(music.notes[0]!.id, 'pace')]: { value: pace, origin: 'coach' as const } } : {}) };
      const asked = { part: editedPart(music, marking), marking, player: usualPlayer('violin'), tempo: null, passages: [] };
      return check(asked).fingering!.notes.reduce((sum, { shift }) => sum + (shift?.bitsPerS ?? 0), 0);
    };
    expect(load('at 60 %')).toBeLessThan(load(null) * 0.8);
    expect(load('push')).toBeGreaterThan(load(null));
  });
});
