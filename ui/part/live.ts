'use client';

/** What others do on the part that is open, as it is stored; and who else has it open. */
import { useEffect, useState } from 'react';
import { newsShape, type News } from '@/core/marking/live';
import type { ChangeSet } from '@/core/marking/change';
import type { Passage } from '@/core/score/passages';
import { outbox } from '@/ui/unsent/browser';
import type { Body, PartNamed } from '@/ui/unsent/entry';

/** Streams that say nothing for so long do not get through: then it is asked now and then. */
const SILENT_MS = 30_000;
const ASK_MS = 4_000;

export interface Live {
  /** Names of those who have it open elsewhere. */
  here: readonly string[];
  isReplaced: boolean;
  isOffShelf: boolean;
}

interface Followed {
  part: PartNamed;
  /** How far the page has seen. */
  seen: string;
  musicVersion: string;
}

/** A deed as it would have been made here. */
function bodyOf(part: PartNamed, { about, before, after, id, at, reason, undoes }: News['deeds'][number]): Body {
  const deed = { id, at, reason, undoes };
  return about === 'passages'
    ? { about, part, from: before as Passage[], to: after as Passage[], deed }
    : { about, part, change: after as Record<string, unknown>, deed: { ...deed, before: before as Record<string, unknown> } };
}

/** Hands on what is new. */
function handOn(part: PartNamed, { marks, deeds }: News): void {
  for (const { markingId, set } of marks) outbox()?.heard({ about: 'marks', markingId, part, set: set as ChangeSet }, set.id);
  for (const deed of deeds) outbox()?.heard(bodyOf(part, deed), deed.id);
}

/** Follows a part while its page is looked at: browsers keep few streams open at once. @returns the end of it */
export function followPart({ part, seen }: Pick<Followed, 'part' | 'seen'>, onNews: (news: News) => void): () => void {
  const page = crypto.randomUUID();
  const url = (since: string, more = '') => `/api/parts/${part.id}/live?page=${page}&since=${since}${more}`;
  let since = seen;
  let stream: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let heardAt = Date.now();
  let isOver = false;

  const take = (id: string, text: string): void => {
    heardAt = Date.now();
    const news = newsShape.safeParse(jsonOf(text));
    if (!news.success) return;
    if (id) since = id;
    handOn(part, news.data);
    onNews(news.data);
  };

  const close = (): void => {
    stream?.close();
    stream = null;
    clearTimeout(timer);
  };
  const open = (): void => {
    close();
    if (isOver || document.visibilityState === 'hidden') return;
    heardAt = Date.now();
    stream = new EventSource(url(since));
    stream.onopen = () => (heardAt = Date.now());
    stream.addEventListener('still', () => (heardAt = Date.now()));
    stream.onmessage = ({ lastEventId, data }) => take(lastEventId, String(data));
    timer = setTimeout(watch, ASK_MS);
  };
  /** A stream that was refused, or is held up somewhere, is no stream: then it is asked for. */
  const watch = (): void => {
    const isCut = stream?.readyState === EventSource.CLOSED || Date.now() - heardAt > SILENT_MS;
    timer = setTimeout(watch, ASK_MS);
    if (isCut) void askOnce().then((isAnswered) => isAnswered && stream?.readyState === EventSource.CLOSED && open());
  };
  /** @returns whether there was an answer: then a stream that was refused is tried again */
  async function askOnce(): Promise<boolean> {
    const answer = await fetch(url(since, '&once=yes')).catch(() => null);
    if (!answer?.ok || isOver) return false;
    for (const event of (await answer.text()).split('\n\n')) {
      const [, id = ''] = /^id: (\S+)$/m.exec(event) ?? [];
      const [, data] = /^data: (.*)$/m.exec(event) ?? [];
      if (data) take(id, data);
    }
    return true;
  }
  document.addEventListener('visibilitychange', open);
  open();
  return () => {
    isOver = true;
    document.removeEventListener('visibilitychange', open);
    close();
  };
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const NOTHING: Live = { here: [], isReplaced: false, isOffShelf: false };

export function useLive({ part, seen, musicVersion }: Followed): Live {
  const [live, setLive] = useState(NOTHING);
  const { id, name } = part;
  useEffect(
    () =>
      followPart({ part: { id, name }, seen }, ({ here, music, onShelf }) =>
        setLive((before) => ({ ...before, here, isReplaced: music !== musicVersion, isOffShelf: !onShelf })),
      ),
    [id, name, seen, musicVersion],
  );
  return live;
}
