/** Change sets that are not stored yet, put on top of something else than what they were made on. All functions are pure. */
import { applyChanges, sameMark, type Change, type ChangeSet } from './change';
import { markKey, type Mark, type Marking } from './mark';

/** Whose mark stands where two people changed the same one. */
export type Whose = 'mine' | 'theirs';

export interface Rebased {
  /** They fit on the marking, in order. A set that had to be altered has an id of its own, one with nothing left is gone. */
  sets: ChangeSet[];
  /** The marking with them applied. */
  marking: Marking;
}

/**
 * Puts sets on another marking. Where a mark is not what a change expected, `whose` decides: mine goes on top of it, theirs stays
 * and every change of mine to that mark is left out. Changes to other marks stay as they are.
 * @param newId makes ids for altered sets
 */
export function rebased(sets: readonly ChangeSet[], onto: Marking, whose: (key: string) => Whose, newId: () => string): Rebased {
  const left = new Set<string>();
  const ids = new Map<string, string | null>();
  const result: ChangeSet[] = [];
  let marking = onto;
  for (const set of sets) {
    const changes: Change[] = [];
    let altered = false;
    for (const change of set.changes) {
      const key = markKey(change.target, change.kind);
      const there = marking[key] ?? null;
      const fits = sameMark(there, change.from);
      if (!fits && !left.has(key) && whose(key) === 'theirs') left.add(key);
      const kept = !left.has(key) && !(!fits && sameMark(there, change.to));
      if (!kept || !fits) altered = true;
      if (!kept) continue;
      const fitted = fits ? change : { ...change, from: there };
      changes.push(fitted);
      marking = applyChanges(marking, [fitted]).marking;
    }
    const undone = set.undoes === null ? null : ids.has(set.undoes) ? ids.get(set.undoes)! : set.undoes;
    if (undone !== set.undoes) altered = true;
    const id = changes.length === 0 ? null : altered ? newId() : set.id;
    ids.set(set.id, id);
    if (id !== null) result.push(altered ? { ...set, id, changes, undoes: undone } : set);
  }
  return { sets: result, marking };
}

/** The marking that sets were made on, from the marking with them applied. */
export function rewound(marking: Marking, sets: readonly ChangeSet[]): Marking {
  const before: Record<string, Mark> = { ...marking };
  for (const { target, kind, from } of [...sets].reverse().flatMap(({ changes }) => [...changes].reverse())) {
    const key = markKey(target, kind);
    if (from) before[key] = from;
    else delete before[key];
  }
  return before;
}
