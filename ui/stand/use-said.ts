'use client';

import { useEffect, useEffectEvent, useState } from 'react';
import type { AnswerKind, SaidByPlayer } from '@/core/handout/shapes';
import { outbox } from '@/ui/unsent/browser';
import type { SheetData, StandAnswer } from './stand-data';

/** What the player says: kept by the browser and sent when it can be. */
export function useSaid({ handoutId, partId, part, as, isOpened, copied: stored, answers: there }: SheetData) {
  const [copied, setCopied] = useState<ReadonlySet<number>>(new Set(stored));
  const [answers, setAnswers] = useState<StandAnswer[]>(there);
  const isOwn = as === null;
  const send = (said: SaidByPlayer) => isOwn && outbox()?.add({ about: 'said', handoutId, part: { id: partId, name: part }, said });
  const opened = useEffectEvent(() => void (isOpened || send({ opened: true })));
  useEffect(() => opened(), []);
  // What waits in this browser since an earlier visit was said all the same.
  const takeIn = useEffectEvent((all: readonly SaidByPlayer[]) => {
    for (const { copied: ticks = [], answers: more = [] } of all) {
      setCopied((before) => ticks.reduce((now, { bar, is }) => withOrWithout(now, bar, is), before));
      setAnswers((before) => [...before, ...more.filter(({ id }) => !before.some((each) => each.id === id)).map((each) => ({ ...each, isSettled: false }))]);
    }
  });
  useEffect(() => {
    void outbox()
      ?.left(`said ${handoutId}`)
      .then(({ stored: sent, waiting }) => takeIn([...sent, ...waiting].flatMap(({ body }) => (body.about === 'said' ? [body.said] : []))));
  }, [handoutId]);
  return {
    send,
    isOwn,
    copied,
    answers,
    tick(bar: number, is: boolean) {
      setCopied((before) => withOrWithout(before, bar, is));
      send({ copied: [{ bar, is }] });
    },
    answer(bar: number | null, kind: AnswerKind, words: string) {
      const made = { id: crypto.randomUUID(), bar, kind, words, at: new Date().toISOString() };
      setAnswers((before) => [...before, { ...made, isSettled: false }]);
      send({ answers: [made] });
    },
  };
}

function withOrWithout(before: ReadonlySet<number>, bar: number, is: boolean): ReadonlySet<number> {
  const next = new Set(before);
  if (is) next.add(bar);
  else next.delete(bar);
  return next;
}
