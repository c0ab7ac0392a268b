import fc from 'fast-check';
import { runs } from '../testing/runs';
import { usualPlayer } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { markKey } from '../marking/mark';
import { clockFor } from '../score/time';
import { linesOf } from '../instruments/lines';
import { makeScore } from '../testing/make';
import { frozen } from '../util/freeze';
import { DEFAULT_COSTS } from '../left-hand/costs';
import { asShown, lineShown, newPlanMemory, planBoth, planBow, planHand, planLines, type PlanMemory, type PlannedLine } from './plan';

const { part } = makeScore('violin', 'A4 B4 (C5 D5) E5 F5 (G5 A5) B5 A5 (G5 F5) E5 D5 C5 B4 '.repeat(2), { length: 0.5 });
const line = linesOf(part)[0]!;
const request = (marking: Marking) => frozen({ part, line, marking, player: usualPlayer('violin'), clock: clockFor(part, 100) });
const coach = (value: string) => ({ value, origin: 'coach' as const });

const markings = fc
  .array(
    fc.record({
      note: fc.nat(part.notes.length - 1),
      mark: fc.constantFrom(['finger', '2'], ['finger', '3'], ['string', '2'], ['bow', 'up'], ['bow', 'down'] as const),
    }),
    { maxLength: 4 },
  )
  .map((marks): Marking => Object.fromEntries(marks.map(({ note, mark: [kind, value] }) => [markKey(part.notes[note]!.id, kind as 'finger'), coach(value!)])));

test('a plan with a memory is the plan without one; nothing that was passed in is changed', () => {
  fc.assert(
    fc.property(fc.array(markings, { minLength: 2, maxLength: 3 }), (steps) => {
      const memories: PlanMemory[] = [newPlanMemory()];
      for (const marking of steps) {
        const fresh = planBoth(request(marking)).plan;
        for (const memory of memories) {
          const { hand, fingering, bowing } = planBoth(request(marking), memory).plan;
          expect({ fingering, bowing, unplayable: hand.unplayable }).toEqual({
            fingering: fresh.fingering,
            bowing: fresh.bowing,
            unplayable: fresh.hand.unplayable,
          });
        }
        memories.push(planBoth(request(marking), memories.at(-1)).memory);
      }
    }),
    { numRuns: runs(5) },
  );
});

test('the bow is planned for the strings of the hand; costs, preferences, passages and alternatives reach both', () => {
  const asked = request({ [markKey(part.notes[4]!.id, 'string')]: coach('2') });
  const { plan, memory } = planHand(asked);
  expect([plan.stringOf(part.notes[4]!.id), plan.stringOf('n-nowhere')]).toEqual([2, null]);
  expect(planBow(asked, plan, memory).bowing).toEqual(planBoth(asked).plan.bowing);
  const within = { from: part.bars[1]!.onset, to: part.bars[3]!.onset };
  const inside = planBoth({ ...asked, within, alternatives: 3 }).plan;
  expect(inside.hand.alternatives.length).toBeGreaterThan(1);
  expect(inside.fingering!.notes.map(({ id }) => id)).toEqual(part.notes.filter(({ onset }) => onset >= within.from && onset < within.to).map(({ id }) => id));
  expect(planBow({ ...asked, alternatives: 3 }, plan).bowings.length).toBeGreaterThan(1);
  const dear = planBoth({ ...asked, costs: { hand: { ...DEFAULT_COSTS, openLong: 60, openQuick: 60, openAny: 60 } } }).plan;
  expect(dear.fingering!.notes.some(({ place }) => place.finger === 0)).toBe(false);
});

test('of a divided part every line is planned; of a note that several have the first line’s plan is shown', () => {
  const { lines, memories } = planLines(request({}));
  expect([lines.length, memories.length]).toEqual([linesOf(part).length, linesOf(part).length]);
  const planned = (ids: string[], bowing: string | null, playable = true): PlannedLine =>
    ({
      line: { events: ids.map((id) => ({ ids: [id] })) },
      plan: { fingering: playable ? { notes: ids.map((id) => ({ id, by: bowing })) } : null, bowing },
    }) as unknown as PlannedLine;
  const three = [planned(['x'], 'none', false), planned(['a', 'b'], 'first'), planned(['b', 'c'], 'second')];
  const shown = asShown(three, 9);
  expect(shown.fingering!.notes).toEqual([
    { id: 'a', by: 'first' },
    { id: 'b', by: 'first' },
    { id: 'c', by: 'second' },
  ]);
  expect([shown.bowing, asShown(three).bowing, asShown(three.slice(0, 1)).fingering]).toEqual(['second', 'none', null]);
  expect([lineShown(['a', 'b']), lineShown(['a', 'b'], 1), lineShown(['a', 'b'], 5)]).toEqual(['a', 'b', 'b']);
});
