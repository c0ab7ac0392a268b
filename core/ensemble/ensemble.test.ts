import type { FindingOf } from '../checks/finding';
import { demoScore } from '../../tests/support/demo';
import { usualPlayer } from '../instruments/player';
import { markKey, type Marking } from '../marking/mark';
import { applyChanges } from '../marking/change';
import { pitchName } from '../score/pitch';
import { linesOf } from '../instruments/lines';
import { firstLine, makeScore } from '../testing/make';
import { check, type CheckRequest } from '../checks/check';
import { cuesBefore } from './entries';
import { aimOf } from '../checks/context';
import { classOf, pitchOf } from './chord';
import { bowedOtherwise, type OtherPart } from './ensemble';
import { chordAt, harmonyOf } from './harmony';
import { PURE_FIFTH, tonicOf, USUAL_INTONATION } from '../checks/target';

const { score } = demoScore('mill-race-serenade');
const others = (own: number, markings: Record<number, Marking> = {}): OtherPart[] =>
  score.parts.flatMap((part, i) => (i === own ? [] : [{ id: part.id, name: part.name, markingId: `m${i}`, part, marking: markings[i] ?? {} }]));

describe('the root that is aimed over', () => {
  const [part, ...rest] = score.parts;
  const others = rest.map((each) => ({ id: each.id, name: each.name, markingId: each.id, part: each, marking: {} }));
  const rootIn = (asked: Parameters<typeof aimOf>[0]) => aimOf(asked).aim.rootAt;
  test('is that of the chord that the score is read as, with every note; where none is sure, the tonic', () => {
    const root = rootIn({ part: part!, others, intonation: { school: 'just', toleranceCents: null } });
    const harmony = harmonyOf(score.parts);
    const read = part!.notes.map((note) => ({ note, chord: chordAt(harmony, note.onset) }));
    expect(read.filter(({ chord }) => chord).length).toBeGreaterThan(read.length / 2);
    for (const { note, chord } of read) expect(classOf(root(note))).toBe(chord ? chord.root : classOf(tonicOf(part!.bars[note.barIndex]!.fifths)));
  });
  test('of a part alone it is the tonic; the first bar of the demo is over D', () => {
    const note = part!.notes.find(({ barIndex }) => barIndex === 1)!;
    expect(pitchName(rootIn({ part: part!, intonation: { school: 'just', toleranceCents: null } })(note))).toBe(pitchName(tonicOf(part!.bars[1]!.fifths)));
    expect(pitchName(rootIn({ part: part!, others })(note))).toBe('D4');
  });
  test('a class and the pitch of its name are one, from seven flats to double sharps', () => {
    for (let of = -15; of <= 19; of++) expect([classOf(pitchOf(of)), pitchOf(of).octave]).toEqual([of, 4]);
  });
});

test('tonics of the key signatures, from seven flats to seven sharps (circle of fifths)', () => {
  expect([-7, -6, -3, -1, 0, 1, 2, 4, 6, 7].map((fifths) => pitchName(tonicOf(fifths)))).toEqual([
    'Cb4',
    'Gb4',
    'Eb4',
    'F4',
    'C4',
    'G4',
    'D4',
    'E4',
    'F#4',
    'C#4',
  ]);
});

test('a cue before an entry is a note of another part, in the two bars before it, the latest first', () => {
  const own = score.parts[0]!;
  const entry = own.notes.find((note) => own.bars[note.barIndex]!.label === '53')!;
  const cues = cuesBefore(entry, own, others(0));
  expect(cues).toHaveLength(2);
  for (const { bar } of cues) expect(['52', '51']).toContain(bar);
  expect(cues[0]!.beat).toBeGreaterThanOrEqual(cues[1]!.beat);
  const report = check({ part: own, marking: {}, player: usualPlayer('violin'), tempo: null, passages: [], others: others(0) });
  const trap = report.findings.find(({ kind, bar }) => kind === 'counting trap' && bar === '53')!;
  expect(trap.hearIt).toContain(`Listen for ${cues[0]!.name}, ${cues[0]!.bar}/`);
});

describe('a cue is where a phrase begins', () => {
  const cued = (...music: string[]) => {
    const own = makeScore('violin', 'G4/4 | r/4 | r/4 | r/2 A4/2').part;
    const parts = music.map((text, i): OtherPart => ({ id: `${i}`, name: `part ${i}`, markingId: `${i}`, part: makeScore('viola', text).part, marking: {} }));
    return cuesBefore(own.notes.at(-1)!, own, parts).map(({ name, bar, beat, pitch }) => `${name}: ${bar}/${beat} ${pitch}`);
  };
  test.each([
    ['after a rest', 'C4/4 | C4/4 | r/2 D4 E4 | F4 G4 A4/2', 'part 0: 3/3 D4'],
    ['after a long note, not the last note of the run', 'C4~/4 | C4/4 | C4/2 D4/0.5 E4/0.5 F4/0.5 G4/0.5 | A4/0.5 B4/0.5 A4/1 G4/2', 'part 0: 3/3 D4'],
    ['not where a tie goes on', 'C4/4 | r/2 D4~/2 | D4~/4 | D4/4', 'part 0: 2/3 D4'],
    ['not the beats of an accompaniment', 'C4 r/3 | C4 r/1 E4 E4 | r/1 E4 r/1 E4 | C4 r/1 E4 E4', 'part 0: 4/1 C4'],
    [
      'else the longest note on a beat, of equal ones the first of the last bar',
      'C4 D4 E4 F4 | C4 D4 E4 F4 | G4 A4/0.5 B4/1.5 A4/1 | G4/1 A4/1 G4/2',
      'part 0: 4/1 G4',
    ],
  ])('%s', (_, music, expected) => expect(cued(music)).toEqual([expected]));
  test('a beginning goes before a figure, the later before the earlier, two at most', () => {
    const figure = 'C4/0.5 E4/0.5 G4/0.5 E4/0.5 C4/0.5 E4/0.5 G4/0.5 E4/0.5';
    const running = [figure, figure, figure, figure].join(' | ');
    expect(cued(running, 'C4/4 | C4/2 r/1 D4/1 | E4/4 | F4/4', 'C4/4 | C4/4 | r/1 D4/3 | E4/4')).toEqual(['part 2: 3/2 D4', 'part 1: 2/4 D4']);
  });
  test('nothing that lies further back than two bars', () => expect(cued('C4/4 | r/4 | r/4 | r/4')).toEqual([]));
});

describe('bows that should go together', () => {
  const two = (
    ownBows: Record<number, string>,
    otherBows: Record<number, string>,
    music = 'A4 B4 C5 D5 | E5 D5 C5 B4',
    otherMusic = 'C4 D4 E4 F4 | G4 F4 E4 D4',
  ) => {
    const [own, other] = [makeScore('violin', music), makeScore('violin', otherMusic)];
    const mark = (part: typeof own.part, bows: Record<number, string>): Marking =>
      Object.fromEntries(Object.entries(bows).map(([at, value]) => [markKey(part.notes[Number(at)]!.id, 'bow'), { value, origin: 'coach' }]));
    const marking = mark(own.part, ownBows);
    const elsewhere: OtherPart = { id: 'P2', name: 'Violin II', markingId: 'm', part: other.part, marking: mark(other.part, otherBows) };
    const request: CheckRequest = { ...own, marking, player: usualPlayer('violin'), tempo: null, passages: [], others: [elsewhere] };
    return { request, own: own.part, marking, elsewhere, found: bowedOtherwise(own.part, firstLine(own.part), marking, [elsewhere]) };
  };
  test('the same rhythm at the same time, up here and down there, is told with both remedies; either makes an end of it', () => {
    const { own, marking, elsewhere, found, request } = two({ 0: 'up' }, { 0: 'down' });
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ how: 'together', here: 0, there: 0, differences: [{ kind: 'bow', here: 'up', there: 'down' }] });
    const here = applyChanges(marking, found[0]!.copyHere).marking;
    expect(bowedOtherwise(own, firstLine(own), here, [elsewhere])).toEqual([]);
    const there = { ...elsewhere, marking: applyChanges(elsewhere.marking, found[0]!.copyThere).marking };
    expect(bowedOtherwise(own, firstLine(own), marking, [there])).toEqual([]);
    const finding = check(request).findings.find(({ kind }) => kind === 'marked differently elsewhere')!;
    expect(finding).toMatchObject({ bar: '1', severity: 2, numbers: { part: 'Violin II' } });
    expect(finding.remedies.map(({ text }) => text)).toEqual(['Mark bar 1 like Violin II.', 'Mark bar 1 of Violin II like bar 1.']);
    expect(finding.remedies[1]!.elsewhere).toMatchObject({ partId: 'P2', markingId: 'm' });
  });
  test('what is not marked in one of them is no difference', () => {
    expect(two({ 0: 'up' }, {}).found).toEqual([]);
    expect(two({}, { 0: 'down' }).found).toEqual([]);
    expect(two({ 0: 'up' }, { 0: 'up' }).found).toEqual([]);
  });
  test('another rhythm at the same time is free; the same tune elsewhere is not', () => {
    expect(two({ 0: 'up' }, { 0: 'down' }, undefined, 'C4/2 D4/1 E4/1 | G4/2 F4/1 E4/1').found).toEqual([]);
    expect(two({ 0: 'up' }, { 0: 'down' }, undefined, 'C4/0.5 '.repeat(16)).found).toEqual([]);
    const later = two({ 0: 'up' }, { 4: 'down' }, 'A4/1.5 B4/0.5 C5 D5 | E5 D5/1.5 C5/0.5 B4 | A4/4', 'C4/2 D4 E4 | A3/1.5 B3/0.5 C4 D4 | E4 D4/1.5 C4/0.5 B3');
    expect(later.found.map(({ how, here, there }) => [how, here, there])).toEqual([]);
    const tune = two({ 0: 'up' }, { 3: 'down' }, 'A4/1.5 B4/0.5 C5 D5 | E5 D5/1.5 C5/0.5 B4 | A4/4', 'C4/2 D4 E4 | A3/1.5 B3/0.5 C4 D4 | E4 D4/1.5 C4/0.5 B3');
    expect(tune.found.map(({ how, here, there }) => [how, here, there])).toEqual([['same tune', 0, 1]]);
  });
});

describe('the pitch that is aimed at', () => {
  const high = makeScore('violin', 'r/8 F#6/2 G6/2', { fifths: 2 });
  const told = (intonation: CheckRequest['intonation'], extra: Partial<CheckRequest> = {}) =>
    check({ ...high, marking: {}, player: { ...usualPlayer('violin'), level: 'intermediate' }, tempo: null, passages: [], intonation, ...extra }).findings.find(
      (finding): finding is FindingOf<'out-of-tune risk'> =>
        finding.kind === 'out-of-tune risk' && Boolean(finding.hear?.some((way) => way.kind === 'target' || way.kind === 'drone')),
    )!;
  test('melodic: F sharp is three fifths above A, so 3 × 2 cents high (Pythagorean tuning)', () => {
    expect(told(USUAL_INTONATION).numbers).toMatchObject({ aim: 'pythagorean', aimCents: Math.round(3 * (PURE_FIFTH - 700) * 10) / 10 });
  });
  test('chordal: as the third over D, the tonic, it lies low; equal temperament says nothing', () => {
    const just = told({ school: 'just', toleranceCents: null });
    // A pure major third is 13.7 cents narrower than the tempered one; D itself lies 2 cents low.
    expect(just.numbers.aimCents).toBeCloseTo(-13.7 - 2, 0);
    expect(just.hear!.find(({ kind }) => kind === 'target')!.text).toContain('pure over D');
    expect(told({ school: 'equal', toleranceCents: null }).hear!.some(({ kind }) => kind === 'target')).toBe(false);
  });
  test('chordal, with the score there: over the chord that sounds', () => {
    const bass = makeScore('bass', 'r/8 B1/4', { fifths: 2 });
    const violas = makeScore('viola', 'r/8 D4/4', { fifths: 2 });
    const parts = [bass, violas].map(({ part }, i): OtherPart => ({ id: `${i}`, name: `${i}`, markingId: `${i}`, part, marking: {} }));
    const finding = told({ school: 'just', toleranceCents: null }, { others: parts });
    // B, D, F sharp: the fifth of a B minor chord, pure.
    expect(finding.hear!.find(({ kind }) => kind === 'target')!.text).toContain('pure over B');
    expect(finding.numbers.aimCents).toBeCloseTo(3 * (PURE_FIFTH - 700), 0);
  });
  test('a tighter tolerance is the one that counts', () => {
    expect(told({ school: 'equal', toleranceCents: 7 }).numbers.toleranceCents).toBe(7);
  });
});

test('lines of the demo score know each other: nothing marked, nothing to tell', () => {
  expect(bowedOtherwise(score.parts[1]!, linesOf(score.parts[1]!)[0]!, {}, others(1))).toEqual([]);
});
