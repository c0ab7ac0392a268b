/**
 * What the tables of the bow come to in the smallest music that asks for them: what a stroke wants, what a direction costs it, and
 * what it costs to come from one stroke to the next. Whoever changes a table sees here what it changes.
 */
import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import { markKey, type Mark } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';
import type { DynamicLevel, InstrumentKind } from '../score/score';
import { atomsOf, type Atom } from './atoms';
import { usualBow } from './bow';
import { changeCost, driftCost, driftWeight, hookCost, loudnessCost, placeCost, retakePrice } from './costs';
import { strokeSpan } from './stroke';
import { BOW_COSTS } from './tables';

type Marks = ReadonlyArray<readonly [note: number, kind: MarkKind, value: string]>;

function atoms(music: string, options: MakeOptions = {}, marks: Marks = []): Atom[] {
  const { part } = makeScore('violin', music, options);
  const marking = Object.fromEntries(marks.map(([note, kind, value]): [string, Mark] => [markKey(part.notes[note]!.id, kind), { value, origin: 'coach' }]));
  return atomsOf(part, firstLine(part), clockFor(part, null), marking);
}

const span = (of: readonly Atom[], from = 0, to = from, kind: InstrumentKind = 'violin') => strokeSpan(of, from, to, usualBow(kind), BOW_COSTS);
const round = (value: number): number => Math.round(value * 1000) / 1000;

/** cm at .6 s, where the table is read; shares of the bow from the frog. */
test.each<[DynamicLevel, number[]]>([
  ['ppp', [7.2, 2.4, 21.6, 12, 0.7]],
  ['pp', [8.4, 2.4, 24, 14, 0.68]],
  ['p', [12, 3.6, 36, 20, 0.6]],
  ['mp', [15.6, 4.2, 48, 26, 0.55]],
  ['mf', [20.4, 4.8, 60, 34, 0.5]],
  ['f', [27, 6.3, 78, 45, 0.45]],
  ['ff', [34.8, 7.8, 96, 58, 0.42]],
  ['fff', [38.4, 9, 102, 64, 0.42]],
])('%s: length wanted, least and most, speed, home', (dynamic, expected) => {
  const { preferredCm, leastCm, mostCm, wantedSpeed, home } = span(atoms('A4/1 B4/1', { tempo: 100, dynamic }), 1);
  expect([preferredCm, leastCm, mostCm, wantedSpeed, home].map(round)).toEqual(expected);
});

describe('strokes', () => {
  test.each([
    ['détaché', 'A4/1', [0.6, 20.4, 34], null, false],
    ['staccato', 'A4./1', [0.3, 8.491, 23.8], null, false],
    ['tenuto', 'A4-/1', [0.6, 21.42, 35.7], null, false],
    ['accent', 'A4!/1', [0.57, 25.519, 44.2], { from: 0, to: 0.4 }, true],
    ['legato', '(A4/.5 B4/.5)', [0.6, 17.34, 28.9], null, false],
    ['portato', '(A4./.5 B4./.5)', [0.6, 15.3, 25.5], null, false],
    ['chord', 'G3+D4+B4/1', [0.57, 24.538, 42.5], { from: 0, to: 0.25 }, true],
  ])('%s: seconds that sound, cm, speed, place', (kind, music, figures, zone, zoneAtStart) => {
    const line = atoms(`r/1 ${music}`, { tempo: 100 });
    const { seconds, preferredCm, wantedSpeed, ...rest } = span(line, 0, line.length - 1);
    expect([seconds, preferredCm, wantedSpeed].map(round)).toEqual(figures);
    expect(rest).toMatchObject({ kind, zone, zoneAtStart });
  });
  test.each([
    ['martelé', [0.3, 18.195, 51], { from: 0.55, to: 0.95 }],
    ['spiccato', [0.36, 6, 14.669], { from: 0.25, to: 0.5 }],
    ['tremolo', [0.6, 9.18, 15.3], { from: 0.5, to: 0.8 }],
    ['détaché', [0.6, 20.4, 34], null],
    ['legato', [0.6, 17.34, 28.9], null],
  ])('%s, wished', (kind, figures, zone) => {
    const { seconds, preferredCm, wantedSpeed, ...rest } = span(atoms('r/1 A4/1', { tempo: 100 }, [[0, 'stroke', kind]]));
    expect([seconds, preferredCm, wantedSpeed].map(round)).toEqual(figures);
    expect(rest).toMatchObject({ kind, zone });
  });
  test('nine tenths of the hair at most, which is shorter on lower instruments', () => {
    const longest = (kind: InstrumentKind) => round(span(atoms('A4/4', { tempo: 30 }), 0, 0, kind).preferredCm);
    expect((['violin', 'viola', 'cello', 'bass'] as const).map(longest)).toEqual([58.5, 57.6, 54, 49.5]);
  });
  test.each([
    ['little', 7.8],
    ['half', 32.5],
    ['whole', 59.8],
    ['12 cm', 12],
  ])('%s of the bow', (amount, cm) => expect(round(span(atoms('A4/1', {}, [[0, 'bow-amount', amount]])).preferredCm)).toBe(cm));
  test.each<[string, DynamicLevel, number[]]>([
    ['flowing', 'p', [15.6, 3.6, 26]],
    ['flowing', 'mf', [22.44, 4.8, 37.4]],
    ['held', 'p', [7.2, 2.16, 12]],
    ['held', 'mf', [17.34, 4.08, 28.9]],
  ])('%s at %s: cm, least cm, speed', (school, dynamic, expected) => {
    const { preferredCm, leastCm, wantedSpeed } = span(atoms('A4/1', { dynamic, tempo: 100 }, [[0, 'sound-school', school]]));
    expect([preferredCm, leastCm, wantedSpeed].map(round)).toEqual(expected);
  });
});

const BAR = 'A4 B4 C5 D5 | E5 F5 G5 A5 | A4/4';

/** Down-bow, up-bow, and what is done to slurs. */
test.each<[string, string, [from: number, to: number], [down: number, up: number, slur: number], MakeOptions]>([
  ['a bar of two seconds', BAR, [4, 4], [0, 1, 0], { tempo: 120 }],
  ['a slow bar', BAR, [4, 4], [0, 1.2, 0], { tempo: 60 }],
  ['a quick bar', 'A4 B4 C5 | E5 F5 G5 | A4/3', [3, 3], [0, 0.45, 0], { tempo: 200, beats: 3 }],
  ['a very quick bar', 'A4 B4 | E5 F5 | A4 B4', [2, 2], [0, 0.35, 0], { tempo: 220, beats: 2 }],
  ['one bow that fills the bar', 'A4 B4 C5 D5 | E5/4 | A4/4', [4, 4], [0, 0.4, 0], { tempo: 120 }],
  ['the first bow, on the bar', BAR, [0, 0], [0, 2.2, 0], { tempo: 120 }],
  ['the middle of the bar', BAR, [2, 2], [0, 0.2, 0], { tempo: 120 }],
  ['another beat', BAR, [1, 1], [0, 0, 0], { tempo: 120 }],
  ['an accent', 'A4 B4! C5 D5 | E5/4', [1, 1], [0, 1.2, 0], { tempo: 120 }],
  ['an accent of .375 s', 'A4 B4! C5 D5 | E5/4', [1, 1], [0, 0.6, 0], { tempo: 160 }],
  ['an accent of a quarter of a second', 'A4 B4! C5 D5 | E5/4', [1, 1], [0, 0, 0], { tempo: 240 }],
  ['a chord of three', 'A4 G3+D4+B4 C5 D5 | E5/4', [1, 1], [0, 2.2, 0], { tempo: 120 }],
  ['the last bow', 'A4 B4 C5 D5', [3, 3], [0, 0.8, 0], { tempo: 60 }],
  ['a last bow of half a second', 'A4 B4 C5 D5', [3, 3], [0, 0.218, 0], { tempo: 120 }],
  ['the last of running notes', 'A4 B4 C5 D5', [3, 3], [0, 0, 0], { tempo: 180 }],
  ['an upbeat', 'A4 | B4 C5 D5 E5', [0, 0], [0.8, 0, 0], { tempo: 120, pickupQuarters: 1 }],
  ['a slur cut at the bar', 'A4 B4 (C5 D5 | E5 F5) G5 A5', [4, 5], [0, 0.36, 3], {}],
  ['in the middle of the bar', '(A4 B4 C5 D5) | A4/4', [2, 3], [0, 0.2, 3.6], {}],
  ['on another beat', '(A4 B4 C5 D5) | A4/4', [1, 3], [0, 0, 4.2], {}],
  ['off the beat', '(A4/.5 B4/.5 C5/.5 D5/.5) A4/2', [1, 3], [0, 0, 6], {}],
  ['its last note cut off', '(A4 B4 C5 D5) | A4/4', [3, 3], [0, 0, 5], {}],
  ['two notes joined', 'A4 B4 C5 D5', [1, 2], [0, 0, 1.6], {}],
])('%s', (_, music, [from, to], expected, options) => {
  const { downCost, upCost, slurCost } = span(atoms(music, options), from, to);
  expect([downCost, upCost, slurCost].map(round)).toEqual(expected);
});

describe('what leans a bow one way', () => {
  const between = atoms('A4 B4 C5 D5 | E5/4', { tempo: 120 });
  const leaning = (change: Partial<Atom>): number[] => {
    const { downCost, upCost } = span([between[0]!, { ...between[1]!, ...change }, ...between.slice(2)], 1);
    return [downCost, upCost].map(round);
  };
  test.each<[string, Partial<Atom>, [down: number, up: number]]>([
    ['nothing', {}, [0, 0]],
    ['a crescendo', { hairpin: 'crescendo' }, [0.4, 0]],
    ['a diminuendo', { hairpin: 'diminuendo' }, [0, 0.3]],
    ['portato', { kind: 'portato' }, [0.2, 0]],
    ['two notes are no chord', { notes: 2 }, [0, 0]],
    ['outside motion down-bow', { outside: 'down' }, [0, 0.02]],
    ['outside motion up-bow', { outside: 'up' }, [0.02, 0]],
    ['a repeat that wants to begin down', { jumpsTo: 'down' }, [1, 0]],
    ['a repeat that wants to begin up', { jumpsTo: 'up' }, [0, 1]],
    ['the same music down-bow elsewhere', { alike: { direction: 'down', weight: 1 } as Atom['alike'] }, [0, 0.7]],
  ])('%s', (_, change, expected) => expect(leaning(change)).toEqual(expected));
  test('a mark leaves no choice', () => {
    expect(leaning({ lock: 'down' })[1]).toBeGreaterThan(100);
    expect(leaning({ lock: 'up' })[0]).toBeGreaterThan(100);
  });
});

interface Between {
  hook: [down: number, up: number];
  change: number;
  /** Over no distance, half of the bow, all of it; and a fifth of it beside a slur. */
  retake: [number, number, number, number];
}

/** From the first stroke to the second. */
test.each<[string, string, [last: number, next: number], Between, MakeOptions, Marks]>([
  ['off the beat', 'A4/.5 B4/.5 C5 D5 E5', [0, 1], { hook: [1, 0.8], change: 0, retake: [1.4, 6.2, 8.12, 5.648] }, {}, []],
  ['on the beat', 'A4 B4 C5 D5', [0, 1], { hook: [1.5, 1.3], change: 0, retake: [1.4, 1.4, 4.76, 2] }, {}, []],
  ['over the bar', 'A4 B4 C5 D5 | A4/4', [3, 4], { hook: [1.5, 1.5], change: 0, retake: [1.4, 1.4, 4.76, 2] }, {}, []],
  ['with dots', 'A4./.5 B4./.5 C5 D5 E5', [0, 1], { hook: [0.4, 0.2], change: 0, retake: [1.4, 6.2, 8.12, 5.648] }, {}, []],
  ['a dotted rhythm', 'A4/.75 B4/.25 A4/.75 B4/.25 C5 D5', [0, 1], { hook: [0.1, 0.1], change: 0.3, retake: [1.4, 4.6, 5.88, 2] }, {}, []],
  ['one too slow to be heard as one', 'A4/1.5 B4/.5 C5 D5', [0, 1], { hook: [0.1, 0.1], change: 0, retake: [1.4, 1.4, 1.4, 2] }, { tempo: 60 }, []],
  ['one of exactly 1.2 s is too slow', 'A4/1.5 B4/.5 C5 D5', [0, 1], { hook: [0.1, 0.1], change: 0, retake: [1.4, 1.4, 1.4, 2] }, { tempo: 75 }, []],
  ['no time to stop', 'A4/.25 B4/.25 C5/.5 D5 E5 F5', [0, 1], { hook: [2, 1.8], change: 0, retake: [7.16, 11, 14.84, 9.296] }, {}, []],
  [
    'down twice as marked',
    'A4/.5 B4/.5 C5 D5 E5',
    [0, 1],
    { hook: [2.2, 0.8], change: 0, retake: [0.3, 5.1, 7.02, 3.948] },
    {},
    [
      [0, 'bow', 'down'],
      [1, 'bow', 'down'],
    ],
  ],
  ['after a rest', 'A4/.5 r/.5 C5 D5 E5', [0, 1], { hook: [1.5, 1.3], change: 0, retake: [0.15, 0.15, 0.15, 2] }, {}, []],
  [
    'long and short again and again',
    'A4/1 B4/.5 A4/1 B4/.5 A4/1 B4/.5',
    [0, 1],
    { hook: [1.5, 1.3], change: 0, retake: [1.4, 1.4, 4.76, 2] },
    { beats: 6, beatType: 8 },
    [],
  ],
])('from one to the next: %s', (_, music, [last, next], expected, options, marks) => {
  const line = atoms(music, { tempo: 96, ...options }, marks);
  const [before, after] = [span(line, last), span(line, next)];
  const [lastAtom, atom] = [line[last]!, line[next]!];
  const inRest = atom.silenceS >= 0.12;
  expect({
    hook: hookCost(before, after, lastAtom, atom, BOW_COSTS).map(round),
    change: round(changeCost(before, after, line, BOW_COSTS)),
    retake: [...[0, 0.5, 1].map((way) => retakePrice(way, inRest, lastAtom, atom, BOW_COSTS)), retakePrice(0.2, false, lastAtom, atom, BOW_COSTS, true)].map(
      round,
    ),
  }).toEqual(expected);
});

test('a figure that comes again drifts where its times are alike within 2 %, and from 1.4 to 1 on; its lengths are charged against each other', () => {
  const row = atoms('A4/1 B4/.5 A4/1 B4/.5 A4/1 B4/.5', { tempo: 96, beats: 6, beatType: 8 });
  const drawnOut = (by: number) => row.map((atom, i) => (i === 2 ? { ...atom, seconds: atom.seconds * by } : atom));
  const drift = (line: readonly Atom[], at = 0) => round(driftWeight(span(line, at), span(line, at + 1), line, BOW_COSTS));
  expect([drift(row), drift(drawnOut(1.015)), drift(drawnOut(1.03)), drift(row, 1)]).toEqual([2.1, 2.1, 0, 0]);
  expect([driftCost(2, 10, 20), driftCost(2, 20, 10), driftCost(2, 15, 15)]).toEqual([2, 2, 0]);
  const nearly = atoms('A4/.7 B4/.5 A4/.7 B4/.5 A4/.7 B4/.5', { tempo: 96, beats: 6, beatType: 8 });
  expect(drift(nearly)).toBe(2.1);
});

test('a bar bowed otherwise than the same bar beside it costs for every stroke that begins otherwise', () => {
  const line = atoms('A4 B4 C5 D5').map((atom, i) =>
    i === 1 ? { ...atom, beside: 'change' as const } : i === 2 ? { ...atom, beside: 'none' as const } : atom,
  );
  const [before, after] = [span(line, 0), span(line, 1)];
  const { unlikeBeside } = BOW_COSTS;
  expect(changeCost(before, after, line, BOW_COSTS)).toBe(0);
  expect(hookCost(before, after, line[0]!, line[1]!, BOW_COSTS)[1]).toBeCloseTo(
    hookCost(before, after, line[0]!, { ...line[1]!, beside: null }, BOW_COSTS)[1] + unlikeBeside,
    9,
  );
  expect(retakePrice(0, false, line[0]!, line[1]!, BOW_COSTS)).toBeCloseTo(BOW_COSTS.retake + unlikeBeside, 9);
  expect(span(line, 2).slurCost).toBe(unlikeBeside);
  expect(round(span(line, 0, 1).slurCost)).toBe(round(BOW_COSTS.join + unlikeBeside));
});

test('the less bow a slur needs, the dearer it is to cut it', () => {
  const cut = (share: number) =>
    round(
      span(
        atoms('(A4/.5 B4/.5 C5/.5 D5/.5) A4/2').map((atom) => ({ ...atom, slurShare: share })),
        1,
        3,
      ).slurCost,
    );
  expect([cut(0), cut(0.45), cut(0.9), cut(2)]).toEqual([6, 4, 2, 2]);
});

test('beside a slur a hook is dear', () => {
  const line = atoms('(A4/.5 B4/.5) C5 D5 E5');
  expect(hookCost(span(line, 0, 1), span(line, 2), line[1]!, line[2]!, BOW_COSTS)).toEqual([1.4, 1.4]);
});

describe('where a stroke lies', () => {
  const cost = (of: readonly Atom[], ways: ReadonlyArray<[from: number, to: number]>) => {
    const stroke = span(of, 1);
    return ways.map(([from, to]) => round(placeCost(stroke, from, to, 65, BOW_COSTS)));
  };
  const line = (music: string, marks: Marks = []) => atoms(music, { tempo: 100 }, marks);
  test('away from home, too little, too much, hardly any', () => {
    const ways: Array<[number, number]> = [
      [0.3, 0.7],
      [0.5, 0.9],
      [0.1, 0.2],
      [0, 1],
      [0.45, 0.5],
    ];
    expect(cost(line('A4 B4'), ways)).toEqual([0.086, 0.164, 2.146, 4.299, 8.199]);
  });
  test('an accent begins in the lower half', () =>
    expect(
      cost(line('A4! B4!'), [
        [0.3, 0.7],
        [0.5, 0.9],
        [0, 0.4],
      ]),
    ).toEqual([0.001, 0.163, 0.177]));
  test('a wished part of the bow, and a wished length', () => {
    expect(
      cost(line('A4 B4', [[1, 'bow-zone', 'tip']]), [
        [0.3, 0.7],
        [0.5, 0.9],
        [0.7, 1],
      ]),
    ).toEqual([54.686, 20.666, 3.783]);
    expect(
      cost(line('A4 B4', [[1, 'bow-amount', '12 cm']]), [
        [0.3, 0.7],
        [0.4, 0.58],
      ]),
    ).toEqual([3.484, 0.004]);
  });
  test('twice and four times the bow in the same time: 6 and 12 dB, 2 of which are free', () => {
    const stroke = span(line('A4 B4'), 1);
    expect([10, 20, 40].map((cm) => round(loudnessCost(stroke, 10, stroke, cm, 0.6)))).toEqual([0, 0.269, 1.68]);
  });
});
