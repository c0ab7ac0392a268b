import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import { pitchName, spelled } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { fingerName, usualPlayer } from '../instruments/player';
import { markKey, type Marking } from '../marking/mark';
import { alikeGroups } from './alike';
import { DEFAULT_COSTS } from './costs';
import { planFingering, prepareFingering } from './fingering';

function plan(kind: InstrumentKind, music: string, options: MakeOptions = {}, marking: Marking = {}) {
  const { score, part } = makeScore(kind, music, { length: 0.5, ...options });
  const request = { score, part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking };
  const result = planFingering({ ...request, alternatives: 1 });
  return { ...result, request, best: result.alternatives[0]! };
}
const rowsByBar = ({ best, request }: ReturnType<typeof plan>) => {
  const rows: string[] = [];
  for (const { id, place } of best.notes) {
    const { barIndex } = request.part.notes.find((note) => note.id === id)!;
    rows[barIndex] = (rows[barIndex] ?? '') + fingerName(place.finger);
  }
  return rows;
};

describe('what counts as the same music', () => {
  const groups = (kind: InstrumentKind, music: string) => {
    const { request } = plan(kind, music);
    return alikeGroups(request.part, request.line, prepareFingering(request)).map(({ figures }) => figures.map(({ barIndex }) => barIndex));
  };
  test('bars on the same notes, wherever they stand', () =>
    expect(groups('cello', 'D3 E3 F#3 G3 A3/2 | C3 E3 G3 C3 A2/2 | D3 E3 F#3 G3 A3/2 | C3 E3 G3 D3 A2/2')).toEqual([[0, 2]]));
  test('bars on other notes, where the bar after comes back with them: on the violin by letters, on the cello by half steps', () => {
    const tune = 'C4 D4 E4 F4 G4/2 | E4 G4 F4 E4 D4/2';
    const higher = 'D4 E4 F4 G4 A4/2 | F4 A4 G4 F4 E4/2';
    expect(groups('violin', `${tune} | ${higher}`)).toEqual([[0, 2]]);
    expect(groups('cello', `${tune} | ${higher}`)).toEqual([]);
    expect(groups('cello', `${tune} | D4 E4 F#4 G4 A4/2 | F#4 A4 G4 F#4 E4/2`)).toEqual([[0, 2]]);
  });
  test('beats that go on in sequence inside a bar', () =>
    expect(groups('violin', 'C5/0.25 D5/0.25 E5/0.25 C5/0.25 D5/0.25 E5/0.25 F5/0.25 D5/0.25 A4/2').length).toBe(1));
});

test('music that comes back is fingered as it was, though it comes from somewhere else', () => {
  const tune = 'B4 C5 D5 E5 F#5 G5 F#5 E5';
  const music = `${tune} | A5 G5 F#5 G5 A5 B5 C6 D6 | ${tune} | G4 A4 B4 A4 G4/2 | ${tune} | G4/4`;
  const result = plan('violin', music, { fifths: 1 });
  const rows = rowsByBar(result);
  // The last note alone may prepare what follows, and that is said.
  expect([rows[2], rows[4]].map((row) => row!.slice(0, 7))).toEqual([rows[0]!.slice(0, 7), rows[0]!.slice(0, 7)]);
  for (const { why } of result.unlike) expect(why).toContain('what follows');
  expect(result.unlike.length > 0).toBe(new Set([rows[0], rows[2], rows[4]]).size > 1);
});

test('an exception is named with its bar and the reason', () => {
  const tune = 'E5 F#5 G5 A5 B5 A5 G5 F#5';
  const music = `${tune} | G4/4 | ${tune} | G4/4 | ${tune}`;
  const { part } = makeScore('violin', music, { length: 0.5, fifths: 1 });
  const fifth = (barIndex: number) => part.notes.filter((note) => note.barIndex === barIndex)[4]!;
  const mark = (barIndex: number, value: string) => ({ [markKey(fifth(barIndex).id, 'finger')]: { value, origin: 'coach' as const } });
  const { unlike } = plan('violin', music, { fifths: 1 }, { ...mark(0, '4'), ...mark(2, '2'), ...mark(4, '4') });
  expect(unlike).toEqual([expect.objectContaining({ barIndex: 2, likeBar: 0, why: 'marks there ask for it' })]);
});

test('asking for the same fingers never takes a mark away, and never costs more than the same music in two ways does', () => {
  const bar = fc.array(fc.integer({ min: 57, max: 79 }), { minLength: 4, maxLength: 4 });
  fc.assert(
    fc.property(bar, bar, fc.nat({ max: 3 }), (tune, between, note) => {
      const written = (midis: number[]) => midis.map((midi) => `${pitchName(spelled(midi))}/1`).join(' ');
      const music = [tune, between, tune].map(written).join(' | ');
      const { part } = makeScore('violin', music);
      const marking: Marking = { [markKey(part.notes[note]!.id, 'finger')]: { value: '2', origin: 'coach' } };
      const { best, unplayable } = plan('violin', music, {}, marking);
      if (unplayable.length === 0) expect(best.notes[note]!.place.finger).toBe(2);
      expect(best.terms.unlike ?? 0).toBeLessThanOrEqual(2 * DEFAULT_COSTS.alike + 1e-9);
    }),
    { numRuns: runs(40) },
  );
});
