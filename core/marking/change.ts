/**
 * A change to a marking is a value; applied backwards it is undo. The list of change sets is the
 * autosave, the history and the difference between two hand-outs. A `from` that does not match what
 * is stored is a conflict and is returned, never overwritten.
 */
import { markKey, splitKey, type Mark, type Marking } from './mark';
import type { MarkKind } from './kinds';

export interface Change {
  target: string;
  kind: MarkKind;
  from: Mark | null;
  to: Mark | null;
}

export interface ChangeSet {
  id: string;
  /** ISO 8601 time. */
  at: string;
  /** What was done, in words: "Finger 3", "Suggested fingering, bars 9–16". */
  reason: string;
  changes: Change[];
  /** The set that this one takes back: undo takes back a set, redo takes back an undo. */
  undoes: string | null;
  /** Shared by the sets of several markings (and what else was done) that were made at once and are taken back at once. */
  together?: string;
  /** The part at whose Desk it was made, where that is not the part of its marking. */
  fromPart?: string;
  /** How its notes and places are named (`versions.ts`); absent in sets of the first version. */
  version?: number;
  /** Marks were carried over to another file: nothing before it can be taken back. */
  boundary?: true;
}

export interface Conflict {
  change: Change;
  stored: Mark | null;
}

/** The same in everything that it says; who made it does not count. */
export function sameMark(a: Mark | null | undefined, b: Mark | null | undefined): boolean {
  if (!a || !b) return !a && !b;
  return a.value === b.value && a.origin === b.origin && a.why === b.why && a.off === b.off;
}

/** The change that sets a mark (or takes it away with null); null when nothing would change. */
export function changeTo(marking: Marking, target: string, kind: MarkKind, to: Mark | null): Change | null {
  const from = marking[markKey(target, kind)] ?? null;
  return sameMark(from, to) ? null : { target, kind, from, to };
}

/** The same in the coach's name, as a row: empty when nothing would change. @param value null takes the mark away */
export function coachChanges(marking: Marking, target: string, kind: MarkKind, value: string | null): Change[] {
  const change = changeTo(marking, target, kind, value === null ? null : { value, origin: 'coach' });
  return change ? [change] : [];
}

/** Applies all changes or none: with any conflict the marking comes back as it was. */
export function applyChanges(marking: Marking, changes: readonly Change[]): { marking: Marking; conflicts: Conflict[] } {
  const next: Record<string, Mark> = { ...marking };
  const conflicts: Conflict[] = [];
  for (const change of changes) {
    const key = markKey(change.target, change.kind);
    const stored = next[key] ?? null;
    if (!sameMark(stored, change.from)) {
      conflicts.push({ change, stored });
      continue;
    }
    if (change.to) next[key] = change.to;
    else delete next[key];
  }
  return conflicts.length ? { marking, conflicts } : { marking: next, conflicts };
}

/** What changes come to, whatever was there. */
export function written(marking: Marking, changes: readonly Change[]): Marking {
  const next: Record<string, Mark> = { ...marking };
  for (const { target, kind, to } of changes) {
    if (to) next[markKey(target, kind)] = to;
    else delete next[markKey(target, kind)];
  }
  return next;
}

/** The changes that take it back, last first. */
export function reversed(changes: readonly Change[]): Change[] {
  return [...changes].reverse().map((change) => ({ ...change, from: change.to, to: change.from }));
}

/** One change per target and kind; those that end where they began are left out. */
export function squashed(changes: readonly Change[]): Change[] {
  const byKey = new Map<string, Change>();
  for (const change of changes) {
    const key = markKey(change.target, change.kind);
    const first = byKey.get(key);
    byKey.set(key, first ? { ...first, to: change.to } : change);
  }
  return [...byKey.values()].filter((change) => !sameMark(change.from, change.to));
}

/** What leads from one marking to another. */
export function difference(from: Marking, to: Marking): Change[] {
  const changes: Change[] = [];
  for (const key of new Set([...Object.keys(from), ...Object.keys(to)])) {
    const before = from[key] ?? null;
    const after = to[key] ?? null;
    if (sameMark(before, after)) continue;
    changes.push({ ...splitKey(key), from: before, to: after });
  }
  return changes;
}
