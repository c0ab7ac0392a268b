'use client';

import { z } from 'zod';
import { ANSWER_KINDS } from '@/core/handout/shapes';
import { Button, PlaceButton } from '@/ui/kit/button';
import { ProblemNote } from '@/ui/kit/problem';
import { getJson, useAnswer } from '@/ui/kit/queries';
import { useDoing } from '@/ui/kit/use-doing';
import { useDesk } from '../model/desk';

const answersShape = z.object({
  answers: z.array(
    z.object({
      id: z.string(),
      player: z.string(),
      number: z.number(),
      bar: z.string().nullable(),
      barIndex: z.number().nullable(),
      kind: z.enum(ANSWER_KINDS),
      words: z.string(),
      settledAt: z.string().nullable(),
    }),
  ),
});

/** What players said of the hand-outs of this part and nobody has dealt with yet; what hurts first. */
export function FromPlayers() {
  const { data, goToBar, view } = useDesk();
  const { value, problem, retry } = useAnswer({
    key: ['answers', data.part.id],
    ask: (signal) => getJson(`/api/parts/${data.part.id}/answers`, answersShape, { signal }),
    keep: true,
  });
  const doing = useDoing();
  const open = value?.answers.filter(({ settledAt }) => settledAt === null) ?? [];
  const trouble = problem ?? doing.problem;
  const settle = async (id: string) => {
    if (await doing.send('PUT', `/api/answers/${id}`, { settled: true })) retry();
  };
  if (open.length === 0 && !trouble) return null;
  return (
    <section aria-label="From players" className="grid gap-2">
      {trouble && <ProblemNote problem={trouble} />}
      {open.map(({ id, player, number, bar, barIndex, kind, words }) => (
        <article
          key={id}
          className={`grid gap-1 rounded-lg border px-3 py-2 text-[13px] ${kind === 'hurts' ? 'border-plum bg-plum-pale' : 'border-line bg-sheet'}`}
        >
          <span className="flex flex-wrap items-baseline gap-x-2">
            {barIndex === null || !view.part?.bars[barIndex] ? (
              <strong>{bar ? `Bar ${bar}` : 'The part'}</strong>
            ) : (
              <PlaceButton onClick={() => goToBar(barIndex)}>Bar {bar}</PlaceButton>
            )}
            {kind !== 'words' && <span>{kind}</span>}
            <span className="text-soft">
              {player}, Hand-out {number}
            </span>
          </span>
          {words && <p className="break-words whitespace-pre-line">{words}</p>}
          {kind === 'hurts' && <p>Take it out of what is practised until you have spoken: another fingering, not a bigger stretch.</p>}
          <Button small className="justify-self-end" disabled={doing.busy} onClick={() => void settle(id)}>
            Dealt with
          </Button>
        </article>
      ))}
    </section>
  );
}
