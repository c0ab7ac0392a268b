/** Entries made anew on what they were made on, where one before them goes. */
import { rebased, rewound } from '@/core/marking/rebase';
import type { ChangeSet } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import type { Body, Entry } from './entry';

export const entryOf = (set: ChangeSet, like: Entry): Entry => ({
  ...like,
  id: set.id,
  body: { ...(like.body as Extract<Body, { about: 'marks' }>), set },
  seq: null,
});

export function onWhatItWasMadeOn(bad: Entry, others: readonly Entry[], newId: () => string): Entry[] {
  const setOf = ({ body }: Entry) => (body as Extract<Body, { about: 'marks' }>).set;
  const open = others.filter(({ refused }) => !refused);
  // Nothing is known here of the marking but what the refused change was made on.
  const onto = rewound({}, [setOf(bad)]);
  const touched = new Set(setOf(bad).changes.map(({ target, kind }) => `${target}|${kind}`));
  const base: Record<string, Marking[string]> = { ...onto };
  for (const { changes } of open.map(setOf))
    for (const { target, kind, from } of changes) {
      const key = `${target}|${kind}`;
      if (!touched.has(key) && !(key in base)) {
        touched.add(key);
        if (from) base[key] = from;
      }
    }
  const sets = rebased(open.map(setOf), base, () => 'mine', newId).sets;
  return [...others.filter(({ refused }) => refused), ...sets.map((set) => entryOf(set, open.find(({ id }) => id === set.id) ?? open[0]!))];
}
