import fc from 'fast-check';
import { runs } from '../testing/runs';
import { bruteBowing, finestCost, placesCost } from '../../tests/support/brute-bow';
import { bowProblems } from '../../tests/support/bow-problems';
import { refined } from './refine';
import { described } from './describe';
import { cheapestBowing } from './search';
import { LOCKED } from './stroke';
import { BOW_STRATEGIES } from './tables';

// The same on 200 phrases each, with a finer grid: npm run exact-bow; its figures are in docs/bow-arm.md.

test('directions and cuts: what trying all of them finds', () => {
  fc.assert(
    fc.property(bowProblems({ minLength: 2, maxLength: 4 }), (problem) => {
      expect(cheapestBowing(problem).cost).toBeCloseTo(bruteBowing(problem).cost, 6);
    }),
    { numRuns: runs(40), endOnFailure: true },
  );
});

test('distribution: within 0.1 of the best places on a fine grid', () => {
  fc.assert(
    fc.property(bowProblems({ minLength: 4, maxLength: 8 }), (problem) => {
      const { strokes } = cheapestBowing(problem);
      const places = refined(strokes, problem.atoms, problem.hairCm, problem.costs);
      expect(placesCost(places, problem) - finestCost(strokes, problem, 41)).toBeLessThan(0.1);
    }),
    { numRuns: runs(25), endOnFailure: true },
  );
});

test('the total that is shown is the cost that was searched, taken apart', () => {
  fc.assert(
    fc.property(bowProblems({ minLength: 2, maxLength: 9 }), ({ atoms, spansEndingAt, hairCm, costs, part }) => {
      const found = cheapestBowing({ atoms, spansEndingAt, hairCm, costs });
      // What a mark forbids costs the search more than anything, and a plan nothing.
      fc.pre(found.cost < LOCKED);
      const { total, terms } = described({ part, costs }, atoms, found.strokes, hairCm, BOW_STRATEGIES[0]!);
      // Two thousandths for the rounding of each term.
      expect(Math.abs(total - found.cost)).toBeLessThan(0.002);
      expect(Math.abs(Object.values(terms).reduce((sum, term) => sum + term, 0) - total)).toBeLessThan(0.005);
    }),
    { numRuns: runs(60), endOnFailure: true },
  );
});
