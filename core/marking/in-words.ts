/** Marks in the words of people. */
import { type MarkKind, MARKS } from './kinds';
import { STRUCK } from './values';

/** How the history and lists name a mark: "Finger 3", "Hook", "Up-bow". */
export function markInWords(kind: MarkKind, value: string): string {
  if (kind === 'bow') return { down: 'Down-bow', up: 'Up-bow' }[value] ?? 'No bow';
  const { name } = MARKS[kind];
  if (value === 'yes') return name;
  return value === STRUCK ? `No ${name.toLowerCase()}` : `${name} ${value}`;
}
