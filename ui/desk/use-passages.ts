'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Passage } from '@/core/score/passages';
import { cleanLine } from '@/core/util/text';
import { outbox, useUnsent } from '@/ui/unsent/browser';
import type { PartNamed } from '@/ui/unsent/entry';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { Deed } from './undo-chain';

const inBarOrder = (passages: readonly Passage[]): Passage[] => [...passages].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);

/** The passages of a part, which one is open, and the last change to them in words. @param onDone told of every change by the coach */
export function usePassages(part: PartNamed, first: Passage[], firstIndex: number, onDone: (deed: Deed) => void) {
  const [passages, setPassages] = useState(first);
  const [current, setCurrent] = useState(firstIndex);
  const [changed, setChanged] = useState<string | null>(null);
  const lane = `passages ${part.id}`;
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
    });
  }, [lane, show]);

  /** Puts others in the place of those that are there now, also when that is some time after this was drawn. */
  const put = useCallback(
    (next: readonly Passage[]): void => {
      const from = shown.current.passages;
      const to = inBarOrder(next);
      show(to);
      shown.current = { ...shown.current, passages: to };
      outbox()?.add({ about: 'passages', part, from, to });
    },
    [part, show],
  );

  function change(next: readonly Passage[], what: string): void {
    const before = passages;
    const after = inBarOrder(next.map((passage) => ({ ...passage, name: cleanLine(passage.name) || 'Passage' })));
    put(after);
    setChanged(what);
    onDone({ what, undo: () => put(before), redo: () => put(after) });
  }

  /** Decides between these passages and those that were stored elsewhere meanwhile. */
  function settle(whose: 'mine' | 'theirs'): void {
    if (clash?.about !== 'passages') return;
    if (whose === 'theirs') show(clash.passages);
    void outbox()?.settlePassages(lane, whose);
  }

  const dismiss = useCallback(() => setChanged(null), []);

  return {
    passages,
    current,
    setCurrent,
    changed,
    change,
    dismiss,
    clash: clash?.about === 'passages' ? clash.passages : null,
    settle,
  };
}
