import { DYNAMIC_LEVELS } from '../score/dynamics';
import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore, TICKS } from '../testing/make';
import { demoScore, DEMO_NAMES } from '../../tests/support/demo';
import { linesOf } from '../instruments/lines';
import { clockFor } from '../score/time';
import { usualPlayer } from '../instruments/player';
import { markKey, type Mark } from '../marking/mark';
import { loudnessOf } from '../score/loudness';

import { pizzicatoAt } from '../score/techniques';
import { atomsOf } from './atoms';
import { planBowing } from './bowing';
import type { Bowing } from './describe';
import { bowMarksWorthWriting } from './worth-writing';
import { usualBow } from './bow';
import { bowingNumbers } from './reasons';
import { preferredLengthCm, zoneName } from './stroke';
import { DYNAMICS, HAIR_CM, retakeSeconds, STROKES } from './tables';

const LEVELS = DYNAMIC_LEVELS;
const phrase = fc.record({
  notes: fc.array(
    fc.record({
      pitch: fc.constantFrom('A4', 'B4', 'C5', 'D5'),
      sign: fc.constantFrom('', '!', '.', '-'),
      length: fc.constantFrom('/0.5', '/1', '/2', '/0.75', '/0.25'),
      rest: fc.boolean(),
    }),
    { minLength: 3, maxLength: 14 },
  ),
  slurs: fc.array(fc.nat({ max: 12 }), { maxLength: 3 }),
  locks: fc.array(fc.record({ note: fc.nat({ max: 13 }), kind: fc.constantFrom('bow', 'hook', 'retake'), down: fc.boolean() }), { maxLength: 4 }),
  tempo: fc.integer({ min: 40, max: 160 }),
  dynamic: fc.constantFrom(...LEVELS),
});

function planned({ notes, slurs, locks, tempo, dynamic }: typeof phrase extends fc.Arbitrary<infer T> ? T : never) {
  const open = new Set(slurs);
  const music = notes.map(({ pitch, sign, length, rest }, i) => {
    const begins = open.has(i) && i + 1 < notes.length && !open.has(i - 1);
    const ends = open.has(i - 1) && !open.has(i - 2) && i > 0;
    return `${begins ? '(' : ''}${pitch}${sign}${length}${ends ? ')' : ''}${rest && !begins ? ' r/1' : ''}`;
  });
  const { part } = makeScore('violin', music.join(' '), { tempo, dynamic });
  const marking: Record<string, Mark> = {};
  for (const { note, kind, down } of locks) {
    const target = part.notes[note];
    if (target && note > 0) marking[markKey(target.id, kind as 'bow')] = { value: kind === 'bow' ? (down ? 'down' : 'up') : 'yes', origin: 'coach' };
  }
  return {
    part,
    marking,
    plans: planBowing({ part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null), marking }),
  };
}

describe('whatever is planned', () => {
  test('every note has exactly one stroke, in order, on the bow, in the direction it says', () => {
    fc.assert(
      fc.property(phrase, (asked) => {
        const { part, plans } = planned(asked);
        for (const plan of plans) {
          expect(plan.strokes.flatMap((stroke) => stroke.noteIds)).toEqual(part.notes.map((note) => note.id));
          for (const stroke of plan.strokes) {
            expect(Math.min(stroke.from, stroke.to)).toBeGreaterThanOrEqual(0);
            expect(Math.max(stroke.from, stroke.to)).toBeLessThanOrEqual(1);
            expect(stroke.to > stroke.from).toBe(stroke.direction === 'down');
          }
        }
      }),
      { numRuns: runs(40) },
    );
  });
  test('a marked direction is kept in every plan that is offered first', () => {
    fc.assert(
      fc.property(phrase, (asked) => {
        const only = { ...asked, locks: asked.locks.filter((lock) => lock.kind === 'bow') };
        const { plans, marking } = planned(only);
        for (const stroke of plans[0]!.strokes) {
          const mark = marking[markKey(stroke.noteIds[0]!, 'bow')];
          if (mark) expect(stroke.direction).toBe(mark.value);
        }
      }),
      { numRuns: runs(40) },
    );
  });
  test('the bow alternates, hooks or is taken again: nothing else', () => {
    fc.assert(
      fc.property(phrase, (asked) => {
        for (const plan of planned({ ...asked, locks: [] }).plans) {
          plan.strokes.forEach((stroke, i) => {
            const before = plan.strokes[i - 1];
            if (!before) return;
            if (stroke.direction === before.direction) expect(stroke.hooked || stroke.retake).toBe(true);
            if (!stroke.retake) expect(stroke.from).toBeCloseTo(before.to, 9);
          });
        }
      }),
      { numRuns: runs(40) },
    );
  });
});

describe('stroke lengths', () => {
  test('more bow for louder, none longer than nine tenths of the hair', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 8, noNaN: true }), fc.constantFrom(...Object.values(HAIR_CM)), (seconds, hair) => {
        const lengths = LEVELS.map((level) => preferredLengthCm(DYNAMICS[level].preferred, 1, seconds, hair));
        expect([...lengths].sort((a, b) => a - b)).toEqual(lengths);
        expect(lengths.at(-1)!).toBeLessThanOrEqual(0.9 * hair + 1e-9);
      }),
    );
  });
  test('the table of dynamics is in order: slowest, preferred, fastest; louder nearer to the frog', () => {
    for (const level of LEVELS) expect(DYNAMICS[level].slowest < DYNAMICS[level].preferred && DYNAMICS[level].preferred < DYNAMICS[level].fastest).toBe(true);
    const homes = LEVELS.map((level) => DYNAMICS[level].home);
    expect([...homes].sort((a, b) => b - a)).toEqual(homes);
    expect(STROKES.accent.speed).toBeGreaterThan(STROKES.portato.speed);
  });
  test('a retake over the whole bow takes .35 s (from memory)', () => expect(retakeSeconds(1)).toBeCloseTo(0.35));
  test.each([
    [0, 0.1, 'frog'],
    [0.1, 0.4, 'lower half'],
    [0.4, 0.6, 'middle'],
    [0.6, 0.9, 'upper half'],
    [0.9, 1, 'tip'],
    [0.05, 0.95, 'whole bow'],
  ])('%d to %d is the %s', (from, to, zone) => expect(zoneName(from, to)).toBe(zone));
});

describe('what the music asks', () => {
  test('dynamics hold until the next; pizzicato until arco', () => {
    const { part } = makeScore('violin', 'A4 A4 A4 A4');
    part.dynamics = [
      { tick: 0, text: 'p', level: 'p' },
      { tick: 2 * TICKS, text: 'f', level: 'f' },
    ];
    const { levelAt } = loudnessOf(part);
    expect([levelAt(0), levelAt(2 * TICKS - 1), levelAt(2 * TICKS)]).toEqual(['p', 'p', 'f']);
    const { part: plucked } = makeScore('violin', 'A4 A4 A4 A4', {
      words: [
        { quarter: 1, text: 'pizz.' },
        { quarter: 3, text: 'arco' },
      ],
    });
    expect([0, 1, 2, 3].map((quarter) => pizzicatoAt(plucked)(quarter * TICKS))).toEqual([false, true, true, false]);
  });
  test('atoms know bar, beat, accents, ties and upbeats', () => {
    const { part } = makeScore('violin', 'E4 | A4! B4~ B4 C5. | D5/4', { pickupQuarters: 1 });
    const atoms = atomsOf(part, firstLine(part), clockFor(part, null), {});
    expect(atoms.map((atom) => [atom.onBar, atom.upbeat, atom.accent, atom.kind, atom.ids.length])).toEqual([
      [false, true, false, 'détaché', 1],
      [true, false, true, 'accent', 1],
      [false, false, false, 'détaché', 2],
      [false, false, false, 'staccato', 1],
      [true, false, false, 'détaché', 1],
    ]);
  });
});

describe('the demo can be bowed', () => {
  const plans: Array<[string, Bowing]> = DEMO_NAMES.flatMap((name) => {
    const { score } = demoScore(name);
    return score.parts.map((part): [string, Bowing] => [
      `${name} ${part.name}`,
      planBowing({
        part,
        line: linesOf(part)[0]!,
        player: usualPlayer(part.instrument!),
        clock: clockFor(part, null),
        marking: {},
        alternatives: 1,
      })[0]!,
    ]);
  });
  test.each(plans)('%s', (name, plan) => {
    const [file, ...part] = name.split(' ');
    const { score } = demoScore(file!);
    const found = score.parts.find((each) => each.name === part.join(' '))!;
    const clock = clockFor(found, null);
    const numbers = bowingNumbers(plan, {
      part: found,
      line: linesOf(found)[0]!,
      bow: usualBow(found.instrument!),
      stringOf: null,
      tempo: clock.tempo,
      hairCm: HAIR_CM[found.instrument!],
      strokesPerS: 10,
      secondsAt: (tick) => clock.secondsAt(tick),
    });
    expect(numbers.strokes).toBe(plan.strokes.length);
    expect(numbers.nearestFrog).toBeGreaterThanOrEqual(0);
    expect(numbers.retakes + numbers.hooks).toBeLessThan(plan.strokes.length / 4);
  });
  test('only what a player needs is written: fewer signs than half the strokes', () => {
    for (const [, plan] of plans) {
      const bows = bowMarksWorthWriting(plan).filter((mark) => mark.kind === 'bow');
      expect(bows[0]!.noteId).toBe(plan.strokes[0]!.noteIds[0]);
      expect(bows.length).toBeLessThan(plan.strokes.length / 2 + 1);
    }
  });
});
