/** How often somebody may knock in vain. Counted in the database, for all servers together. */
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { pool } from '../db';

/** (judgement; OWASP ASVS 4.0, 2.2.1 asks for no more than a hundred an hour) */
const RULES = {
  /** Wrong pass phrases for one name. */
  name: { points: 8, duration: 15 * 60 },
  /** Whatever is wrong, from one address. */
  address: { points: 40, duration: 15 * 60 },
} as const;

type Rule = keyof typeof RULES;

const holder = globalThis as unknown as { omaggioKnocks?: Record<Rule, RateLimiterPostgres> };

function limiter(rule: Rule): RateLimiterPostgres {
  holder.omaggioKnocks ??= Object.fromEntries(
    Object.entries(RULES).map(([name, rules]) => [
      name,
      new RateLimiterPostgres({ ...rules, storeClient: pool(), tableName: 'knocks', tableCreated: true, keyPrefix: name, clearExpiredByTimeout: false }),
    ]),
  ) as Record<Rule, RateLimiterPostgres>;
  return holder.omaggioKnocks[rule];
}

export interface Knocker {
  address: string;
  /** As they sign in. */
  name?: string;
}

const keysOf = ({ address, name }: Knocker): Array<[Rule, string]> => [['address', address], ...(name === undefined ? [] : [['name', name] as [Rule, string]])];

/** Seconds until they may knock again; 0 where they may now. */
export async function secondsToWait(who: Knocker): Promise<number> {
  const states = await Promise.all(keysOf(who).map(([rule, key]) => limiter(rule).get(key)));
  const waits = states.map((state, i) => (state && state.consumedPoints >= RULES[keysOf(who)[i]![0]].points ? Math.ceil(state.msBeforeNext / 1000) : 0));
  return Math.max(0, ...waits);
}

/** It was in vain. */
export async function countKnock(who: Knocker): Promise<void> {
  for (const [rule, key] of keysOf(who))
    await limiter(rule)
      .consume(key)
      .catch((refused: unknown) => {
        if (!(refused instanceof RateLimiterRes)) throw refused;
      });
}

/** They are in: the name is not held against them any more. */
export const forgetKnocks = async ({ name }: Knocker): Promise<void> => {
  if (name !== undefined) await limiter('name').delete(name);
};
