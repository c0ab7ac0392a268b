/** The search against a general-purpose shortest-path library (ngraph.path) on the same graph, open strings and rests among the notes. */
import { fingeringGraph, LIFT, shortest } from '../../tests/support/dijkstra';
import { firstLine, makeScore } from '../testing/make';
import { clockFor } from '../score/time';
import { pitchName, spelled } from '../score/pitch';
import { usualPlayer } from '../instruments/player';
import { DEFAULT_COSTS, type LeftHandCosts } from './costs';
import { prepareFingering } from './fingering';
import { resolved, USUAL_PREFERENCES } from './preferences';
import { cheapestPath } from './search';
import { weighingFor } from './transition';

/** The same phrases each time: a linear congruential generator (Numerical Recipes' constants, from memory). */
function generator(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state * 1664525 + 1013904223) % 2 ** 32;
    return Math.floor((state / 2 ** 32) * below);
  };
}

const PHRASES = 50;

/** Prices that somebody could set: moves that pay back more than they cost. */
const ODD: LeftHandCosts = { ...DEFAULT_COSTS, sameFingerRelief: 2, crossing: -0.5, landOn3: -0.3, hopNearStop: -0.2, extensionChange: -0.4 };

test.each([
  ['violin', 55, 88, DEFAULT_COSTS],
  ['viola', 48, 79, DEFAULT_COSTS],
  ['cello', 36, 72, DEFAULT_COSTS],
  ['bass', 28, 58, DEFAULT_COSTS],
  ['violin', 56, 88, ODD],
  ['cello', 37, 72, ODD],
] as const)('%s from %i: fifty random phrases cost what the library says', (kind, low, high, costs) => {
  const random = generator(low);
  const player = usualPlayer(kind);
  const weighing = weighingFor(player, resolved(USUAL_PREFERENCES, costs));
  expect(weighing.mostRefund).toBeCloseTo(costs === ODD ? 1.65 + 0.3 + 0.5 + 0.2 + 0.4 : 0, 9);
  for (let phrase = 0; phrase < PHRASES; phrase++) {
    let midi = low + random(high - low);
    const notes = Array.from({ length: 5 + random(4) }, () => {
      midi = Math.min(high, Math.max(low, midi + random(15) - 7));
      const second = random(6) === 0 ? `+${pitchName(spelled(midi + 3 + random(6)))}` : '';
      return `${pitchName(spelled(midi))}${second}/${[0.25, 0.5, 1, 2][random(4)]}${random(6) ? '' : ' r/0.5'}`;
    });
    const { part } = makeScore(kind, notes.join(' '));
    const { grips, moments } = prepareFingering({
      part,
      line: firstLine(part),
      player,
      clock: clockFor(part, null),
      marking: {},
    });
    if (grips.length === 0) continue;
    expect(cheapestPath({ grips, moments, weighing }).cost).toBeCloseTo(shortest(fingeringGraph(grips, moments, weighing), LIFT), 6);
  }
});
