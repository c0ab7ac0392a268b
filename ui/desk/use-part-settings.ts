'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Told } from '@/core/instruments/as-told';
import { InOrder } from '@/ui/kit/in-order';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import type { DeskSettings } from './types';

/** What the part is checked for and what the coach says about it; kept by the server. */
export function usePartSettings(partId: string, first: DeskSettings, onProblem: (problem: Problem) => void) {
  const [settings, setSettings] = useState(first);
  const { instrument, sounds, section } = settings;
  const told = useMemo<Told>(() => ({ instrument, sounds, section }), [instrument, sounds, section]);
  const [queue] = useState(
    () =>
      new InOrder<Partial<DeskSettings>>(async (change) => {
        const response = await sendJson('PUT', `/api/parts/${partId}/settings`, change);
        if (!response?.ok) onProblem(await problemOf(response));
      }),
  );
  useEffect(() => {
    window.addEventListener('pagehide', queue.leave);
    return () => window.removeEventListener('pagehide', queue.leave);
  }, [queue]);
  function set(change: Partial<DeskSettings>): void {
    setSettings((before) => ({ ...before, ...change }));
    queue.put(change);
  }
  return { ...settings, told, set };
}
