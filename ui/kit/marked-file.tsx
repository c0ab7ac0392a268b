'use client';

import { Button } from './button';
import { useState, type ReactNode } from 'react';
import { z } from 'zod';
import { Dialog, DialogClose } from './dialog';
import { problemOf, ProblemNote, type Problem } from './problem';

const answerShape = z.object({ unplaced: z.array(z.object({ part: z.string(), at: z.string(), what: z.string() })) });
type Unplaced = z.infer<typeof answerShape>['unplaced'];

interface Withheld {
  href: string;
  marks: Unplaced;
}

/**
 * Takes marked files out: a mark that the file has no place for is not left out unsaid, but shown before anything is sent.
 * @returns the act, and what has to stand somewhere on the page
 */
export function useMarkedFile(): { take(href: string): Promise<void>; shown: ReactNode } {
  const [withheld, setWithheld] = useState<Withheld | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function take(href: string): Promise<void> {
    setProblem(null);
    const response = await fetch(href).catch(() => null);
    if (response?.ok) return keep(response);
    const found = response?.status === 409 ? answerShape.safeParse(await response.clone().json()) : null;
    if (found?.success) setWithheld({ href, marks: found.data.unplaced });
    else setProblem(await problemOf(response));
  }
  const shown = (
    <>
      {problem && (
        <div className="fixed inset-x-3 bottom-3 z-40 mx-auto max-w-3xl">
          <ProblemNote problem={problem} onClose={() => setProblem(null)} />
        </div>
      )}
      <WithheldDialog
        withheld={withheld}
        onClose={() => setWithheld(null)}
        onSend={(href) => {
          setWithheld(null);
          void take(`${href}${href.includes('?') ? '&' : '?'}without=yes`);
        }}
      />
    </>
  );
  return { take, shown };
}

/** Gives the browser what came, under the name that the server gave it. */
async function keep(response: Response): Promise<void> {
  const named = /filename\*=UTF-8''([^;]+)/.exec(response.headers.get('content-disposition') ?? '')?.[1];
  const url = URL.createObjectURL(await response.blob());
  const link = document.createElement('a');
  link.href = url;
  link.download = named ? decodeURIComponent(named) : 'marked.musicxml';
  link.click();
  // The browser has to begin before the address is given back.
  window.setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

function WithheldDialog({ withheld, onClose, onSend }: { withheld: Withheld | null; onClose(): void; onSend(href: string): void }) {
  const marks = withheld?.marks ?? [];
  return (
    <Dialog
      bare
      open={withheld !== null}
      onOpen={(open) => open || onClose()}
      title={`${marks.length === 1 ? 'One mark has' : `${marks.length} marks have`} no place in this file`}
      description="Nothing was sent. They stood in an earlier file of the part; the Desk lists them under Reading, where each can be put by hand."
    >
      <ul className="grid max-h-72 gap-1 overflow-y-auto">
        {marks.map(({ part, at, what }, i) => (
          <li key={i} className="flex flex-wrap gap-x-3 rounded border border-line px-2 py-1">
            <strong>
              {part}
              {at && `, ${at}`}
            </strong>
            <span>{what}</span>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="spruce" onClick={() => withheld && onSend(withheld.href)}>
          Send the file without {marks.length === 1 ? 'it' : 'them'}
        </Button>
        <DialogClose>Close</DialogClose>
      </div>
    </Dialog>
  );
}
