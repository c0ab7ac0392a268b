'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Told } from '@/core/instruments/as-told';
import { outbox } from '@/ui/unsent/browser';
import type { Body, PartNamed } from '@/ui/unsent/entry';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { Deed } from './undo-chain';
import { settingsDeed } from './use-undo';
import type { AcceptedFinding, DeskSettings } from './types';

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

const changeOf = (body: Body): SettingsChange => (body.about === 'settings' ? (body.change as SettingsChange) : {});

/**
 * What the part is checked for and what the coach says about it: shown at once, kept and sent by the outbox, followed in every tab.
 * @param onDone told of every change by the coach
 */
export function usePartSettings(part: PartNamed, first: DeskSettings, onDone: (deed: Deed) => void) {
  const [settings, setSettings] = useState(first);
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
    });
  }, [part.id]);
  const put = (change: SettingsChange): void => {
    setSettings((before) => withSettings(before, change));
    outbox()?.add({ about: 'settings', part, change });
  };
  function set(change: SettingsChange): void {
    const { what, back } = settingsDeed(settings, change);
    put(change);
    if (isLooking(change)) return;
    onDone({ what, undo: () => put(back), redo: () => put(change) });
  }
  return { ...settings, told, set };
}
