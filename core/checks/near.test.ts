/** The passage by itself is what the whole check says there: the fingers always, the bow nearly always. */
import fc from 'fast-check';
import { demoScore } from '../../tests/support/demo';
import { usualPlayer } from '../instruments/player';
import { runs } from '../testing/runs';
import { markKey, type Mark } from '../marking/mark';
import type { BarRange } from '../score/bars';
import type { Part } from '../score/score';
import { checked, type Checked, type Report } from './check';
import { checkedNear, withNear } from './near';

const { parts } = demoScore('the-heron').score;
const request = (part: Part, marking: Record<string, Mark>) => ({ part, marking, player: usualPlayer(part.instrument!), tempo: null, passages: [] });
const passages = (part: Part): BarRange[] =>
  Array.from({ length: Math.ceil(part.bars.length / 8) }, (_, i) => ({ fromBar: i * 8, toBar: Math.min(part.bars.length, i * 8 + 8) - 1 }));
const inRange =
  ({ fromBar, toBar }: BarRange) =>
  (at: { barIndex: number }) =>
    at.barIndex >= fromBar && at.barIndex <= toBar;

/** Fingers, strings and what is found of the hand; directions; places to a thirtieth of the bow. */
function said({ fingering, bowing, findings }: Report, part: Part, range: BarRange) {
  const barOf = new Map(part.notes.map(({ id, barIndex }) => [id, { barIndex }]));
  const strokes = bowing!.strokes.filter(inRange(range));
  return {
    fingers: fingering!.notes.filter(({ id }) => inRange(range)(barOf.get(id)!)).map(({ id, place }) => `${id} ${place.finger}/${place.string}`),
    hand: findings.filter(({ kind, barIndex }) => inRange(range)({ barIndex }) && HAND.has(kind)).map(({ id, severity }) => `${id} ${severity}`),
    directions: strokes.map(({ noteIds, direction }) => `${noteIds[0]} ${direction}`),
    places: strokes.flatMap(({ from, to }) => [from, to]),
  };
}
const HAND = new Set(['shift late', 'reach', 'out-of-tune risk', 'colour break', 'audible shift']);
const NEAR_PLACE = 0.034;

test('after any marks in a passage: the same fingers and findings of the hand, and in nine of ten bars the same bows', () => {
  let [bars, same] = [0, 0];
  fc.assert(
    fc.property(
      fc.constantFrom(...parts),
      fc.nat(),
      fc.array(fc.tuple(fc.nat(), fc.constantFrom(['finger', '1'], ['finger', '3'], ['bow', 'down'], ['bow', 'up'])), { minLength: 1, maxLength: 5 }),
      (part, which, marks) => {
        const range = passages(part)[which % passages(part).length]!;
        const notes = part.notes.filter(inRange(range));
        fc.pre(notes.length > 0);
        const before = checked(request(part, {}));
        let memories = before.memories;
        let near: Report = before.report;
        const marking: Record<string, Mark> = {};
        for (const [at, [kind, value]] of marks) {
          marking[markKey(notes[at % notes.length]!.id, kind as 'finger' | 'bow')] = { value: value!, origin: 'coach' };
          const answer = checkedNear(request(part, { ...marking }), range, { ...before, memories });
          memories = answer.memories;
          near = withNear(near, answer.near);
        }
        const whole = checked(request(part, marking));
        const [a, b] = [said(near, part, range), said(whole.report, part, range)];
        expect(a.fingers).toEqual(b.fingers);
        expect(a.hand).toEqual(b.hand);
        for (let bar = range.fromBar; bar <= range.toBar; bar++) {
          const [x, y] = [said(near, part, { fromBar: bar, toBar: bar }), said(whole.report, part, { fromBar: bar, toBar: bar })];
          bars++;
          if (x.directions.join() === y.directions.join() && x.places.every((place, i) => Math.abs(place - y.places[i]!) < NEAR_PLACE)) same++;
        }
        // A whole check that goes on from there is the one that is made anew.
        const after = checked(request(part, marking), memories);
        expect(said(after.report, part, range)).toEqual(b);
      },
    ),
    { numRuns: runs(40) },
  );
  expect(same / bars).toBeGreaterThan(0.9);
});

describe('a report with a passage checked since', () => {
  const part = parts[0]!;
  const [first, second] = passages(part) as [BarRange, BarRange];
  const whole = checked({ ...request(part, {}), passages: [{ name: 'A', ...first }] });
  const note = part.notes.find(inRange(first))!;
  const marking: Record<string, Mark> = { [markKey(note.id, 'bow')]: { value: 'up', origin: 'coach' } };
  const { near } = checkedNear({ ...request(part, marking), passages: [{ name: 'A', ...first }] }, first, whole);

  test('is as it was elsewhere, and of what needs the whole part', () => {
    const merged = withNear(whole.report, near);
    expect(said(merged, part, second)).toEqual(said(whole.report, part, second));
    const ofTheWhole = ({ findings }: Report) => findings.filter(({ kind }) => kind.endsWith('trap') || kind.endsWith('elsewhere')).map(({ id }) => id);
    expect(ofTheWhole(merged)).toEqual(ofTheWhole(whole.report));
    expect(merged.bowing!.strokes.find(({ noteIds }) => noteIds.includes(note.id))!.direction).toBe('up');
    expect(merged.bowing!.strokes.map(({ onset }) => onset)).toEqual(merged.bowing!.strokes.map(({ onset }) => onset).sort((a, b) => a - b));
    expect(merged.fingering!.notes).toHaveLength(whole.report.fingering!.notes.length);
    expect(merged.passages.map(({ name }) => name)).toEqual(['A']);
    expect(merged.about).toBeNull();
  });
  test('nothing known yet: the passage alone', () => {
    const alone = checkedNear(request(part, {}), second, null);
    const merged = withNear(null, alone.near);
    expect(merged.about).toEqual(second);
    expect(withNear(merged, near).about).toEqual(first);
    expect(merged.fingering!.notes.length).toBe(said(whole.report, part, second).fingers.length);
    expect(merged.bowing!.strokes.every(inRange(second))).toBe(true);
    expect(merged.findings.every(inRange(second))).toBe(true);
    expect(said(merged, part, second).directions.length).toBe(said(whole.report, part, second).directions.length);
  });
  test('tempi are of the whole, with the passage as it is now', () => {
    const limits: Checked['limits'] = [
      { tempo: 30, kind: 'shift late', barIndex: second.fromBar, beat: 1, noteIds: [part.notes.find(inRange(second))!.id] },
      { tempo: 20, kind: 'shift late', barIndex: first.fromBar, beat: 1, noteIds: [note.id] },
    ];
    const { near } = checkedNear(request(part, {}), first, { ...whole, limits });
    // What was said of the passage before is replaced, what was said elsewhere stays.
    expect(near.tempo).toMatchObject({ ceiling: 30, limitedBy: { barIndex: second.fromBar } });
  });
});
