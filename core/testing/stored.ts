/** The way of marks through what is stored: change sets as they travel, parsed and applied as the server does. */
import { applyChanges, type ChangeSet } from '../marking/change';
import { splitKey, type Marking } from '../marking/mark';
import { RECORD_VERSION } from '../marking/versions';
import { changeSetShape } from '../marking/wire';

/** A marking as change sets, a hundred changes each. */
export function splitChanges(marking: Marking): ChangeSet[] {
  const changes = Object.entries(marking).map(([key, to]) => ({ ...splitKey(key), from: null, to }));
  const sets: ChangeSet[] = [];
  for (let i = 0; i < changes.length; i += 100)
    sets.push({
      id: `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`,
      at: '2030-01-01T00:00:00.000Z',
      reason: 'Marks',
      version: RECORD_VERSION,
      undoes: null,
      changes: changes.slice(i, i + 100),
    });
  return sets;
}

export function storedAgain(sets: readonly ChangeSet[]): Marking {
  let marking: Marking = {};
  for (const set of sets) {
    const read = changeSetShape.parse(JSON.parse(JSON.stringify(set))) as ChangeSet;
    const { marking: next, conflicts } = applyChanges(marking, read.changes);
    if (conflicts.length) throw new Error('a clash with nothing');
    marking = next;
  }
  return marking;
}
