'use client';

/** The one outbox of this page, in a real browser. */
import { useSyncExternalStore } from 'react';
import { newClientName } from '@/ui/kit/client-name';
import type { ChangeSet } from '@/core/marking/change';
import { RECORD_VERSION } from '@/core/marking/versions';
import type { PartNamed } from './entry';
import { inIndexedDb } from './kept';
import { Outbox } from './outbox';
import { type Around, type Message } from './around';
import { NOTHING_UNSENT, isLostWithPage, type UnsentState } from './state';
import { ANSWER_MS, sendBatch, type Ask, type Outcome } from './transport';

let made: Outbox | null = null;

/** Null while a page is made on the server. */
export function outbox(): Outbox | null {
  if (typeof window === 'undefined') return null;
  if (!made) {
    newClientName();
    const box = new Outbox(aroundHere());
    made = box;
    takeOver(box);
    // The browser asks before it leaves what nobody else has.
    window.addEventListener('beforeunload', (event) => isLostWithPage(box.snapshot()) && event.preventDefault());
  }
  return made;
}

const nothing = () => () => undefined;

/** What is not sent yet, everywhere. */
export function useUnsent(): UnsentState {
  return useSyncExternalStore(outbox()?.subscribe ?? nothing, outbox()?.snapshot ?? (() => NOTHING_UNSENT), () => NOTHING_UNSENT);
}

function aroundHere(): Around {
  const channel = new BroadcastChannel('omaggio-unsent');
  return {
    kept: inIndexedDb(),
    ask,
    tell: (message) => channel.postMessage(message),
    listen: (hear) => channel.addEventListener('message', (event) => hear(event.data as Message)),
    alone: (work) => {
      // Without locks (an address that is not secure) each tab sends: the server takes each change once all the same.
      if (navigator.locks) void navigator.locks.request('omaggio-sender', work);
      else void work();
    },
    onAwake: (wake) => {
      window.addEventListener('online', wake);
      window.addEventListener('pageshow', wake);
      document.addEventListener('visibilitychange', () => document.visibilityState === 'visible' && wake());
    },
    after: (ms, task) => {
      const timer = window.setTimeout(task, ms);
      return () => window.clearTimeout(timer);
    },
    now: () => Date.now(),
    newId: () => crypto.randomUUID(),
  };
}

const ask: Ask = async (method, url, value) => {
  try {
    const response = await fetch(url, {
      method,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(value),
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    return { status: response.status, text: await response.text(), retryAfter: response.headers.get('retry-after') };
  } catch {
    return null;
  }
};

/** Sends one change set at once, for screens that go on only when it is stored. */
export const sendChangeSet = (markingId: string, part: PartNamed, set: ChangeSet): Promise<Outcome> =>
  sendBatch(
    [{ id: set.id, madeAt: set.at, body: { about: 'marks', markingId, part, set: { ...set, version: RECORD_VERSION } }, refused: null, seq: null }],
    ask,
  );

/** Changes that an earlier version of this page left in local storage. */
const EARLIER = 'omaggio.unsent.';

function takeOver(into: Outbox): void {
  try {
    for (const key of Object.keys(window.localStorage).filter((each) => each.startsWith(EARLIER))) {
      const sets = JSON.parse(window.localStorage.getItem(key) ?? '[]') as ChangeSet[];
      const part: PartNamed = { id: '', name: 'A part' };
      for (const set of sets) into.add({ about: 'marks', markingId: key.slice(EARLIER.length), part, set }, set.id);
      window.localStorage.removeItem(key);
    }
  } catch {
    // What cannot be read there stays there.
  }
}
