/**
 * npm run exact-bow: the bow search against trying everything, on 200 random phrases, and its places against the best on a
 * grid of 57, on 200 random streams. Takes a minute or two; the figures stand in docs/bow-arm.md.
 */
import fc from 'fast-check';
import { refined } from '../../core/bow-arm/refine';
import { cheapestBowing } from '../../core/bow-arm/search';
import { bruteBowing, finestCost, placesCost } from '../support/brute-bow';
import { bowProblems } from '../support/bow-problems';

const SEED = 4;
const PHRASES = 200;

let tried = 0;
let wrong = 0;
for (const problem of fc.sample(bowProblems({ minLength: 3, maxLength: 5 }), { numRuns: PHRASES, seed: SEED })) {
  const brute = bruteBowing(problem);
  tried += brute.tried;
  if (Math.abs(cheapestBowing(problem).cost - brute.cost) > 1e-6) wrong++;
}
console.log(`directions and cuts: ${PHRASES} phrases, ${tried} ways tried, ${wrong} found otherwise`);

const over = fc.sample(bowProblems({ minLength: 4, maxLength: 8 }), { numRuns: PHRASES, seed: SEED + 3 }).map((problem) => {
  const { strokes } = cheapestBowing(problem);
  return placesCost(refined(strokes, problem.atoms, problem.hairCm, problem.costs), problem) - finestCost(strokes, problem, 57);
});
over.sort((a, b) => b - a);
console.log(
  `distribution: ${PHRASES} streams, at worst ${over[0]!.toFixed(4)} over the grid of 57, on average ${(over.reduce((a, b) => a + b) / over.length).toFixed(4)}`,
);
if (wrong > 0 || over[0]! > 0.1) process.exit(1);
