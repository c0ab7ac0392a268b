'use client';

import { useState, useSyncExternalStore } from 'react';
import type { AcceptedFinding, DeskSettings } from './types';
import { UndoChain } from './undo-chain';
import type { SettingsChange } from './use-part-settings';

/** Undo and redo of everything that is done on a part. */
export function useUndo() {
  const [chain] = useState(() => new UndoChain());
  useSyncExternalStore(chain.subscribe, chain.snapshot, chain.snapshot);
  return chain;
}

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
};

/** A change of settings in words, and the one that takes it back. */
export function settingsDeed(before: DeskSettings, change: SettingsChange): { what: string; back: SettingsChange } {
  const { accept = [], release = [], ...said } = change;
  const keys = Object.keys(said) as Array<keyof typeof said>;
  const back: SettingsChange = Object.fromEntries(keys.map((key) => [key, before[key]]));
  const known = (id: string): AcceptedFinding[] => before.accepted.filter((each) => each.id === id);
  const again = [...release, ...accept.map(({ id }) => id)].flatMap(known);
  const gone = accept.map(({ id }) => id).filter((id) => known(id).length === 0);
  if (again.length) back.accept = again;
  if (gone.length) back.release = gone;
  const words = keys.map((key) => (key === 'tempo' && said.tempo ? `tempo ${said.tempo}` : (NAMES[key] ?? key)));
  if (accept.length) words.push('finding accepted');
  else if (release.length) words.push('finding taken up again');
  return { what: words.join(', '), back };
}
