/** The constants of the models, and a few phrases for other players and tastes: as planned and found before (tests/support/as-planned.ts). */
import { changedIn } from '../tests/support/as-planned';

test.each(['constants', 'for-whom'] as const)('%s: as before, to the last figure; if on purpose: npm run agreement -- --write', (name) => {
  const { now, before } = changedIn(name);
  expect(now).toEqual(before);
});
