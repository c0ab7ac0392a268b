/**
 * Just below nothing, just above the finding: the tempi at which each kind begins to be watched, to be risked and to fail. Loads grow
 * with the tempo (that of one bow for a slur falls), so the tempi stand in the ratio of the thresholds of the table.
 */
import { makeScore, type MakeOptions } from '../testing/make';
import { LEVELS, usualPlayer, type Level } from '../instruments/player';
import type { InstrumentKind } from '../score/score';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '../score/time';
import { markKey, type Mark } from '../marking/mark';
import { DEFAULT_COSTS } from '../left-hand/costs';
import type { FingeredNote } from '../left-hand/fingering';
import { check } from './check';
import { tempiOf } from './tempi';
import type { FindingKind } from './numbers';
import { expectedError, type ToneSurroundings } from './intonation';
import { BOW_LOAD_FROM, PLUCK_LOAD_FROM, severityOf, TOLD, TRILL_LOAD_FROM, UNEVEN_DB_FROM, UNEVEN_FIGURE_DB_FROM, type Thresholds } from './tables';

interface Asked extends MakeOptions {
  kind?: InstrumentKind;
  level?: Level;
  /** Finger and string by note: "1/2". */
  fingers?: string;
  words?: Array<{ quarter: number; text: string }>;
}

function worst(of: FindingKind, music: string, tempo: number, { kind = 'violin', level = 'advanced', fingers, ...options }: Asked): number {
  const { part } = makeScore(kind, music, options);
  const marking: Record<string, Mark> = {};
  fingers?.split(' ').forEach((said, i) => {
    const [finger, string] = said.split('/') as [string, string];
    marking[markKey(part.notes[i]!.id, 'finger')] = { value: finger, origin: 'coach' };
    marking[markKey(part.notes[i]!.id, 'string')] = { value: string, origin: 'coach' };
  });
  const { findings } = check({ part, marking, player: { ...usualPlayer(kind), level }, tempo, passages: [] });
  return Math.max(0, ...findings.filter((finding) => finding.kind === of).map(({ severity }) => severity));
}

/** The tempo at which a severity begins, by halving; from the quick end where it is about too slow a tempo. */
function begins(severity: number, at: (tempo: number) => number, { slow = false, from = SLOWEST_TEMPO } = {}): number {
  let [low, high] = [from, FASTEST_TEMPO];
  for (let i = 0; i < 16; i++) {
    const middle = (low + high) / 2;
    if (at(middle) >= severity !== slow) high = middle;
    else low = middle;
  }
  return Math.round(high * 10) / 10;
}

/** Each note on the next string. */
const CROSSING = '1/3 2/2 '.repeat(6).trim();

const sixteenths = (notes: string) => `${notes} `.repeat(6);

test.each<[FindingKind, string, number[], Asked]>([
  // Four notes to the beat: 10 strokes a second at 150 (advanced), 7 crossings at 105.
  ['stroke too quick', sixteenths('A4/.25 B4/.25'), [150, 195, 255], {}],
  ['stroke too quick', sixteenths('A4/.25 B4/.25'), [60, 78, 102], { level: 'beginner' }],
  ['string change too quick', sixteenths('E4/.25 C5/.25'), [105, 136.5, 178.5], { fingers: CROSSING }],
  ['string change too quick', sixteenths('E4/.25 C5/.25'), [30, 39, 51], { level: 'beginner', fingers: CROSSING }],
])('%s: %#', (kind, music, tempi, asked) => {
  expect([1, 2, 3].map((severity) => begins(severity, (tempo) => worst(kind, music, tempo, asked)))).toEqual(tempi);
});

test('one bow for a long note: the slower, the more of it is needed', () => {
  // 8 quarters at mf: 8 cm/s at least in 480/T s, 65 cm of hair of which 95 % can be used.
  const at = (tempo: number) => worst('bow runs out', 'A4/8', tempo, {});
  expect([at(45), at(320)]).toEqual([2, 0]);
  const tempi = [1, 2, 3].map((severity) => begins(severity, at, { slow: true, from: 35 }));
  expect(tempi[0]).toBeCloseTo((480 * 8) / (65 * 0.95), 0);
  expect(tempi[0]! / tempi[1]!).toBeCloseTo(1.2, 1);
  expect(tempi[0]! / tempi[2]!).toBeCloseTo(1.6, 1);
});

test('a leap over a string in a slur wants .18 s', () => {
  const at = (tempo: number) => worst('string leap in a slur', '(F5/.5 B3/.5) r/1', tempo, { fingers: '1/1 2/4' });
  const first = begins(1, at);
  expect([begins(2, at) / first, begins(3, at) / first].map((ratio) => Math.round(ratio * 10) / 10)).toEqual([1.3, 1.7]);
});

test('to pluck wants .45 s: at once, in twice the time that is there, and four times', () => {
  const asked = { words: [{ quarter: 2, text: 'pizz.' }] };
  const at = (tempo: number) => worst('pizzicato change late', 'A4./1 A4./1 B4/1 C5/1', tempo, asked);
  const first = begins(1, at);
  expect(Math.round((begins(2, at) / first) * 10) / 10).toBe(2);
});

test.each([0.05, 0.15, 0.3])('a shift is late from its ceiling on, with %d s taken from the note before', (stolenSeconds) => {
  const { part } = makeScore('violin', 'B4/1 B5/1 B4/1 B5/1');
  const [fingers, strings] = [
    ['1', '3', '1', '3'],
    ['2', '2', '2', '2'],
  ];
  const marking = Object.fromEntries(
    part.notes.flatMap(({ id }, i): Array<[string, Mark]> => [
      [markKey(id, 'finger'), { value: fingers[i]!, origin: 'coach' }],
      [markKey(id, 'string'), { value: strings[i]!, origin: 'coach' }],
    ]),
  );
  const costs = { hand: { ...DEFAULT_COSTS, stolenSeconds } };
  const lateAt = (tempo: number) =>
    check({ part, marking, player: usualPlayer('violin'), tempo, passages: [], costs }).findings.filter(({ kind }) => kind === 'shift late');
  // The first tempo at which it is told of: not much quicker the same hand is planned.
  let tempo = 40;
  while (lateAt(tempo).length === 0) tempo += 4;
  const [found] = lateAt(tempo);
  const ceiling = found!.remedies.find((remedy) => remedy.tempo !== undefined)!.tempo!;
  const isLate = (tempo: number) => lateAt(tempo).some(({ id }) => id === found!.id);
  expect([isLate(ceiling), isLate(ceiling + 2)]).toEqual([false, true]);
});

test.each([
  [[1, 2, 3], 0.999, 0],
  [[1, 2, 3], 1, 1],
  [[1, 2, 3], 1.999, 1],
  [[1, 2, 3], 2, 2],
  [[1, 2, 3], 3, 3],
] as const)('thresholds %j at %d: %i', (thresholds, value, severity) => expect(severityOf(value, thresholds)).toBe(severity));

describe('what each cause adds, in cents, to a finger at the fifth stop', () => {
  const note = (finger: number, change: object = {}) =>
    ({ place: { finger, stop: 5, hand: 5, harmonic: null, extension: false, ...change }, shift: null }) as unknown as FingeredNote;
  const around: ToneSurroundings = { restBeforeS: 0, rings: false };
  const causes = (of: FingeredNote, surroundings: Partial<ToneSurroundings> = {}, level: Level = 'advanced') =>
    Object.fromEntries(
      Object.entries(expectedError(of, { ...usualPlayer('violin'), level }, { ...around, ...surroundings })!.causes).map(([cause, cents]) => [
        cause,
        Math.round(cents * 100) / 100,
      ]),
    );
  const placement = 5.79;
  test.each<[string, object, FingeredNote?, Partial<ToneSurroundings>?]>([
    ['placing it', { placement }],
    ['ringing, it is heard and mended', { placement: 4.06 }, note(2), { rings: true }],
    ['the fourth finger', { placement, 'fourth finger': 3.29 }, note(4)],
    ['an extension', { placement, extension: 2.9 }, note(2, { extension: true })],
    ['after a rest of 1.5 s above first position', { placement, 'cold entry': 6.48 }, note(2), { restBeforeS: 1.5 }],
    ['a shorter one', { placement }, note(2), { restBeforeS: 1.49 }],
    ['in first position the hand knows', { placement }, note(2, { hand: 2 }), { restBeforeS: 9 }],
    ['stretched to the limit', { placement, stretch: 3.48 }, note(2), { stretch: 1 }],
    ['beyond it', { placement, stretch: 6.95 }, note(2), { stretch: 3 }],
    ['held with what does not blend', { placement, 'dissonant stop': 2.9 }, note(2), { dissonant: true }],
    ['just drawn half a step', { placement, 'changed frame': 7.53 }, note(2), { frameChanged: true }],
    ['a diminished fifth across', { placement, 'diminished fifth': 4.63 }, note(2), { closeFingers: true }],
  ])('%s', (...[, expected, of = note(2), surroundings = {}]) => expect(causes(of, surroundings)).toEqual(expected));
  test('by level, and what each minds', () => {
    expect(LEVELS.map((level) => causes(note(2), {}, level).placement)).toEqual([18.29, 10.37, 5.79, 3.66]);
    expect(LEVELS.map((level) => expectedError(note(2), { ...usualPlayer('violin'), level }, around)!.toleranceCents)).toEqual([30, 22, 15, 10]);
    const shifted = { ...note(2), shift: { mm: 50, gapMs: 100 } } as unknown as FingeredNote;
    expect(LEVELS.map((level) => causes(shifted, {}, level).shift)).toEqual([31.7, 17.61, 10.57, 6.34]);
  });
});

/** What is told of, to be watched, and what will fail: just below and at each threshold (judgement). */
test.each<[string, Thresholds, [number, number, number]]>([
  ['needed over available bow', BOW_LOAD_FROM, [1, 1.2, 1.6]],
  ['time to pluck', PLUCK_LOAD_FROM, [1, 2, 4]],
  ['a trill against the level', TRILL_LOAD_FROM, [1, 1.3, 1.7]],
  ['an uneven pair, dB', UNEVEN_DB_FROM, [6, 9, 12]],
  ['an uneven figure, dB', UNEVEN_FIGURE_DB_FROM, [4, 9, 12]],
  ['told of whatever it is', TOLD, [1, 2, 3]],
])('%s', (_, table, from) => {
  expect(from.flatMap((value) => [severityOf(value - 0.01, table), severityOf(value, table)])).toEqual([0, 1, 1, 2, 2, 3]);
});

describe('a tempo that there is not', () => {
  const beginner = { ...usualPlayer('violin'), level: 'beginner' as const };
  const range = (music: string) => {
    const { part } = makeScore('violin', music);
    return check({ part, marking: {}, player: beginner, tempo: 60, passages: [{ name: 'all', fromBar: 0, toBar: part.bars.length - 1 }] });
  };
  test('something cannot be played: no ceiling, and that decides', () => {
    const { tempo, passages } = range(`C2/4 ${sixteenths('A4/.25 B4/.25')}`);
    expect(tempo).toMatchObject({ ceiling: null, none: 'unplayable', limitedBy: { kind: 'unplayable', barIndex: 0 }, next: { kind: 'stroke too quick' } });
    expect(passages[0]).toMatchObject({ ceiling: null, none: 'unplayable' });
  });
  test.each([
    [90, 80, 'too slow and too quick'],
    [80, 80, null],
    [80, 90, null],
  ])('slurs from %i on, strokes up to %i: %s', (floor, ceiling, none) => {
    const { part } = makeScore('violin', 'A4/4 B4/4');
    const at = (kind: FindingKind, tempo: number, barIndex: number) => ({ kind, tempo, barIndex, beat: 1, noteIds: [part.notes[barIndex]!.id] });
    const asked = { part, marking: {}, player: beginner, tempo: 60, passages: [{ name: 'first', fromBar: 0, toBar: 0 }] };
    const { tempo, passages } = tempiOf(asked, 60, [{ limits: [at('bow runs out', floor, 0), at('stroke too quick', ceiling, 1)], findings: [] }]);
    expect(tempo).toMatchObject({ floor, ceiling, none, limitedBy: { kind: 'stroke too quick' } });
    expect(passages[0]).toMatchObject({ floor, ceiling: null, none: null });
  });
  test('a tempo that there is', () => expect(range('A4/1 B4/1 C5/1 D5/1').tempo.none).toBeNull());
});
