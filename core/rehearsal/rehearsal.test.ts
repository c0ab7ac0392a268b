import fc from 'fast-check';
import { demoScore } from '../../tests/support/demo';
import { checked } from '../checks/check';
import { isSpot, type TempoLimit } from '../checks/finding';
import { FINDINGS } from '../checks/kinds';
import { leftChanges, playedBows, rhythmGroups } from '../ensemble/groups';
import { sectionsOf } from '../ensemble/sections';
import { usualPlayer } from '../instruments/player';
import { applyChanges } from '../marking/change';
import type { Part } from '../score/score';
import { makeScore } from '../testing/make';
import { heldLong } from './held-long';
import { cheapestOpening, spotsAgainst, type PartLimits } from './opening';
import { rehearsalPage, sectionPassages } from './page';

const { parts } = demoScore('mill-race-serenade').score;
const { bars } = parts[0]!;
const strings = parts.map((part) => {
  const made = checked({ part, marking: {}, player: usualPlayer(part.instrument!), tempo: 112, passages: sectionPassages(bars) });
  return { id: part.id, name: part.name, part, marking: {}, report: made.report, limits: made.limits };
});
const others = strings.map(({ id, name, part, marking }) => ({ id, name, markingId: id, part, marking }));
const groups = rhythmGroups(
  others,
  playedBows(others, (id) => strings.find((each) => each.id === id)!.report.bowing),
);
const asked = { all: strings, strings, groups, wanted: 112, section: null };

describe('stretches of a score', () => {
  test('from letter to letter, without gaps, none too long', () => {
    const sections = sectionsOf(bars);
    expect(sections.map(({ name }) => name)).toEqual(['0–16', 'A', 'B', 'C', 'D', 'E', 'F', 'G']);
    const one = (label: string) => ({ label, rehearsal: null, doubleBarAfter: false });
    const long = sectionsOf(Array.from({ length: 60 }, (_, i) => one(String(i + 1))));
    expect(long.map(({ name }) => name)).toEqual(['1–20', '21–40', '41–60']);
    expect(sectionsOf([])).toEqual([]);
    expect(sectionsOf([{ ...one('1'), doubleBarAfter: true }, one('2')]).map(({ name }) => name)).toEqual(['1–1', '2–2']);
  });
});

describe('the fewest spots to mend', () => {
  const limit = (kind: TempoLimit['kind'], tempo: number, barIndex = 0): TempoLimit => ({ kind, tempo, barIndex, beat: 1, noteIds: [] });
  test('a floor above a ceiling: one of the two, where that is all', () => {
    const part = (name: string, ...limits: TempoLimit[]): PartLimits => ({ partId: name, name, limits });
    const apart = [part('Violin I', limit('shift late', 75, 61)), part('Violin II', limit('bow runs out', 76, 113), limit('bow runs out', 90, 120))];
    // At 75 the two floors are in the way, at 90 and above the one ceiling.
    const { tempo, spots } = cheapestOpening(apart, 88);
    expect([tempo, spots.map(({ name, barIndex }) => `${name} ${barIndex}`)]).toEqual([90, ['Violin I 61']]);
    expect(spotsAgainst(apart, 88).map(({ name, barIndex }) => `${name} ${barIndex}`)).toEqual(['Violin I 61', 'Violin II 120']);
    expect(cheapestOpening([part('Viola')], 88)).toEqual({ tempo: 88, spots: [] });
  });
  test('no other tempo asks for less', () => {
    const limits = fc.array(fc.record({ above: fc.boolean(), tempo: fc.integer({ min: 40, max: 200 }) }), { maxLength: 6 });
    fc.assert(
      fc.property(fc.array(limits, { minLength: 1, maxLength: 4 }), fc.integer({ min: 40, max: 200 }), (all, wanted) => {
        const asLimits = all.map((each, i): PartLimits => ({
          partId: String(i),
          name: String(i),
          limits: each.map(({ above, tempo }) => limit(above ? 'shift late' : 'bow runs out', tempo)),
        }));
        const { tempo, spots } = cheapestOpening(asLimits, wanted);
        const counts = Array.from({ length: 170 * 2 }, (_, i) => spotsAgainst(asLimits, 39 + i / 2).length);
        expect(spots).toEqual(spotsAgainst(asLimits, tempo));
        expect(spots.length).toBe(Math.min(...counts, spotsAgainst(asLimits, wanted).length));
      }),
    );
  });
});

describe('the page', () => {
  const page = rehearsalPage(asked);
  test('the common tempo is what the checks of the parts allow, for the whole and for every stretch', () => {
    const least = (values: ReadonlyArray<number | null>) => Math.min(...values.map((value) => value ?? Infinity));
    expect(page.tempo.ceiling ?? Infinity).toBe(least(strings.map(({ report }) => report.tempo.ceiling)));
    for (const [i, { tempo, bars: said }] of page.sections.entries()) {
      expect(tempo.ceiling ?? Infinity).toBe(least(strings.map(({ report }) => report.passages[i]!.ceiling)));
      expect(tempo.floor ?? -Infinity).toBe(Math.max(...strings.map(({ report }) => report.passages[i]!.floor ?? -Infinity)));
      expect(said).toMatch(/^\d+–\d+$/);
    }
    expect(page.against.length > 0).toBe(page.opening !== null);
    if (page.opening) expect(page.opening.spots.length).toBeLessThanOrEqual(page.against.length);
  });
  test('its spots are the worst of all parts, in bar order, each with who has it', () => {
    expect(page.spots.length).toBeGreaterThan(5);
    expect(page.spots.length).toBeLessThanOrEqual(30);
    expect(page.moreSpots).toBeGreaterThan(0);
    expect(page.spots.map(({ barIndex }) => barIndex)).toEqual([...page.spots.map(({ barIndex }) => barIndex)].sort((a, b) => a - b));
    const told = (each: (typeof strings)[number]) => each.report.findings.filter((finding) => isSpot(finding) && !FINDINGS[finding.kind].likeness);
    const worst = Math.max(...strings.flatMap((each) => told(each).map(({ severity }) => severity)));
    expect(Math.max(...page.spots.map(({ severity }) => severity))).toBe(worst);
    for (const { who, kind, places } of page.spots)
      for (const name of who) {
        const bars = told(strings.find((each) => each.name === name)!).flatMap((finding) => (finding.kind === kind ? [finding.bar] : []));
        expect(places.filter((place) => !bars.includes(place.split('/')[0]!))).toEqual([]);
      }
    // What comes again in a stretch is one spot with its places: nothing is told twice, nothing is left out.
    const all = new Set(strings.flatMap((each) => told(each).map(({ kind, barIndex }) => `${kind} ${barIndex}`)));
    const whole = rehearsalPage({ ...asked, section: null });
    expect(whole.spots.reduce((sum, { places }) => sum + places.length, 0)).toBeLessThanOrEqual(all.size);
    const shown = page.spots.flatMap(({ kind, places }) => places.map((place) => `${kind} ${place.split('/')[0]}`));
    expect(new Set(shown).size).toBe(shown.length);
  });
  test('who has the tune, entries with their cue, disagreements until a reason is given', () => {
    expect(page.tunes.find(({ bars: at }) => at.startsWith('33'))!.who).toEqual(['Viola']);
    expect(page.entries).toContainEqual(expect.objectContaining({ who: 'Violin I', at: '53/1', silent: '4 bars of rest', printed: false }));
    const open = groups.filter(({ differences }) => differences.length > 0);
    expect(page.disagreements.length).toBeGreaterThan(3);
    const [first] = open;
    const made = leftChanges(first!, others, 'The violas phrase by the bar.');
    const marked = others.map((other) => ({
      ...other,
      marking: applyChanges(other.marking, made.find(({ partId }) => partId === other.id)?.changes ?? []).marking,
    }));
    const after = rhythmGroups(
      marked,
      playedBows(marked, (id) => strings.find((each) => each.id === id)!.report.bowing),
    );
    const left = after.find(({ id }) => id === first!.id)!;
    expect(left.left).toBe('The violas phrase by the bar.');
    const told = rehearsalPage({ ...asked, groups: after });
    expect(told.left).toEqual([{ bars: expect.any(String), who: first!.members.map(({ name }) => name), because: 'The violas phrase by the bar.' }]);
    expect(told.disagreements.filter(({ bars: at, who }) => at === told.left[0]!.bars && String(who) === String(told.left[0]!.who))).toEqual([]);
    // Taken back in one part it is open again; taken back in all nothing is left of it.
    const one = made[0]!.partId;
    const reopened = marked.map((other) => (other.id === one ? others.find(({ id }) => id === one)! : other));
    expect(rhythmGroups(reopened).find(({ id }) => id === first!.id)?.left ?? null).toBeNull();
    for (const { partId, changes } of leftChanges(first!, marked, null))
      expect(applyChanges(marked.find(({ id }) => id === partId)!.marking, changes).marking).toEqual({});
  });
  test('what a section holds longer than any bow is changed in turn; one player alone splits', () => {
    const { part } = makeScore('violin', 'A4~/4 | A4~/4 | A4~/4 | A4~/4 | A4~/4 | A4/4 | B4/4', { tempo: 50, dynamic: 'f' });
    const made = (section: boolean) => {
      const own = { ...part, section };
      const { report, limits } = checked({ part: own, marking: {}, player: usualPlayer('violin'), tempo: 50, passages: [] });
      return heldLong([{ id: 'a', name: 'Violin I', part: own, marking: {}, report, limits }]);
    };
    const [held] = made(true);
    expect(held).toMatchObject({ bars: '1–6', who: 'Violin I', desks: expect.stringMatching(/^desk 1 at (\d+\/\d\.5(, )?)+; desk 2 at .*; desk 4 at /) });
    expect(made(false)).toEqual([]);
  });
  test('a held note sets no tempo for a section, which is told how to change; it does for one player, and a slur of several notes does for both', () => {
    const slurred = makeScore('violin', '(A4/4 | B4/4 | A4/4)', { tempo: 30, dynamic: 'f' }).part;
    const floorOf = (part: Part, section: boolean, joined: boolean) => {
      const own = { ...part, section };
      const marking = Object.fromEntries(
        own.notes.slice(joined ? 1 : own.notes.length).map(({ id }) => [`${id}|slur`, { value: 'join', origin: 'coach' as const }]),
      );
      const { report } = checked({ part: own, marking, player: usualPlayer('violin'), tempo: 30, passages: [] });
      return { floor: report.tempo.floor, told: report.findings.filter(({ kind }) => kind === 'bow runs out') };
    };
    const [solo, section] = [floorOf(slurred, false, true), floorOf(slurred, true, true)];
    expect([solo.floor !== null, section.floor]).toEqual([true, solo.floor]);
    const one = makeScore('violin', 'A4/32 B4/4', { tempo: 60, dynamic: 'p', beats: 32 }).part;
    const [alone, desks] = [floorOf(one, false, false), floorOf(one, true, false)];
    // What is left is the floor of the whole note after it.
    expect(alone.floor!).toBeGreaterThan(100);
    expect(desks.floor!).toBeLessThan(30);
    expect(alone.told[0]!.severity).toBeGreaterThan(desks.told[0]!.severity);
    expect(desks.told[0]!.remedies.map(({ text }) => text).join()).toMatch(/^In a section change in turn.*desk 4 at/);
  });
  test('for one section it knows of its own parts alone', () => {
    const violas = rehearsalPage({ ...asked, section: { name: 'Viola', partIds: ['P3'] } });
    expect(violas.section).toBe('Viola');
    expect(new Set(violas.spots.flatMap(({ who }) => who))).toEqual(new Set(violas.spots.length ? ['Viola'] : []));
    expect(violas.disagreements.every(({ who }) => who.includes('Viola'))).toBe(true);
    expect(violas.entries.every(({ who }) => who === 'Viola')).toBe(true);
  });
});
