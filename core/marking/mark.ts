/**
 * The marking: what the teacher says about one part. A flat map from a target and a kind to a mark.
 * It never touches the score; what the edition prints shows through wherever nothing is marked.
 */
import type { Note } from '../score/score';
import type { MarkKind } from './kinds';
import { STRUCK } from './values';

export type Origin = 'coach' | 'suggestion';

export interface Mark {
  value: string;
  origin: Origin;
  /** Why: edits against the print carry it. */
  why?: string;
  /** Set aside: kept and listed, but not in force and not exported. */
  off?: true;
  /** Who made it; told by the server, no part of what the mark says. */
  by?: string;
}

/** `${target}|${kind}` → mark. */
export type Marking = Readonly<Record<string, Mark>>;

export const EMPTY_MARKING: Marking = {};

export const markKey = (target: string, kind: MarkKind): string => `${target}|${kind}`;

export function splitKey(key: string): { target: string; kind: MarkKind } {
  const at = key.lastIndexOf('|');
  return { target: key.slice(0, at), kind: key.slice(at + 1) as MarkKind };
}

type MarksOfTarget = Readonly<Partial<Record<MarkKind, Mark>>>;

/** Marks by target, made once for each marking: plans and checks ask for every note. A marking is never changed in place. */
const byTarget = new WeakMap<Marking, ReadonlyMap<string, MarksOfTarget>>();

/** All marks of one target; undefined where there are none. */
export function marksOf(marking: Marking, target: string): MarksOfTarget | undefined {
  let index = byTarget.get(marking);
  if (!index) {
    const made = new Map<string, Partial<Record<MarkKind, Mark>>>();
    for (const [key, mark] of Object.entries(marking)) {
      const at = splitKey(key);
      const known = made.get(at.target);
      if (known) known[at.kind] = mark;
      else made.set(at.target, { [at.kind]: mark });
    }
    byTarget.set(marking, (index = made));
  }
  return index.get(target);
}

export function markAt(marking: Marking, target: string, kind: MarkKind): Mark | undefined {
  return marksOf(marking, target)?.[kind];
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
  return marked === STRUCK ? null : marked;
}
