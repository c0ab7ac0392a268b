'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import { difference, type ChangeSet } from '@/core/marking/change';
import { splitKey, type Marking } from '@/core/marking/mark';
import { isWordKind } from '@/core/marking/kinds';
import { withoutPrintEdits } from '@/core/marking/print-edits';
import { outbox } from '@/ui/unsent/browser';
import type { PartNamed } from '@/ui/unsent/entry';
import { markingOutbox } from './marking-outbox';
import { MarkingStore, type MarkingState } from './marking-store';

/** One store per visit to a part. */
export function useMarking(part: PartNamed, markingId: string, marking: Marking, history: readonly ChangeSet[]): { store: MarkingStore; state: MarkingState } {
  const [store] = useState(() => new MarkingStore(marking, history, markingOutbox(outbox(), markingId, part)));
  useEffect(() => store.open(), [store]);
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
