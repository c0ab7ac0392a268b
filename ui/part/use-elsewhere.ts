'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Change, ChangeSet } from '@/core/marking/change';
import { LIMITS } from '@/core/util/limits';
import { shortened } from '@/core/util/text';
import { laterThanBefore } from '@/ui/kit/clock';
import { outbox } from '@/ui/unsent/browser';
import { marksLane, type Body, type PartNamed } from '@/ui/unsent/entry';
import { ElsewhereMarking, togetherIn, type ElsewhereData } from './elsewhere';
import type { Lane } from './undo-chain';

type Named = Pick<ElsewhereData, 'markingId' | 'part'>;

/** All such markings, followed. */
class Elsewhere {
  private markings: readonly ElsewhereMarking[] = [];
  private version = 0;
  private readonly listeners = new Set<() => void>();
  private stops: Array<() => void> = [];

  constructor(
    private readonly home: PartNamed,
    private readonly first: readonly ElsewhereData[],
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): number => this.version;
  readonly all = (): readonly ElsewhereMarking[] => this.markings;

  /** Once the page has come to life: follows them, and any marking where something is done at once with others; adds what the server did not have yet. */
  open(): () => void {
    this.first.forEach((data) => this.marking(data));
    const isOurs = (body: Body) => body.about === 'marks' && (body.part.id === this.home.id || body.set.fromPart === this.home.id);
    void outbox()
      ?.left(isOurs)
      .then(({ stored, waiting }) => {
        for (const { body } of [...stored, ...waiting]) if (body.about === 'marks') this.marking(body).catchUp(body.set);
      });
    const stop = outbox()?.followAll((lane, event) => {
      const known = this.markings.find(({ data }) => marksLane(data.markingId) === lane);
      const body = event.is === 'made elsewhere' ? event.entry.body : null;
      if (known) known.hear(event);
      else if (body?.about === 'marks' && body.set.together) this.marking(body).hear(event);
    });
    if (stop) this.stops.push(stop);
    return () => {
      this.stops.forEach((stop) => stop());
      this.stops = [];
      this.markings = [];
    };
  }

  marking(named: Named & Partial<ElsewhereData>): ElsewhereMarking {
    const known = this.markings.find(({ data }) => data.markingId === named.markingId);
    if (known) return known;
    const made = new ElsewhereMarking(this.home, named, outbox());
    this.markings = [...this.markings, made];
    this.stops.push(made.log.subscribe(this.changed));
    this.changed();
    return made;
  }

  private readonly changed = (): void => {
    this.version++;
    this.listeners.forEach((listener) => listener());
  };
}

/**
 * Marks in markings that are not open here.
 * @param isOpen of those the page has the stores itself
 * @param onMade told of everything that is written into another part
 */
export function useElsewhere(
  home: PartNamed,
  first: readonly ElsewhereData[],
  isOpen: (markingId: string) => boolean,
  onMade: (set: ChangeSet, partId: string) => void,
) {
  // What it knows is looked at here, and changes without its becoming another.
  'use no memo';
  const [elsewhere] = useState(() => new Elsewhere(home, first));
  useEffect(() => elsewhere.open(), [elsewhere]);
  useSyncExternalStore(elsewhere.subscribe, elsewhere.snapshot, elsewhere.snapshot);

  /** @param own the lanes that the part itself has */
  function lanes(own: readonly Lane[]): Lane[] {
    const together = togetherIn(own);
    return elsewhere
      .all()
      .filter(({ data }) => !isOpen(data.markingId))
      .map((marking) => ({ ...marking.lane(together), takeBack: (row) => onMade(marking.takeBack(row as ChangeSet), marking.data.part.id) }));
  }

  /** Marks for another part go there, as a step of its own history and of this part's chain. */
  function make(named: Named, reason: string, changes: readonly Change[], together?: string): void {
    const set: ChangeSet = {
      id: crypto.randomUUID(),
      at: laterThanBefore(),
      reason: shortened(reason, LIMITS.reason),
      changes: [...changes],
      undoes: null,
      fromPart: home.id,
      ...(together ? { together } : {}),
    };
    elsewhere.marking(named).make(set);
    onMade(set, named.part.id);
  }

  return { lanes, make };
}
