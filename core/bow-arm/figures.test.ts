import fc from 'fast-check';
import { firstLine, makeScore, TICKS, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import { loudnessOf } from '../score/loudness';
import { INSTRUMENT_KINDS } from '../instruments/instrument';
import { usualPlayer } from '../instruments/player';
import { CHORD_WAYS } from '../marking/values';
import { atomsOf } from './atoms';
import { planBowing } from './bowing';
import { chordPlan } from './chords';
import { crossingNumbers, crossingRate, crossingsOf, easiestPlace, handTravelCm, openStringVersion, outsideDirection, STRING_ANGLE_DEG } from './crossings';
import type { Stroke } from './describe';
import { hemiolasOf } from './hemiola';
import { stepInWords } from './reasons';
import { CONTACT, CONTACT_LIMITS, soundRecipe } from './sound';
import { usualBow } from './bow';
import { HAIR_CM } from './tables';
import { bowTempi } from './tempo';
import { driftsOf, unevenPair } from './travel';

function planned(music: string, options: MakeOptions = {}, stringOf?: (id: string) => number | null) {
  const { score, part } = makeScore('violin', music, options);
  const line = firstLine(part);
  const clock = clockFor(part, null);
  const request = { score, part, line, player: usualPlayer('violin'), clock, marking: {}, alternatives: 1, ...(stringOf ? { stringOf } : {}) };
  return { ...request, strokes: planBowing(request)[0]!.strokes, secondsAt: (tick: number) => clock.secondsAt(tick) };
}

test.each([
  [0.2, 'none'],
  [6.02, 'twice as fast'],
  [9.1, 'nearly three times as fast'],
  [3, '1.4 times as fast'],
  [12.04, 'four times as fast'],
])('a step of %d dB by speed alone is %s', (db, words) => expect(stepInWords(db)).toBe(words));

describe('uneven pairs', () => {
  test('two beats there, one back: exactly twice as fast, 20·log10(2) = 6.02 dB (Schelleng 1973)', () => {
    const pair = unevenPair(2, 1, 30, 18);
    expect(pair.speedRatio).toBe(2);
    expect(pair.stepDb).toBeCloseTo(6.0206, 4);
    expect(pair.fairCm).toBeCloseTo(Math.sqrt(540), 9);
    expect(pair.longDb).toBeLessThan(0);
    expect(pair.shortDb).toBeGreaterThan(0);
    expect(pair.littleCm).toBeLessThanOrEqual(pair.fairCm);
  });
  test('the more uneven, the greater the step; the fair length always lies between the two', () => {
    const s = fc.double({ min: 0.1, max: 4, noNaN: true });
    const cm = fc.double({ min: 2, max: 58, noNaN: true });
    fc.assert(
      fc.property(s, s, cm, cm, (long, more, longCm, shortCm) => {
        const pair = unevenPair(long + more, long, longCm, shortCm);
        expect(unevenPair(long + more * 2, long, longCm, shortCm).stepDb).toBeGreaterThan(pair.stepDb);
        expect(pair.fairCm).toBeGreaterThanOrEqual(Math.min(longCm, shortCm) - 1e-9);
        expect(pair.fairCm).toBeLessThanOrEqual(Math.max(longCm, shortCm) + 1e-9);
      }),
    );
  });
  test('a long-short figure drifts to the tip and says after how many times', () => {
    const stroke = (direction: 'down' | 'up', seconds: number, preferredCm: number): Stroke =>
      ({ ...planned('A4').strokes[0]!, direction, seconds, preferredCm, from: 0.1, retake: false }) as Stroke;
    const row = Array.from({ length: 8 }, (_, i) => (i % 2 ? stroke('up', 0.5, 18) : stroke('down', 1, 31)));
    const [drift] = driftsOf(row, HAIR_CM.violin);
    expect(drift).toMatchObject({ strokes: 2, times: 4 });
    expect(drift!.perFigure).toBeCloseTo(13 / 65, 9);
    expect(drift!.figuresUntilEnd).toBe(4);
    expect(
      driftsOf(
        row.map((each) => ({ ...each, seconds: 1, preferredCm: 20 })),
        65,
      ),
    ).toEqual([]);
  });
});

describe('crossings', () => {
  const byName: Readonly<Record<string, number>> = { G: 4, D: 3, A: 2, E: 1 };
  const stringOf = (id: string) => byName[/-([A-G])s?\d-/.exec(id)![1]!] ?? 2;

  test('hand travel: the lever from the string (geometry): 4 cm at the frog, the whole bow more at the tip', () => {
    expect(handTravelCm(0, 1, usualBow('violin'))).toBeCloseTo((4 * 15 * Math.PI) / 180, 9);
    expect(handTravelCm(1, 1, usualBow('violin')) / handTravelCm(0, 1, usualBow('violin'))).toBeCloseTo(69 / 4, 9);
    for (const kind of INSTRUMENT_KINDS) expect(handTravelCm(0.5, 2, usualBow(kind))).toBeCloseTo(2 * handTravelCm(0.5, 1, usualBow(kind)), 9);
    expect(Math.max(...Object.values(STRING_ANGLE_DEG))).toBe(STRING_ANGLE_DEG.bass);
  });
  test('outside motion: down-bow on the lower string on violin and viola, on the higher one on cello and bass (common practice)', () => {
    expect(INSTRUMENT_KINDS.map((kind) => outsideDirection(3, 2, kind))).toEqual(['down', 'down', 'up', 'up']);
    expect(INSTRUMENT_KINDS.map((kind) => outsideDirection(2, 3, kind))).toEqual(['up', 'up', 'down', 'down']);
  });
  test('counted with leaps and slurs, and rated by four in a row', () => {
    const { strokes, line, secondsAt } = planned('D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/0.25 A4/0.25 (G3/0.25 E5/0.25) D4/2', { tempo: 60 }, stringOf);
    const crossings = crossingsOf(strokes, line, stringOf, secondsAt, usualBow('violin'));
    const numbers = crossingNumbers(crossings, strokes, 'violin');
    expect(numbers).toMatchObject({ crossings: 8, leaps: 3, inSlurs: 1 });
    expect(numbers.quickestPerS).toBeCloseTo(4, 6);
    expect(crossingRate(crossings, 7)).toBe(0);
    // Two notes on each string: half as many crossings, though each of them is as quick as before.
    const two = planned('D4/0.25 E4/0.25 A4/0.25 B4/0.25 D4/0.25 E4/0.25 A4/0.25 B4/0.25 D4/0.25 E4/0.25 A4/0.25 B4/0.25 D4/1', { tempo: 60 }, (id) =>
      stringOf(id),
    );
    const slower = crossingsOf(two.strokes, two.line, stringOf, two.secondsAt, usualBow('violin'));
    expect(crossingNumbers(slower, two.strokes, 'violin').quickestPerS).toBeCloseTo(2, 6);
    expect(crossings.find((crossing) => crossing.inSlur)).toMatchObject({ from: 4, to: 1, leap: true });
  });
  test('quick crossings turn the bow so that it goes round outside', () => {
    const music = 'D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/2';
    const { strokes, line, secondsAt } = planned(music, { tempo: 90 }, stringOf);
    const numbers = crossingNumbers(crossingsOf(strokes, line, stringOf, secondsAt, usualBow('violin')), strokes, 'violin');
    expect(numbers.outside).toBeGreaterThan(numbers.inside);
  });
  test('the open-string version has the strings of every note in order', () => {
    const { line } = planned('D4 A4 G3+D4 E5');
    expect(openStringVersion(line, stringOf, { from: 0, to: 4 * TICKS }).map((each) => each.strings)).toEqual([[3], [2], [4, 3], [1]]);
    expect(openStringVersion(line, () => null, { from: 0, to: 4 * TICKS })).toEqual([]);
  });
  test('the quicker, the nearer to the lower half', () => {
    expect(easiestPlace(6).to).toBeLessThan(easiestPlace(3).to);
    expect(easiestPlace(1).words).toBe('anywhere');
  });
});

describe('sound', () => {
  const [plain] = planned('A4/0.96', { tempo: 96 }).strokes;
  const with_ = (change: Partial<Stroke>): Stroke => ({ ...plain!, seconds: 0.6, wantedSpeed: 34, cmPerS: 34, level: 'mf', kind: 'détaché', ...change });

  test('half the speed is made good half as far from the bridge; beyond the limit it is missing', () => {
    expect(soundRecipe(with_({})).contact).toBeCloseTo(CONTACT.mf, 9);
    expect(soundRecipe(with_({ cmPerS: 17 }))).toMatchObject({ contact: CONTACT.mf / 2, missingDb: 0 });
    const quarter = soundRecipe(with_({ cmPerS: 8.5 }));
    expect(quarter.contact).toBe(CONTACT_LIMITS.nearest);
    expect(quarter.missingDb).toBeCloseTo(20 * Math.log10(CONTACT.mf / 4 / CONTACT_LIMITS.nearest), 6);
    expect(quarter.missingDb).toBeLessThan(-0.5);
    expect(soundRecipe(with_({ cmPerS: 4.25 })).missingDb - quarter.missingDb).toBeCloseTo(-6.02, 2);
  });
  test('vibrato: quick under an accent and in a held quiet tone, none on an open string or a short note', () => {
    const speed = (change: Partial<Stroke>) => soundRecipe(with_(change)).vibrato.speed;
    expect([speed({ kind: 'accent' }), speed({ school: 'held', level: 'p' }), speed({ school: 'held', level: 'mf' }), speed({ level: 'p' })]).toEqual([
      3, 3, 2, 2,
    ]);
    expect(soundRecipe(with_({}), true).vibrato).toMatchObject({ width: 0, words: 'none: an open string' });
    expect(soundRecipe(with_({ seconds: 0.2 })).vibrato.width).toBe(0);
  });
  test('louder is nearer to the bridge with more weight; flowing has less weight than held', () => {
    const quiet = soundRecipe(with_({ level: 'pp', wantedSpeed: 14, cmPerS: 14 }));
    const loud = soundRecipe(with_({ level: 'ff', wantedSpeed: 58, cmPerS: 58 }));
    expect(loud.contact).toBeLessThan(quiet.contact);
    expect(loud.weight).toBeGreaterThan(quiet.weight);
    const school = (name: 'flowing' | 'held', speed: number) => soundRecipe(with_({ level: 'p', school: name, wantedSpeed: speed, cmPerS: speed }));
    expect(school('flowing', 26).weight).toBeLessThanOrEqual(school('held', 12).weight);
    expect(school('held', 12).vibrato.words).toContain('live');
    expect(school('held', 12).contact).toBeLessThan(school('flowing', 26).contact);
  });
  test('the heads of a chord are one note: it has time for a vibrato', () => {
    expect(soundRecipe(with_({ noteIds: ['a', 'b', 'c', 'd'], seconds: 0.9 })).vibrato.width).toBeGreaterThan(0);
    expect(soundRecipe(with_({ events: 4, seconds: 0.9 })).vibrato.width).toBe(0);
  });
  test('short and bounced notes have no vibrato, accents have it from the start', () => {
    expect(soundRecipe(with_({ seconds: 0.15 })).vibrato.width).toBe(0);
    expect(soundRecipe(with_({ kind: 'spiccato' })).vibrato.width).toBe(0);
    expect(soundRecipe(with_({ kind: 'accent' })).vibrato.words).toContain('from the very start');
  });
});

describe('chords', () => {
  test('every way sounds every note, uses the whole bow and ends on the top', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(3, 4),
        fc.double({ min: 0.15, max: 4, noNaN: true }),
        fc.double({ min: 5, max: 60, noNaN: true }),
        fc.constantFrom(...CHORD_WAYS),
        (count, s, cm, way) => {
          const plan = chordPlan(count, s, cm, way);
          expect(new Set(plan.steps.flatMap((step) => step.notes)).size).toBe(count);
          expect(plan.steps.at(-1)!.notes).toContain(count - 1);
          expect(plan.steps.reduce((sum, step) => sum + step.cm, 0)).toBeCloseTo(cm, 6);
          expect(plan.steps.at(-1)!.atS + plan.steps.at(-1)!.seconds).toBeCloseTo(s, 6);
          expect(plan.delayS).toBeLessThanOrEqual(s / 2 + 1e-9);
        },
      ),
    );
  });
  test('four strings cannot be bowed at once: that is said', () => {
    expect(chordPlan(4, 1, 40, 'together')).toMatchObject({ possible: false, words: expect.stringContaining('two and two') });
    expect(chordPlan(3, 1, 40, 'together')).toMatchObject({ possible: true, delayS: 0 });
    expect(chordPlan(4, 0.6, 40, 'two and two').steps[0]!.seconds).toBeCloseTo(0.15, 9);
  });
});

describe('tempi', () => {
  test('a long bow sets the floor, quick strokes the ceiling, each with its place', () => {
    const { strokes, secondsAt } = planned('A4/4 | E5/0.25 D5/0.25 C5/0.25 B4/0.25 A4/1', { tempo: 48, dynamic: 'mf' });
    const { floor, ceiling } = bowTempi(strokes, { tempo: 48, hairCm: 65, strokesPerS: 10, secondsAt });
    expect(floor!.kind).toBe('bow runs out');
    expect(floor!.tempo).toBeCloseTo((48 * strokes[0]!.slowest * strokes[0]!.seconds) / (65 * 0.95), 6);
    expect(ceiling!.kind).toBe('stroke too quick');
    expect(ceiling!.tempo).toBeCloseTo((48 * 10) / 3.2, 6);
  });
});

describe('hemiolas', () => {
  const found = (music: string) => {
    const { part } = makeScore('violin', music, { beats: 3 });
    return hemiolasOf(part, atomsOf(part, firstLine(part), clockFor(part, null), {}));
  };
  test('a note over the second bar line, and a rhythm of two beats three times', () => {
    expect(found('A4/2 B4~/1 | B4/1 C5/2 | A4/3')).toMatchObject([{ barIndex: 0, because: 'a note lies over the second bar line' }]);
    expect(found('A4/1.5 B4/0.5 C5/1.5 | B4/0.5 A4/1.5 G4/0.5 | F4/3'.replace('C5/1.5 | B4/0.5', 'C5/1 | C5/0.5 B4/0.5'))).toEqual([]);
    expect(found('A4 A4/0.5 B4/0.5 C5 | C5/0.5 B4/0.5 A4 A4/0.5 B4/0.5 | C5/3')).toHaveLength(1);
  });
  test('plain bars of three have none', () => expect(found('A4 B4 C5 | D5 C5 B4 | A4/2 B4 | C5/3')).toEqual([]));
});

describe('loudness', () => {
  const part = (marks: Array<[tick: number, level: 'p' | 'f' | 'mf']>, hairpins: Array<['crescendo' | 'diminuendo', number, number]>) => ({
    dynamics: marks.map(([tick, level]) => ({ tick, text: level, level })),
    hairpins: hairpins.map(([kind, from, to]) => ({ kind, from, to })),
  });
  test('a hairpin leads from level to level', () => {
    const { stepsAt } = loudnessOf(
      part(
        [
          [0, 'p'],
          [1920, 'f'],
        ],
        [['crescendo', 0, 1920]],
      ),
    );
    expect([0, 960, 1920, 5000].map(stepsAt)).toEqual([2, 3.5, 5, 5]);
  });
  test('a swell without a level goes one step up and comes back', () => {
    const { stepsAt, hairpinAt } = loudnessOf(
      part(
        [[0, 'mf']],
        [
          ['crescendo', 0, 480],
          ['diminuendo', 480, 960],
        ],
      ),
    );
    expect([0, 240, 480, 720, 960].map(stepsAt)).toEqual([4, 4.5, 5, 4.5, 4]);
    expect([240, 700, 960].map(hairpinAt)).toEqual(['crescendo', 'diminuendo', null]);
  });
  test('a crescendo before a sudden piano rises first', () => {
    const { stepsAt } = loudnessOf(
      part(
        [
          [0, 'mf'],
          [960, 'p'],
        ],
        [['crescendo', 0, 960]],
      ),
    );
    expect(stepsAt(900)).toBeGreaterThan(4.8);
    expect(stepsAt(960)).toBe(2);
  });
});
