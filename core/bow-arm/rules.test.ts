import { firstLine, makeScore } from '../testing/make';
import { BOW_RULES, HELD_OUT_RULES, type BowRule } from '../../tests/support/bow-rules';
import { clockFor } from '../score/time';
import { usualPlayer } from '../instruments/player';
import { planBowing } from './bowing';

/** Which choice has the bowing of the rule: 0 the first; -1 none of four. */
function choice({ music, options, ways }: BowRule): number {
  const { part } = makeScore('violin', music, options ?? {});
  const clock = clockFor(part, null);
  const plans = planBowing({ part, line: firstLine(part), player: usualPlayer('violin'), clock, marking: {}, alternatives: 4 });
  const directionOf = (noteId: string, plan: (typeof plans)[number]) => plan.strokes.find((stroke) => stroke.noteIds.includes(noteId))!.direction[0];
  const heads = part.notes.filter((note) => !note.inChord && !note.tiedFrom);
  const wanted = ways.replace(/ /g, '');
  return plans.findIndex((plan) => heads.map((note) => directionOf(note.id, plan)).join('') === wanted);
}

test('there are at least thirty rules', () => expect(BOW_RULES.length).toBeGreaterThanOrEqual(30));
test.each(BOW_RULES.map((rule) => [rule.name, rule] as const))('within the first four: %s', (_, rule) => expect(choice(rule)).toBeGreaterThanOrEqual(0));
test('the first choice agrees with at least 85 % of them; the misses are listed in docs/bow-arm.md', () => {
  const misses = BOW_RULES.filter((rule) => choice(rule) !== 0).map((rule) => rule.name);
  expect(misses.length / BOW_RULES.length).toBeLessThanOrEqual(0.15);
});
test('phrases that nothing was tuned on: the first choice agrees with four of five', () => {
  const places = HELD_OUT_RULES.map(choice);
  expect(places.filter((place) => place === 0).length).toBeGreaterThanOrEqual(HELD_OUT_RULES.length * 0.8);
});
