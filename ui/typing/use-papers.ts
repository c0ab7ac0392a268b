'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Problem } from '@/ui/kit/problem';
import { papersOfDraft, papersOfPiece, type Paper } from './papers';

const NOT_KEPT: Problem = {
  place: null,
  what: 'The sheet could not be kept in this browser.',
  remedy: 'Its storage is full or switched off. Put the passage on the shelf first, then lay the sheet beside it.',
};

/** The sheets beside a passage. @param pieceId null while it does not lie on the shelf */
export function usePapers(draft: string, pieceId: string | null, wanted: boolean) {
  const store = useMemo(() => (pieceId ? papersOfPiece(pieceId) : papersOfDraft(draft)), [draft, pieceId]);
  const [papers, setPapers] = useState<readonly Paper[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const look = useCallback(() => store.all().then(setPapers, () => setPapers([])), [store]);
  useEffect(() => {
    if (wanted) void look();
  }, [wanted, look]);
  return {
    papers,
    problem,
    dismiss: () => setProblem(null),
    async add(files: readonly File[]): Promise<void> {
      setProblem(null);
      for (const file of files) {
        const wrong = await store.add(file).catch(() => NOT_KEPT);
        if (wrong) setProblem(wrong);
      }
      await look();
    },
    async remove(paper: Paper): Promise<void> {
      await store.remove(paper.key).catch(() => setProblem(NOT_KEPT));
      await look();
    },
  };
}
