/** Marks in the words of people. */
import { STRUCK, type MarkKind } from './mark';

const NAMES: Readonly<Partial<Record<MarkKind, string>>> = {
  finger: 'Finger',
  string: 'String',
  retake: 'Retake',
  hook: 'Hook',
  slur: 'Slur',
  covered: 'Covered interval',
};

/** How the history and lists name a mark: "Finger 3", "Hook", "Up-bow". */
export function markInWords(kind: MarkKind, value: string): string {
  if (kind === 'bow') return { down: 'Down-bow', up: 'Up-bow' }[value] ?? 'No bow';
  const name = NAMES[kind] ?? kind.replace(':', ' ');
  if (value === 'yes') return name;
  return value === STRUCK ? `No ${name.toLowerCase()}` : `${name} ${value}`;
}
