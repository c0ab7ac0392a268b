/** A few phrases for other players and tastes: as planned and found before (tests/support/as-planned.ts). */
import { changedIn } from '../tests/support/as-planned';

test('for whom: as before, to the last figure; if on purpose: npm run agreement -- --write', () => {
  const { now, before } = changedIn('for-whom');
  expect(now).toEqual(before);
});
