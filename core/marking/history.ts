/**
 * Undo and redo from the list of what was done: the same after a reload as before it. What is done is a row in a log: a change set
 * of a marking, new passages, a setting. Rows of several logs that share `together` were done at once, and are taken back at once.
 */
import { reversed, type Change, type ChangeSet } from './change';

/** A row of a log, of whatever it is about. */
export interface Logged {
  id: string;
  /** ISO 8601 time. */
  at: string;
  /** What was done, in words. */
  reason: string;
  /** The row that this one takes back: undo takes back a row, redo takes back an undo. */
  undoes: string | null;
  /** Shared by all that was done at once, in whatever log. */
  together?: string;
  /** Nothing before it can be taken back. */
  boundary?: true;
}

export interface Stacks<T extends Logged = ChangeSet> {
  /** Rows that can be taken back, the latest last. */
  undo: T[];
  /** Undos that can be taken back, the latest last. */
  redo: T[];
  /** When something new was done last; '' for never. What was taken back before that is not done again. */
  freshAt: string;
}

export const noStacks = <T extends Logged>(): Stacks<T> => ({ undo: [], redo: [], freshAt: '' });

/** Replays a log, oldest first. */
export const stacksOf = <T extends Logged>(history: readonly T[]): Stacks<T> => history.reduce<Stacks<T>>(pushed, noStacks<T>());

/**
 * The stacks after one more row. A row may be taken back out of order: from another part's Desk, with what was done together. What
 * takes back a row that is not in the stacks (older than the log that was read, or done again elsewhere after something new) is
 * passed over: it can be taken back where it was done.
 */
export function pushed<T extends Logged>(stacks: Stacks<T>, row: T): Stacks<T> {
  const { undo, redo, freshAt } = stacks;
  if (row.boundary) return { ...noStacks<T>(), freshAt: row.at };
  const others = (rows: readonly T[]) => rows.filter(({ id }) => id !== row.undoes);
  if (undo.some(({ id }) => id === row.undoes)) return { undo: others(undo), redo: [...redo, row], freshAt };
  if (redo.some(({ id }) => id === row.undoes)) return { undo: [...undo, row], redo: others(redo), freshAt };
  if (row.undoes !== null) return stacks;
  return { undo: [...undo, row], redo: [], freshAt: row.at > freshAt ? row.at : freshAt };
}

/** What a row that takes another one back says of itself. */
export function takingBack<T extends Logged>(row: T, id: string, at: string): T {
  const again = row.undoes !== null;
  return { ...row, id, at, reason: again ? row.reason.replace(/^Undo: /, '') : `Undo: ${row.reason}`, undoes: row.id };
}

/** The set that takes another one back. */
export const undoing = (set: ChangeSet, id: string, at: string): ChangeSet => ({ ...takingBack(set, id, at), changes: reversed(set.changes) as Change[] });
