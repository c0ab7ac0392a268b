'use client';

import { Button } from '@/ui/kit/button';
import { useState } from 'react';
import { z } from 'zod';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { readAnswer } from '@/ui/kit/queries';
import { TypedPassage } from './typed-passage';

const textShape = z.object({ text: z.string() });
const madeShape = z.object({ id: z.string() });

/** A part that was typed is typed on: the new text takes the place of the old one, and marks and passages are carried over. */
export function EditTyped({ partId, pieceId }: { partId: string; pieceId: string }) {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function open() {
    setProblem(null);
    const read = await readAnswer(await fetch(`/api/parts/${partId}/typed`).catch(() => null), textShape);
    if ('value' in read) setText(read.value.text);
    else setProblem(read.problem);
  }
  async function use(file: File): Promise<Problem | null> {
    const made = await fetch(`/api/parts/${partId}/editions?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }).catch(() => null);
    const read = await readAnswer(made, madeShape);
    if ('problem' in read) return read.problem;
    const done = await sendJson('POST', `/api/parts/${partId}/editions/${read.value.id}/replace`, {});
    if (!done?.ok) return problemOf(done);
    // Everything on the page was made from the old text, and the address names a note of it.
    window.history.replaceState(null, '', `/desk/${partId}`);
    window.location.reload();
    return null;
  }
  return (
    <section aria-label="What was typed" className="grid gap-2">
      <h2 className="text-base">What was typed</h2>
      <Button className="justify-self-start" onClick={() => void open()}>
        Edit the text
      </Button>
      {text !== null && (
        <TypedPassage
          open
          typed={{ text, draft: partId, pieceId, done: 'Use this text; marks stay' }}
          onOpen={(isOpen) => isOpen || setText(null)}
          onDone={use}
        />
      )}
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
    </section>
  );
}
