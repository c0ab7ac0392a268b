import fc from 'fast-check';
import { runs } from '../testing/runs';
import { demoScore } from '../../tests/support/demo';
import { firstLine, makeScore, TICKS } from '../testing/make';
import { usualPlayer } from '../instruments/player';
import { clockFor } from '../score/time';
import { pitchName, spelled } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { choicesForNote } from './choices';
import { STRATEGIES } from './costs';
import { explain, planFingering, preferredBy, prepareFingering, type FingeringRequest } from './fingering';
import { guideNoteName } from './fingered-note';
import { marksWorthWriting } from './worth-writing';
import { fingerPart } from './part';
import { costsMore, fingeringNumbers } from './reasons';
import { carriedBy, cheapestPath, type PathMemory } from './search';
import { difficultyBits, shiftBetween, targetWidthMm } from './shift';
import { gapSeconds, moveCost, ownCost, startCost, weighingFor, type Carried } from './transition';

function request(kind: InstrumentKind, music: string, options: Parameters<typeof makeScore>[2] = {}): FingeringRequest {
  const { part } = makeScore(kind, music, options);
  return { part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking: {} };
}

/** Every path, one by one: the definition of the cheapest. */
function bruteForce(asked: FingeringRequest): number {
  const { grips, moments } = prepareFingering(asked);
  const weighing = weighingFor(asked.player);
  let best = Infinity;
  const walk = (i: number, cost: number, last: number, carried: Carried | null): void => {
    if (i === grips.length) {
      best = Math.min(best, cost);
      return;
    }
    grips[i]!.forEach((grip, g) => {
      const own = ownCost(grip, moments[i]!, weighing);
      const move = i === 0 ? startCost(grip, weighing) : moveCost(grips[i - 1]![last]!, carried, grip, moments[i]!, weighing);
      walk(i + 1, cost + own + move, g, grip.open ? carried : carriedBy(grip, moments[i]!).carried);
    });
  };
  walk(0, 0, -1, null);
  return best;
}

describe('the search is exact', () => {
  const melody = (low: number, high: number) =>
    fc.array(fc.record({ midi: fc.integer({ min: low, max: high }), length: fc.constantFrom('/0.25', '/0.5', '/1', '/2'), rest: fc.boolean() }), {
      minLength: 2,
      maxLength: 4,
    });
  test.each([
    ['violin', 55, 81],
    ['cello', 36, 62],
    ['bass', 28, 48],
  ] as const)('%s: no path is cheaper than the one found', (kind, low, high) => {
    fc.assert(
      fc.property(melody(low, high), (notes) => {
        const music = notes.map(({ midi, length, rest }) => `${pitchName(spelled(midi))}${length}${rest ? ' r/0.5' : ''}`).join(' ');
        const asked = request(kind, music);
        const { grips, moments } = prepareFingering(asked);
        const { cost } = cheapestPath({ grips, moments, weighing: weighingFor(asked.player) });
        expect(cost).toBeCloseTo(bruteForce(asked), 7);
      }),
      { numRuns: runs(40) },
    );
  });
  test('a total is the sum of its terms', () => {
    const asked = request('violin', 'A4 E5 (B5 D6) C6 r A5 G4 D4', { length: 0.5 });
    const prepared = prepareFingering(asked);
    const weighing = weighingFor(asked.player);
    const { choice, cost } = cheapestPath({ ...prepared, weighing });
    const way = explain(asked, prepared, choice, STRATEGIES[0]!);
    expect(way.total).toBeCloseTo(cost, 3);
    expect(Object.values(way.terms).reduce((sum, value) => sum + value, 0)).toBeCloseTo(cost, 2);
  });
});

describe('a passage in its context', () => {
  const music = 'A4 B4 C#5 D5 | E5 F#5 G#5 A5 | B5 C#6 D6 E6 | D6 C#6 B5 A5 | G#5 F#5 E5 D5 | C#5 B4 A4/2';
  const asked = request('violin', music, { fifths: 3, length: 1 });
  const within = { from: 8 * TICKS, to: 16 * TICKS };
  test('the best choice for it is what the best fingering of the whole line has there', () => {
    const whole = planFingering({ ...asked, alternatives: 1 }).alternatives[0]!.notes.filter((note) => note.event >= 8 && note.event < 16);
    expect(planFingering({ ...asked, within }).alternatives[0]!.notes.map((note) => note.place)).toEqual(whole.map((note) => note.place));
  });
  test('only notes of the passage come back, in every alternative', () => {
    for (const way of planFingering({ ...asked, within }).alternatives) expect(way.notes.map((note) => note.event)).toEqual([8, 9, 10, 11, 12, 13, 14, 15]);
  });
  test('an empty passage has no fingering', () =>
    expect(planFingering({ ...asked, within: { from: 999 * TICKS, to: 1000 * TICKS } }).alternatives).toEqual([]));
});

describe('every way to play one note', () => {
  const asked = request('violin', 'A4 B4 C#5 D5 E5 D5 C#5 B4', { fifths: 3, length: 0.5 });
  const choices = choicesForNote(asked, asked.part.notes[4]!);
  test('open and fourth finger are both there; the first one costs nothing extra', () => {
    expect(choices[0]!.extra).toBe(0);
    expect(choices.map((choice) => `${choice.place.string}/${choice.place.finger}`)).toEqual(expect.arrayContaining(['1/0', '2/4']));
    for (let i = 1; i < choices.length; i++) expect(choices[i]!.extra).toBeGreaterThanOrEqual(choices[i - 1]!.extra);
  });
  test('what it costs more is said in words', () => {
    const high = choices.find((choice) => choice.place.string === 4)!;
    expect(costsMore(high.terms, choices[0]!.terms).more.length).toBeGreaterThan(0);
    expect(costsMore(choices[0]!.terms, choices[0]!.terms)).toEqual({ more: [], less: [] });
  });
});

describe('shifts', () => {
  test('index of difficulty: log2 of twice the distance over the width (Fitts 1954; domain fact 8)', () => {
    expect(difficultyBits(8, 1)).toBe(4);
    expect(difficultyBits(64, 2)).toBe(6);
    expect(difficultyBits(0, 1)).toBe(0);
    expect(difficultyBits(0.1, 1)).toBe(0);
  });
  test('the same interval is the same number of bits on every instrument (scale-free)', () => {
    const bits = (length: number) => difficultyBits(length * 0.2, targetWidthMm(length, 7));
    expect(bits(328)).toBeCloseTo(bits(1050), 9);
  });
  test('the gap is the silence and half of the last note, no more than may be stolen; of a long note a quarter', () => {
    expect(gapSeconds(0, 0.2, 0.15)).toBeCloseTo(0.1);
    expect(gapSeconds(0.5, 0.5, 0.15)).toBeCloseTo(0.65);
    expect(gapSeconds(0.5, 3, 0.15)).toBeCloseTo(1.25);
    expect(gapSeconds(0, 0, 0.15)).toBeCloseTo(0.01);
  });
  test('first to third position on one string by an old and a new finger: the guide note', () => {
    const asked = request('violin', 'E5/2 B5/2');
    const prepared = prepareFingering(asked);
    const find = (i: number, string: number, finger: number, position: string) =>
      prepared.grips[i]!.find((grip) => grip.lead.string === string && grip.lead.finger === finger && grip.lead.position === position)!.lead;
    const shift = shiftBetween(find(0, 2, 4, 'first'), find(1, 2, 4, 'fifth'), 328, { gapS: 0.15, freeS: 0, lastS: 1, stolenS: 0.15 }, 'at a bow change');
    expect(shift.kind).toBe('same finger');
    expect(shift.guide).toBeNull();
    const other = shiftBetween(find(0, 2, 4, 'first'), find(1, 1, 2, 'third'), 328, { gapS: 0.15, freeS: 0, lastS: 1, stolenS: 0.15 }, 'at a bow change');
    expect(other.kind).toBe('over a string');
    expect(guideNoteName(other, asked.player.instrument, 0)).toBe('G5');
  });
});

test('tenor clef on the cello is the bass clef one string higher (domain fact 10, common practice)', () => {
  const fingers = (music: string) =>
    planFingering({ ...request('cello', music, { length: 0.5 }), alternatives: 1 }).alternatives[0]!.notes.map((note) => [
      note.place.string,
      note.place.finger,
    ]);
  const asBass = fingers('D3 E3 F3 G3 F3 E3 D3');
  const aFifthUp = fingers('A3 B3 C4 D4 C4 B3 A3');
  expect(aFifthUp).toEqual(asBass.map(([string, finger]) => [string! - 1, finger]));
});

describe('what is written down', () => {
  test('the first note and the shifts, not a number on every note', () => {
    const asked = request('violin', 'A4 B4 C#5 D5 | E5 F#5 G#5 A5 | B5 C#6 D6 E6 | D6 C#6 B5 A5', { fifths: 3, length: 0.5 });
    const way = planFingering({ ...asked, alternatives: 1 }).alternatives[0]!;
    const written = marksWorthWriting(way, { part: asked.part, instrument: asked.player.instrument }).map((note) => note.event);
    expect(written).toContain(0);
    for (const note of way.notes) if (note.shift) expect(written).toContain(note.event);
    expect(written.length).toBeLessThan(way.notes.length / 2);
  });
  test('numbers for a table', () => {
    const asked = request('violin', '(A4 F#5) (A4 F#5)', {});
    const way = planFingering({ ...asked, alternatives: 1 }).alternatives[0]!;
    expect(fingeringNumbers(way, asked.line, [false, true, false, true], () => 1)).toMatchObject({
      shifts: 0,
      stringChangesInSlurs: 2,
      openStrings: 2,
      fourthFingers: 0,
      hardest: null,
    });
  });
  test('divided players: notes of the inner line are fingered too', () => {
    const { line: _line, ...asked } = request('violin', 'B4+G5 A4+F#5', { words: [{ quarter: 0, text: 'div.' }] });
    expect(fingerPart({ ...asked, alternatives: 2 }).alternatives.map((way) => way.notes.length)).toEqual([4, 4]);
  });
});

test('what is kept from search to search changes neither the way nor what it costs', () => {
  const part = demoScore('mill-race-serenade').score.parts[0]!;
  const asked = { part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null), marking: {} };
  const { grips, moments } = prepareFingering(asked, new Map());
  const weighing = weighingFor(asked.player, preferredBy({}));
  const memory: PathMemory = { kept: null };
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(grips.length - 1), fc.nat(40)), { maxLength: 3 }), (held) => {
      const fixed = grips.map((list, i) => {
        const one = held.find(([at]) => at === i);
        return one ? [list[one[1] % list.length]!] : list;
      });
      const [kept, fresh] = [cheapestPath({ grips: fixed, moments, weighing }, memory), cheapestPath({ grips: fixed, moments, weighing })];
      expect(kept.choice).toEqual(fresh.choice);
      expect(kept.cost).toBeCloseTo(fresh.cost, 6);
    }),
    { numRuns: runs(40) },
  );
});

test('nothing that could be played instead is cheaper than what is planned; each costs what the plan with it costs more', () => {
  const part = demoScore('mill-race-serenade').score.parts[0]!;
  const asked = { part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null), marking: {} };
  const { grips, moments, events } = prepareFingering(asked, new Map());
  const weighing = weighingFor(asked.player, preferredBy({}));
  const best = cheapestPath({ grips, moments, weighing }).cost;
  for (const at of [5, 17, 40]) {
    const choices = choicesForNote(asked, events[at]!.notes[0]!);
    expect(choices.map(({ now }) => now)).toEqual([true, ...choices.slice(1).map(() => false)]);
    for (const { place, extra } of choices.slice(0, 6)) {
      const same = grips[at]!.filter(({ places: [p] }) => p!.string === place.string && p!.finger === place.finger && p!.position === place.position);
      const dearer = Math.min(...same.map((grip) => cheapestPath({ grips: grips.map((list, i) => (i === at ? [grip] : list)), moments, weighing }).cost));
      // What lies further away is held, so it may come out a little dearer.
      expect(extra).toBeGreaterThanOrEqual(dearer - best - 0.01);
      expect(extra).toBeLessThan(dearer - best + 1);
    }
  }
});
