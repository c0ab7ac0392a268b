'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import { difference, type ChangeSet } from '@/core/marking/change';
import { isWordKind, splitKey, type Marking } from '@/core/marking/mark';
import { withoutPrintEdits } from '@/core/marking/print-edits';
import { sendJson } from '@/ui/kit/problem';
import { MarkingStore, type MarkingState } from './marking-store';

/** One store per visit to a part; unsent changes are kept in local storage under the marking's id. */
export function useMarking(markingId: string, marking: Marking, history: readonly ChangeSet[]): { store: MarkingStore; state: MarkingState } {
  const [store] = useState(() => new MarkingStore(marking, history, storedAt(markingId)));
  useEffect(() => store.restore(), [store]);
  const state = useSyncExternalStore(store.subscribe, store.snapshot, store.snapshot);
  return { store, state };
}

/**
 * The marking that is planned, checked and engraved: without words for the player, and without changes against the print
 * when the print is asked for. It keeps its identity while nothing in it changes.
 */
export function useShownMarking(marking: Marking, showPrint: boolean): Marking {
  const [kept, setKept] = useState<{ marking: Marking; showPrint: boolean; shown: Marking } | null>(null);
  if (kept?.marking === marking && kept.showPrint === showPrint) return kept.shown;
  const played = Object.fromEntries(Object.entries(marking).filter(([key]) => !isWordKind(splitKey(key).kind)));
  const wanted = showPrint ? withoutPrintEdits(played) : played;
  const shown = kept && difference(kept.shown, wanted).length === 0 ? kept.shown : wanted;
  setKept({ marking, showPrint, shown });
  return shown;
}

/** A store's surroundings in the browser: the server's address for the marking, and what is not sent yet under its id. */
export function storedAt(markingId: string) {
  const key = `omaggio.unsent.${markingId}`;
  const inBrowser = typeof window !== 'undefined';
  return {
    async send(sets: readonly ChangeSet[]) {
      const response = await sendJson('POST', `/api/markings/${markingId}/changes`, sets);
      return response && { status: response.status, body: await response.json().catch(() => null) };
    },
    load: (): ChangeSet[] => {
      try {
        return inBrowser ? (JSON.parse(window.localStorage.getItem(key) ?? '[]') as ChangeSet[]) : [];
      } catch {
        return [];
      }
    },
    keep: (sets: readonly ChangeSet[]) => {
      if (!inBrowser) return;
      if (sets.length) window.localStorage.setItem(key, JSON.stringify(sets));
      else window.localStorage.removeItem(key);
    },
    later: (task: () => void, ms: number) => void (inBrowser && window.setTimeout(task, ms)),
    newId: () => crypto.randomUUID(),
    now: () => new Date().toISOString(),
  };
}
