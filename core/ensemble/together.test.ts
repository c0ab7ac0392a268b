/** Bowed together: nobody goes against the others, and nobody else's bowing would have been cheaper for all. */
import { demoScore } from '../../tests/support/demo';
import { usualPlayer } from '../instruments/player';
import { linesOf } from '../instruments/lines';
import { applyChanges } from '../marking/change';
import { newPlanMemory, planBoth } from '../plan/plan';
import { clockFor } from '../score/time';
import { finished } from '../util/steps';
import type { OtherPart } from './ensemble';
import { playedBows, rhythmGroups, type BowsOf } from './groups';
import { bowedTogether, type PlannedPart } from './together';

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
    const ways = finished(bowedTogether(group, parts, planned));
    expect(ways.map(({ model }) => model.partId).sort()).toEqual(group.members.map(({ partId }) => partId).sort());
    const [best, ...others] = ways;
    for (const other of others) expect([other.against.length, other.more] >= [best!.against.length, best!.more]).toBe(true);
    expect(best!.against).toEqual([]);
    // Planned anew with all of it, nobody goes against anybody; and it costs what was said.
    const after = new Map(planned);
    let more = 0;
    for (const { partId, changes } of best!.to) {
      const own = parts.find(({ id }) => id === partId)!;
      const { marking, conflicts } = applyChanges({}, changes);
      expect(conflicts).toEqual([]);
      after.set(partId, plan({ ...own, marking }));
      more += after.get(partId)!.bowing.total - planned.get(partId)!.bowing.total;
    }
    const marked = parts.map((part) => ({ ...part, marking: applyChanges({}, best!.to.find(({ partId }) => partId === part.id)?.changes ?? []).marking }));
    const again = rhythmGroups(marked, bows(after)).find(({ id }) => id === group.id)!;
    expect(again.differences.filter(({ what }) => what === 'bow').map(({ text }) => text)).toEqual([]);
    expect(more).toBeCloseTo(best!.more, 3);
    expect(best!.to.map(({ partId }) => partId)).not.toContain(best!.model.partId);
    for (const { name, text } of best!.perPart) expect(text).toMatch(new RegExp(`^${name} (gains|loses|hardly|bows)`));
  }
}, 240_000);

test('whoever is not planned is left out', () => {
  const [group] = opposite;
  const only = new Map([...planned].filter(([id]) => id === group!.members[0]!.partId));
  expect(finished(bowedTogether(group!, parts, only))).toMatchObject([{ to: [], more: 0 }]);
});
