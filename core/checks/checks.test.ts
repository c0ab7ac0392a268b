import fc from 'fast-check';
import { jStat } from 'jstat';
import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { demoScore } from '../../tests/support/demo';
import { automaticPassages } from '../score/passages';
import { parsePitch } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { stopAtMm, stopMm } from '../instruments/geometry';
import { usualInstrument } from '../instruments/instrument';
import { handOf, usualPlayer, type Player } from '../instruments/player';
import { markKey, type Marking } from '../marking/mark';
import { planBowing } from '../bow-arm/bowing';
import { clockFor } from '../score/time';
import { bowFindings } from './bow';
import { check } from './check';
import { aimOf, placeOf } from './context';
import { tempoWhere } from './hand';
import { hearAgainst } from './hear';
import { chanceBeyond, placementCents, shiftCents } from './intonation';
import { severityOf } from './tables';

function report(kind: InstrumentKind, music: string, options: MakeOptions & { player?: Partial<Player>; marking?: Marking; wanted?: number } = {}) {
  const { part } = makeScore(kind, music, options);
  return {
    part,
    ...check({
      part,
      marking: options.marking ?? {},
      player: { ...usualPlayer(kind), ...options.player },
      tempo: options.wanted ?? null,
      passages: automaticPassages(part),
    }),
  };
}
const kinds = (made: ReturnType<typeof report>) => made.findings.map((finding) => finding.kind);

describe('expected error in cents (worked figures of our model, 15 cents, advanced violinist)', () => {
  const player = usualPlayer('violin');
  const percent = (errorCents: number) => Math.round(1000 * chanceBeyond(15, errorCents)) / 10;
  test('placing the finger: .5 % at the second stop, 3.4 % at the octave', () => {
    expect(percent(placementCents(player, 2))).toBe(0.5);
    expect(percent(placementCents(player, 12))).toBe(3.4);
  });
  test('after a shift from the second stop: 100 mm in 150 ms 43 %, 50 mm 10 %', () => {
    const after = (mm: number) => {
      const stop = stopAtMm(328, stopMm(328, 2) + mm);
      return Math.hypot(placementCents(player, stop), shiftCents(player, mm, 150, stop));
    };
    expect(Math.round(percent(after(100)))).toBe(43);
    expect(Math.round(percent(after(50)))).toBe(10);
  });
  test('the normal distribution: one in three beyond one standard deviation, one in twenty-two beyond two', () => {
    expect(chanceBeyond(10, 10)).toBeCloseTo(0.3173, 4);
    expect(chanceBeyond(20, 10)).toBeCloseTo(0.0455, 4);
    expect(chanceBeyond(10, 0)).toBe(0);
  });
  test('the chance of a miss is that of another statistics package, jStat, within 2 in ten million', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 60, noNaN: true }), fc.double({ min: 0.5, max: 60, noNaN: true }), (tolerance, error) => {
        const outside = 2 * (1 - jStat.normal.cdf(tolerance, 0, error));
        expect(Math.abs(chanceBeyond(tolerance, error) - outside)).toBeLessThan(2e-7);
      }),
    );
  });
  test('risk never falls when the shift is longer or quicker', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 300, noNaN: true }),
        fc.double({ min: 20, max: 2000, noNaN: true }),
        fc.integer({ min: 1, max: 24 }),
        (mm, gapMs, stop) => {
          const cents = shiftCents(player, mm, gapMs, stop);
          expect(shiftCents(player, mm * 1.1, gapMs, stop)).toBeGreaterThan(cents);
          expect(shiftCents(player, mm, gapMs * 0.9, stop)).toBeGreaterThan(cents);
        },
      ),
    );
  });
});

describe('how to hear it', () => {
  const hear = (name: string, string: number | null) => hearAgainst(parsePitch(name)!, string, usualInstrument('violin'));
  test.each([
    ['D5', 2, 'octave', 'D'],
    ['E5', 2, 'unison', 'E'],
    ['A5', 1, 'octave', 'A'],
    ['E4', 3, 'fourth', 'A'],
    ['D6', 1, 'two octaves', 'D'],
  ])('%s on string %i: %s with the open %s', (name, string, interval, open) => {
    expect(hear(name, string)).toMatchObject({ interval, stringName: open });
  });
  test('nothing to compare with', () => expect(hear('G#5', 1)).toBeNull());
});

describe('findings', () => {
  test('an easy scale has none', () => expect(kinds(report('violin', 'A4 B4 C#5 D5 | E5 F#5 G#5 A5', { fifths: 3, tempo: 80 }))).toEqual([]));
  test('a note below the lowest string is a finding at its bar, not an error', () => {
    const made = report('violin', 'A4 B4 C5 D5 | C3 D4 E4 F4');
    expect(made.findings[0]).toMatchObject({ kind: 'unplayable', bar: '2', beat: 1, severity: 3 });
    expect(made.fingering!.notes).toHaveLength(7);
  });
  test('marks that contradict are named', () => {
    const { part } = makeScore('violin', 'A4 B4 C5 D5');
    const marking: Marking = {
      [markKey(part.notes[1]!.id, 'finger')]: { value: '4', origin: 'coach' },
      [markKey(part.notes[1]!.id, 'string')]: { value: '1', origin: 'coach' },
    };
    expect(kinds(report('violin', 'A4 B4 C5 D5', { marking }))).toContain('contradiction');
  });
  test('bow marks that cannot be met together are named, and the rest is still planned', () => {
    const { part } = makeScore('violin', 'A4 B4 C5 D5');
    const coach = (note: number, kind: 'bow' | 'hook' | 'retake', value: string) => ({
      [markKey(part.notes[note]!.id, kind)]: { value, origin: 'coach' as const },
    });
    const clash = (marking: Marking) => {
      const made = report('violin', 'A4 B4 C5 D5', { marking });
      expect(made.bowing!.strokes).toHaveLength(4);
      return made.findings
        .filter((finding) => finding.kind === 'contradiction')
        .map((finding) => [finding.beat, (finding.numbers as { marks?: string }).marks]);
    };
    expect(clash({ ...coach(2, 'hook', 'yes'), ...coach(2, 'retake', 'yes') })).toEqual([[3, 'hook']]);
    expect(clash(coach(0, 'hook', 'yes'))).toEqual([[1, 'hook']]);
    expect(clash({ ...coach(1, 'bow', 'up'), ...coach(2, 'bow', 'down'), ...coach(2, 'hook', 'yes') })).toHaveLength(1);
    expect(clash({ ...coach(1, 'bow', 'up'), ...coach(2, 'bow', 'up'), ...coach(2, 'hook', 'yes') })).toEqual([]);
  });
  test('a trill that does not fit says how many notes it would have, and the tempo at which it fits', () => {
    const trilled = (tempo: number) => {
      const { part } = makeScore('violin', 'A4/0.5 B4/0.5 C5 | D5/2', { tempo });
      part.notes[1]!.trill = true;
      return check({ part, marking: {}, player: usualPlayer('violin'), tempo: null, passages: [] });
    };
    const late = trilled(140).findings.find((finding) => finding.kind === 'trill too quick')!;
    expect(late.numbers).toMatchObject({ notes: 3, written: 'mum', playerNotesPerS: 10 });
    const fits = late.remedies[0]!.after!;
    expect(fits).toBe(100);
    expect(trilled(fits).findings.some((finding) => finding.kind === 'trill too quick')).toBe(false);
  });
  test('crossings that are too quick have a tempo at which they are not, and the passage’s ceiling knows it', () => {
    const music = 'D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/0.25 A4/0.25 D4/2';
    const { part } = makeScore('violin', music);
    const open = part.notes.map((note, i) => [markKey(note.id, 'string'), { value: i % 2 ? '2' : '3', origin: 'coach' as const }]);
    const at = (tempo: number) => report('violin', music, { tempo, marking: Object.fromEntries(open) });
    const finding = at(132).findings.find((each) => each.kind === 'string change too quick')!;
    expect(finding.numbers).toMatchObject({ crossingsPerS: 8.8, playerCrossingsPerS: 7 });
    expect(finding.remedies[0]).toMatchObject({ before: 132, after: 105, tempo: 105 });
    expect(at(132).tempo).toMatchObject({ ceiling: 105, limitedBy: { kind: 'string change too quick' } });
    expect(at(105).findings.some((each) => each.kind === 'string change too quick')).toBe(false);
    expect(at(106).findings.some((each) => each.kind === 'string change too quick')).toBe(true);
  });
  test('a quick leap is late, with the tempo at which it is not', () => {
    const leap = 'A4/0.25 B4/0.25 E6/0.25 F#6/0.25 A4/3';
    const { part } = makeScore('violin', leap);
    const marking: Marking = {
      [markKey(part.notes[1]!.id, 'finger')]: { value: '1', origin: 'coach' },
      [markKey(part.notes[1]!.id, 'string')]: { value: '2', origin: 'coach' },
    };
    const made = report('violin', leap, { tempo: 132, marking });
    const late = made.findings.find((finding) => finding.kind === 'shift late')!;
    expect(late.numbers).toMatchObject({ mm: expect.any(Number), gapMs: expect.any(Number), bits: expect.any(Number) });
    expect(late.remedies[0]!.after!).toBeLessThan(132);
    // Where no tempo helps, none is offered.
    const hopeless = report('violin', leap.replace('E6', 'A6').replace('F#6', 'B6'), { tempo: 132, marking: {} });
    for (const { remedies } of hopeless.findings) for (const { tempo } of remedies) expect(tempo ?? 100).toBeGreaterThan(20);
  });
  test('the bow runs out where the coach will not have the slur split, with the numbers and both remedies', () => {
    const slurred = '(A4/4 | B4/4 | C5/4) | A4/4';
    const { score, part } = makeScore('violin', slurred, { tempo: 50, dynamic: 'ff' });
    const shared = { score, part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null), marking: {} };
    const unsplit = planBowing({ ...shared, costs: { splitAtBar: 99, splitAtHalf: 99, splitAtBeat: 99, splitOffBeat: 99 }, alternatives: 1 })[0]!;
    const { findings, limits } = bowFindings(unsplit, {
      ...shared,
      place: (note) => placeOf(part, note),
      isNew: () => true,
      preferences: undefined,
      ...aimOf({ part, intonation: undefined, others: undefined }),
      stringOf: () => null,
    });
    const finding = findings.find((each) => each.kind === 'bow runs out')!;
    expect(finding).toMatchObject({ severity: 3, bar: '1', numbers: { hairCm: 65, seconds: 14.4, slowestCmPerS: 13, neededCm: 187.2 } });
    expect(finding.remedies[0]).toMatchObject({ before: 187, after: 47 });
    // Nothing is said of less bow, or of more than there is, where the bow runs out.
    expect(findings.map((each) => each.kind)).not.toContain('bow must race back');
    // Too slow as well: the same cause, told once.
    expect(findings.map((each) => each.kind)).not.toContain('level out of reach');
    expect(limits.find((limit) => limit.kind === 'bow runs out')!.tempo).toBeCloseTo((50 * 187.2) / (65 * 0.95), 0);
  });
  test('a stretch beyond comfort carries the caution; a smaller hand is not asked for it but given another fingering', () => {
    const seventh = 'A2+G#3/4';
    const { part } = makeScore('cello', seventh);
    const marking: Marking = Object.fromEntries(part.notes.map((note, i) => [markKey(note.id, 'finger'), { value: i ? '4' : '1', origin: 'coach' as const }]));
    const forHand = (size: 'small' | 'medium' | 'large') => report('cello', seventh, { marking, player: { hand: handOf(size, 'cello') } }).findings;
    const reach = forHand('medium').find((finding) => finding.kind === 'reach')!;
    expect(reach.numbers).toMatchObject({ mm: 127.18, comfortableMm: 110, limitMm: 135 });
    expect(reach.text).toContain('No pain');
    expect(forHand('large').every((finding) => finding.severity < reach.severity)).toBe(true);
    const small = forHand('small');
    expect(small[0]).toMatchObject({ kind: 'contradiction' });
    for (const { kind, numbers } of small) if (kind === 'reach') expect(numbers.mm).toBeLessThan(numbers.limitMm as number);
  });
  test('a small hand on the cello shifts where a large one extends', () => {
    const music = 'B3/0.5 D#4/0.5 B3/0.5 D#4/0.5 B3/0.5 D#4/0.5 B3/0.5 D#4/0.5';
    const { part } = makeScore('cello', music);
    const marking: Marking = Object.fromEntries(
      part.notes.flatMap((note, i) => [
        [markKey(note.id, 'finger'), { value: i % 2 ? '4' : '1', origin: 'coach' as const }],
        [markKey(note.id, 'string'), { value: '1', origin: 'coach' as const }],
      ]),
    );
    const shifts = (size: 'small' | 'large') =>
      report('cello', music, { tempo: 60, marking, player: { hand: handOf(size, 'cello') } }).fingering!.notes.filter((note) => note.shift).length;
    expect(shifts('large')).toBe(0);
    expect(shifts('small')).toBeGreaterThan(3);
  });
  test('thresholds count as passed when they are reached', () => expect([0.9, 1, 1.5, 2].map((value) => severityOf(value, [1, 1.5, 2]))).toEqual([0, 1, 2, 3]));
});

describe('tempo', () => {
  test('a ceiling is where a finding appears, with the plan held fixed', () => {
    expect(tempoWhere((factor) => factor >= 1.5, 100)).toBeCloseTo(150, 0);
    expect(tempoWhere(() => false, 100)).toBeNull();
    expect(tempoWhere(() => true, 100)).toBe(20);
  });
  test('a passage is no quicker than its hardest spot, and the piece no quicker than its passages', () => {
    const { score } = demoScore('mill-race-serenade');
    const part = score.parts[0]!;
    const made = check({ part, marking: {}, player: usualPlayer('violin'), tempo: null, passages: automaticPassages(part) });
    const ceilings = made.passages.map((passage) => passage.ceiling ?? Infinity);
    expect(made.tempo.ceiling).toBe(Math.min(...ceilings));
    expect(made.tempo.limitedBy).toMatchObject({ barIndex: expect.any(Number) });
    expect(made.passages.map((passage) => passage.name)).toEqual(['Opening', 'A', 'B', 'C', 'D', 'E', 'F', 'G']);
  });
  test('a beginner has more findings than a professional on the same part', () => {
    const { score } = demoScore('mill-race-serenade');
    const part = score.parts[0]!;
    const count = (level: Player['level']) =>
      check({ part, marking: {}, player: { ...usualPlayer('violin'), level }, tempo: null, passages: [] }).findings.reduce(
        (sum, finding) => sum + finding.severity,
        0,
      );
    expect(count('beginner')).toBeGreaterThan(count('professional'));
  });
});
