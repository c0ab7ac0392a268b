'use client';

import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import type { Report } from '@/core/checks/check';
import type { ReadingAid } from '@/core/reading/aid';
import type { Conditions, OpenPart, OtherMusic } from '@/workers/analyst';
import { startAnalysts, type RemoteAnalyst } from './analysts';

export type { RemoteAnalyst } from './analysts';

/** Starts the analyst's worker and gives it the part; says so once the part has been read. */
export function useAnalyst(
  partId: string,
  version: string,
  onOpened: (part: Part) => void,
): { analyst: RemoteAnalyst | null; open: OpenPart | null; failed: string | null } {
  const [opened, setOpened] = useState<{ analyst: RemoteAnalyst; open: OpenPart } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const arrived = useEffectEvent(onOpened);
  useEffect(() => {
    const analysts = startAnalysts(() => setFailed('The part could not be analysed in this browser. Marks are saved all the same; reload to try again.'));
    let gone = false;
    void (async () => {
      try {
        const response = await fetch(`/api/parts/${partId}/music?v=${version}`);
        if (!response.ok) throw new Error(String(response.status));
        const open = await analysts.open(await response.text());
        if (gone) return;
        setOpened({ analyst: analysts.remote, open });
        arrived(open.part);
      } catch {
        if (!gone) setFailed('The part could not be loaded for analysis. Reload to try again; nothing is lost.');
      }
    })();
    return () => {
      gone = true;
      analysts.end();
    };
  }, [partId, version]);
  return { analyst: opened?.analyst ?? null, open: opened?.open ?? null, failed };
}

/** How long an answer took, for whoever looks at the browser's timeline (`npm run bench:desk` does). */
export async function timed<T>(name: string, answer: Promise<T>): Promise<T> {
  const start = performance.now();
  const value = await answer;
  performance.measure(`omaggio ${name}`, { start });
  return value;
}

/**
 * Gives the analyst the other parts of the piece, once the part itself has been checked. Returns how often that changed what
 * is known of them: a report made before knows less.
 */
export function useOthers(analyst: RemoteAnalyst | null, partId: string, wanted: boolean): { known: number; note: () => void } {
  const [known, setKnown] = useState(0);
  useEffect(() => {
    if (!analyst || !wanted) return;
    let gone = false;
    void (async () => {
      // Without them the check is about this part alone; nothing else depends on them.
      const response = await fetch(`/api/parts/${partId}/others`).catch(() => null);
      if (!response?.ok || gone) return;
      await analyst.join((await response.json()) as OtherMusic[]);
      if (!gone) setKnown((times) => times + 1);
    })();
    return () => {
      gone = true;
    };
  }, [analyst, partId, wanted]);
  return { known, note: () => setKnown((times) => times + 1) };
}

/** The report for the latest conditions; while one is being made only the newest request waits. */
export function useReport(
  analyst: RemoteAnalyst | null,
  conditions: Conditions,
  passages: readonly Passage[],
  known = 0,
): { report: Report | null; failed: boolean } {
  const [report, setReport] = useState<Report | null>(null);
  const [failed, setFailed] = useState(false);
  const busy = useRef(false);
  const next = useRef<(() => Promise<void>) | null>(null);
  useEffect(() => {
    if (!analyst) return;
    const ask = async (): Promise<void> => {
      busy.current = true;
      try {
        setReport(await timed('report', analyst.report(conditions, passages)));
        setFailed(false);
      } catch {
        setFailed(true);
      }
      busy.current = false;
      const waiting = next.current;
      next.current = null;
      await waiting?.();
    };
    if (busy.current) next.current = ask;
    else void ask();
  }, [analyst, conditions, passages, known]);
  return { report, failed };
}

/** What a reader may trip over, looked for while the tab that shows it is open; null until it has been. */
export function useReading(analyst: RemoteAnalyst | null, conditions: Conditions, wanted: boolean): readonly ReadingAid[] | null {
  const [aids, setAids] = useState<readonly ReadingAid[] | null>(null);
  useEffect(() => {
    if (!analyst || !wanted) return;
    let gone = false;
    void analyst.reading(conditions).then((found) => {
      if (!gone) setAids(found);
    });
    return () => {
      gone = true;
    };
  }, [analyst, conditions, wanted]);
  return aids;
}
