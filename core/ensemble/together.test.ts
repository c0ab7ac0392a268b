/** Bowed together: nobody goes against the others, and nobody else's bowing would have been cheaper for all. */
import fc from 'fast-check';
import { demoScore } from '../../tests/support/demo';
import { usualPlayer } from '../instruments/player';
import { linesOf } from '../instruments/lines';
import { applyChanges } from '../marking/change';
import { newPlanMemory, planBoth } from '../plan/plan';
import { clockFor } from '../score/time';
import { makeScore } from '../testing/make';
import { runs } from '../testing/runs';
import { finished } from '../util/steps';
import type { OtherPart } from './ensemble';
import { playedBows, rhythmGroups, type BowsOf } from './groups';
import { bowedTogether, strokesOf, tryDirections, type PlannedPart } from './together';

const { score } = demoScore('mill-race-serenade');
const parts: OtherPart[] = score.parts.map((part) => ({ id: part.id, name: part.name, markingId: part.id, part, marking: {} }));
function plan(part: OtherPart): PlannedPart {
  const player = usualPlayer(part.part.instrument!);
  const clock = clockFor(part.part, null);
  const made = planBoth({ part: part.part, line: linesOf(part.part)[0]!, player, clock, marking: part.marking }, newPlanMemory());
  return { player, clock, memory: made.memory, bowing: made.plan.bowing! };
}
const planned = new Map(parts.map((part) => [part.id, plan(part)]));
const bows = (all: ReadonlyMap<string, PlannedPart>): BowsOf => playedBows(parts, (id) => all.get(id)!.bowing);

const opposite = rhythmGroups(parts, bows(planned)).filter(
  ({ agreement, members }) => agreement === 'opposite bows' && members.every(({ line }) => line === 0),
);

test('in every group of the demo: what is written makes all bow alike, and the cheapest for all comes first', () => {
  expect(opposite.length).toBeGreaterThan(8);
  for (const group of opposite.slice(0, 5)) {
    const best = finished(bowedTogether(group, parts, planned))!;
    expect(best.against).toEqual([]);
    // Nobody's own directions would have been cheaper for all.
    const own = strokesOf(group, group.members, parts, planned);
    const base = own.reduce((sum, { member }) => sum + planned.get(member.partId)!.bowing.total, 0);
    for (const each of own) expect(tryDirections(each, group.members, parts, planned).cost - base).toBeGreaterThanOrEqual(best.more - 1e-3);
    // Planned anew with all of it, nobody goes against anybody; and it costs what was said.
    const after = new Map(planned);
    for (const { partId, changes } of best.to) {
      const own = parts.find(({ id }) => id === partId)!;
      const { marking, conflicts } = applyChanges({}, changes);
      expect(conflicts).toEqual([]);
      after.set(partId, plan({ ...own, marking }));
    }
    const marked = parts.map((part) => ({ ...part, marking: applyChanges({}, best.to.find(({ partId }) => partId === part.id)?.changes ?? []).marking }));
    const again = rhythmGroups(marked, bows(after)).find(({ id }) => id === group.id)!;
    expect(again.differences.filter(({ what }) => what === 'bow').map(({ text }) => text)).toEqual([]);
    for (const { name, text } of best.perPart) expect(text).toMatch(new RegExp(`^${name} (gains|loses|hardly|bows)`));
  }
}, 240_000);

test('whoever is not planned is left out', () => {
  const [group] = opposite;
  const only = new Map([...planned].filter(([id]) => id === group!.members[0]!.partId));
  const alone = finished(bowedTogether(group!, parts, only))!;
  expect([alone.against, alone.to.filter(({ partId }) => !only.has(partId))]).toEqual([[], []]);
  expect(finished(bowedTogether(group!, parts, new Map()))).toBeNull();
});

describe('against trying all directions', () => {
  type Kind = 'violin' | 'viola' | 'cello';
  const PITCHES: Readonly<Record<Kind, readonly string[]>> = {
    violin: ['D4', 'A4', 'B4', 'E5', 'F#5', 'G4'],
    viola: ['G3', 'D4', 'E4', 'A4', 'B3', 'C4'],
    cello: ['D2', 'A2', 'G2', 'B2', 'D3', 'E3'],
  };
  const RHYTHMS = ['1 1 1 1', '1.5 .5 1 1', '2 1 1', '1 .5 .5 2', '.5 .5 1 1.5 .5', '3 1', '1 2 1'];
  const smallGroup = fc.record({
    rhythm: fc.constantFrom(...RHYTHMS),
    kinds: fc.constantFrom<readonly Kind[]>(['violin', 'cello'], ['violin', 'viola'], ['violin', 'viola', 'cello']),
    picks: fc.array(fc.nat(5), { minLength: 15, maxLength: 15 }),
    louder: fc.array(fc.boolean(), { minLength: 3, maxLength: 3 }),
    tempo: fc.integer({ min: 60, max: 140 }),
  });

  test('within 1 % of the best of all directions on random small groups', () => {
    fc.assert(
      fc.property(smallGroup, ({ rhythm, kinds, picks, louder, tempo }) => {
        const small: OtherPart[] = kinds.map((kind, p) => {
          const bar = rhythm.split(' ').map((length, i) => `${PITCHES[kind][picks[p * 5 + i]!]}/${length}`);
          const { part } = makeScore(kind, `r/4 ${bar.join(' ')} r/4`, { dynamic: louder[p] ? 'f' : 'p', tempo });
          return { id: `${kind} ${p}`, name: kind, markingId: kind, part, marking: {} };
        });
        const known = new Map(small.map((part) => [part.id, plan(part)]));
        const [group] = rhythmGroups(
          small,
          playedBows(small, (id) => known.get(id)!.bowing),
        );
        const base = [...known.values()].reduce((sum, { bowing }) => sum + bowing.total, 0);
        const best = finished(bowedTogether(group!, small, known))!;
        const [tried] = strokesOf(group!, group!.members, small, known);
        const exact = Math.min(
          ...Array.from({ length: 2 ** tried!.onsets.length }, (_, bits) => {
            const directions = tried!.onsets.map((_onset, i) => ((bits >> i) & 1 ? ('up' as const) : ('down' as const)));
            return tryDirections({ ...tried!, directions }, group!.members, small, known).cost;
          }),
        );
        expect(best.against).toEqual([]);
        expect(base + best.more).toBeLessThanOrEqual(exact * 1.01 + 1e-6);
      }),
      { numRuns: runs(100) },
    );
  }, 600_000);
});
