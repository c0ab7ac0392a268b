'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { tunesIn } from '@/core/formats/abc/tunes';
import { LIMITS } from '@/core/util/limits';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { isPaper, layToPiece, papersOfDraft } from '@/ui/typing/papers';
import { TYPED_DRAFT } from '@/ui/typing/abc-head';
import type { TuneBook } from './choose-tunes';

/** Files come in, pieces go and come back: what the shelf does, and what it says about it. */
export function useShelf() {
  const router = useRouter();
  const [reading, setReading] = useState<string | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [notice, setNotice] = useState<string | null>(null);
  const [removed, setRemoved] = useState<{ id: string; title: string } | null>(null);
  const [typing, setTyping] = useState(false);
  const [book, setBook] = useState<TuneBook | null>(null);

  async function takeIn(files: readonly File[]) {
    setProblems([]);
    setNotice(null);
    let opened: string | null = null;
    const failed: Problem[] = [];
    for (const file of files) {
      setReading(file.name);
      const tunes = /\.(abc|txt)$/i.test(file.name) && file.size <= LIMITS.fileBytes ? tunesIn(await file.text()) : [];
      if (tunes.length > 1) {
        setBook({ fileName: file.name, tunes });
        continue;
      }
      if (isPaper(file)) {
        const wrong = await papersOfDraft(TYPED_DRAFT).add(file);
        if (wrong) failed.push(wrong);
        else setTyping(true);
        continue;
      }
      const taken = await send(file);
      if ('what' in taken) {
        failed.push(taken);
        continue;
      }
      if (taken.known === 'new') opened = taken.firstPartId;
      else if (taken.known === 'put back') setNotice(`${taken.title} was here before: it is back on the shelf, with its marks.`);
      else setNotice(`${taken.title} lies on the shelf already; its marks are as they were.`);
    }
    setReading(null);
    setProblems(failed);
    if (opened && files.length === 1) router.push(`/desk/${opened}`);
    else router.refresh();
  }

  /** What was typed is taken in like any file, and the sheets that lie beside it go with it. */
  async function takeTyped(file: File, draft: string): Promise<Problem | null> {
    const taken = await send(file);
    if ('what' in taken) return taken;
    const left = await layToPiece(draft, taken.pieceId).catch(() => []);
    setProblems(left);
    setTyping(false);
    if (left.length) router.refresh();
    else router.push(`/desk/${taken.firstPartId}`);
    return null;
  }

  async function setOnShelf(piece: { id: string; title: string }, onShelf: boolean) {
    const response = await sendJson('PATCH', `/api/pieces/${piece.id}`, { onShelf });
    if (!response?.ok) return setProblems([await problemOf(response)]);
    setRemoved(onShelf ? null : piece);
    router.refresh();
  }

  return {
    reading,
    problems,
    dismiss: (index: number) => setProblems(problems.filter((_, i) => i !== index)),
    notice,
    removed,
    typing,
    setTyping,
    book,
    setBook,
    takeIn,
    takeTyped,
    setOnShelf,
    refresh: () => router.refresh(),
  };
}

const takenShape = z.object({ title: z.string(), known: z.enum(['new', 'on the shelf', 'put back']), pieceId: z.string(), firstPartId: z.string() });

async function send(file: File): Promise<z.infer<typeof takenShape> | Problem> {
  const response = await fetch(`/api/pieces?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }).catch(() => null);
  const taken = response?.ok ? takenShape.safeParse(await response.json().catch(() => null)) : null;
  return taken?.success ? taken.data : problemOf(response);
}
