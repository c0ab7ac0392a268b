'use client';

import { Printer } from 'lucide-react';
import { useState } from 'react';
import { z } from 'zod';
import { Button, buttonClass } from '@/ui/kit/button';
import { Notice } from '@/ui/kit/notice';
import { ProblemNote } from '@/ui/kit/problem';
import { ProgressBar } from '@/ui/kit/progress-bar';
import { getJson, useAnswer } from '@/ui/kit/queries';
import { useDoing } from '@/ui/kit/use-doing';

const printingShape = z.object({
  id: z.string(),
  paper: z.enum(['a4', 'letter']),
  begunBy: z.string(),
  of: z.number(),
  done: z.number(),
  isStopped: z.boolean(),
  isOld: z.boolean(),
  troubles: z.array(z.object({ part: z.string(), trouble: z.string() })),
});
const answerShape = z.object({ printing: printingShape.nullable() });
type PrintingNow = z.infer<typeof printingShape>;

/** Between two looks at how far it is. */
const LOOK_MS = 700;

export function usePrinting(pieceId: string) {
  const url = `/api/pieces/${pieceId}/hand-outs/printing`;
  const doing = useDoing();
  const [isWanted, setWanted] = useState(false);
  const { value, problem, retry } = useAnswer({
    key: ['printing', pieceId],
    ask: (signal) => getJson(url, answerShape, { signal }),
    again: ({ printing }) => (printing && !printing.isStopped && printing.done < printing.of ? LOOK_MS : false),
  });
  const begin = async (paper: PrintingNow['paper']) => {
    setWanted(true);
    await doing.send('POST', url, { paper });
    retry();
  };
  const stop = async () => {
    await doing.send('DELETE', url);
    retry();
  };
  return {
    pieceId,
    now: value?.printing ?? null,
    problem: doing.problem ?? problem,
    forget: doing.forget,
    isWanted,
    begin,
    stop,
    close: () => setWanted(false),
  };
}

type Printing = ReturnType<typeof usePrinting>;

export function PrintingButton({ printing }: { printing: Printing }) {
  return (
    <Button onClick={() => void printing.begin('a4')}>
      <Printer size={15} aria-hidden /> All that is out, on paper
    </Button>
  );
}

/** How far it is, and the file when it is there. */
export function PrintingNotice({ printing }: { printing: Printing }) {
  const { now, problem, isWanted, pieceId } = printing;
  if (problem && isWanted) return <ProblemNote problem={problem} onClose={printing.forget} />;
  if (!now || (!isWanted && (now.isOld || now.isStopped))) return null;
  const isDone = now.done === now.of;
  if (isDone && !isWanted) return null;
  if (isDone)
    return (
      <Notice actions={<Button onClick={printing.close}>Fine</Button>}>
        {now.troubles.length < now.of && (
          <a className={buttonClass({ look: 'spruce', small: true })} href={`/api/pieces/${pieceId}/hand-outs/paper`} download>
            Take the PDF
          </a>
        )}{' '}
        {now.of - now.troubles.length} of {now.of} {now.of === 1 ? 'part' : 'parts'} on {now.paper === 'a4' ? 'A4' : 'Letter'}.{' '}
        {now.troubles.map(({ part, trouble }) => `${part}: ${trouble}`).join(' ')}{' '}
        <Button small onClick={() => void printing.begin(now.paper === 'a4' ? 'letter' : 'a4')}>
          On {now.paper === 'a4' ? 'Letter' : 'A4'} instead
        </Button>
      </Notice>
    );
  return (
    <Notice
      actions={
        now.isStopped ? <Button onClick={() => void printing.begin(now.paper)}>Go on</Button> : <Button onClick={() => void printing.stop()}>Stop</Button>
      }
    >
      <span className="flex flex-wrap items-center gap-3">
        {now.isStopped ? 'Stopped' : 'Being put on paper'}: {now.done} of {now.of} {now.of === 1 ? 'part' : 'parts'} done.
        <ProgressBar label="Parts on paper" done={now.done} of={now.of} />
      </span>
    </Notice>
  );
}
