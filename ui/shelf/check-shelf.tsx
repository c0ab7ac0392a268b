'use client';

import { ListChecks } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { Button } from '@/ui/kit/button';
import { Notice } from '@/ui/kit/notice';
import { NO_ANSWER, ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { ProgressBar } from '@/ui/kit/progress-bar';
import { readAnswer } from '@/ui/kit/queries';

export interface Round {
  id: string;
  done: number;
  of: number;
  begunBy: string;
}

const answerShape = z.object({ round: z.object({ id: z.string(), done: z.number(), of: z.number(), begunBy: z.string() }).nullable() });

/** Between two looks at how far it is. */
const LOOK_MS = 1_000;

/** The check of everything that lies on the shelf: begun, followed, ended. */
export function useShelfCheck(first: Round | null) {
  const router = useRouter();
  const [round, setRound] = useState(first);
  const [said, setSaid] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const id = round?.id ?? null;
  const done = round?.done ?? 0;

  useEffect(() => {
    if (id === null) return;
    let isOver = false;
    const timer = setInterval(() => {
      void fetch('/api/shelf/check')
        .catch(() => null)
        .then((response) => readAnswer(response, answerShape))
        .then((answered) => {
          if (isOver || 'problem' in answered) return;
          const now = answered.value.round;
          if (now?.id === id && now.done === done) return;
          setRound(now);
          router.refresh();
        });
    }, LOOK_MS);
    return () => {
      isOver = true;
      clearInterval(timer);
    };
  }, [id, done, router]);

  async function begin() {
    setProblem(null);
    const answered = await readAnswer(await sendJson('POST', '/api/shelf/check', {}), answerShape);
    if ('problem' in answered) return setProblem(answered.problem);
    setRound(answered.value.round);
    setSaid(answered.value.round ? null : 'Every part is checked as it is now.');
  }

  async function end() {
    const response = await sendJson('DELETE', '/api/shelf/check', {});
    if (!response?.ok && response?.status !== 404) return setProblem(response ? await problemOf(response) : NO_ANSWER);
    setRound(null);
    router.refresh();
  }

  return { round, said, problem, begin, end, forget: () => setSaid(null), dismiss: () => setProblem(null) };
}

type ShelfCheck = ReturnType<typeof useShelfCheck>;

export function CheckShelfButton({ check }: { check: ShelfCheck }) {
  return (
    <Button onClick={() => void check.begin()} disabled={check.round !== null}>
      <ListChecks size={15} aria-hidden /> Check all parts
    </Button>
  );
}

/** How far it is. */
export function CheckShelfNotices({ check }: { check: ShelfCheck }) {
  const { round, said, problem } = check;
  return (
    <>
      {round && (
        <Notice actions={<Button onClick={() => void check.end()}>Stop</Button>}>
          <span className="flex flex-wrap items-center gap-3">
            Checking every part: {round.done} of {round.of} done.
            <ProgressBar label="Parts checked" done={round.done} of={round.of} />
          </span>
        </Notice>
      )}
      {said && !round && <Notice actions={<Button onClick={check.forget}>Fine</Button>}>{said}</Notice>}
      {problem && <ProblemNote problem={problem} onClose={check.dismiss} />}
    </>
  );
}
