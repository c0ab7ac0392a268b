/** Dynamics by their printed names. */
import type { DynamicLevel } from './score';

/** Softest first. */
export const DYNAMIC_LEVELS: readonly DynamicLevel[] = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'];

const NAMED: Readonly<Record<string, DynamicLevel>> = {
  ppppp: 'ppp',
  pppp: 'ppp',
  ppp: 'ppp',
  pp: 'pp',
  p: 'p',
  mp: 'mp',
  mf: 'mf',
  f: 'f',
  ff: 'ff',
  fff: 'fff',
  ffff: 'fff',
  fffff: 'fff',
  fp: 'p',
  sfp: 'p',
  sfzp: 'p',
  sfpp: 'pp',
  pf: 'f',
  n: 'ppp',
};

/** Single stressed notes: the level stays as it was. */
const STRESSED: readonly string[] = ['sf', 'sfz', 'sffz', 'fz', 'rf', 'rfz'];

/** Every dynamic that can be read and written, softest first, stressed notes last. */
export const DYNAMIC_NAMES: readonly string[] = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'fp', 'sf', 'sfz', 'rf', 'rfz', 'fz', 'sfp', 'n'];

/** Level from here on; null for a stressed note, undefined for what is no dynamic. */
export function levelOf(name: string): DynamicLevel | null | undefined {
  return NAMED[name] ?? (STRESSED.includes(name) ? null : undefined);
}
