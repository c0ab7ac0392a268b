/**
 * The marking: what the teacher says about one part. A flat map from a target and a kind to a mark.
 * It never touches the score; what the edition prints shows through wherever nothing is marked.
 */
import type { Note } from '../score/score';

export type MarkKind = 'finger' | 'string' | 'bow' | 'retake' | 'hook' | 'slur' | 'covered';

/** Values by kind; `none` strikes out what the edition prints. */
export type MarkValue = string;

export const MARK_VALUES: Readonly<Record<MarkKind, readonly string[]>> = {
  finger: ['0', '1', '2', '3', '4', 'T', 'none'],
  string: ['1', '2', '3', '4', '5', 'none'],
  bow: ['down', 'up', 'none'],
  retake: ['yes'],
  hook: ['yes'],
  /** split: a new bow begins at this note inside the printed slur; join: this note is slurred to the one before. */
  slur: ['split', 'join'],
  /** One finger over two strings, from this note on. */
  covered: ['yes'],
};

export const MARK_KINDS = Object.keys(MARK_VALUES) as MarkKind[];

export type Origin = 'coach' | 'suggestion';

export interface Mark {
  value: MarkValue;
  origin: Origin;
}

/** `${noteId}|${kind}` → mark. */
export type Marking = Readonly<Record<string, Mark>>;

export const EMPTY_MARKING: Marking = {};

export const markKey = (target: string, kind: MarkKind): string => `${target}|${kind}`;

export function splitKey(key: string): { target: string; kind: MarkKind } {
  const at = key.lastIndexOf('|');
  return { target: key.slice(0, at), kind: key.slice(at + 1) as MarkKind };
}

export function markAt(marking: Marking, target: string, kind: MarkKind): Mark | undefined {
  return marking[markKey(target, kind)];
}

/** The finger in force on a note: the mark, else the edition's; null where neither says anything. */
export function fingerInForce(note: Note, marking: Marking): string | null {
  return inForce(markAt(marking, note.id, 'finger')?.value, note.printed.finger);
}

export function stringInForce(note: Note, marking: Marking): number | null {
  const value = inForce(markAt(marking, note.id, 'string')?.value, note.printed.string === null ? null : String(note.printed.string));
  return value === null ? null : Number(value);
}

export function bowInForce(note: Note, marking: Marking): 'down' | 'up' | null {
  return inForce(markAt(marking, note.id, 'bow')?.value, note.printed.bow) as 'down' | 'up' | null;
}

function inForce(marked: string | undefined, printed: string | null): string | null {
  if (marked === undefined) return printed;
  return marked === 'none' ? null : marked;
}
