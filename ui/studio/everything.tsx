'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { buttonClass } from '@/ui/kit/button';
import { FileButton } from '@/ui/kit/file-button';
import { Notice } from '@/ui/kit/notice';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import { readAnswer } from '@/ui/kit/queries';
import { Waiting } from '@/ui/kit/waiting';

const readShape = z.object({ pieces: z.number(), players: z.number(), marks: z.number() });

/** The whole studio as one file, and such a file read in. */
export function Everything() {
  const router = useRouter();
  const [state, setState] = useState<{ reading: string } | { problem: Problem } | { read: z.infer<typeof readShape> } | null>(null);
  async function read(file: File | undefined) {
    if (!file) return;
    setState({ reading: file.name });
    const answered = await readAnswer(await fetch('/api/studio/everything', { method: 'POST', body: file }).catch(() => null), readShape);
    setState('problem' in answered ? { problem: answered.problem } : { read: answered.value });
    router.refresh();
  }
  return (
    <section aria-label="Everything as a file" className="grid grid-cols-1 justify-items-start gap-5">
      <div className="grid justify-items-start gap-2">
        <h2 className="text-lg">Take everything out</h2>
        <p className="max-w-prose">
          One file with every score as it was received, all parts, marks, histories, players and sheets. Another Omaggio reads it in completely; what is in it
          is written down in <code>docs/studio-file.md</code>. Who may come in is not in it.
        </p>
        <a className={buttonClass({ look: 'spruce' })} href="/api/studio/everything" download>
          Take everything out
        </a>
      </div>
      <div className="grid justify-items-start gap-2">
        <h2 className="text-lg">Read a studio in</h2>
        <p className="max-w-prose">What is in the file is added to what is here; nothing that is here is changed.</p>
        <FileButton label="File of a studio" accept=".zip" disabled={state !== null && 'reading' in state} onFiles={([file]) => void read(file)}>
          Choose the file
        </FileButton>
        <div aria-live="polite" className="grid gap-2 empty:hidden">
          {state && 'reading' in state && <Waiting>Reading {state.reading} …</Waiting>}
          {state && 'read' in state && (
            <Notice>
              Read in: {state.read.pieces} pieces with {state.read.marks} marks, and {state.read.players} players.
            </Notice>
          )}
        </div>
        {state && 'problem' in state && <ProblemNote problem={state.problem} onClose={() => setState(null)} />}
      </div>
      <p className="max-w-prose text-soft">
        The whole database, with everybody who may come in, is saved by <code>bin/backup</code> and put back by <code>bin/restore</code>.
      </p>
    </section>
  );
}
