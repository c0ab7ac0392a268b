'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { isWordKind, splitKey, type Marking } from '@/core/marking/mark';
import { problemOf, sendJson, whileWanted, type Problem } from '@/ui/kit/problem';
import type { Engraving } from './types';

/** What the picture depends on: notes for the player are drawn over it, not in it. */
const engravedMarks = (marking: Marking): string =>
  Object.entries(marking)
    .filter(([key]) => !isWordKind(splitKey(key).kind))
    .map(([key, { value, off }]) => `${key}=${value}${off ? ' off' : ''}`)
    .join();

/** Without an answer it is asked again after this. */
const RETRY_MS = 2000;

interface Shown {
  engraving: Engraving;
  key: string;
}

/** The passage with its marks, engraved by the server; the last picture stays until the next one is there. */
export function useEngraving(
  partId: string,
  range: { fromBar: number; toBar: number },
  widthPx: number,
  marking: Marking,
  first: { engraving: Engraving | null; widthPx: number },
  ahead: { fromBar: number; toBar: number } | undefined,
): { engraving: Engraving | null; problem: Problem | null; current: boolean } {
  const { fromBar, toBar } = range;
  const marks = useMemo(() => engravedMarks(marking), [marking]);
  const key = `${fromBar} ${toBar} ${widthPx} ${marks}`;
  const [shown, setShown] = useState<Shown | null>(first.engraving && widthPx === first.widthPx ? { engraving: first.engraving, key } : null);
  const [failed, setFailed] = useState<{ problem: Problem; key: string } | null>(null);
  const drawn = useRef(shown?.key ?? null);
  useEffect(() => {
    if (drawn.current === key) return;
    const abort = new AbortController();
    let retry: ReturnType<typeof setTimeout> | undefined;
    const ask = async (): Promise<void> => {
      const response = await sendJson('POST', `/api/parts/${partId}/engraving`, { fromBar, toBar, widthPx, marking }, abort.signal);
      if (abort.signal.aborted) return;
      if (!response?.ok) {
        const problem = await problemOf(response);
        if (abort.signal.aborted) return;
        setFailed({ problem, key });
        if (response === null) retry = setTimeout(() => void whileWanted(abort.signal, ask), RETRY_MS);
        return;
      }
      const engraving = (await response.json()) as Engraving;
      if (abort.signal.aborted) return;
      drawn.current = key;
      setFailed(null);
      setShown({ engraving, key });
    };
    void whileWanted(abort.signal, ask);
    return () => {
      abort.abort();
      clearTimeout(retry);
    };
    // The key stands for range, width and marks together.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [partId, key]);
  // The next passage is engraved ahead, so that turning to it shows it at once: the server keeps it.
  const nextFrom = ahead?.fromBar;
  const nextTo = ahead?.toBar;
  const isCurrent = shown?.key === key;
  useEffect(() => {
    if (!isCurrent || nextFrom === undefined || nextTo === undefined) return;
    const timer = setTimeout(() => void sendJson('POST', `/api/parts/${partId}/engraving`, { fromBar: nextFrom, toBar: nextTo, widthPx, marking }), 600);
    return () => clearTimeout(timer);
  }, [isCurrent, partId, nextFrom, nextTo, widthPx, marking]);
  const passageKey = `${fromBar} ${toBar} `;
  const usable = shown && shown.key.startsWith(passageKey) ? shown : null;
  return { engraving: usable?.engraving ?? null, problem: failed?.key === key ? failed.problem : null, current: usable?.key === key };
}
