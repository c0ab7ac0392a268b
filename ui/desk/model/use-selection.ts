'use client';

import { useCallback, useMemo, useState } from 'react';
import type { Note, Part } from '@/core/score/score';

export interface Selection {
  anchor: string | null;
  focus: string | null;
}

/** Notes that can be walked to: those that are played anew, in order. */
export const walkable = (part: Part): Note[] => part.notes.filter((note) => !note.cue && !note.tiedFrom);

export function useSelection(part: Part | null, first: string | null) {
  const [selection, setSelection] = useState<Selection>({ anchor: first, focus: first });
  const order = useMemo(() => (part ? walkable(part) : []), [part]);
  const indexOf = useMemo(() => new Map(order.map((note, i) => [note.id, i])), [order]);
  const chosen = useMemo(() => {
    const a = selection.anchor === null ? undefined : indexOf.get(selection.anchor);
    const b = selection.focus === null ? undefined : indexOf.get(selection.focus);
    if (a === undefined || b === undefined) return [];
    return order.slice(Math.min(a, b), Math.max(a, b) + 1);
  }, [selection, order, indexOf]);
  const pick = useCallback((noteId: string, extend: boolean) => {
    setSelection((before) => ({ anchor: extend ? (before.anchor ?? noteId) : noteId, focus: noteId }));
  }, []);
  /** The note that many steps away; null at the ends. */
  const away = useCallback(
    (by: number): Note | null => {
      const at = selection.focus === null ? -1 : (indexOf.get(selection.focus) ?? -1);
      return order[at + by] ?? null;
    },
    [selection.focus, order, indexOf],
  );
  const clear = useCallback(() => setSelection({ anchor: null, focus: null }), []);
  return { selection, chosen, order, pick, away, clear };
}
