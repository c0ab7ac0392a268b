import { demoScore } from '../../tests/support/demo';
import { makeScore } from '../testing/make';
import { usualPlayer } from '../instruments/player';
import { automaticPassages } from '../score/passages';
import type { Part } from '../score/score';
import { checked, type CheckRequest } from './check';
import type { FindingKind } from './numbers';
import { quickTempi, tempiOf, tempiOverPlans } from './tempi';

const asking = (part: Part, tempo: number | null): CheckRequest => ({
  part,
  marking: {},
  player: usualPlayer(part.instrument!),
  tempo,
  passages: automaticPassages(part),
});
const tempiAt = (part: Part, tempo: number) => {
  const request = asking(part, tempo);
  const made = checked(request);
  return { own: made.report, best: tempiOverPlans(request, made).tempi };
};
const upTo = (ceiling: number | null): number => ceiling ?? Infinity;

const staircase = demoScore('staircase').score.parts[0]!;

describe('the best over plans', () => {
  const at = [45, 60, 88, 132].map((tempo) => tempiAt(staircase, tempo));

  test('is no worse than the plan for the wanted tempo', () => {
    for (const { own, best } of at)
      for (const [i, passage] of best.passages.entries()) expect(upTo(passage.ceiling)).toBeGreaterThanOrEqual(upTo(own.passages[i]!.ceiling));
  });
  test('hardly depends on the tempo that is wanted, where one plan does', () => {
    const spread = (ceilings: number[]) => Math.max(...ceilings) / Math.min(...ceilings);
    const last = at[0]!.best.passages.length - 1;
    expect(spread(at.map(({ own }) => own.passages[last]!.ceiling!))).toBeGreaterThan(1.3);
    for (const i of at[0]!.best.passages.keys()) expect(spread(at.map(({ best }) => best.passages[i]!.ceiling!))).toBeLessThan(1.05);
  });
  test('with the memory of an earlier call: the same', () => {
    const request = asking(staircase, 60);
    const made = checked(request);
    const { tempi, memories } = tempiOverPlans(request, made);
    expect(tempiOverPlans(request, made, memories).tempi).toEqual(tempi);
  });
});

test('the quick plans go by the printed tempo, as quick as a metronome goes at most', () => {
  const { part } = makeScore('violin', 'A4/4', { tempo: 50 });
  expect(quickTempi(part)).toEqual([70, 140]);
  expect(quickTempi({ ...part, tempi: [] }).map(Math.round)).toEqual([126, 252]);
  expect(quickTempi({ ...part, tempi: [{ tick: 0, quartersPerMinute: 200, printed: null }] })).toEqual([280, 320]);
});

describe('of several plans', () => {
  const { part } = makeScore('violin', 'A4/4 B4/4 C5/4 D5/4');
  const limit = (kind: FindingKind, tempo: number, barIndex: number) => ({ kind, tempo, barIndex, beat: 1, noteIds: [part.notes[barIndex]!.id] });
  const above = (tempo: number, barIndex: number) => limit('stroke too quick', tempo, barIndex);
  const below = (tempo: number, barIndex: number) => limit('bow runs out', tempo, barIndex);
  const halves = [
    { name: 'first', fromBar: 0, toBar: 1 },
    { name: 'second', fromBar: 2, toBar: 3 },
  ];
  const tempi = (...plans: Array<Array<ReturnType<typeof limit>>>) =>
    tempiOf(
      { part, passages: halves },
      60,
      plans.map((limits) => ({ limits, findings: [] })),
    );

  test('each passage with the plan that is the best for it, the whole with each in turn', () => {
    const { tempo, passages } = tempi([above(80, 0), above(120, 2)], [above(100, 1), above(70, 3)]);
    expect(passages.map(({ ceiling }) => ceiling)).toEqual([100, 120]);
    expect(tempo).toMatchObject({ ceiling: 100, limitedBy: { barIndex: 1 }, next: { tempo: 120, barIndex: 2 } });
  });
  test('the slowest floor of any that works; what limits is the floor where there is no ceiling', () => {
    const { passages } = tempi([above(80, 0), below(50, 0)], [above(100, 1), below(70, 0), below(66, 2)]);
    expect(passages[0]).toMatchObject({ floor: 50, ceiling: 100 });
    expect(passages[1]).toMatchObject({ floor: null, ceiling: null, limitedBy: null });
    expect(tempi([below(50, 0)], [below(40, 1)]).passages[0]).toMatchObject({ floor: 40, limitedBy: { barIndex: 1 } });
  });
  test('no tempo only where no plan has one', () => {
    const never = [above(60, 0), below(70, 1)];
    expect(tempi(never, [above(50, 0)]).passages[0]).toMatchObject({ none: null, ceiling: 50 });
    expect(tempi(never, never).passages.map(({ none }) => none)).toEqual(['too slow and too quick', null]);
    expect(tempi(never, never).tempo.none).toBe('too slow and too quick');
    // Each passage has one, but not the same.
    expect(tempi([above(60, 0), below(70, 2)]).tempo).toMatchObject({ none: 'too slow and too quick', floor: 70, ceiling: 60 });
  });
});
