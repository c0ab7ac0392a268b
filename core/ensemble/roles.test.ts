import fc from 'fast-check';
import { demoScore, demoText } from '../../tests/support/demo';
import { readMusicXml } from '../formats/musicxml/read';
import { bestPath } from './best-path';
import { rhythmGroups } from './groups';
import { harmonyOf } from './harmony';
import { roleAt, rolesOf, type Phrase, type Role } from './roles';

const { parts } = demoScore('mill-race-serenade').score;
const asked = parts.map((part) => ({ id: part.id, part }));

/**
 * What was meant when the demo was composed, phrase by phrase: bars as printed, parts from Violin I to Double Bass.
 * T tune, S second tune, M moving figure, H held, O off-beats, B bass, - silent.
 */
const MEANT: ReadonlyArray<[from: number, to: number, roles: string]> = [
  [1, 8, 'TMOBB'],
  [9, 16, 'TMOBB'],
  [17, 24, 'TSSBB'],
  [25, 32, 'TSMBB'],
  [33, 40, 'HOTMB'],
  [41, 48, 'HOTMB'],
  [53, 56, 'TOMBB'],
  [57, 62, 'TMHBB'],
  [65, 72, 'HSHTB'],
  [73, 80, 'HSHTB'],
  [81, 84, 'THOBB'],
  [85, 92, 'TSSBB'],
  [97, 104, 'TMOBB'],
  [105, 111, 'TMOBB'],
  [113, 120, 'TSMBB'],
];
const LETTERS: Readonly<Record<string, Role>> = { T: 'tune', S: 'second tune', M: 'moving figure', H: 'held', O: 'off-beats', B: 'bass', '-': 'silent' };

/** The role that a part has in most bars of a phrase. */
function mostly(phrases: ReturnType<typeof rolesOf>, partId: string, from: number, to: number): Role {
  const { bars } = parts[0]!;
  const counted = new Map<Role, number>();
  bars.forEach(({ label }, b) => {
    if (Number(label) < from || Number(label) > to) return;
    const { role } = roleAt(phrases, partId, b)!;
    counted.set(role, (counted.get(role) ?? 0) + 1);
  });
  return [...counted].sort((a, b) => b[1] - a[1])[0]![0];
}

describe('roles', () => {
  const phrases = rolesOf(asked);
  test('as the demo was meant by its composer, phrase by phrase', () => {
    const all = MEANT.flatMap(([from, to, roles]) =>
      [...roles].map((letter, p) => ({ at: `${from}–${to} ${parts[p]!.name}`, want: LETTERS[letter]!, got: mostly(phrases, parts[p]!.id, from, to) })),
    );
    const wrong = all.filter(({ want, got }) => want !== got);
    expect(all).toHaveLength(75);
    expect(1 - wrong.length / all.length).toBeGreaterThanOrEqual(0.85);
    // Whose tune it is is never missed.
    expect(wrong.filter(({ want, got }) => want === 'tune' || got === 'tune')).toEqual([]);
    expect(wrong.map(({ at, got }) => `${at}: ${got}`)).toEqual([
      '25–32 Viola: second tune',
      '33–40 Cello: bass',
      '41–48 Cello: bass',
      '53–56 Violin II: moving figure',
      '73–80 Violin I: moving figure',
      '73–80 Violin II: moving figure',
      '113–120 Violin II: moving figure',
    ]);
  });

  test('every bar of every part is in one phrase, as sure as it is', () => {
    for (const { id } of asked) {
      const own = phrases.filter(({ partId }) => partId === id);
      expect(own.flatMap(({ fromBar, toBar }) => Array.from({ length: toBar - fromBar + 1 }, (_, i) => fromBar + i))).toEqual(parts[0]!.bars.map((_, b) => b));
      expect(own.every(({ sure }) => sure >= 0 && sure <= 1)).toBe(true);
    }
    expect(roleAt(phrases, 'P1', 50)!.role).toBe('silent');
    expect(roleAt(phrases, 'nobody', 50)).toBeNull();
  });

  test('they do not change when the parts are reordered', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(asked, { minLength: asked.length }), (order) => {
        expect(rolesOf(order).sort(byPlace)).toEqual([...phrases].sort(byPlace));
      }),
      { numRuns: 20 },
    );
  });

  test('nor in a file of another resolution; chords and groups neither', () => {
    const text = demoText('mill-race-serenade');
    const finer = text
      .replace(/<divisions>(\d+)<\/divisions>/g, (_, n: string) => `<divisions>${Number(n) * 7}</divisions>`)
      .replace(/<duration>(\d+)<\/duration>/g, (_, n: string) => `<duration>${Number(n) * 7}</duration>`)
      .replace(/<offset>(-?\d+)<\/offset>/g, (_, n: string) => `<offset>${Number(n) * 7}</offset>`);
    const read = readMusicXml(finer);
    if (!read.ok) throw new Error(read.problem.what);
    const other = read.value.score.parts;
    expect(rolesOf(other.map((part) => ({ id: part.id, part })))).toEqual(phrases);
    expect(harmonyOf(other)).toEqual(harmonyOf(parts));
    const asOther = (all: typeof parts) => all.map((part) => ({ id: part.id, name: part.name, markingId: part.id, part, marking: {} }));
    expect(rhythmGroups(asOther(other))).toEqual(rhythmGroups(asOther(parts)));
  });

  test('an empty score has none, a part alone has the tune where it plays', () => {
    expect(rolesOf([])).toEqual([]);
    expect(new Set(rolesOf([asked[0]!]).map(({ role }) => role))).toEqual(new Set(['tune', 'silent']));
  });
});

const byPlace = (a: Phrase, b: Phrase): number => (a.partId < b.partId ? -1 : a.partId > b.partId ? 1 : a.fromBar - b.fromBar);

describe('the cheapest choice for each place in a row', () => {
  test('stays where a change costs more than it gains, and goes where not', () => {
    expect(
      bestPath(
        [
          [0, 5],
          [3, 0],
          [0, 5],
        ],
        () => 2,
      ),
    ).toEqual([0, 0, 0]);
    expect(
      bestPath(
        [
          [0, 5],
          [5, 0],
          [0, 5],
        ],
        () => 2,
      ),
    ).toEqual([0, 1, 0]);
    expect(bestPath([], () => 1)).toEqual([]);
  });
  test('costs what trying everything costs', () => {
    const cost = (columns: number[][], path: readonly number[]) =>
      path.reduce((sum, state, i) => sum + columns[i]![state]! + (i > 0 && path[i - 1] !== state ? 1.5 : 0), 0);
    fc.assert(
      fc.property(fc.array(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 5 }), (columns) => {
        const all = columns.reduce<number[][]>((paths, _) => paths.flatMap((path) => [0, 1, 2].map((state) => [...path, state])), [[]]);
        expect(
          cost(
            columns,
            bestPath(columns, () => 1.5),
          ),
        ).toBe(Math.min(...all.map((path) => cost(columns, path))));
      }),
    );
  });
});
