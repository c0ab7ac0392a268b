'use client';

import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { z } from 'zod';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import type { BarRange } from '@/core/score/bars';
import { Refused, getJson, nameOf, rested, useAnswer, type Answer } from '@/ui/kit/queries';
import { problemOf, type Problem } from '@/ui/kit/problem';
import type { Conditions, OpenPart, OtherMusic } from '@/workers/questions';
import { Checking, NOT_CHECKED_YET, type CheckShown } from './checking';
import { startAnalyst, type RemoteAnalyst } from './remote-analyst';

export type { RemoteAnalyst } from './remote-analyst';

const NO_WORKER: Problem = {
  place: null,
  what: 'The part could not be analysed in this browser.',
  remedy: 'Marks are saved all the same; reload to try again.',
};
const NOT_LOADED: Problem = { place: null, what: 'The part could not be loaded for analysis.', remedy: 'Reload to try again; nothing is lost.' };

/** Starts the analyst's worker and gives it the part; says so once the part has been read. */
export function useAnalyst(
  partId: string,
  version: string,
  onOpened: (part: Part) => void,
): { analyst: RemoteAnalyst | null; open: OpenPart | null; failed: Problem | null } {
  const [opened, setOpened] = useState<{ analyst: RemoteAnalyst; open: OpenPart } | null>(null);
  const [failed, setFailed] = useState<Problem | null>(null);
  const arrived = useEffectEvent(onOpened);
  useEffect(() => {
    const started = startAnalyst(() => setFailed(NO_WORKER));
    let gone = false;
    void (async () => {
      try {
        const response = await fetch(`/api/parts/${partId}/music?v=${version}`).catch(() => null);
        if (!response?.ok) throw new Refused(await problemOf(response));
        const open = await started.remote.open(await response.text());
        if (gone) return;
        setOpened({ analyst: started.remote, open });
        arrived(open.part);
      } catch {
        if (!gone) setFailed(NOT_LOADED);
      }
    })();
    return () => {
      gone = true;
      started.end();
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

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;
const othersShape: z.ZodType<OtherMusic[]> = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    markingId: z.string(),
    music: z.string(),
    marking: z.custom<OtherMusic['marking']>(isObject),
    told: z.custom<OtherMusic['told']>(isObject),
    tempo: z.number().nullable(),
  }),
);

/**
 * Gives the analyst the other parts of the piece, once the part itself has been checked. Returns how often that changed what
 * is known of them: a report made before knows less. Without them the check is about this part alone; nothing else depends on them.
 */
export function useOthers(analyst: RemoteAnalyst | null, partId: string, wanted: boolean): { known: number; note: () => void } {
  const [known, setKnown] = useState(0);
  const note = () => setKnown((times) => times + 1);
  const others = useAnswer({
    key: ['others', partId],
    ask: wanted ? (signal) => getJson(`/api/parts/${partId}/others`, othersShape, { signal }) : null,
  }).value;
  useEffect(() => {
    if (!analyst || !others) return;
    let gone = false;
    void analyst.join(others).then(() => gone || setKnown((times) => times + 1));
    return () => {
      gone = true;
    };
  }, [analyst, others]);
  return { known, note };
}

/**
 * The check for the latest conditions: of the passage on view at once, of the whole part when nothing is typed for a moment.
 * @param range the passage on view; null where only the whole part is of use
 */
export function useReport(
  analyst: RemoteAnalyst | null,
  conditions: Conditions,
  passages: readonly Passage[],
  known: number,
  range: BarRange | null,
): CheckShown {
  const [shown, setShown] = useState<CheckShown>(NOT_CHECKED_YET);
  const checking = useRef<Checking | null>(null);
  useEffect(() => {
    if (!analyst) return;
    const checker = {
      near: (...asked: Parameters<RemoteAnalyst['near']>) => timed('near', analyst.near(...asked)),
      report: (...asked: Parameters<RemoteAnalyst['reportInSteps']>) => timed('report', analyst.reportInSteps(...asked)),
      tempi: (...asked: Parameters<RemoteAnalyst['tempi']>) => timed('tempi', analyst.tempi(...asked)),
    };
    const made = (checking.current = new Checking(checker, setShown));
    return () => made.end();
  }, [analyst]);
  const want = useEffectEvent(() => checking.current?.want({ conditions, passages, known, range }));
  useEffect(() => want(), [analyst, conditions, passages, known]);
  // What was said of other marks, another player or another tempo is not of the whole part as it is now.
  const isOfNow = shown.of?.conditions === conditions && shown.of.passages === passages && shown.of.known === known;
  return { ...shown, whole: shown.whole && isOfNow };
}

interface Question<T> {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  /** What is asked, and of what: small values. */
  of: readonly (string | number)[];
  ask: (analyst: RemoteAnalyst, signal: AbortSignal) => Promise<T>;
  /** Asked only while this holds. */
  wanted?: boolean;
  /** The answer to the question before stays until the new one is there. */
  keep?: boolean;
  /** Asked only when nothing of it changes for so long, in ms: who types, or walks through the notes, does not ask each time. */
  restMs?: number;
  failed?: Problem;
}

/** What only fills a panel can wait until nothing is typed. */
export const ASIDE_MS = 300;

const NOT_WORKED_OUT: Problem = { place: null, what: 'This could not be worked out.', remedy: 'Nothing was changed.' };

/** What the analyst says about the part as it is marked now, while it is shown. */
export function useAnalysed<T>({ analyst, conditions, of, ask, wanted = true, keep = false, restMs = 0, failed = NOT_WORKED_OUT }: Question<T>): Answer<T> {
  return useAnswer<T>({
    key: ['analyst', ...of, analyst ? nameOf(analyst) : 0, nameOf(conditions)],
    ask: analyst && wanted ? (signal) => (restMs ? rested(signal, restMs).then(() => ask(analyst, signal)) : ask(analyst, signal)) : null,
    keep,
    failed,
  });
}
