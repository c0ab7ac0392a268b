import fc from 'fast-check';
import { runs } from '../testing/runs';
import { demoScore } from '../../tests/support/demo';
import { linesOf } from '../instruments/lines';
import { clockFor } from '../score/time';
import { handOf, usualPlayer } from '../instruments/player';
import { markKey, type Mark } from '../marking/mark';
import { newFingeringMemory, planFingering } from './fingering';

const { score } = demoScore('mill-race-serenade');

describe.each([0, 3])('fingerings of demo part %i after other fingerings', (index) => {
  const part = score.parts[index]!;
  const request = {
    score,
    part,
    line: linesOf(part)[0]!,
    player: usualPlayer(part.instrument!),
    clock: clockFor(part, null),
    alternatives: 1,
  };
  const mark = fc.record({
    note: fc.nat(part.notes.length - 1),
    kind: fc.constantFrom('finger', 'string', 'slur'),
    value: fc.constantFrom('1', '2', '3', '4'),
  });
  const memory = newFingeringMemory();

  test('what was kept changes nothing', () => {
    fc.assert(
      fc.property(fc.array(mark, { maxLength: 4 }), fc.constantFrom('small', 'medium'), (marks, hand) => {
        const marking: Record<string, Mark> = {};
        for (const { note, kind, value } of marks)
          marking[markKey(part.notes[note]!.id, kind as 'finger')] = { value: kind === 'slur' ? 'split' : value, origin: 'coach' };
        const asked = { ...request, marking, player: { ...request.player, hand: handOf(hand, request.player.instrument.kind) } };
        const [kept, fresh] = [planFingering(asked, memory), planFingering(asked)];
        expect(kept.alternatives[0]!.total).toBeCloseTo(fresh.alternatives[0]!.total, 6);
        expect(kept.alternatives[0]!.notes.map(({ place }) => `${place.string}${place.finger}${place.hand}`)).toEqual(
          fresh.alternatives[0]!.notes.map(({ place }) => `${place.string}${place.finger}${place.hand}`),
        );
        expect(kept.unplayable.map(({ reason }) => reason)).toEqual(fresh.unplayable.map(({ reason }) => reason));
      }),
      { numRuns: runs(10), endOnFailure: true },
    );
  });
});
