'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import { LIMITS } from '@/core/util/limits';
import { shortened } from '@/core/util/text';
import type { Logged, Stacks } from '@/core/marking/history';
import { laterThanBefore } from '@/ui/kit/clock';
import { outbox } from '@/ui/unsent/browser';
import type { Body, Deed } from '@/ui/unsent/entry';
import { Log } from '@/ui/unsent/log';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { AcceptedFinding, DeskSettings } from './part-data';
import type { SettingsChange } from './use-part-settings';

/** The log of a lane, followed, and what can be taken back now. @param rowOf the same function at every call */
export function useLog<T extends Logged>(lane: string, history: readonly T[], rowOf: (body: Body) => T | null): { log: Log<T>; stacks: Stacks<T> } {
  const [log] = useState(() => new Log(history, rowOf));
  const stacks = useSyncExternalStore(log.subscribe, log.snapshot, log.snapshot);
  useEffect(() => {
    void outbox()
      ?.left(lane, VIEW_MS)
      .then(({ stored, waiting }) => {
        for (const { id, body } of [...stored, ...waiting]) log.add(rowOf(body), id);
        log.hear({ is: 'stored', ids: stored.map(({ id }) => id) });
      });
    return outbox()?.follow(lane, (event) => log.hear(event));
  }, [lane, log, rowOf]);
  return { log, stacks };
}

export const newDeed = (what: string): Deed => ({ id: crypto.randomUUID(), at: laterThanBefore(), reason: shortened(what, LIMITS.reason), undoes: null });

/** What travels of a deed beside what it is about. */
export const deedOf = ({ id, at, reason, undoes }: Deed): Deed => ({ id, at, reason, undoes });

/** The names of settings, as a step of undo says them. */
const NAMES: Readonly<Partial<Record<keyof DeskSettings, string>>> = {
  tempo: 'tempo',
  playerId: 'player',
  instrument: 'instrument',
  sounds: 'sound',
  section: 'section or solo',
  octaves: 'octave',
  staff: 'staff',
  line: 'line',
  preferences: 'how it is fingered',
  density: 'how many fingers are written',
  intonation: 'how in tune it is wanted',
  seats: 'who sits where',
  divisi: 'who has which line',
};

/** A change of settings in words, and the one that takes it back. */
export function settingsDeed(before: DeskSettings, change: SettingsChange): { what: string; back: SettingsChange } {
  const { accept = [], release = [], ...said } = change;
  const keys = Object.keys(said) as Array<keyof typeof said>;
  const back: SettingsChange = Object.fromEntries(keys.map((key) => [key, before[key]]));
  const known = (id: string): AcceptedFinding[] => before.accepted.filter((each) => each.id === id);
  const again = [...new Set([...release, ...accept.map(({ id }) => id)])].flatMap(known);
  const gone = accept.map(({ id }) => id).filter((id) => known(id).length === 0);
  if (again.length) back.accept = again;
  if (gone.length) back.release = gone;
  const words = keys.map((key) => (key === 'tempo' && said.tempo ? `tempo ${said.tempo}` : (NAMES[key] ?? key)));
  if (accept.length) words.push('finding accepted');
  else if (release.length) words.push('finding taken up again');
  return { what: words.join(', '), back };
}
