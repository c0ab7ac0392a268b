import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import type { InstrumentKind } from '../score/score';
import { fingerName, usualPlayer } from '../instruments/player';
import { markKey, type Marking } from '../marking/mark';
import { planFingering } from './fingering';

function plan(kind: InstrumentKind, music: string, options: MakeOptions = {}, marking: Marking = {}) {
  const { part } = makeScore(kind, music, options);
  return planFingering({ part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking });
}

const fingers = (kind: InstrumentKind, music: string, options: MakeOptions = {}) =>
  plan(kind, music, options)
    .alternatives[0]!.notes.map((note) => fingerName(note.place.finger))
    .join('');

describe('first position, as method books finger it (domain facts 3 to 5, common practice)', () => {
  const lengths = [0.25, 0.5, 1, 2];
  test.each(lengths)('violin: A major from the open A, notes of %s quarters', (length) => {
    expect(fingers('violin', 'A4 B4 C#5 D5 E5 F#5 G#5 A5', { fifths: 3, length })).toBe('01230123');
  });
  test.each(lengths)('violin: G major, two octaves, notes of %s quarters', (length) => {
    expect(fingers('violin', 'G3 A3 B3 C4 D4 E4 F#4 G4 A4 B4 C5 D5 E5 F#5 G5', { fifths: 1, length })).toBe('012301230123012');
  });
  test('viola: C major, two octaves', () => {
    expect(fingers('viola', 'C3 D3 E3 F3 G3 A3 B3 C4 D4 E4 F4 G4 A4 B4 C5', { length: 0.5 })).toBe('012301230123012');
  });
  test.each(lengths)('cello: D major from the open D, notes of %s quarters', (length) => {
    expect(fingers('cello', 'D3 E3 F#3 G3 A3 B3 C#4 D4', { fifths: 2, length })).toBe('01340134');
  });
  test.each(lengths)('cello: C major, two octaves, notes of %s quarters', (length) => {
    expect(fingers('cello', 'C2 D2 E2 F2 G2 A2 B2 C3 D3 E3 F3 G3 A3 B3 C4', { length })).toBe('013401340124012');
  });
  test.each(lengths)('bass: G major from the low G, notes of %s quarters', (length) => {
    expect(fingers('bass', 'G1 A1 B1 C2 D2 E2 F#2 G2', { fifths: 1, length })).toBe('20120140');
  });
  test('coming down is fingered like going up', () => {
    expect(fingers('violin', 'A5 G#5 F#5 E5 D5 C#5 B4 A4', { fifths: 3, length: 0.5 })).toBe('32103210');
    expect(fingers('cello', 'D4 C#4 B3 A3 G3 F#3 E3 D3', { fifths: 2, length: 0.5 })).toBe('43104310');
  });
  test('violin: half a step above the open string is the low first finger; G sharp on the E string the high second (fact 11)', () => {
    expect(fingers('violin', 'Bb4 C5 D5 C5 Bb4', { fifths: -2, length: 0.5 })).toBe('12321');
    const [fSharp, gSharp, a] = plan('violin', 'F#5 G#5 A5', { fifths: 3 }).alternatives[0]!.notes;
    expect([fSharp, gSharp, a].map((note) => [note!.place.string, note!.place.finger])).toEqual([
      [1, 1],
      [1, 2],
      [1, 3],
    ]);
  });
});

describe('locks, alternatives and troubles', () => {
  test('a mark is a lock and the rest is planned around it', () => {
    const { part } = makeScore('violin', 'A4 B4 C#5 D5', { fifths: 3 });
    const marking: Marking = { [markKey(part.notes[0]!.id, 'finger')]: { value: '4', origin: 'coach' } };
    const best = plan('violin', 'A4 B4 C#5 D5', { fifths: 3 }, marking).alternatives[0]!;
    expect(best.notes[0]!.place).toMatchObject({ finger: 4, string: 3, stop: 7 });
  });
  test('marks that contradict are named and the rest is planned', () => {
    const { part } = makeScore('violin', 'A4 B4 C#5', {});
    const marking: Marking = {
      [markKey(part.notes[1]!.id, 'finger')]: { value: '4', origin: 'coach' },
      [markKey(part.notes[1]!.id, 'string')]: { value: '1', origin: 'coach' },
    };
    const result = plan('violin', 'A4 B4 C#5', {}, marking);
    expect(result.unplayable.map((trouble) => trouble.reason)).toEqual(['the marks contradict']);
    expect(result.alternatives[0]!.notes).toHaveLength(3);
  });
  test('a note below the lowest string is named, the others keep their fingers', () => {
    const result = plan('violin', 'A4 C3 B4');
    expect(result.unplayable).toEqual([expect.objectContaining({ reason: 'below the lowest string' })]);
    expect(result.alternatives[0]!.notes).toHaveLength(2);
  });
  test('alternatives are different fingerings, the best one first', () => {
    const { alternatives } = plan('violin', 'E5 F5 G5 A5 B5 C6 D6 E6', { length: 0.5 });
    expect(alternatives.length).toBe(3);
    const rows = alternatives.map((way) => way.notes.map((note) => `${note.place.string}${note.place.finger}`).join(' '));
    expect(new Set(rows).size).toBe(3);
    for (const other of alternatives.slice(1)) expect(other.total).toBeGreaterThanOrEqual(alternatives[0]!.total);
  });
  test('a double stop is held by one hand on two strings', () => {
    const [low, high] = plan('violin', 'B4+G5/2').alternatives[0]!.notes;
    expect(Math.abs(low!.place.string - high!.place.string)).toBe(1);
    expect(Math.abs(low!.place.handMm - high!.place.handMm)).toBeLessThan(1);
  });
  test('the shift is taken in the rest and says its distance', () => {
    const notes = plan('violin', 'A4 B4 r/2 D6 E6 F6 D6', { length: 0.5 }).alternatives[0]!.notes;
    const shift = notes.find((note) => note.shift)!.shift!;
    expect(shift.heard).toBe('in a rest');
    expect(shift.mm).toBeGreaterThan(40);
    expect(shift.bits).toBeCloseTo(Math.log2((2 * shift.mm) / (20 / (1200 / Math.LN2 / (328 * 2 ** (-notes[2]!.place.stop / 12))))), 6);
  });
  test('a tied note keeps its finger', () => {
    const notes = plan('violin', 'C5~/4 C5/2 D5/2').alternatives[0]!.notes;
    expect(notes).toHaveLength(3);
    expect(notes[1]!.place).toEqual(notes[0]!.place);
  });
  test('what the left hand plucks leaves a finger above to pluck with', () => {
    const [note] = plan('violin', 'E5^/2 F5/2', { fifths: -1 }).alternatives[0]!.notes;
    expect(note!.place.finger).not.toBe(4);
  });
  test('a chord that no hand can hold: what can be held is planned, the rest is named with it', () => {
    const result = plan('violin', 'A4 A3+B3/2 B4');
    expect(result.unplayable).toEqual([expect.objectContaining({ reason: 'no hand can hold it' })]);
    expect(result.unplayable[0]!.held.map(({ pitch }) => pitch.step)).toEqual(['B']);
    expect(result.alternatives[0]!.notes).toHaveLength(3);
  });
  test('a stop beyond the fingerboard is named, the rest is planned', () => {
    const result = plan('violin', 'A4 C9 B4');
    expect(result.unplayable).toEqual([expect.objectContaining({ reason: 'above the fingerboard' })]);
    expect(result.alternatives[0]!.notes).toHaveLength(2);
  });
});

describe('a position that is marked', () => {
  const { part } = makeScore('violin', 'D5/1 E5/1 F#5/1 G5/1', { fifths: 1 });
  const planned = (value: string, noteAt: number) => {
    const marking = { [markKey(part.notes[noteAt]!.id, 'position')]: { value, origin: 'coach' as const } };
    return planFingering({ part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null), marking });
  };
  test('the hand is there', () => {
    for (const name of ['third', 'second', 'fifth']) expect(planned(name, 1).alternatives[0]!.notes[1]!.place.position).toBe(name);
  });
  test('where it cannot be there the marks contradict, and that is said', () => {
    expect(planned('fifteenth', 0).unplayable).toMatchObject([{ reason: 'the marks contradict' }]);
  });
});
