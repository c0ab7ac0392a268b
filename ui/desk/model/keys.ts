/** The keys of the score: what they do and how a keystroke is read. They act only while the score has the focus. */
import type { MarkKind } from '@/core/marking/kinds';
import type { PanelTab } from './tabs';

export type Command =
  | { do: 'mark'; kind: MarkKind; value: string }
  | { do: 'cycle string' }
  | { do: 'clear' }
  | { do: 'step'; by: number; extend: boolean }
  | { do: 'row'; by: number }
  | { do: 'passage'; by: number }
  | { do: 'new passage' }
  | { do: 'take' }
  | { do: 'undo' }
  | { do: 'redo' }
  | { do: 'go to' }
  | { do: 'help' }
  | { do: 'suggest fingering' }
  | { do: 'suggest bowing' }
  | { do: 'play' }
  | { do: 'open strings' }
  | { do: 'finding'; by: number }
  | { do: 'tab'; tab: PanelTab }
  | { do: 'leave' };

type Stroke = Pick<KeyboardEvent, 'key' | 'code' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'>;

const BY_LETTER: Readonly<Record<string, Command>> = {
  t: { do: 'mark', kind: 'finger', value: 'T' },
  d: { do: 'mark', kind: 'bow', value: 'down' },
  u: { do: 'mark', kind: 'bow', value: 'up' },
  r: { do: 'mark', kind: 'retake', value: 'yes' },
  h: { do: 'mark', kind: 'hook', value: 'yes' },
  x: { do: 'mark', kind: 'slur', value: 'split' },
  j: { do: 'mark', kind: 'slur', value: 'join' },
  c: { do: 'mark', kind: 'covered', value: 'yes' },
  s: { do: 'cycle string' },
  n: { do: 'new passage' },
  f: { do: 'finding', by: 1 },
  g: { do: 'suggest fingering' },
  b: { do: 'suggest bowing' },
  p: { do: 'play' },
  o: { do: 'open strings' },
  e: { do: 'tab', tab: 'reading' },
  w: { do: 'tab', tab: 'notes' },
};

const BY_NAME: Readonly<Record<string, Command>> = {
  Backspace: { do: 'clear' },
  Delete: { do: 'clear' },
  Enter: { do: 'take' },
  Escape: { do: 'leave' },
  ArrowUp: { do: 'row', by: -1 },
  ArrowDown: { do: 'row', by: 1 },
  PageUp: { do: 'passage', by: -1 },
  PageDown: { do: 'passage', by: 1 },
};

/** Digits go by the physical key, so that Shift+1 is the same on every layout; letters by what they write. */
export function commandFor(stroke: Stroke): Command | null {
  const control = stroke.ctrlKey || stroke.metaKey;
  const letter = stroke.key.length === 1 ? stroke.key.toLowerCase() : '';
  if (control) {
    if (letter === 'z') return { do: stroke.shiftKey ? 'redo' : 'undo' };
    if (letter === 'y') return { do: 'redo' };
    if (letter === 'k') return { do: 'go to' };
    return null;
  }
  if (stroke.altKey) return null;
  if (stroke.key === 'ArrowLeft' || stroke.key === 'ArrowRight') return { do: 'step', by: stroke.key === 'ArrowLeft' ? -1 : 1, extend: stroke.shiftKey };
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(stroke.code)?.[1] ?? (/^\d$/.test(stroke.key) ? stroke.key : null);
  if (digit && stroke.shiftKey && digit >= '1' && digit <= '5') return { do: 'mark', kind: 'string', value: digit };
  if (digit && !stroke.shiftKey && digit <= '4') return { do: 'mark', kind: 'finger', value: digit };
  if (stroke.key === '?') return { do: 'help' };
  if (stroke.shiftKey && letter === 'f') return { do: 'finding', by: -1 };
  if (stroke.shiftKey && letter) return null;
  return BY_LETTER[letter] ?? BY_NAME[stroke.key] ?? null;
}

/** For the page that lists them all. */
export const KEY_LIST: ReadonlyArray<{ keys: string[]; what: string }> = [
  { keys: ['0', '–', '4'], what: 'finger (again takes it away)' },
  { keys: ['t'], what: 'thumb' },
  { keys: ['Shift', '1', '–', '5'], what: 'string, 1 is the highest' },
  { keys: ['s'], what: 'next string' },
  { keys: ['d'], what: 'down-bow' },
  { keys: ['u'], what: 'up-bow' },
  { keys: ['r'], what: 'retake' },
  { keys: ['h'], what: 'hook' },
  { keys: ['x'], what: 'split the slur here' },
  { keys: ['j'], what: 'join to the note before' },
  { keys: ['c'], what: 'covered interval from here' },
  { keys: ['Delete'], what: 'take all marks away' },
  { keys: ['←', '→'], what: 'walk the notes' },
  { keys: ['Shift', '←', '→'], what: 'select' },
  { keys: ['↑', '↓'], what: 'through the choices, or the remedies of a finding' },
  { keys: ['Enter'], what: 'take the highlighted choice or remedy' },
  { keys: ['f'], what: 'next finding' },
  { keys: ['Shift', 'f'], what: 'finding before' },
  { keys: ['g'], what: 'suggest fingering' },
  { keys: ['b'], what: 'suggest bowing' },
  { keys: ['p'], what: 'play the passage as planned, from the selected note; again stops' },
  { keys: ['o'], what: 'the strings alone, seen and heard; again back to the fingers' },
  { keys: ['e'], what: 'edit the text, traps for the reader' },
  { keys: ['w'], what: 'words for the player' },
  { keys: ['n'], what: 'new passage from the selection' },
  { keys: ['Page ↑', 'Page ↓'], what: 'passage before, next' },
  { keys: ['Ctrl', 'Z'], what: 'undo' },
  { keys: ['Ctrl', 'Shift', 'Z'], what: 'redo' },
  { keys: ['Ctrl', 'K'], what: 'go to a bar or note: 47, 47/3, E+2, -6' },
  { keys: ['Esc'], what: 'close the choices' },
  { keys: ['?'], what: 'this list' },
];
