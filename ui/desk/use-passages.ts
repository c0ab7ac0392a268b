'use client';

import { useCallback, useState } from 'react';
import type { Passage } from '@/core/score/passages';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';

/** The passages of a part, which one is open, and the last change to them, which can be taken back. */
export function usePassages(partId: string, first: Passage[], firstIndex: number, onProblem: (problem: Problem) => void) {
  const [passages, setPassages] = useState(first);
  const [current, setCurrent] = useState(firstIndex);
  const [saving, setSaving] = useState(false);
  const [changed, setChanged] = useState<{ what: string; before: Passage[] } | null>(null);

  async function change(next: readonly Passage[], what: string): Promise<void> {
    const before = passages;
    const sorted = [...next].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);
    const shown = passages[current];
    const kept = shown ? sorted.findIndex((each) => each.fromBar === shown.fromBar && each.toBar === shown.toBar) : -1;
    setPassages(sorted);
    setCurrent(kept >= 0 ? kept : Math.max(0, Math.min(current, sorted.length - 1)));
    setChanged({ what, before });
    setSaving(true);
    const response = await sendJson('PUT', `/api/parts/${partId}/passages`, sorted);
    setSaving(false);
    if (response?.ok) return;
    setPassages(before);
    setChanged(null);
    onProblem(await problemOf(response));
  }

  const dismiss = useCallback(() => setChanged(null), []);

  return {
    passages,
    current,
    setCurrent,
    saving,
    changed: changed?.what ?? null,
    change,
    dismiss,
    undo: () => changed && void change(changed.before, 'Passages are as before').then(dismiss),
  };
}
