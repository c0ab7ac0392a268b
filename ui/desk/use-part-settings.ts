'use client';

import { useMemo, useState } from 'react';
import type { Told } from '@/core/instruments/as-told';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import type { DeskSettings } from './types';

/** What the part is checked for and what the coach says about it; kept by the server. */
export function usePartSettings(partId: string, first: DeskSettings, onProblem: (problem: Problem) => void) {
  const [settings, setSettings] = useState(first);
  const { instrument, sounds, section } = settings;
  const told = useMemo<Told>(() => ({ instrument, sounds, section }), [instrument, sounds, section]);
  async function set(change: Partial<DeskSettings>): Promise<void> {
    setSettings((before) => ({ ...before, ...change }));
    const response = await sendJson('PUT', `/api/parts/${partId}/settings`, change);
    if (!response?.ok) onProblem(await problemOf(response));
  }
  return { ...settings, told, set };
}
