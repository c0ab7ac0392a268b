import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import { usualPlayer } from '../instruments/player';
import { markKey, type Marking } from '../marking/mark';
import type { InstrumentKind } from '../score/score';
import { planBowing } from './bowing';
import { preferredLengthCm, speedStepDb } from './stroke';
import { HAIR_CM } from './tables';

function bow(music: string, options: MakeOptions = {}, marking: Marking = {}, kind: InstrumentKind = 'violin') {
  const { part } = makeScore(kind, music, options);
  return planBowing({ part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking });
}
const ways = (music: string, options: MakeOptions = {}, marking: Marking = {}) =>
  bow(music, options, marking)[0]!
    .strokes.map((stroke) => (stroke.direction === 'down' ? 'd' : 'u'))
    .join('');

describe('directions by the rules of the trade (common practice)', () => {
  test('down on the bar, alternating', () => expect(ways('A4 B4 C5 D5 | E5 D5 C5 B4 | A4/4')).toBe('dudududud'));
  test('an upbeat goes up', () => expect(ways('E4 | A4 B4 C5 D5 | E5 D5 C5 B4 | A4/3', { pickupQuarters: 1 })).toBe('ududududud'));
  test('an accent and a chord go down', () => {
    expect(ways('A4! B4 C5! B4 | A4/4')).toBe('dudud');
    expect(bow('G3+D4+B4+G5/2 A5/2 | G3+D4+B4+G5/4')[0]!.strokes.map((stroke) => stroke.direction)).toEqual(['down', 'up', 'down']);
  });
  test('the bar after a rest begins down again', () => expect(ways('A4 B4 C5 r | D5 C5 B4 r | A4/4')).toMatch(/^d.?.d.?.d$/));
  test('three dotted quarters in a waltz bar: down, up, up', () => {
    expect(ways('A5. F#5. D5. | B5. G5. E5. | A5. F#5. D5. | D5/3', { beats: 3, tempo: 112 })).toBe('duuduuduud');
  });
  test('a hook joins the long note and the short one after it, never the short one and the long one of the next beat', () => {
    const strokes = bow('D5/1.5 E5/0.5 F#5/1 | E5/1.5 F#5/0.5 G5/1 | F#5/1.5 G5/0.5 A5/1 | D5/3', { beats: 3, tempo: 112 })[0]!.strokes;
    for (const [i, stroke] of strokes.entries()) if (stroke.hooked) expect(i % 3).toBe(1);
    expect(strokes.filter((stroke) => stroke.hooked).length).toBeGreaterThan(0);
  });
  test('no hook over the bar line where a retake or the way it comes will do', () => {
    for (const music of ['A4/2 B4 | C5/2 D5 | E5/2 D5 | C5/3', 'A4 B4 C5 | D5 C5 B4 | A4/3']) {
      for (const stroke of bow(music, { beats: 3 })[0]!.strokes) expect(stroke.hooked && stroke.beat === 1).toBe(false);
    }
  });
  test('repeated dotted figures are hooked, and alike', () => {
    const music = 'A4/0.75 B4/0.25 C5/0.75 B4/0.25 A4/0.75 B4/0.25 C5/0.75 D5/0.25 | E5/4';
    for (const tempo of [60, 120]) {
      const strokes = bow(music, { tempo })[0]!.strokes;
      expect(strokes.filter((_, i) => i % 2 === 1).map((stroke) => stroke.hooked)).toEqual([true, true, true, true]);
    }
  });
});

describe('bow travel', () => {
  test('a slur of eight quarters at 60, ff, is split and says how much bow it would need', () => {
    const best = bow('(A4 B4 C5 D5 | E5 D5 C5 B4) | A4/4', { tempo: 60, dynamic: 'ff' })[0]!;
    const split = best.changes.find((change) => change.kind === 'split')!;
    expect(split.why).toMatch(/needs at least 12\d cm|needs at least \d+ cm/);
    expect(best.feasible).toBe(true);
  });
  test('a slur within the bow is kept', () => {
    expect(bow('(A4 B4 C5 D5) | (E5 D5 C5 B4) | A4/4', { tempo: 96, dynamic: 'p' })[0]!.changes.filter((change) => change.kind === 'split')).toEqual([]);
  });
  test('strokes hang together: each begins where the last one ended, except at a retake', () => {
    const { strokes } = bow('A4 (B4 C5) D5 | E5/2 r D5 | (C5 B4) A4/2')[0]!;
    strokes.forEach((stroke, i) => {
      const before = strokes[i - 1];
      if (before && !stroke.retake) expect(stroke.from).toBeCloseTo(before.to, 9);
      expect(stroke.from).toBeGreaterThanOrEqual(0);
      expect(stroke.to).toBeLessThanOrEqual(1);
      expect(stroke.to > stroke.from).toBe(stroke.direction === 'down');
      expect(stroke.cm).toBeCloseTo(Math.abs(stroke.to - stroke.from) * HAIR_CM.violin, 6);
      expect(stroke.cmPerS).toBeCloseTo(stroke.cm / stroke.seconds, 6);
    });
  });
  test('preferred length: 34 cm/s at mf for 0.6 s is 20.4 cm; doubling the speed is +6.02 dB (Schelleng 1973)', () => {
    expect(preferredLengthCm(34, 1, 0.6, 65)).toBeCloseTo(20.4, 10);
    expect(preferredLengthCm(34, 1, 10, 65)).toBeCloseTo(58.5, 10);
    expect(speedStepDb(30, 60)).toBeCloseTo(6.0206, 4);
  });
});

describe('locks', () => {
  const music = 'A4 B4 C5 D5 | E5 D5 C5 B4 | A4/4';
  const { part } = makeScore('violin', music);
  const lock = (note: number, kind: 'bow' | 'retake' | 'hook', value: string): Marking => ({
    [markKey(part.notes[note]!.id, kind)]: { value, origin: 'coach' },
  });

  test('a bow the coach marked stays', () => {
    expect(ways(music, {}, lock(0, 'bow', 'up'))[0]).toBe('u');
    const best = bow(music, {}, lock(4, 'bow', 'up'))[0]!;
    expect(best.strokes[4]!.direction).toBe('up');
  });
  test('a marked hook and a marked retake are in the plan', () => {
    expect(bow(music, {}, lock(3, 'hook', 'yes'))[0]!.strokes[3]!.hooked).toBe(true);
    expect(bow(music, {}, lock(4, 'retake', 'yes'))[0]!.strokes[4]!.retake).toBe(true);
  });
  test('a split that the coach wrote makes two strokes of one slur', () => {
    const slurred = '(A4 B4 C5 D5) | E5/4';
    const { part: other } = makeScore('violin', slurred);
    const marking: Marking = { [markKey(other.notes[2]!.id, 'slur')]: { value: 'split', origin: 'coach' } };
    expect(bow(slurred, {}, marking)[0]!.strokes.map((stroke) => stroke.noteIds.length)).toEqual([2, 2, 1]);
  });
});

test('pizzicato has no bow', () => {
  expect(bow('A4 B4 C5 D5 | E5 D5 C5 B4', { words: [{ quarter: 0, text: 'pizz.' }] })).toEqual([]);
  expect(
    bow('A4 B4 C5 D5 | E5 D5 C5 B4', {
      words: [
        { quarter: 0, text: 'pizz.' },
        { quarter: 4, text: 'arco' },
      ],
    })[0]!.strokes,
  ).toHaveLength(4);
});

test('alternatives are different bowings', () => {
  const plans = bow('A4/2 B4 | C5/2 D5 | E5/2 D5 | C5/3', { beats: 3 });
  expect(plans.length).toBeGreaterThan(1);
  expect(new Set(plans.map((plan) => plan.strokes.map((stroke) => stroke.direction + stroke.noteIds[0]).join())).size).toBe(plans.length);
});
