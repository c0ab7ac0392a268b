/** The search against a general-purpose shortest-path library (ngraph.path) on the same graph, open strings and rests among the notes. */
import { fingeringGraph, LIFT, shortest } from '../../tests/support/dijkstra';
import { firstLine, makeScore } from '../testing/make';
import { clockFor } from '../score/time';
import { pitchName, spelled } from '../score/pitch';
import { usualPlayer } from '../instruments/player';
import { prepareFingering } from './fingering';
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

test.each([
  ['violin', 55, 88],
  ['viola', 48, 79],
  ['cello', 36, 72],
  ['bass', 28, 58],
] as const)('%s: fifty random phrases cost what the library says', (kind, low, high) => {
  const random = generator(low);
  const player = usualPlayer(kind);
  const weighing = weighingFor(player);
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
