import { firstLine, makeScore } from '../testing/make';
import { clockFor } from '../score/time';
import { usualPlayer } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { newBowMemory, planBowing } from './bowing';
import { bowCostsMore, choicesForBow } from './choices';

const music = 'A4 (B4 C5) D5 | E5 D5 C5 B4 | A4/2 B4/2 | C5/4';
const { score, part } = makeScore('violin', music);
const request = {
  score,
  part,
  line: firstLine(part),
  player: usualPlayer('violin'),
  clock: clockFor(part, null),
  marking: {} as Marking,
};
const whole = { from: 0, to: part.bars.at(-1)!.onset + part.bars.at(-1)!.ticks };
const at = (note: number) => choicesForBow({ ...request, within: whole }, part.notes[note]!.id, newBowMemory());

test('the plan as it is comes first, then what costs more, each with the marks that make it', () => {
  const choices = at(4);
  expect(choices[0]).toMatchObject({ extra: 0, changes: [], turned: 0 });
  expect(choices[0]!.name).toContain('as planned');
  const extras = choices.slice(1).map((choice) => choice.extra);
  expect([...extras].sort((a, b) => a - b)).toEqual(extras);
  for (const choice of choices.slice(1)) {
    expect(choice.changes.length).toBeGreaterThan(0);
    const marking = Object.fromEntries(choice.changes.flatMap(({ target, kind, to }) => (to ? [[`${target}|${kind}`, to]] : [])));
    const planned = planBowing({ ...request, marking, alternatives: 1 })[0]!;
    expect(planned.strokes.map(({ direction }) => direction)).toEqual(choice.strokes.map(({ direction }) => direction));
    expect(planned.total - planBowing({ ...request, alternatives: 1 })[0]!.total).toBeCloseTo(choice.extra, 2);
  }
});
test('reversing turns what follows round, or says what stops it', () => {
  const reversed = at(4).find((choice) => choice.name.includes('reversed'))!;
  expect(reversed.strokes.find((stroke) => stroke.noteIds.includes(part.notes[4]!.id))!.direction).toBe('up');
  expect(reversed.more).toContain('strong beats up-bow');
});
test('inside a slur it can be split, at its beginning joined; the first note has nothing before it', () => {
  const names = (note: number) => at(note).map((choice) => choice.name);
  expect(names(2)).toContain('Split the slur here');
  expect(names(4)).toContain('Join to the note before');
  expect(names(0).some((name) => /^(Hook|Retake|Join)/.test(name))).toBe(false);
});
test('only the passage is drawn anew, but what is paid for around it is counted', () => {
  const within = { from: part.bars[1]!.onset, to: part.bars[2]!.onset };
  const own = choicesForBow({ ...request, within }, part.notes[4]!.id, newBowMemory());
  expect(own.map(({ extra }) => extra)).toEqual(at(4).map(({ extra }) => extra));
  for (const { strokes } of own) expect(strokes.every((stroke) => stroke.onset >= within.from && stroke.onset < within.to)).toBe(true);
});
test('differences in words, the greatest first; small ones are not worth a word', () => {
  expect(bowCostsMore({ direction: 2, split: 0.5, bow: 0.05 }, { hook: 1 })).toEqual({
    more: ['strong beats up-bow', 'slurs cut'],
    less: ['stops on the string'],
  });
});
test('a note that is not bowed has no choices', () => expect(choicesForBow({ ...request, within: whole }, 'n-nowhere', newBowMemory())).toEqual([]));
