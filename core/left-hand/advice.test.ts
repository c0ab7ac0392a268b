import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import type { InstrumentKind } from '../score/score';
import { instrumentOf } from '../instruments/instrument';
import { fingerName, handMeasured, handOf, usualPlayer, type Player } from '../instruments/player';
import { markKey, type Mark } from '../marking/mark';
import { handAdvice, type AdviceKind } from './advice';
import { planFingering } from './fingering';
import { comparedHands, HANDS_CAUTION } from './for-whom';
import { frameAt } from './frame';

interface Asked extends MakeOptions {
  /** Finger and string by the ordinal of the note: "1/2" is the first finger on the second string. */
  marks?: Record<number, string>;
}

function planned(kind: InstrumentKind, music: string, { marks = {}, ...options }: Asked = {}) {
  const { score, part } = makeScore(kind, music, { length: 0.5, ...options });
  const marking: Record<string, Mark> = {};
  for (const [i, mark] of Object.entries(marks)) {
    const [finger, string] = mark.split('/');
    const { id } = part.notes[Number(i)]!;
    if (finger) marking[markKey(id, 'finger')] = { value: finger, origin: 'coach' };
    if (string) marking[markKey(id, 'string')] = { value: string, origin: 'coach' };
  }
  const request = { score, part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking };
  const { alternatives, unlike } = planFingering({ ...request, alternatives: 1 });
  const way = alternatives[0]!;
  return { request, way, advice: handAdvice(request, way, unlike, 40, { from: 0, to: Infinity }) };
}
const of = (kind: AdviceKind, { advice }: ReturnType<typeof planned>) => advice.filter((each) => each.kind === kind);
const fingers = ({ way }: ReturnType<typeof planned>) => way.notes.map(({ place }) => fingerName(place.finger)).join('');

describe('one finger on two strings', () => {
  test('neighbouring notes', () => {
    const [found] = of('covered interval', planned('violin', 'E4 B4 E4 B4', { marks: { 0: '1/3', 1: '1/2' } }));
    expect(found!.text).toContain('Set 1 on D and A at once, for E4 and B4');
  });
  test('five notes apart, on the violin', () => {
    const result = planned('violin', 'B4 C5 D5 C5 D5 F#5', { marks: { 0: '1/2', 1: '2/2', 2: '3/2', 3: '2/2', 4: '3/2', 5: '1/1' } });
    expect(of('covered interval', result)[0]!.text).toContain('5 notes later');
  });
  test('five notes apart, a fourth on the bass', () => {
    const result = planned('bass', 'B1 C2 B1 C2 C#2 E2', { marks: { 2: '1/3', 4: '4/3', 5: '1/2' } });
    const texts = of('covered interval', result).map(({ text }) => text);
    expect(texts.some((text) => /Set 1 on A and D/.test(text))).toBe(true);
  });
  test('high up it is rocked across', () =>
    expect(of('covered interval', planned('violin', 'E6 B6', { marks: { 0: '3/2', 1: '3/1' } }))[0]!.text).toContain('rocked'));
});

describe('fingers down, set and strings damped', () => {
  test('a finger that comes back stays down', () => {
    const [found] = of('leave down', planned('violin', 'B4 E5 B4 E5 A4', { marks: { 0: '1/2', 1: '0/1' } }));
    expect(found!.text).toBe('Leave 1 down on A (B4): it comes back 2 notes later.');
    expect(of('leave down', planned('violin', 'B4 D5 B4 D5', { marks: { 0: '1/2', 1: '3/2' } }))).toEqual([]);
  });
  test('not where the finger is needed elsewhere, or lies above what is played', () => {
    expect(of('leave down', planned('violin', 'D5 B4 D5', { marks: { 0: '3/2', 1: '1/2' } }))).toEqual([]);
    expect(of('leave down', planned('violin', 'B4 F5 B4', { marks: { 0: '1/2', 1: '1/1' } }))).toEqual([]);
  });
  test('an octave leap that lies under one hand is set before it sounds', () => {
    const [found] = of('set before', planned('violin', 'r/2 A3 A4 A3 A4', { marks: { 0: '1/4', 1: '4/3' } }));
    expect(found!.text).toContain('Set 1 on G and 4 on D');
  });
  test('an open string of the cello is damped in the rest', () => {
    expect(of('damp', planned('cello', 'G2/1 r/3 A2/1'))[0]!.text).toBe('Damp the open G in the rest: it would ring through it.');
    expect(of('damp', planned('cello', 'G2/1 A2/1'))).toEqual([]);
  });
});

describe('where the hand moves', () => {
  test('in the rest, where there is one', () => {
    const { way } = planned('violin', 'B4 C5 D5 C5 r/2 D6 E6 F6 D6');
    expect(way.notes.find((note) => note.shift)!.shift!.heard).toBe('in a rest');
  });
  test('on the open string', () => {
    const { way } = planned('violin', 'F#5 G5 A5 E5 D6 E6 F#6 G6 F#6 E6', { fifths: 1 });
    const shift = way.notes.find((note) => note.shift);
    expect(shift!.shift!.heard).toBe('across an open string');
  });
  test('a bar early, where the shift at the high note comes too late', () => {
    const music = 'D5 E5 F5 F5 | A5 A5 G#6 G#6 | G#6 F6 F6 D#6';
    const late = planned('violin', music, { length: 0.25, tempo: 100, beats: 1 });
    const [found] = of('move early', late);
    expect(found!.text).toMatch(/^Move \d notes early, with \d on D at F5 in bar 1: the hand then has \d\.\d\d s for it instead of \d\.\d\d s\.$/);
    const { noteId, finger, string } = found!.take!;
    const i = late.request.part.notes.findIndex((note) => note.id === noteId);
    // Taken, the hardest shift is as much easier as was said.
    const early = planned('violin', music, { length: 0.25, tempo: 100, beats: 1, marks: { [i]: `${finger}/${string}` } });
    const hardest = ({ way }: typeof early) => Math.max(...way.notes.map((note) => note.shift?.bitsPerS ?? 0));
    expect(hardest(early)).toBeLessThan(hardest(late) * 0.75);
  });
  test('a harmonic in the middle of the string carries the hand a long way', () => {
    const { way } = planned('cello', 'B3 C4 B3 A4*/2 r/0.5 D5 E5 F#5', { fifths: 2, marks: { 3: '/1' } });
    expect(way.notes[3]!.place.harmonic).toBe(2);
    expect(way.notes[3]!.place.stop).toBe(12);
    expect(way.notes.slice(4).every(({ place }) => (place.hand ?? 0) >= 10)).toBe(true);
  });
});

test('the same fingers one string higher are pointed out', () => {
  const result = planned('violin', 'A3 B3 C4 E4 F#4 G4', { fifths: 1 });
  expect(fingers(result)).toBe('123123');
  expect(of('same pattern', result)[0]!.text).toBe('The same fingers again, 1 2 3, one string higher, on D.');
});

describe('the hand frame', () => {
  test('in half and whole steps, the first finger at the nut, low and high fingers', () => {
    const { way, request } = planned('violin', 'Bb4 C5 D5 Eb5 D5', { fifths: -3 });
    const frame = frameAt(way, way.notes[2]!.id, request.player)!;
    expect(frame.position).toBe('first');
    expect(frame.words).toEqual([
      'On A: 1 close to the nut, 1 and 2 a whole step apart, 2 low, 2 and 3 a whole step apart, 3 and 4 touching, a half step, 4 low.',
    ]);
  });
  test('±10 cents are as many mm as they are at that stop', () => {
    const { way, request } = planned('violin', 'B4 C#5 D5', { fifths: 2 });
    const frame = frameAt(way, way.notes[0]!.id, request.player)!;
    // 5.92 cents a mm at stop 2 (models; physics of the string).
    expect(frame.fingers[0]!.toleranceMm).toBeCloseTo(20 / 5.92, 1);
  });
  test('an open string has no frame', () => {
    const { way, request } = planned('violin', 'A4 A4');
    expect(frameAt(way, way.notes[0]!.id, request.player)).toBeNull();
  });
});

describe('the same music for two players', () => {
  const player = (kind: InstrumentKind, size: string, hand: Player['hand'], name: string): Player => {
    const made = instrumentOf(kind, size);
    if (!made.ok) throw new Error(made.problem.what);
    return { ...usualPlayer(kind), name, instrument: { ...made.value, strings: usualPlayer('violin').instrument.strings }, hand };
  };
  test('a half-size violin in a small hand, and long fingers on a 16.5-inch viola tuned like it', () => {
    const { score, part } = makeScore('violin', 'B3+D5/2 C4+E5/2 A4 B4 C5 D5 E5 F#5 G5 A5', { length: 0.5, fifths: 1 });
    const question = { score, part, line: firstLine(part), clock: clockFor(part, null), marking: {} };
    const small = player('violin', '1/2', handMeasured({ comfortable: 62, greatest: 75 }), 'the half-size violin');
    const large = player('viola', '16.5"', handOf('large', 'viola'), 'the long hand');
    const { differing, decisive } = comparedHands(question, small, large);
    expect(differing.length).toBeGreaterThan(0);
    expect(decisive.length).toBeGreaterThan(0);
    for (const { noteIds, text } of decisive) {
      expect(noteIds.length).toBeGreaterThan(0);
      expect(text).toMatch(/mm|does not go to/);
    }
    expect(HANDS_CAUTION).toContain('no pain, ever');
  });
  test('two equal players have no differences', () => {
    const { score, part } = makeScore('violin', 'A4 B4 C5 D5 E5 F#5 G5 A5', { fifths: 1 });
    const question = { score, part, line: firstLine(part), clock: clockFor(part, null), marking: {} };
    expect(comparedHands(question, usualPlayer('violin'), usualPlayer('violin'))).toMatchObject({ differing: [], decisive: [] });
  });
});
