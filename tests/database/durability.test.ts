import { durability } from '../support/durability';

test('five rounds of killing server, database, start, browser and all: what was acknowledged is there once, what was said to be kept is there', async () => {
  const result = await durability({ rounds: 5, seed: 7 });
  expect(result).toMatchObject({ rounds: 5, doubled: 0, lost: [], found: result.acknowledged });
  expect(result.acknowledged).toBeGreaterThan(50);
  expect(result.saidKept).toBeGreaterThan(0);
  // A slow machine starts it again five times; that is no fault.
}, 1_800_000);

test('two servers on one database, either killed in the middle of marks, and the database: nothing lost, nothing done twice', async () => {
  const result = await durability({ rounds: 5, seed: 11, twoServers: true });
  expect(result).toMatchObject({ rounds: 5, doubled: 0, lost: [], found: result.acknowledged });
  expect(result.acknowledged).toBeGreaterThan(50);
  expect(result.saidKept).toBeGreaterThan(0);
}, 1_800_000);
