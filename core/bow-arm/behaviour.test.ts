/** What the bow plan must come to, by the facts of the trade. */
import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore, TICKS, type MakeOptions } from '../testing/make';
import { demoScore, demoText } from '../../tests/support/demo';
import { readMusicXml } from '../formats/musicxml/read';
import { linesOf } from '../instruments/lines';
import { clockFor } from '../score/time';
import type { InstrumentKind } from '../score/score';
import { usualPlayer } from '../instruments/player';
import { barsTarget } from '../marking/target';
import { markKey, type Marking } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';
import { check } from '../checks/check';
import { newBowMemory, planBowing, type BowingRequest } from './bowing';
import { smallestClash } from './clash';
import { HAIR_CM } from './tables';
import { preparedAtoms } from './bowing';

function request(music: string, options: MakeOptions = {}, marking: Marking = {}, kind: InstrumentKind = 'violin'): BowingRequest {
  const { part } = makeScore(kind, music, options);
  return { part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking, alternatives: 1 };
}
const best = (asked: BowingRequest) => planBowing(asked)[0]!;
const ways = (asked: BowingRequest) =>
  best(asked)
    .strokes.map((stroke) => stroke.direction[0])
    .join('');
/** Marks by note index: `marks(music, [[2, 'bow', 'up']])`. */
function marks(music: string, options: MakeOptions, list: ReadonlyArray<readonly [note: number, kind: MarkKind, value: string]>): Marking {
  const { part } = makeScore('violin', music, options);
  return Object.fromEntries(list.map(([note, kind, value]) => [markKey(part.notes[note]!.id, kind), { value, origin: 'coach' as const }]));
}

describe('two beats down and one beat back, in three', () => {
  const music = '(A4 B4) C5 | '.repeat(8);
  const options = { beats: 3, tempo: 100 };
  const locks = Array.from({ length: 16 }, (_, i) => [Math.floor(i / 2) * 3 + (i % 2 ? 2 : 0), 'bow', i % 2 ? 'up' : 'down'] as const);
  const { part } = makeScore('violin', music, options);
  const report = check({ part, marking: marks(music, options, locks), player: usualPlayer('violin'), tempo: null, passages: [] });
  const finding = report.findings.find((each) => each.kind === 'bow must race back')!;

  test('the steady state: twice as fast, +6.0 dB', () => {
    expect(finding.numbers).toMatchObject({ steadySpeedRatio: 2, steadyStepDb: 6.02 });
  });
  test('less bow, a hook and a retake are offered with their numbers', () => {
    expect(finding.remedies.map((remedy) => remedy.text.split(/[ :]/)[0])).toEqual(['Less', 'Hook', 'Retake']);
    expect(finding.text).toMatch(/times as fast|twice as fast/);
    expect(finding.remedies[0]!.text).toMatch(/\d+ cm for both, then the long one is a little softer/);
    expect(finding.remedies[2]!.text).toMatch(/0\.\d\d s to bring \d+ cm back/);
    for (const remedy of finding.remedies) expect(remedy.after!).toBeLessThan(remedy.before!);
  });
});

test('a phrase with piano following ends in the upper half', () => {
  const asked = request('A4 B4 C5 D5 | E5/2 D5/2 | C5 B4 A4 B4 | A4/4', { tempo: 84, dynamic: 'f' });
  asked.part.dynamics.push({ tick: 8 * TICKS, text: 'p', level: 'p' });
  const { strokes } = best(asked);
  const lastLoud = strokes.filter((stroke) => stroke.level === 'f').at(-1)!;
  expect(lastLoud.endsAt).toBeGreaterThan(0.5);
});

test('two downs and four staccato ups as printed keep their bowing and show the lift', () => {
  const music = 'A4 A4 | B4./0.5 C5./0.5 D5./0.5 E5./0.5 | F5/2';
  const printed = [
    [0, 'down'],
    [1, 'down'],
    [2, 'up'],
    [3, 'up'],
    [4, 'up'],
    [5, 'up'],
  ] as const;
  const asked = request(music, { beats: 2 });
  for (const [note, bow] of printed) asked.part.notes[note]!.printed.bow = bow;
  const { strokes, feasible } = best(asked);
  expect(strokes.map((stroke) => stroke.direction[0]).join('')).toBe('dduuuud');
  expect(strokes[1]).toMatchObject({ retake: true, hooked: false });
  expect(strokes.slice(3, 6).every((stroke) => stroke.hooked)).toBe(true);
  expect(feasible).toBe(true);
});

describe('the same music', () => {
  const bar = 'A4 B4/0.5 C5/0.5 D5 B4';
  test('comes out with the same bowing, also a fifth higher', () => {
    const asked = request(`${bar} | E5/2 D5/2 | E5 F#5/0.5 G5/0.5 A5 F#5 | D5/2 C5/2 | ${bar} | B4/2 A4/2`);
    const { strokes, unlike } = best(asked);
    const of = (barIndex: number) => strokes.filter((stroke) => stroke.barIndex === barIndex).map((stroke) => stroke.direction + stroke.hooked);
    expect(of(2)).toEqual(of(0));
    expect(of(4)).toEqual(of(0));
    expect(unlike).toEqual([]);
  });
  test('where a mark forbids it, it says so', () => {
    const tune = `${bar} | E5/2 D5/2`;
    const music = `${tune} | C5 D5 E5 F5 | ${tune} | C5 B4 A4 G4 | ${tune} | A4/4`;
    const fourth = 5 + 2 + 4;
    const { unlike } = best(
      request(
        music,
        {},
        marks(music, {}, [
          [fourth, 'bow', 'up'],
          [fourth + 1, 'bow', 'up'],
          [0, 'bow', 'down'],
        ]),
      ),
    );
    expect(unlike.length).toBeGreaterThan(0);
    for (const { fromBar, likeBar, why } of unlike) {
      expect(likeBar).not.toBe(fromBar);
      expect(why.length).toBeGreaterThan(10);
    }
  });
});

describe('repeats as played', () => {
  const repeated = (music: string, options: MakeOptions = {}) => {
    const asked = request(music, options);
    asked.part.bars.at(-1)!.repeatEnd = true;
    return best(asked);
  };
  test('what comes round by itself is no trouble', () => expect(repeated('A4 B4 C5 D5 | E5 D5 C5 B4').resets).toEqual([]));
  test('an odd number of strokes is brought round, or said', () => {
    const { resets, changes, strokes } = repeated('A4/2 B4 | C5/2. D5. | E5/3', { beats: 3 });
    const comesRound = strokes.at(-1)!.endDirection !== strokes[0]!.direction;
    expect(comesRound ? resets : resets.map((reset) => reset.toBar)).toEqual(comesRound ? [] : [0]);
    expect(comesRound || changes.length >= 0).toBe(true);
  });
  test('a rest at the end leaves time', () => expect(repeated('A4 B4 C5 D5 | E5 D5 C5 r').resets).toEqual([]));
});

describe('wishes', () => {
  const music = 'A4 B4 C5 D5 | E5 D5 C5 B4 | A4 B4 C5 D5 | A4/4';
  test('a note begins where it is wished, and the notes before lead there', () => {
    const { strokes } = best(request(music, {}, marks(music, {}, [[8, 'bow-from', 'frog']])));
    expect(strokes[8]!.from).toBeLessThan(0.2);
    const tip = best(request(music, {}, marks(music, {}, [[7, 'bow-to', '80 %']]))).strokes;
    expect(Math.abs(tip[7]!.to - 0.8)).toBeLessThan(0.08);
  });
  test('where a slur ends may be said at its last note', () => {
    const slurred = '(A4 B4 C5) D5 | E5/4';
    const { strokes } = best(request(slurred, {}, marks(slurred, {}, [[2, 'bow-to', 'tip']])));
    expect(strokes[0]!.noteIds).toHaveLength(3);
    expect(strokes[0]!.to).toBeGreaterThan(0.8);
  });
  test('a zone for a run of bars, an amount for a note', () => {
    const marking: Marking = {
      [markKey(barsTarget({ fromBar: 0, toBar: 1 }), 'bow-zone')]: { value: 'upper half', origin: 'coach' },
      ...marks(music, {}, [[9, 'bow-amount', '12 cm']]),
    };
    const { strokes } = best(request(music, {}, marking));
    for (const stroke of strokes.slice(1, 7)) expect(Math.min(stroke.from, stroke.to)).toBeGreaterThan(0.45);
    expect(strokes[9]!.cm).toBeGreaterThan(10);
    expect(strokes[9]!.cm).toBeLessThan(14.5);
  });
  test('the held school takes less bow than the flowing one', () => {
    const cm = (school: string) =>
      best(request(music, { dynamic: 'p' }, { [markKey(barsTarget({ fromBar: 0, toBar: 3 }), 'sound-school')]: { value: school, origin: 'coach' } }))
        .strokes[1]!.cm;
    expect(cm('held')).toBeLessThan(cm('flowing') * 0.7);
  });
  test('a phrase is bowed note by note, a bow in one', () => {
    const slurred = '(A4 B4 C5 D5) | E5/4';
    expect(ways(request(slurred, {}, marks(slurred, {}, [[0, 'slur-is', 'phrase']])))).toBe('dudud');
    expect(best(request(slurred, {}, marks(slurred, {}, [[0, 'slur-is', 'bow']]))).strokes[0]!.noteIds).toHaveLength(4);
  });
});

describe('strokes from the signs', () => {
  test('a measured tremolo is counted, an unmeasured one is not; both go on from where they end', () => {
    const beamed = (tremolo: number) => {
      const asked = request('A4/2 B4/2 | C5/4', { tempo: 60 });
      Object.assign(asked.part.notes[0]!, { tremolo, length: { type: 'half', dots: 0, actual: 1, normal: 1 } });
      return asked;
    };
    const [first, second] = best(beamed(1)).strokes;
    expect(first).toMatchObject({ strokes: 4, seconds: 0.5, kind: 'tremolo' });
    expect(first!.endDirection).not.toBe(first!.direction);
    expect(second!.from).toBeCloseTo(first!.endsAt, 9);
    expect(best(beamed(3)).strokes[0]!.strokes).toBe(0);
  });
  test('a crescendo over separate notes takes more bow on each', () => {
    const asked = request('A4 B4 C5 D5 | E5/4', { dynamic: 'p' });
    asked.part.hairpins.push({ kind: 'crescendo', from: 0, to: 4 * TICKS });
    asked.part.dynamics.push({ tick: 4 * TICKS, text: 'f', level: 'f' });
    const { strokes } = best(asked);
    expect(strokes[3]!.cm).toBeGreaterThan(strokes[0]!.cm * 1.3);
  });
  test('notes before the beat lie under the bow of their main note', () => {
    const asked = request('A4/0.5 B4 C5 D5', {});
    const [grace] = asked.part.notes;
    Object.assign(grace!, { grace: 'slashed', duration: 0, onset: asked.part.notes[1]!.onset });
    const part = { ...asked.part };
    expect(best({ ...asked, part, line: linesOf(part)[0]! }).strokes.map((stroke) => stroke.noteIds.length)).toEqual([2, 1, 1]);
  });
  test('the inner slurs are the bows where one slur holds several', () => {
    const asked = request('(A4 B4) (C5 D5) | E5/4');
    const { notes, slurs } = asked.part;
    slurs.push({ from: notes[0]!.id, to: notes[4]!.id, voice: '1', onset: 0, endOnset: notes[4]!.onset });
    expect(best(asked).strokes.map((stroke) => stroke.noteIds.length)).toEqual([2, 2, 1]);
  });
  test('unequal eighths: two to one leaves the beats where they are', () => {
    const music = 'A4/0.5 B4/0.5 C5/0.5 D5/0.5';
    const marking: Marking = { [markKey(barsTarget({ fromBar: 0, toBar: 0 }), 'unequal')]: { value: '2:1', origin: 'coach' } };
    const seconds = best(request(music, { tempo: 60, beats: 2 }, marking)).strokes.map((stroke) => stroke.seconds);
    [2 / 3, 1 / 3, 2 / 3, 1 / 3].forEach((wanted, i) => expect(seconds[i]).toBeCloseTo(wanted, 6));
  });
});

describe('marks that clash', () => {
  const music = 'A4 B4 C5 D5 | E5 D5 C5 B4';
  const clash = (list: Parameters<typeof marks>[2], at: number) => {
    const asked = request(music, {}, marks(music, {}, list));
    const joined = new Set(list.filter(([, kind, value]) => kind === 'slur' && value === 'join').map(([note]) => note));
    return smallestClash(preparedAtoms(asked), at, joined, HAIR_CM.violin)?.map((lock) => [lock.atom, lock.kind]);
  };
  test('the smallest set is named', () => {
    expect(
      clash(
        [
          [1, 'bow', 'up'],
          [2, 'bow', 'down'],
          [2, 'hook', 'yes'],
          [5, 'bow', 'up'],
        ],
        2,
      ),
    ).toEqual([
      [2, 'bow'],
      [2, 'hook'],
      [1, 'bow'],
    ]);
    expect(
      clash(
        [
          [3, 'hook', 'yes'],
          [3, 'retake', 'yes'],
          [2, 'bow', 'up'],
        ],
        3,
      ),
    ).toEqual([
      [3, 'hook'],
      [3, 'retake'],
    ]);
    expect(
      clash(
        [
          [4, 'bow', 'up'],
          [4, 'bow-from', 'frog'],
        ],
        4,
      ),
    ).toEqual([
      [4, 'bow'],
      [4, 'bow-from'],
    ]);
  });
  test('marks that can be met are none', () =>
    expect(
      clash(
        [
          [1, 'bow', 'up'],
          [2, 'bow', 'up'],
          [2, 'hook', 'yes'],
        ],
        2,
      ),
    ).toBeUndefined());
});

describe('a plan made anew after a change', () => {
  const { score } = demoScore('mill-race-serenade');
  const part = score.parts[0]!;
  const line = linesOf(part)[0]!;
  const asked = { score, part, line, player: usualPlayer('violin'), clock: clockFor(part, null), alternatives: 1 };
  test('is the plan that would have been made without the memory of the one before', () => {
    const memory = newBowMemory();
    planBowing({ ...asked, marking: {} }, memory);
    const mark = fc.record({ note: fc.nat(part.notes.length - 1), kind: fc.constantFrom('bow', 'hook', 'slur', 'bow-zone'), way: fc.boolean() });
    fc.assert(
      fc.property(fc.array(mark, { maxLength: 3 }), (list) => {
        const marking: Record<string, Marking[string]> = {};
        for (const { note, kind, way } of list) {
          const value = kind === 'bow' ? (way ? 'down' : 'up') : kind === 'hook' ? 'yes' : kind === 'slur' ? (way ? 'split' : 'join') : way ? 'tip' : 'frog';
          marking[markKey(part.notes[note]!.id, kind as MarkKind)] = { value, origin: 'coach' };
        }
        const again = planBowing({ ...asked, marking }, memory)[0]!;
        const fresh = planBowing({ ...asked, marking })[0]!;
        expect(again.strokes.map(({ noteIds, direction }) => noteIds[0] + direction)).toEqual(
          fresh.strokes.map(({ noteIds, direction }) => noteIds[0] + direction),
        );
        expect(again.total).toBeCloseTo(fresh.total, 2);
      }),
      { numRuns: runs(12), endOnFailure: true },
    );
  });
});

describe('nonsense', () => {
  test('a slur of sixty beats is taken for a phrase and asked about', () => {
    const music = `(${'A4 B4 C5 D5 '.repeat(15).trim()}) | A4/4`;
    const { phrases, feasible, changes } = best(request(music, { tempo: 60, dynamic: 'f' }));
    expect(phrases).toHaveLength(1);
    expect(feasible).toBe(true);
    expect(changes.find((change) => change.kind === 'split')!.why).toContain('longer than any bow');
  });
  test('a bar of 128th notes is planned, and found too quick', () => {
    const { part } = makeScore('violin', 'A4/0.03125 '.repeat(128), { tempo: 120 });
    const report = check({ part, marking: {}, player: usualPlayer('violin'), tempo: null, passages: [] });
    expect(report.findings.some((finding) => finding.kind === 'stroke too quick' && finding.severity === 3)).toBe(true);
  });
  test('a tempo of nothing is passed over, and said', () => {
    const read = readMusicXml(
      demoText('staircase')
        .replace(/<per-minute>[^<]*</, '<per-minute>0<')
        .replace(/<sound tempo="[^"]*"/, '<sound tempo="0"'),
    );
    if (!read.ok) throw new Error(read.problem.what);
    expect(read.value.score.warnings.map((warning) => warning.text).join()).toContain('A tempo of 0 cannot be played');
    const [part] = read.value.score.parts;
    expect(clockFor(part!, null).tempo).toBeGreaterThan(0);
  });
  test('plucked throughout: no bow, no findings of it', () => {
    const asked = request('A4 B4 C5 D5', { words: [{ quarter: 0, text: 'pizz.' }] });
    expect(planBowing(asked)).toEqual([]);
  });
});
