'use client';

import { releaseProxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import type { Carried } from '@/core/ensemble/carry';
import type { Agreed } from '@/core/ensemble/together';
import type { Member, RhythmGroup } from '@/core/ensemble/groups';
import type { FitRow } from '@/core/checks/fit';
import type { PlayerDescription } from '@/core/instruments/player';
import type { Marking } from '@/core/marking/mark';
import type { RehearsalPage } from '@/core/rehearsal/page';
import { getJson, Refused } from '@/ui/kit/queries';
import type { Problem } from '@/ui/kit/problem';
import type { ScoreAnalyst } from '@/workers/score-analyst';
import type { CarriedTo, ScoreMusic, ScoreShown, StaffShown } from '@/workers/score-questions';

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;
const musicShape: z.ZodType<ScoreMusic[]> = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    markingId: z.string(),
    music: z.string(),
    told: z.custom<ScoreMusic['told']>(isObject),
    tempo: z.number().nullable(),
  }),
);

const FAILED: Problem = {
  place: null,
  what: 'The parts could not be compared in this browser.',
  remedy: 'Reload to try again; marks are kept all the same.',
};

/** The score as it is marked now: compared at once, then planned part by part. */
export function useScore(pieceId: string, markings: Readonly<Record<string, Marking>>, tempi: Readonly<Record<string, number | null>>) {
  const [analyst, setAnalyst] = useState<Remote<ScoreAnalyst> | null>(null);
  const [shown, setShown] = useState<ScoreShown | null>(null);
  const [unread, setUnread] = useState<readonly string[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const first = useRef(markings);

  useEffect(() => {
    const worker = new Worker(new URL('@/workers/score-analyst.worker.ts', import.meta.url), { type: 'module' });
    const remote = wrap<ScoreAnalyst>(worker);
    const asking = new AbortController();
    worker.onerror = () => setProblem(FAILED);
    getJson(`/api/pieces/${pieceId}/score`, musicShape, { signal: asking.signal })
      .then((music) => remote.open(music, first.current))
      .then(
        (opened) => {
          if (asking.signal.aborted) return;
          setUnread(opened.unread);
          setAnalyst(() => remote);
        },
        (error: unknown) => asking.signal.aborted || setProblem(error instanceof Refused ? error.problem : FAILED),
      );
    return () => {
      asking.abort();
      remote[releaseProxy]();
      worker.terminate();
    };
  }, [pieceId]);

  useEffect(() => {
    if (!analyst) return;
    let gone = false;
    void (async () => {
      for (let now: ScoreShown | null = await analyst.mark(markings, tempi); now && !gone; now = await analyst.planNext()) setShown(now);
    })().catch(() => gone || setProblem(FAILED));
    return () => {
      gone = true;
    };
  }, [analyst, markings, tempi]);

  return {
    shown,
    unread,
    problem,
    together: async (group: RhythmGroup): Promise<Agreed | null> => (await analyst?.together(group)) ?? null,
    carried: async (what: Carried, group: RhythmGroup, from: Member, to: readonly Member[]): Promise<CarriedTo[]> =>
      (await analyst?.carried(what, group, from, to)) ?? [],
    left: async (group: RhythmGroup, because: string | null): Promise<CarriedTo[]> => (await analyst?.left(group, because)) ?? [],
    cue: async (partId: string, noteId: string, index: number): Promise<CarriedTo[]> => (await analyst?.cue(partId, noteId, index)) ?? [],
    withoutCue: async (partId: string, barIndex: number): Promise<CarriedTo[]> => (await analyst?.withoutCue(partId, barIndex)) ?? [],
    seatedIn: async (partId: string, player: PlayerDescription, line: number | null): Promise<FitRow | null> =>
      (await analyst?.seatedIn(partId, player, line)) ?? null,
    staff: async (partId: string): Promise<StaffShown | null> => (await analyst?.staff(partId)) ?? null,
    rehearsal: async (partId: string | null): Promise<RehearsalPage | null> => (await analyst?.rehearsal(partId)) ?? null,
  };
}

export type Score = ReturnType<typeof useScore>;
