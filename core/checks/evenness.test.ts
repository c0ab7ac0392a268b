/** Single notes beside slurs, a rhythm under one bow, what follows a held note: told where it is so, and just not where it is not. */
import { makeScore, type MakeOptions } from '../testing/make';
import { usualPlayer, type Level } from '../instruments/player';
import type { InstrumentKind } from '../score/score';
import { markKey, type Mark } from '../marking/mark';
import { check } from './check';
import type { Finding } from './finding';
import type { FindingKind } from './numbers';

interface Asked extends MakeOptions {
  kind?: InstrumentKind;
  level?: Level;
  at: number;
  /** Bow directions by note. */
  bows?: Record<number, 'down' | 'up'>;
}

function found(of: FindingKind, music: string, { kind = 'violin', level = 'advanced', at, bows = {}, ...options }: Asked): Finding[] {
  const { part } = makeScore(kind, music, options);
  const marking: Record<string, Mark> = {};
  for (const [note, value] of Object.entries(bows)) marking[markKey(part.notes[Number(note)]!.id, 'bow')] = { value, origin: 'coach' };
  return check({ part, marking, player: { ...usualPlayer(kind), level }, tempo: at, passages: [] }).findings.filter((each) => each.kind === of);
}
const severities = (of: FindingKind, music: string, asked: Asked) => found(of, music, asked).map(({ severity }) => severity);

const times = (figure: string, count: number) => `${figure} `.repeat(count).trim();
const MIXED = '(A4/.25 B4/.25) C5/.25 D5/.25';

describe('single notes beside slurs', () => {
  // Sixteenths: four notes to the beat, so half of what an advanced player manages (10 a second) at 75.
  test.each<[string, string, Asked, number[]]>([
    ['half of the limit', times(MIXED, 4), { at: 75 }, [1]],
    ['just below it', times(MIXED, 4), { at: 74 }, []],
    ['at .8 of it', times(MIXED, 4), { at: 120 }, [2]],
    ['a beginner manages 4 a second', times(MIXED, 4), { at: 30, level: 'beginner' }, []],
    ['and may not be given time', times(MIXED, 4), { at: 48, level: 'beginner' }, [2]],
    ['one slur is no row', MIXED, { at: 100 }, []],
    ['two are', times(MIXED, 2), { at: 100 }, [1]],
    ['all separate', times('A4/.25 B4/.25 C5/.25 D5/.25', 4), { at: 100 }, []],
    ['all slurred', times('(A4/.25 B4/.25) (C5/.25 D5/.25)', 4), { at: 100 }, []],
    ['longer single notes', times('(A4/.25 B4/.25) C5/.5', 5), { at: 100 }, []],
    ['springing ones', times('(A4/.25 B4/.25) C5./.25 D5./.25', 4), { at: 100 }, []],
    ['a rest between two rows', `${times(MIXED, 2)} r/1 ${times(MIXED, 2)}`, { at: 100 }, [1, 1]],
    ['one note that has to race back bumps, it does not vanish', times('(A4/.25 B4/.25 C5/.25) D5/.25', 4), { at: 100 }, []],
  ])('%s', (_name, music, asked, wanted) => expect(severities('single notes vanish', music, asked)).toEqual(wanted));

  test('told at the first single note, with the bow that both have', () => {
    const [trouble] = found('single notes vanish', times(MIXED, 2), { at: 100 });
    expect(trouble).toMatchObject({ bar: '1', beat: 1.5, numbers: { singles: 4, notesPerS: 6.67, playerStrokesPerS: 10 } });
    const { slurCm, singleCm } = trouble!.numbers as { slurCm: number; singleCm: number };
    expect(slurCm).toBeGreaterThan(singleCm);
    expect(trouble!.text).toContain(`${Math.round(slurCm)} cm for the slur leave ${Math.round(singleCm)} cm`);
  });
});

describe('a rhythm under one bow', () => {
  const DOTTED = '(A4/.75 B4/.25 C5/.75 D5/.25)';
  test.each<[string, string, Asked, number[]]>([
    ['long and short in turn', DOTTED, { at: 70 }, [1]],
    ['short ones of .3 s', DOTTED, { at: 50 }, [1]],
    ['longer ones', DOTTED, { at: 49 }, []],
    ['separate bows', 'A4/.75 B4/.25 C5/.75 D5/.25', { at: 70 }, []],
    ['even notes', '(A4/.5 B4/.5 C5/.5 D5/.5)', { at: 70 }, []],
    ['one long note, then even ones', '(A4/1 B4/.25 C5/.25 D5/.25 E5/.25)', { at: 70 }, []],
    ['one and a half to one is no rhythm', '(A4/.75 B4/.5 C5/.75)', { at: 140 }, []],
    ['two notes', '(A4/.75 B4/.25) (C5/.75 D5/.25)', { at: 70 }, []],
  ])('%s', (_name, music, asked, wanted) => expect(severities('rhythm under one bow', music, asked)).toEqual(wanted));

  test('told where it comes first, with how often it comes', () => {
    const troubles = found('rhythm under one bow', `r/4 ${times(`${DOTTED} r/2`, 3)}`, { at: 70 });
    expect(troubles.map(({ bar, numbers }) => [bar, (numbers as { times: number }).times])).toEqual([['2', 3]]);
  });
});

describe('a held note and what follows it', () => {
  // Five beats in one down-bow, and then a forte accent, which lives in the lower half, as an up-bow from the tip.
  const HELD = 'C3~/4 C3/1 D3!/1 E3/2';
  const cello = { kind: 'cello' as const, at: 72, dynamic: 'f' as const };
  test('no room for it: told at the stroke that follows, with what is missing', () => {
    const [trouble, ...others] = found('held to the wrong end', HELD, { ...cello, bows: { 0: 'down', 2: 'up' } });
    expect(others).toEqual([]);
    expect(trouble).toMatchObject({ bar: '2', beat: 2 });
    const { endsAt, awayCm } = trouble!.numbers as { endsAt: number; awayCm: number };
    // From where the bow is (60 cm of hair) to the end of the lower half, where an accent begins.
    expect(awayCm).toBeCloseTo((endsAt - 0.4) * 60, 0);
    expect(trouble!.text).toContain('the accent that follows');
  });
  test.each<[string, string, Asked]>([
    ['the way it is planned, it comes out', HELD, cello],
    ['a rest leaves time', 'C3~/4 C3/1 r/1 D3!/1', { ...cello, bows: { 0: 'down', 2: 'up' } }],
    ['a note that is not held', 'C3/1 D3!/1 E3/2', { ...cello, bows: { 0: 'down', 1: 'up' } }],
    ['nothing that needs a place', 'C3~/4 C3/1 D3/1 E3/2', { ...cello, bows: { 0: 'down', 2: 'up' } }],
  ])('%s', (_name, music, asked) => expect(severities('held to the wrong end', music, asked)).toEqual([]));
});
