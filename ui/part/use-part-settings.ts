'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Logged } from '@/core/marking/history';
import { undoingDeed, type PartDeed } from '@/core/marking/part-deed';
import type { Told } from '@/core/instruments/as-told';
import { outbox } from '@/ui/unsent/browser';
import { laterThanBefore } from '@/ui/kit/clock';
import type { Body, Deed, PartNamed } from '@/ui/unsent/entry';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { Lane } from './undo-chain';
import { deedOf, newDeed, settingsDeed, useLog } from './use-undo';
import type { AcceptedFinding, DeskSettings } from './part-data';

/** What is said anew: settings one by one; findings are accepted and taken up again by themselves. */
export type SettingsChange = Partial<Omit<DeskSettings, 'accepted'>> & { accept?: AcceptedFinding[]; release?: string[] };

/** @example accepting a finding twice keeps the later reason */
export function withSettings(before: DeskSettings, { accept = [], release = [], ...said }: SettingsChange): DeskSettings {
  const gone = new Set([...release, ...accept.map(({ id }) => id)]);
  const accepted = gone.size ? [...before.accepted.filter(({ id }) => !gone.has(id)), ...accept] : before.accepted;
  return { ...before, ...said, accepted };
}

/** Whom one looks at the part for, and which line of it, is no deed that could be taken back. */
const isLooking = (change: SettingsChange): boolean => Object.keys(change).every((key) => key === 'playerId' || key === 'line');

const settingsRow = (body: Body): PartDeed | null =>
  body.about === 'settings' && body.deed ? { ...deedOf(body.deed), about: 'settings', before: body.deed.before, after: body.change } : null;

const changeOf = (body: Body): SettingsChange => (body.about === 'settings' ? (body.change as SettingsChange) : {});

/**
 * What the part is checked for and what the coach says about it: shown at once, kept and sent by the outbox, followed in every tab.
 * Its lane of the chain of undo comes with it.
 */
export function usePartSettings(part: PartNamed, first: DeskSettings, deeds: readonly PartDeed[]) {
  const [settings, setSettings] = useState(first);
  const { log, stacks } = useLog(`settings ${part.id}`, deeds, settingsRow);
  const { instrument, sounds, section, octaves, staff } = settings;
  const told = useMemo<Told>(() => ({ instrument, sounds, section, octaves, staff }), [instrument, sounds, section, octaves, staff]);
  useEffect(() => {
    const lane = `settings ${part.id}`;
    const follow = (body: Body) => setSettings((before) => withSettings(before, changeOf(body)));
    void outbox()
      ?.left(lane, VIEW_MS)
      .then(({ stored, waiting }) => [...stored, ...waiting].forEach(({ body }) => follow(body)));
    return outbox()?.follow(lane, (event) => {
      if (event.is === 'made elsewhere') follow(event.entry.body);
      if (event.is === 'stored elsewhere') follow(event.body);
    });
  }, [part.id]);
  function put(change: SettingsChange, deed?: Deed & { before: SettingsChange }): void {
    const body = { about: 'settings' as const, part, change, ...(deed ? { deed } : {}) };
    const entryId = crypto.randomUUID();
    setSettings((before) => withSettings(before, change));
    log.add(settingsRow(body), entryId);
    outbox()?.add(body, entryId);
  }
  function set(change: SettingsChange): void {
    if (isLooking(change)) return put(change);
    const { what, back } = settingsDeed(settings, change);
    put(change, { ...newDeed(what), before: back });
  }
  function takeBack(done: Logged): void {
    const { before, after, ...deed } = undoingDeed(done as PartDeed<SettingsChange>, crypto.randomUUID(), laterThanBefore());
    put(after, { ...deedOf(deed), before });
  }
  return { ...settings, told, set, undoLane: { stacks, takeBack } satisfies Lane };
}
