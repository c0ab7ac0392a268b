'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Logged } from '@/core/marking/history';
import { undoingDeed, type PartDeed } from '@/core/marking/part-deed';
import type { Passage } from '@/core/score/passages';
import { cleanLine } from '@/core/util/text';
import { outbox, useUnsent } from '@/ui/unsent/browser';
import { laterThanBefore } from '@/ui/kit/clock';
import type { Body, Deed, PartNamed } from '@/ui/unsent/entry';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { Lane } from './undo-chain';
import { deedOf, newDeed, useLog } from './use-undo';

const inBarOrder = (passages: readonly Passage[]): Passage[] => [...passages].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);

const passagesDeed = (body: Body): PartDeed | null =>
  body.about === 'passages' && body.deed ? { ...body.deed, about: 'passages', before: body.from, after: body.to } : null;

/** The passages of a part, which one is open, the last change to them in words, and their lane of the chain of undo. */
export function usePassages(part: PartNamed, first: Passage[], firstIndex: number, deeds: readonly PartDeed[]) {
  const [passages, setPassages] = useState(first);
  const [current, setCurrent] = useState(firstIndex);
  const [changed, setChanged] = useState<string | null>(null);
  const lane = `passages ${part.id}`;
  const { log, stacks } = useLog(lane, deeds, passagesDeed);
  const clash = useUnsent().clashes[lane];
  const shown = useRef({ passages, current });
  useEffect(() => {
    shown.current = { passages, current };
  });

  const show = useCallback((next: readonly Passage[]) => {
    const sorted = inBarOrder(next);
    const open = shown.current.passages[shown.current.current];
    const kept = open ? sorted.findIndex((each) => each.fromBar === open.fromBar && each.toBar === open.toBar) : -1;
    setPassages(sorted);
    setCurrent(kept >= 0 ? kept : Math.max(0, Math.min(shown.current.current, sorted.length - 1)));
  }, []);

  useEffect(() => {
    void outbox()
      ?.left(lane, VIEW_MS)
      .then(({ stored, waiting }) => {
        const last = [...stored, ...waiting].at(-1)?.body;
        if (last?.about === 'passages') show(last.to);
      });
    return outbox()?.follow(lane, (event) => {
      if (event.is === 'made elsewhere' && event.entry.body.about === 'passages') show(event.entry.body.to);
      // Where others of ours wait, the clash will say what is stored.
      if (event.is === 'stored elsewhere' && event.body.about === 'passages' && !outbox()?.waitsIn(lane)) show(event.body.to);
    });
  }, [lane, show]);

  /** Puts others in the place of those that are there now. */
  function put(next: readonly Passage[], deed: Deed): void {
    const to = inBarOrder(next);
    const body = { about: 'passages' as const, part, from: passages, to, deed };
    const entryId = crypto.randomUUID();
    show(to);
    log.add(passagesDeed(body), entryId);
    outbox()?.add(body, entryId);
  }

  function change(next: readonly Passage[], what: string): void {
    put(
      next.map((passage) => ({ ...passage, name: cleanLine(passage.name) || 'Passage' })),
      newDeed(what),
    );
    setChanged(what);
  }

  function takeBack(done: Logged): void {
    const { after, ...deed } = undoingDeed(done as PartDeed<Passage[]>, crypto.randomUUID(), laterThanBefore());
    put(after, deedOf(deed));
  }

  /** Decides between these passages and those that were stored elsewhere meanwhile. */
  function settle(whose: 'mine' | 'theirs'): void {
    if (clash?.about !== 'passages') return;
    if (whose === 'theirs') show(clash.passages);
    void outbox()?.settlePassages(lane, whose);
  }

  const dismiss = useCallback(() => setChanged(null), []);

  return {
    list: passages,
    current,
    setCurrent,
    changed,
    change,
    undoLane: { stacks, takeBack } satisfies Lane,
    dismiss,
    clash: clash?.about === 'passages' ? clash.passages : null,
    settle,
  };
}
