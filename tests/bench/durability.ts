/**
 * `npm run durability`: 50 rounds of killing server, database, start, browser and all. The build has to be there (bin/start
 * makes it). SERVERS=2: two servers on one database. */
import { durability } from '../support/durability';

const rounds = Number(process.env.ROUNDS ?? 50);
const seed = Number(process.env.SEED ?? 1);
const twoServers = process.env.SERVERS === '2';
const result = await durability({ rounds, seed, twoServers, report: console.log });
console.log(result);
const fine = result.found === result.acknowledged && result.doubled === 0 && result.lost.length === 0;
console.log(fine ? 'Nothing was lost.' : 'SOMETHING WAS LOST.');
process.exit(fine ? 0 : 1);
