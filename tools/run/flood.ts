/** Too much at once from one machine: counted in each server by itself, in memory. */
import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Refusal } from './door';

/** Requests in so many seconds: far more than a class in one room makes (judgement). */
export const FLOOD = { points: 3_000, duration: 10 };

export const TOO_MUCH: Refusal = { status: 429, what: 'That is too much at once from one machine.', remedy: 'Wait ten seconds, then go on.' };

/** @returns asked for each request, whether it is one too many */
export function floodGate(rule: { points: number; duration: number }): (address: string) => Promise<boolean> {
  const limiter = new RateLimiterMemory(rule);
  return (address) =>
    limiter.consume(address).then(
      () => false,
      () => true,
    );
}
