'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import { difference, type ChangeSet } from '@/core/marking/change';
import { isWordKind, splitKey, type Marking } from '@/core/marking/mark';
import { withoutPrintEdits } from '@/core/marking/print-edits';
import { sendJson } from '@/ui/kit/problem';
import { MarkingStore, type MarkingState } from './marking-store';

/** One store per visit to a part; unsent changes are kept in local storage under the marking's id. */
export function useMarking(markingId: string, marking: Marking, history: readonly ChangeSet[]): { store: MarkingStore; state: MarkingState } {
  const [store] = useState(() => new MarkingStore(marking, history, surroundings(markingId)));
  useEffect(() => store.restore(), [store]);
  const state = useSyncExternalStore(store.subscribe, store.snapshot, store.snapshot);
  return { store, state };
}

/**
 * The marking as the hands see it, without words for the player, and as the page shows it, without changes against the
 * print when the print is asked for. Both keep their identity while nothing in them changes.
 */
export function useMarkingViews(marking: Marking, showPrint: boolean): { played: Marking; inPrint: Marking } {
  const [kept, setKept] = useState<{ marking: Marking; showPrint: boolean; played: Marking } | null>(null);
  if (kept?.marking === marking && kept.showPrint === showPrint) return { played: kept.played, inPrint: kept.played };
  const without = Object.fromEntries(Object.entries(marking).filter(([key]) => !isWordKind(splitKey(key).kind)));
  const wanted = showPrint ? withoutPrintEdits(without) : without;
  const played = kept && difference(kept.played, wanted).length === 0 ? kept.played : wanted;
  setKept({ marking, showPrint, played });
  return { played, inPrint: played };
}

function surroundings(markingId: string) {
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
