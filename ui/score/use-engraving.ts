'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { splitKey, type Marking } from '@/core/marking/mark';
import { isWordKind } from '@/core/marking/kinds';
import { LIMITS } from '@/core/util/limits';
import { sendJson, whileWanted, type Problem } from '@/ui/kit/problem';
import { Refused } from '@/ui/kit/queries';
import { askEngraving, NotNow, type EngravingAsked } from './ask-engraving';
import type { Engraving } from './engraving';

/** What the picture depends on: notes for the player are drawn over it, not in it. */
const engravedMarks = (marking: Marking): string =>
  Object.entries(marking)
    .filter(([key]) => !isWordKind(splitKey(key).kind))
    .map(([key, { value, off }]) => `${key}=${value}${off ? ' off' : ''}`)
    .join();

/** The next passage is asked for when the picture has been there so long. */
const AHEAD_MS = 600;

/** Without an answer it is asked again after this. */
const RETRY_MS = 2000;

interface Shown {
  engraving: Engraving;
  key: string;
  marking: Marking;
}

interface Range {
  fromBar: number;
  toBar: number;
}

/** The last bar that is drawn so that a bar is among those drawn: a long passage comes piece by piece. */
export function drawnUntil({ fromBar, toBar }: Range, reach: number): number {
  const pieces = Math.max(1, Math.ceil((Math.min(reach, toBar) - fromBar + 1) / LIMITS.barsEngraved));
  return Math.min(toBar, fromBar + pieces * LIMITS.barsEngraved - 1);
}

/** How a part is drawn that is played on another instrument than it is written for. */
export interface Moved {
  concert: boolean;
  octaves: number;
}

interface Asked {
  partId: string;
  range: Range;
  widthPx: number;
  moved: Moved;
  marking: Marking;
  /** What the page came with. */
  first: { engraving: Engraving | null; widthPx: number };
  /** What is likely to be asked for next. */
  ahead: Range | undefined;
  /** Bar that has to be among those drawn. */
  reach: number | null;
}

export interface Engraved {
  engraving: Engraving | null;
  /** The marks that are in the picture. */
  marking: Marking | null;
  problem: Problem | null;
  /** It is the picture of the marks as they are now. */
  current: boolean;
  /** Bars of the passage are not engraved yet. */
  toCome: boolean;
  more: (() => void) | null;
}

/**
 * The passage with its marks, engraved by the server; the last picture stays until the next one is there. Of a long passage
 * only what has come into view is engraved.
 */
export function useEngraving({ partId, range, widthPx, moved, marking, first, ahead, reach }: Asked): Engraved {
  const { fromBar, toBar } = range;
  const url = `/api/parts/${partId}/engraving`;
  const [scrolled, setScrolled] = useState<{ passage: string; bar: number } | null>(null);
  const passage = `${fromBar} ${toBar}`;
  const until = drawnUntil(range, Math.max(fromBar, reach ?? 0, scrolled?.passage === passage ? scrolled.bar : 0));
  const marks = useMemo(() => engravedMarks(marking), [marking]);
  const { concert, octaves } = moved;
  const key = `${passage} ${until} ${widthPx} ${concert} ${octaves} ${marks}`;
  const [shown, setShown] = useState<Shown | null>(
    first.engraving && !concert && octaves === 0 && widthPx === first.widthPx && until === drawnUntil(range, fromBar)
      ? { engraving: first.engraving, key, marking }
      : null,
  );
  const [failed, setFailed] = useState<{ problem: Problem; key: string } | null>(null);
  const drawn = useRef(shown?.key ?? null);
  useEffect(() => {
    if (drawn.current === key) return;
    const abort = new AbortController();
    let retry: ReturnType<typeof setTimeout> | undefined;
    const fail = (problem: Problem, again: boolean) => {
      if (abort.signal.aborted) return;
      setFailed({ problem, key });
      if (again)
        retry = setTimeout(() => {
          retry = undefined;
          void whileWanted(abort.signal, ask);
        }, RETRY_MS);
    };
    const ask = async (): Promise<void> => {
      const systems: Engraving['systems'] = [];
      try {
        for (let at = fromBar; at <= until;) {
          const drawnNow = await askEngraving(url, { fromBar: at, toBar: until, widthPx, concert, octaves, marking }, abort.signal);
          systems.push(...drawnNow.systems);
          at = Math.max(at, drawnNow.toBar) + 1;
        }
      } catch (error) {
        if (error instanceof Refused) return fail(error.problem, error instanceof NotNow);
        throw error;
      }
      if (abort.signal.aborted) return;
      drawn.current = key;
      setFailed(null);
      setShown({ engraving: { systems }, key, marking });
    };
    const begin = () => void whileWanted(abort.signal, ask);
    begin();
    // The network is back: no need to wait for the next attempt.
    const online = () => {
      if (retry === undefined) return;
      clearTimeout(retry);
      retry = undefined;
      begin();
    };
    window.addEventListener('online', online);
    return () => {
      abort.abort();
      clearTimeout(retry);
      window.removeEventListener('online', online);
    };
    // The key stands for range, width and marks together.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [url, key]);
  const isCurrent = shown?.key === key;
  useAhead(isCurrent, url, ahead, { widthPx, concert, octaves, marking });
  const usable = shown && shown.key.startsWith(`${passage} `) ? shown : null;
  return {
    engraving: usable?.engraving ?? null,
    marking: usable?.marking ?? null,
    problem: failed?.key === key ? failed.problem : null,
    current: usable?.key === key,
    toCome: until < toBar,
    more: until < toBar && usable?.key === key ? () => setScrolled({ passage, bar: until + 1 }) : null,
  };
}

/** The next passage is engraved ahead, so that turning to it shows it at once: the server keeps it. */
function useAhead(isCurrent: boolean, url: string, ahead: Range | undefined, { widthPx, concert, octaves, marking }: Omit<EngravingAsked, keyof Range>) {
  const fromBar = ahead?.fromBar;
  const toBar = ahead?.toBar;
  useEffect(() => {
    if (!isCurrent || fromBar === undefined || toBar === undefined) return;
    const next = { fromBar, toBar, widthPx, concert, octaves, marking };
    const timer = setTimeout(() => void sendJson('POST', url, next), AHEAD_MS);
    return () => clearTimeout(timer);
  }, [isCurrent, url, fromBar, toBar, widthPx, concert, octaves, marking]);
}
