/** Undo and redo from the list of change sets: the same after a reload as before it. */
import { reversed, type Change, type ChangeSet } from './change';

export interface Stacks {
  /** Sets that can be taken back, the latest last. */
  undo: ChangeSet[];
  /** Undos that can be taken back, the latest last. */
  redo: ChangeSet[];
}

/** Replays a history, oldest first. */
export function stacksOf(history: readonly ChangeSet[]): Stacks {
  return history.reduce<Stacks>(pushed, { undo: [], redo: [] });
}

/** The stacks after one more set. */
export function pushed(stacks: Stacks, set: ChangeSet): Stacks {
  if (set.boundary) return { undo: [], redo: [] };
  const { undo, redo } = stacks;
  if (set.undoes !== null && undo.at(-1)?.id === set.undoes) return { undo: undo.slice(0, -1), redo: [...redo, set] };
  if (set.undoes !== null && redo.at(-1)?.id === set.undoes) return { undo: [...undo, set], redo: redo.slice(0, -1) };
  return { undo: [...undo, set], redo: [] };
}

/** The set that takes another one back. */
export function undoing(set: ChangeSet, id: string, at: string): ChangeSet {
  const again = set.undoes !== null;
  return { id, at, reason: again ? set.reason.replace(/^Undo: /, '') : `Undo: ${set.reason}`, changes: reversed(set.changes) as Change[], undoes: set.id };
}
