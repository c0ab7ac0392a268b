'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Passage } from '@/core/score/passages';
import { cleanLine } from '@/core/util/text';
import { outbox, useUnsent } from '@/ui/unsent/browser';
import type { PartNamed } from '@/ui/unsent/entry';
import { VIEW_MS } from '@/ui/unsent/outbox';

const inBarOrder = (passages: readonly Passage[]): Passage[] => [...passages].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);

/** The passages of a part, which one is open, and the last change to them, which can be taken back. */
export function usePassages(part: PartNamed, first: Passage[], firstIndex: number) {
  const [passages, setPassages] = useState(first);
  const [current, setCurrent] = useState(firstIndex);
  const [changed, setChanged] = useState<{ what: string; before: Passage[] } | null>(null);
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

  function change(next: readonly Passage[], what: string): void {
    const from = passages;
    const to = inBarOrder(next.map((passage) => ({ ...passage, name: cleanLine(passage.name) || 'Passage' })));
    show(to);
    setChanged({ what, before: from });
    outbox()?.add({ about: 'passages', part, from, to });
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
    changed: changed?.what ?? null,
    change,
    dismiss,
    clash: clash?.about === 'passages' ? clash.passages : null,
    settle,
    undo: () => {
      if (!changed) return;
      change(changed.before, 'Passages are as before');
      dismiss();
    },
  };
}
