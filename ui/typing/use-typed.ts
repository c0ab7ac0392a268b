'use client';

import { useEffect, useState, type RefObject } from 'react';
import { z } from 'zod';
import { sendJson, whileWanted, type Problem } from '@/ui/kit/problem';
import { readAnswer } from '@/ui/kit/queries';
import { engravingShape } from '@/ui/score/ask-engraving';
import type { TypedPassage } from '@/workers/server/tasks';
import { START } from './abc-head';

/** What has to be there for an answer to be a passage. */
const passageShape = z.custom<TypedPassage>(
  (value) =>
    z
      .object({ title: z.string(), parts: z.array(z.object({ notes: z.number() })), problems: z.array(z.unknown()), engraving: engravingShape.nullable() })
      .safeParse(value).success,
);

/** While somebody types, not every letter is engraved. */
const PAUSE_MS = 250;

/** Width for an engraving inside a box with its padding, in px. */
const roomIn = (box: HTMLElement | null): number => Math.max(240, Math.min(1200, (box?.clientWidth ?? 660) - 20));

interface Asked {
  open: boolean;
  /** Where this browser keeps what is typed. */
  draft: string;
  /** What stands there at first. */
  first: string;
  /** Where it is drawn; with a sheet beside it there is less room. */
  engraving: RefObject<HTMLDivElement | null>;
  hasPaper: boolean;
}

/** What is typed, kept in this browser, and how it looks engraved. */
export function useTyped({ open, draft, first, engraving, hasPaper }: Asked) {
  const [text, setText] = useState(first);
  const [shown, setShown] = useState<TypedPassage | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    if (!open) return;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      void whileWanted(abort.signal, async () => {
        if (text.trim() === START.trim()) {
          setShown(null);
          return setProblem(null);
        }
        window.localStorage.setItem(draft, text);
        const response = await sendJson('POST', '/api/typed', { abc: text, widthPx: roomIn(engraving.current) }, abort.signal);
        if (abort.signal.aborted) return;
        const read = await readAnswer(response, passageShape);
        setShown('value' in read ? read.value : null);
        setProblem('problem' in read ? read.problem : null);
      });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [open, text, draft, hasPaper, engraving]);
  return {
    text,
    setText,
    shown,
    problem,
    setProblem,
    /** There are notes to take in. */
    ready: shown !== null && shown.parts.some((part) => part.notes > 0),
    /** As it was left. */
    start: () => setText(window.localStorage.getItem(draft) ?? first),
    letGo: () => window.localStorage.removeItem(draft),
  };
}

export type TypedText = ReturnType<typeof useTyped>;
