'use client';

import Link from 'next/link';
import { Button } from '@/ui/kit/button';
import { ProblemNote } from '@/ui/kit/problem';
import { useDoing } from '@/ui/kit/use-doing';
import { agoInWords } from '@/ui/kit/when';
import type { AnswerOut } from './hand-out-data';

/** What players answered; what hurts first, what is dealt with last. */
export function Answers({ answers }: { answers: readonly AnswerOut[] }) {
  const doing = useDoing();
  const rank = ({ isSettled, kind }: AnswerOut) => (isSettled ? 2 : kind === 'hurts' ? 0 : 1);
  const inOrder = [...answers].sort((a, b) => rank(a) - rank(b) || (a.at < b.at ? 1 : -1));
  return (
    <section aria-label="Answers" className="grid min-w-0 content-start gap-2">
      <h2 className="text-lg">Answers</h2>
      {doing.problem && <ProblemNote problem={doing.problem} onClose={doing.forget} />}
      {answers.length === 0 && <p className="text-soft">What players say about their parts comes here: what hurts, what does not work, questions.</p>}
      <ul className="grid gap-2">
        {inOrder.map((answer) => (
          <li
            key={answer.id}
            className={`grid gap-1 rounded-xl border px-3 py-2 ${answer.isSettled ? 'border-line text-soft' : answer.kind === 'hurts' ? 'border-plum bg-plum-pale' : 'border-line bg-sheet'}`}
          >
            <span className="flex flex-wrap items-baseline gap-x-2">
              <Link
                href={`/desk/${answer.partId}${answer.bar === null ? '' : `?at=${encodeURIComponent(answer.bar)}`}`}
                className="font-bold underline decoration-line underline-offset-4"
              >
                {answer.part}
                {answer.bar === null ? '' : `, bar ${answer.bar}`}
              </Link>
              <span>{answer.kind === 'words' ? '' : answer.kind}</span>
              <span className="ml-auto text-[13px] text-soft" suppressHydrationWarning>
                {agoInWords(answer.at)}
              </span>
            </span>
            {answer.words && <p className="break-words whitespace-pre-line">{answer.words}</p>}
            {answer.kind === 'hurts' && !answer.isSettled && (
              <p className="text-[13px]">
                Take this out of what is practised until you have spoken: another fingering, not a bigger stretch; pain that stays belongs to a health
                professional.
              </p>
            )}
            <span className="flex items-center gap-2 text-[13px] text-soft">
              {answer.player}, Hand-out {answer.number}
              <Button
                small
                className="ml-auto"
                disabled={doing.busy}
                onClick={() => void doing.send('PUT', `/api/answers/${answer.id}`, { settled: !answer.isSettled })}
              >
                {answer.isSettled ? 'Take it up again' : 'Dealt with'}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
