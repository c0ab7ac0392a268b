import { demoScore } from '../../tests/support/demo';
import { handOf, usualPlayer, type Player } from '../instruments/player';
import { applyChanges } from '../marking/change';
import { firstLine, makeScore } from '../testing/make';
import { check, checked, type CheckRequest } from './check';
import type { Finding } from './finding';
import { changesFor, fitOf } from './fit';
import { burden, burdenInWords, remediesFor } from './remedies';
import { BEAT_UNITS, beatUnitOf, feltUnitOf, inBeats, otherUnits } from '../score/beat-unit';
import { spotsFor, tempoVerdict } from './sheet';
import { automaticPassages } from '../score/passages';

const { score } = demoScore('staircase');
const part = score.parts[0]!;
const tobi: Player = { ...usualPlayer('violin'), level: 'intermediate', hand: handOf('small', 'violin') };
const request: CheckRequest = { part, marking: {}, player: tobi, tempo: null, passages: automaticPassages(part) };
const { report, memories } = checked(request);
const severe = report.findings.filter(({ severity }) => severity > 1);

describe('remedies are computed', () => {
  test('there is something to mend', () => expect(severe.length).toBeGreaterThan(3));
  test('what is said of a remedy is so: taken, the finding is gone or milder, by the number given', () => {
    let tried = 0;
    for (const finding of severe.slice(0, 3)) {
      for (const remedy of remediesFor(request, finding, memories[0]).filter(({ kind, changes }) => kind !== 'marks' && kind !== 'tempo' && changes?.length)) {
        tried++;
        const marking = applyChanges({}, remedy.changes!).marking;
        const after = checked({ ...request, marking }, memories).report.findings.find(({ id }) => id === finding.id);
        if (remedy.solved) expect(after).toBeUndefined();
        else if (after) expect(burden(after)).toBeLessThan(burden(finding));
        expect(remedy.before!).toBeGreaterThan(remedy.after!);
      }
    }
    expect(tried).toBeGreaterThan(2);
  });
  test('a slower tempo is one where it helps: at it, the finding is gone', () => {
    const late = severe.find(({ kind, remedies }) => kind === 'shift late' && remedies.some(({ tempo }) => tempo))!;
    const slower = remediesFor(request, late, memories[0]).find(({ kind }) => kind === 'tempo')!;
    expect(check({ ...request, tempo: slower.tempo! }).findings.some(({ id }) => id === late.id)).toBe(false);
  });
  test('what is remembered of the check changes nothing, and is not changed', () => {
    const memory = checked(request).memories[0]!;
    const before = memory.hand.path.kept;
    expect(remediesFor(request, severe[0]!, memory).map(({ text }) => text)).toEqual(remediesFor(request, severe[0]!).map(({ text }) => text));
    expect(memory.hand.path.kept).toBe(before);
  });
  test('burdens are said in their own unit', () => {
    const finding = (kind: Finding['kind'], numbers: Record<string, number>) => ({ kind, numbers, severity: 2 }) as unknown as Finding;
    expect(burdenInWords(finding('out-of-tune risk', { chance: 0.34 }))).toBe('34 %');
    expect(burdenInWords(finding('shift late', { load: 1.42 }))).toBe('1.4 × the time');
    expect(burdenInWords(finding('bow runs out', { neededCm: 130, hairCm: 65 }))).toBe('2.0 bows');
    expect(burdenInWords(finding('retake late', { neededS: 0.3, freeS: 0.2 }))).toBe('1.5 × the time');
    expect(burdenInWords(finding('bow must race back', { surplusDb: 6.04 }))).toBe('2.0 × as fast');
    expect(burdenInWords(finding('colour break', {}))).toBe('risk');
  });
});

describe('for whom', () => {
  const described = { name: 'Tobi', instrument: 'violin', size: '3/4', tuning: null, hand: 'small', level: 'intermediate', thumbPosition: false } as const;
  test('a cell for each passage; the smaller and less experienced hand works up to no more than the usual one', () => {
    const own = fitOf(request, described)!;
    const usual = fitOf(request, { ...described, size: '4/4', hand: 'medium', level: 'professional' })!;
    expect(own.passages).toHaveLength(request.passages.length);
    expect(own.whole.ceiling!).toBeLessThanOrEqual(usual.whole.ceiling ?? 999);
    expect(own.whole.spots).toBeGreaterThanOrEqual(usual.whole.spots);
    expect(fitOf(request, { ...described, size: '9/9' })).toBeNull();
  });
  test('what to change for one player: only marks that differ, fewer spots than before', () => {
    const made = changesFor(request, described)!;
    expect(made.changes.length).toBeGreaterThan(0);
    expect(made.mended.length).toBeGreaterThan(0);
    const weight = (counts: readonly number[]) => counts.reduce((sum, count, i) => sum + count * (i + 1) ** 2, 0);
    expect(weight(made.left)).toBeLessThan(weight(made.before));
  });
});

describe('the check sheet', () => {
  test('quarter 138 is half 69 (domain: the beat that feels right); six eighths are felt in dotted quarters', () => {
    const unit = (name: string) => BEAT_UNITS.find((each) => each.name === name)!;
    expect(inBeats(138, unit('half'))).toBe(69);
    expect(beatUnitOf({ beats: 6, beatType: 8 }).name).toBe('dotted quarter');
    expect(beatUnitOf({ beats: 3, beatType: 8 }).name).toBe('eighth');
    expect(beatUnitOf({ beats: 2, beatType: 2 }).name).toBe('half');
    expect(feltUnitOf(makeScore('violin', 'A4/.5 B4/3', { beats: 6, beatType: 8, pickupQuarters: 0.5 }).part).name).toBe('dotted quarter');
    expect(feltUnitOf({ bars: [] }).name).toBe('quarter');
    for (const each of BEAT_UNITS) expect(otherUnits(each).length).toBeGreaterThan(0);
    expect(otherUnits(unit('dotted quarter')).map(({ name }) => name)).toEqual(['quarter']);
    expect(
      otherUnits(unit('quarter'))
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['eighth', 'half']);
  });
  test('the verdict: does it work, what limits it, what would be next, where to practise', () => {
    const verdict = tempoVerdict(report.tempo, report.tempo, part);
    expect(verdict.works).toBe(false);
    expect(verdict.otherwise).toBe(false);
    const better = tempoVerdict(report.tempo, { ...report.tempo, floor: null, ceiling: report.tempo.wanted }, part);
    expect(better).toMatchObject({ works: false, otherwise: true, practise: null });
    const slurred = tempoVerdict(report.tempo, { ...report.tempo, floor: report.tempo.wanted + 1, ceiling: null }, part);
    expect(slurred).toMatchObject({ works: false, otherwise: false });
    expect(verdict.limitedBy!.tempo).toBeLessThanOrEqual(verdict.next!.tempo);
    expect(verdict.practise!.to).toBeLessThan(verdict.ceiling!);
  });
  test('so many spots at most, the worst, in bar order, each note once with what else is wrong there', () => {
    const spots = spotsFor(report.findings, 5);
    expect(spots.length).toBe(5);
    const bars = spots.map(({ finding }) => finding.barIndex);
    expect(bars).toEqual([...bars].sort((a, b) => a - b));
    expect(new Set(spots.map(({ finding }) => finding.noteIds.at(-1))).size).toBe(5);
    const least = Math.min(...spots.map(({ finding }) => finding.severity));
    const all = spotsFor(report.findings, 100);
    for (const { finding } of all) if (!spots.some((spot) => spot.finding.id === finding.id)) expect(finding.severity).toBeLessThanOrEqual(least);
    expect(all.some(({ also }) => also.length > 0)).toBe(true);
  });
});

test('up-bow after up-bow by the coach, with neither hook nor retake: named, with both ways out', () => {
  const made = makeScore('violin', 'A4 B4 C5 D5');
  const [a, b] = made.part.notes;
  const marking = { [`${a!.id}|bow`]: { value: 'up', origin: 'coach' as const }, [`${b!.id}|bow`]: { value: 'up', origin: 'coach' as const } };
  const asked = { score: made.score, part: made.part, marking, player: usualPlayer('violin'), tempo: null, passages: [] };
  const found = check(asked).findings.find(({ kind }) => kind === 'contradiction')!;
  expect(found.text).toContain('up-bow after up-bow');
  expect(firstLine(made.part).events).toHaveLength(4);
  const hooked = applyChanges(marking, found.remedies[0]!.changes!).marking;
  expect(check({ ...asked, marking: hooked }).findings.some(({ kind }) => kind === 'contradiction')).toBe(false);
});
