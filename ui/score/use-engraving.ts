'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { z } from 'zod';
import { splitKey, type Marking } from '@/core/marking/mark';
import { isWordKind } from '@/core/marking/kinds';
import { LIMITS } from '@/core/util/limits';
import { problemOf, sendJson, whileWanted, type Problem } from '@/ui/kit/problem';
import type { Engraving } from '@/ui/score/engraving';

/** What the picture depends on: notes for the player are drawn over it, not in it. */
const engravedMarks = (marking: Marking): string =>
  Object.entries(marking)
    .filter(([key]) => !isWordKind(splitKey(key).kind))
    .map(([key, { value, off }]) => `${key}=${value}${off ? ' off' : ''}`)
    .join();

/** Without an answer it is asked again after this. */
const RETRY_MS = 2000;

/** What has to be there for an answer to be a picture. */
const engravingShape = z.object({
  systems: z.array(
    z.object({ svg: z.string(), widthPx: z.number(), heightPx: z.number(), heads: z.record(z.string(), z.unknown()), bars: z.array(z.unknown()) }).loose(),
  ),
  /** Last bar of the picture. */
  toBar: z.number(),
});

const NO_PICTURE: Problem = {
  place: null,
  what: 'Something else than Omaggio answers, perhaps the sign-in page of a network.',
  remedy: 'The picture comes when Omaggio answers; the table shows the notes meanwhile.',
};

interface Shown {
  engraving: Engraving;
  key: string;
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

/**
 * The passage with its marks, engraved by the server; the last picture stays until the next one is there. Of a long passage
 * only what has come into view is engraved.
 * @param reach bar that has to be among those drawn
 */
export function useEngraving(
  partId: string,
  range: Range,
  widthPx: number,
  moved: Moved,
  marking: Marking,
  first: { engraving: Engraving | null; widthPx: number },
  ahead: Range | undefined,
  reach: number | null,
): { engraving: Engraving | null; problem: Problem | null; current: boolean; toCome: boolean; more: (() => void) | null } {
  const { fromBar, toBar } = range;
  const [scrolled, setScrolled] = useState<{ passage: string; bar: number } | null>(null);
  const passage = `${fromBar} ${toBar}`;
  const until = drawnUntil(range, Math.max(fromBar, reach ?? 0, scrolled?.passage === passage ? scrolled.bar : 0));
  const marks = useMemo(() => engravedMarks(marking), [marking]);
  const { concert, octaves } = moved;
  const key = `${passage} ${until} ${widthPx} ${concert} ${octaves} ${marks}`;
  const [shown, setShown] = useState<Shown | null>(
    first.engraving && !concert && octaves === 0 && widthPx === first.widthPx && until === drawnUntil(range, fromBar)
      ? { engraving: first.engraving, key }
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
      for (let at = fromBar; at <= until;) {
        const response = await sendJson(
          'POST',
          `/api/parts/${partId}/engraving`,
          { fromBar: at, toBar: until, widthPx, concert, octaves, marking },
          abort.signal,
        );
        if (abort.signal.aborted) return;
        if (!response?.ok) return fail(await problemOf(response), response === null || response.status >= 500);
        const answer = engravingShape.safeParse(await response.json().catch(() => null));
        if (!answer.success) return fail(NO_PICTURE, true);
        systems.push(...(answer.data as unknown as Engraving).systems);
        at = Math.max(at, answer.data.toBar) + 1;
      }
      if (abort.signal.aborted) return;
      drawn.current = key;
      setFailed(null);
      setShown({ engraving: { systems }, key });
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
  }, [partId, key]);
  // The next passage is engraved ahead, so that turning to it shows it at once: the server keeps it.
  const nextFrom = ahead?.fromBar;
  const nextTo = ahead?.toBar;
  const isCurrent = shown?.key === key;
  useEffect(() => {
    if (!isCurrent || nextFrom === undefined || nextTo === undefined) return;
    const next = { fromBar: nextFrom, toBar: nextTo, widthPx, concert, octaves, marking };
    const timer = setTimeout(() => void sendJson('POST', `/api/parts/${partId}/engraving`, next), 600);
    return () => clearTimeout(timer);
  }, [isCurrent, partId, nextFrom, nextTo, widthPx, concert, octaves, marking]);
  const usable = shown && shown.key.startsWith(`${passage} `) ? shown : null;
  return {
    engraving: usable?.engraving ?? null,
    problem: failed?.key === key ? failed.problem : null,
    current: usable?.key === key,
    /** Bars of the passage are not engraved yet. */
    toCome: until < toBar,
    more: until < toBar && usable?.key === key ? () => setScrolled({ passage, bar: until + 1 }) : null,
  };
}
