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
  | { do: 'music alone' }
  | { do: 'cue' }
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
  v: { do: 'music alone' },
  e: { do: 'tab', tab: 'reading' },
  w: { do: 'tab', tab: 'notes' },
  a: { do: 'tab', tab: 'others' },
  i: { do: 'cue' },
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

/** Letters that somebody has given to commands, by the usual letter of each. */
export type OwnKeys = Readonly<Record<string, string>>;

/** Whether a key of the list may be another one. */
export const isOwn = (key: string): boolean => BY_LETTER[key] !== undefined;
/** The letter that does now what a letter usually does. */
export const keyOf = (letter: string, own: OwnKeys): string => own[letter] ?? letter;

/** A command on another letter; what was on that letter goes to the one that becomes free. */
export function withKey(own: OwnKeys, letter: string, to: string): OwnKeys {
  const next: Record<string, string> = { ...own };
  const other = Object.keys(BY_LETTER).find((each) => keyOf(each, own) === to);
  if (other) next[other] = keyOf(letter, own);
  next[letter] = to;
  return Object.fromEntries(Object.entries(next).filter(([usual, now]) => usual !== now));
}

const commandOn = (pressed: string, own: OwnKeys): [letter: string, command: Command] | null => {
  const letter = Object.keys(BY_LETTER).find((each) => keyOf(each, own) === pressed);
  return letter === undefined ? null : [letter, BY_LETTER[letter]!];
};

/** Digits go by the physical key, so that Shift+1 is the same on every layout; letters by what they write. */
export function commandFor(stroke: Stroke, own: OwnKeys = {}): Command | null {
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
  const [usual, command] = commandOn(letter, own) ?? [];
  if (stroke.shiftKey && usual === 'f') return { do: 'finding', by: -1 };
  if (stroke.shiftKey && letter) return null;
  return command ?? BY_NAME[stroke.key] ?? null;
}

/** For the page that lists them all. */
export const KEY_LIST: ReadonlyArray<{ keys: string[]; what: string; /** What can be asked for by its name, too. */ command?: Command }> = [
  { keys: ['0', '–', '4'], what: 'finger (again takes it away)' },
  { keys: ['t'], what: 'thumb', command: { do: 'mark', kind: 'finger', value: 'T' } },
  { keys: ['Shift', '1', '–', '5'], what: 'string, 1 is the highest' },
  { keys: ['s'], what: 'next string' },
  { keys: ['d'], what: 'down-bow', command: { do: 'mark', kind: 'bow', value: 'down' } },
  { keys: ['u'], what: 'up-bow', command: { do: 'mark', kind: 'bow', value: 'up' } },
  { keys: ['r'], what: 'retake', command: { do: 'mark', kind: 'retake', value: 'yes' } },
  { keys: ['h'], what: 'hook', command: { do: 'mark', kind: 'hook', value: 'yes' } },
  { keys: ['x'], what: 'split the slur here', command: { do: 'mark', kind: 'slur', value: 'split' } },
  { keys: ['j'], what: 'join to the note before', command: { do: 'mark', kind: 'slur', value: 'join' } },
  { keys: ['c'], what: 'covered interval from here', command: { do: 'mark', kind: 'covered', value: 'yes' } },
  { keys: ['Delete'], what: 'take all marks away', command: { do: 'clear' } },
  { keys: ['←', '→'], what: 'walk the notes' },
  { keys: ['Shift', '←', '→'], what: 'select' },
  { keys: ['↑', '↓'], what: 'through the choices, or the remedies of a finding' },
  { keys: ['Enter'], what: 'take the highlighted choice or remedy' },
  { keys: ['f'], what: 'next finding', command: { do: 'finding', by: 1 } },
  { keys: ['Shift', 'f'], what: 'finding before' },
  { keys: ['g'], what: 'suggest fingering', command: { do: 'suggest fingering' } },
  { keys: ['b'], what: 'suggest bowing', command: { do: 'suggest bowing' } },
  { keys: ['p'], what: 'play the passage as planned, from the selected note; again stops', command: { do: 'play' } },
  { keys: ['o'], what: 'the strings alone, seen and heard; again back to the fingers', command: { do: 'open strings' } },
  { keys: ['v'], what: 'the music alone; again all the rest', command: { do: 'music alone' } },
  { keys: ['e'], what: 'edit the text, traps for the reader', command: { do: 'tab', tab: 'reading' } },
  { keys: ['w'], what: 'words for the player', command: { do: 'tab', tab: 'notes' } },
  { keys: ['a'], what: 'what the others do here', command: { do: 'tab', tab: 'others' } },
  { keys: ['i'], what: 'print the cue before the next entry, small; again takes it away', command: { do: 'cue' } },
  { keys: ['n'], what: 'new passage from the selection', command: { do: 'new passage' } },
  { keys: ['Page ↑', 'Page ↓'], what: 'passage before, next' },
  { keys: ['Ctrl', 'Z'], what: 'undo', command: { do: 'undo' } },
  { keys: ['Ctrl', 'Shift', 'Z'], what: 'redo', command: { do: 'redo' } },
  { keys: ['Ctrl', 'K'], what: 'find a bar, note, passage, command, player or part' },
  { keys: ['Esc'], what: 'close the choices, leave the music alone' },
  { keys: ['?'], what: 'this list' },
];
