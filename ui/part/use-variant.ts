'use client';

import { z } from 'zod';
import { useCallback, useEffect, useMemo, useReducer, useState, useSyncExternalStore } from 'react';
import type { Change, ChangeSet } from '@/core/marking/change';
import { noStacks } from '@/core/marking/history';
import { markKey, splitKey, type Marking } from '@/core/marking/mark';
import { type MarkKind, MARKS } from '@/core/marking/kinds';
import { variantChanges, variantForAll, withVariant } from '@/core/marking/variant';
import type { Whose } from '@/core/marking/rebase';
import { sendJson, type Problem } from '@/ui/kit/problem';
import { outbox } from '@/ui/unsent/browser';
import type { PartNamed } from '@/ui/unsent/entry';
import { markingOutbox } from './marking-outbox';
import { MarkingStore, type MarkingState } from './marking-store';
import type { PlayerChoice, VariantData } from './part-data';
import type { Lane } from './undo-chain';

interface Asked {
  part: PartNamed;
  /** The marking for everybody. */
  everybody: MarkingStore;
  base: MarkingState;
  player: PlayerChoice | null;
  /** Of the player that the page came with. */
  first: VariantData | null;
  onProblem(problem: Problem): void;
}

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;

const NOT_LOADED: Problem = {
  place: null,
  what: 'The marks of this player alone could not be loaded.',
  remedy: 'What is shown is the marking for everybody. Choose the player again, or reload.',
};

const NOTHING: MarkingState = { marking: {}, stacks: noStacks(), pending: [], clash: null };
const NO_STORE = { subscribe: () => () => undefined, snapshot: () => NOTHING };

/** Kinds that may differ from player to player; edits and notes are for everybody. */
const mayBeOwn = (kind: MarkKind): boolean => MARKS[kind].group === 'player' || MARKS[kind].group === 'wish';

interface Own {
  playerId: string;
  markingId: string;
  store: MarkingStore;
}

/** The marking as the chosen player has it, and where changes to it go: to everybody, or to this player alone. */
export function usePlayersMarking({ part, everybody, base, player, first, onProblem }: Asked) {
  // The stores are looked at here, and change without becoming others.
  'use no memo';
  /** Of every player that was looked at, so that what was done for one can be undone whoever is looked at now. */
  const [opened, setOpened] = useState<readonly Own[]>(() => (first ? [{ ...first, store: storeFor(part, first) }] : []));
  const [aloneFor, setAloneFor] = useState<string | null>(null);
  const playerId = player?.id ?? null;
  const store = opened.find((own) => own.playerId === playerId)?.store ?? null;
  const variant = useSyncExternalStore((store ?? NO_STORE).subscribe, (store ?? NO_STORE).snapshot, (store ?? NO_STORE).snapshot);
  const alone = playerId !== null && aloneFor === playerId;

  useOpening({ part, playerId, isOpen: store !== null, opened, setOpened, onProblem });

  const marking = useMemo(() => withVariant(base.marking, variant.marking), [base.marking, variant.marking]);

  /** Changes are about the marking as the player has it. What differs for this player already stays this player's. */
  const name = player?.name ?? '';
  const change = useCallback(
    (reason: string, changes: readonly Change[]): void => {
      const all = everybody.snapshot().marking;
      const own = store?.snapshot().marking ?? {};
      const isOwn = ({ target, kind }: Change) => store !== null && mayBeOwn(kind) && (alone || markKey(target, kind) in own);
      const mine = changes.filter(isOwn);
      const others = changes.filter((each) => !isOwn(each)).map((each) => ({ ...each, from: all[markKey(each.target, each.kind)] ?? null }));
      const together = mine.length && others.length ? crypto.randomUUID() : undefined;
      if (mine.length) store!.apply(`${name}: ${reason}`, variantChanges(all, own, mine), together);
      everybody.apply(reason, others, together);
    },
    [everybody, store, alone, name],
  );

  const laneOf = (of: MarkingStore): Lane => ({ stacks: of.snapshot().stacks, takeBack: (row) => of.takeBack(row as ChangeSet) });

  return {
    marking,
    change,
    undoLanes: [everybody, ...opened.map((own) => own.store)].map(laneOf),
    isOpen: (markingId: string) => opened.some((own) => own.markingId === markingId),
    /** Marks that differ for the chosen player. */
    differing: Object.keys(variant.marking).length,
    /** Fingers and bows go to the chosen player alone. */
    alone,
    canBeAlone: store !== null,
    setAlone: (on: boolean) => setAloneFor(on ? playerId : null),
    /** Everybody gets what this player has; nothing differs any more. */
    giveToAll(): void {
      if (!store) return;
      const together = crypto.randomUUID();
      everybody.apply(`As ${name} has it`, variantForAll(base.marking, variant.marking), together);
      empty('As everybody', together);
    },
    /** The player has what everybody has again. */
    asEverybody: () => empty('As everybody'),
    /** Marks that two people changed: of the player's own first, then of everybody's. */
    clash: variant.clash ?? base.clash,
    settle: (whose: (key: string) => Whose) => (variant.clash ? store!.settle(whose) : everybody.settle(whose)),
  };

  function empty(reason: string, together?: string): void {
    store?.apply(
      `${name}: ${reason}`,
      Object.entries(variant.marking).map(([key, from]) => ({ ...splitKey(key), from, to: null })),
      together,
    );
  }
}

interface Opening {
  part: PartNamed;
  playerId: string | null;
  isOpen: boolean;
  opened: readonly Own[];
  setOpened(add: (before: readonly Own[]) => readonly Own[]): void;
  onProblem(problem: Problem): void;
}

const variantShape = z.object({ markingId: z.string(), marking: z.custom<Marking>(isObject), history: z.array(z.custom<ChangeSet>(isObject)) });

/** Loads the marks of a player who is looked at for the first time, and shows the changes of all that are open. */
function useOpening({ part, playerId, isOpen, opened, setOpened, onProblem }: Opening): void {
  useEffect(() => {
    if (!playerId || isOpen) return;
    let gone = false;
    void sendJson('PUT', `/api/parts/${part.id}/variants/${playerId}`, {}).then(async (response) => {
      const data = response?.ok ? variantShape.safeParse(await response.json().catch(() => null)) : null;
      if (gone) return;
      if (data?.success) setOpened((before) => [...before, { playerId, markingId: data.data.markingId, store: storeFor(part, { playerId, ...data.data }) }]);
      else onProblem(NOT_LOADED);
    });
    return () => {
      gone = true;
    };
  }, [part, playerId, isOpen, setOpened, onProblem]);
  const [, lookAgain] = useReducer((times: number) => times + 1, 0);
  useEffect(() => {
    const stops = opened.map((own) => {
      own.store.open();
      return own.store.subscribe(lookAgain);
    });
    return () => stops.forEach((stop) => stop());
  }, [opened]);
}

const storeFor = (part: PartNamed, { markingId, marking, history }: VariantData): MarkingStore =>
  new MarkingStore(marking, history, markingOutbox(outbox(), markingId, part));
