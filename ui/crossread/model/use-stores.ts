'use client';

import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import type { ChangeSet } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import { outbox } from '@/ui/unsent/browser';
import { markingOutbox } from '@/ui/part/marking-outbox';
import { MarkingStore, type MarkingState } from '@/ui/part/marking-store';
import { nextStep, type Lane } from '@/ui/part/undo-chain';
import type { CarriedTo } from '@/workers/score-questions';
import type { ScoreData } from './score-data';

/** The markings of all parts: what is done at once in several is one step, and is undone as one wherever undo is pressed. */
export function useStores({ title, parts }: ScoreData, more: readonly Lane[]) {
  // The stores are looked at here, and change without becoming others.
  'use no memo';
  const [stores] = useState(() =>
    parts.map(({ id, name, markingId, marking, history }) => ({
      id,
      name,
      store: new MarkingStore(marking, history, markingOutbox(outbox(), markingId, { id, name: `${name}, ${title}` })),
    })),
  );
  useEffect(() => stores.forEach(({ store }) => store.open()), [stores]);
  const [together] = useState(() => new Together(stores.map(({ store }) => store)));
  const states = useSyncExternalStore(together.subscribe, together.snapshot, together.snapshot);
  const markings = useMemo(() => Object.fromEntries(stores.map(({ id }, i) => [id, states[i]!.marking])), [stores, states]) as Record<string, Marking>;
  const lanes = stores.map(({ name, store }, i): Lane => ({ of: name, stacks: states[i]!.stacks, takeBack: (row) => store.takeBack(row as ChangeSet) }));
  const all = [...lanes, ...more];
  return {
    markings,
    clashed: stores.filter((_, i) => states[i]!.clash !== null).map(({ name }) => name),
    undo: nextStep(all, 'undo'),
    redo: nextStep(all, 'redo'),
    make(reason: string, all: readonly CarriedTo[]) {
      const id = crypto.randomUUID();
      for (const { partId, changes } of all) stores.find((each) => each.id === partId)?.store.apply(reason, changes, all.length > 1 ? id : undefined);
    },
  };
}

/** Several stores looked at as one. */
class Together {
  private states: readonly MarkingState[];

  constructor(private readonly stores: readonly MarkingStore[]) {
    this.states = stores.map((store) => store.snapshot());
  }

  readonly snapshot = (): readonly MarkingState[] => {
    const now = this.stores.map((store) => store.snapshot());
    if (now.some((state, i) => state !== this.states[i])) this.states = now;
    return this.states;
  };

  readonly subscribe = (listener: () => void): (() => void) => {
    const stops = this.stores.map((store) => store.subscribe(listener));
    return () => stops.forEach((stop) => stop());
  };
}
